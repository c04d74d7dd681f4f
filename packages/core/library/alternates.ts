import { isTopic } from '../grammar/index.ts';
import { childElements, childNamed, element, type Attributes, type Element } from '../markup/index.ts';
import { readReference, writeReference } from './address.ts';
import { withProlog } from './topic-facts.ts';

/** What stands in for a topic or an image for certain facet values. */
export interface Alternate {
  readonly id: string;
  /** The attributes that say for whom it is. */
  readonly conditions: Attributes;
}

/** In the prolog: the topic for which this one stands in. */
export const alternateMark = 'alternate-of';
const isMark = ({ name, attributes }: Element): boolean => name === 'data' && attributes['name'] === alternateMark;

/** The id of the topic for which this one stands in; undefined for a topic of its own. */
export function baseOf(root: Element, self: string): string | undefined {
  if (!isTopic(root.name)) return undefined;
  const prolog = childNamed(root, 'prolog');
  const href = prolog && childElements(prolog).find(isMark)?.attributes['href'];
  const reference = href === undefined ? undefined : readReference(href, self);
  return reference?.kind === 'item' && reference.id !== self ? reference.id : undefined;
}

/**
 * A copy of a topic that stands in for it.
 * @param id of the new topic
 * @param conditions the attributes that say for whom it is; they take the place of those of the topic
 */
export function alternateOf(root: Element, base: string, id: string, conditions: Attributes): Element {
  const mark = element('data', { name: alternateMark, href: writeReference({ kind: 'item', id: base }) });
  const marked = withProlog(root, (prolog) => ({ ...prolog, children: [...prolog.children.filter((child) => typeof child === 'string' || !isMark(child as Element)), mark] }));
  return { ...marked, attributes: { ...root.attributes, ...conditions, id } };
}

/** The topic without its being an alternate: what it was made from is no longer looked at. */
export const onItsOwn = (root: Element): Element =>
  withProlog(root, (prolog) => ({ ...prolog, children: prolog.children.filter((child) => typeof child === 'string' || !isMark(child as Element)) }));
