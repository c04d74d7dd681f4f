/**
 * What the other scripts of a page ask of the reader's choice; where there is nothing to choose,
 * all is for everybody.
 */
import type { ReaderWords } from '../../topics/index.ts';

/** What the script of the choices tells the others. */
interface SiteReaders {
  /** Whether all conditions with these numbers hold for him. */
  isFor(numbers: readonly number[] | undefined): boolean;
  /** Called after every choice. */
  onChange(act: () => void): void;
}

declare global {
  interface Window {
    siteReaders?: SiteReaders;
  }
}

/** Whether all conditions with these numbers hold for the reader. */
export const isForReader = (numbers: readonly number[] | undefined): boolean =>
  window.siteReaders?.isFor(numbers) ?? true;

/** What is said to the reader. */
export const shownWords = (said: ReaderWords): string =>
  typeof said === 'string'
    ? said
    : said
        .map((part) =>
          typeof part === 'string' ? part : isForReader(part.slice(1) as number[]) ? part[0] : '',
        )
        .join('');

/** The conditions that an element has as its classes. */
export const classConditions = (element: Element): number[] =>
  [...element.classList].flatMap((name) => (/^w\d+$/u.test(name) ? [Number(name.slice(1))] : []));

/** Whether an element is shown to the reader, as far as that depends on what he has chosen. */
export function isSeen(element: Element | null): boolean {
  for (let at = element; at; at = at.parentElement)
    if (!isForReader(classConditions(at))) return false;
  return true;
}

/** Now, and after every choice of the reader. */
export function whenChosen(act: () => void): void {
  if (window.siteReaders) window.siteReaders.onChange(act);
  else act();
}
