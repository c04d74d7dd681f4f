import type { PeerLink, ResolvedLink, Target } from '@ukiyo/core/compose';
import type { LinkForm } from '@ukiyo/core/library';

/**
 * The words of a link that has none of its own.
 * @param target what it leads to
 * @param numbersTopics whether the output numbers its headings
 */
export function linkWords(
  form: LinkForm,
  { text }: Extract<ResolvedLink, { kind: 'target' }>,
  target: Target | undefined,
  numbersTopics: boolean,
): string {
  if (!target || target.title === '' || (form !== 'title' && form !== 'number')) return text;
  if (form === 'title' || target.number === undefined) return target.title;
  if (text !== target.title) return `${text}, ${target.title}`;
  return numbersTopics ? `${target.number} ${target.title}` : target.title;
}

/** How something in another publication is called: its number there and its title. */
export const peerTitle = ({ number, text }: PeerLink): string =>
  number === undefined ? text : `${number} ${text}`;

/**
 * How another publication is called on paper: its title and the number under which it is issued.
 */
export const peerName = ({ publication, bookNumber }: PeerLink): string =>
  [publication, bookNumber].filter((part) => part !== '').join(', ');
