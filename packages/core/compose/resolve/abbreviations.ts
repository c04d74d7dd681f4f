import { isA } from '../../grammar/index.ts';
import { childElements, walk, type Element } from '../../markup/index.ts';
import type { FoundElement } from '../../library/index.ts';

/** What an entry of a glossary is called where it is met first, and from then on. */
export interface TermForms {
  readonly first: FoundElement;
  readonly short: FoundElement;
}

/** Forms of a term, the shortest first. */
const shortForms = ['glossAcronym', 'glossAbbreviation', 'glossShortForm'];
const unwanted = new Set(['prohibited', 'obsolete']);

/** Whether another form of a term is to be used (DITA 1.3, 3.3.5 `glossStatus`). */
const isWanted = (alternative: Element): boolean =>
  !childElements(alternative).some(
    ({ name, attributes }) => name === 'glossStatus' && unwanted.has(attributes['value'] ?? ''),
  );

/**
 * The forms of a term (DITA 1.3, 3.3.5 `abbreviated-form`): its surface form, then its acronym or
 * another short form; the term itself for what it does not say.
 * @returns undefined where the text is no entry of a glossary
 */
export function termForms(root: Element): TermForms | undefined {
  if (!isA(root.name, 'glossentry')) return undefined;
  const found = new Map<string, FoundElement>();
  walk(root, (element, path) => {
    if (element.name === 'glossAlt' && !isWanted(element)) return false;
    if (!found.has(element.name)) found.set(element.name, { element, path: [...path] });
    return undefined;
  });
  const term = found.get('glossterm');
  const short = shortForms.map((name) => found.get(name)).find((one) => one !== undefined);
  const first = found.get('glossSurfaceForm') ?? term;
  return first && term ? { first, short: short ?? term } : undefined;
}
