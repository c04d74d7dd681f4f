import type { ResolvedLink, Target } from '@ukiyo/core/compose';
import type { LinkForm } from '@ukiyo/core/library';

/**
 * The words of a link that has none of its own.
 * @param target what it leads to
 * @param numbersTopics whether the output numbers its headings
 */
export function linkWords(form: LinkForm, { text }: Extract<ResolvedLink, { kind: 'target' }>, target: Target | undefined, numbersTopics: boolean): string {
  if (!target || target.title === '' || (form !== 'title' && form !== 'number')) return text;
  if (form === 'title' || target.number === undefined) return target.title;
  if (text !== target.title) return `${text}, ${target.title}`;
  return numbersTopics ? `${target.number} ${target.title}` : target.title;
}
