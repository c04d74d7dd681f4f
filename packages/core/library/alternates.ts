import { isTopic } from '../grammar/index.ts';
import {
  childElements,
  childNamed,
  element,
  isElement,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
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
const isMark = ({ name, attributes }: Element): boolean =>
  name === 'data' && attributes['name'] === alternateMark;

const markIn = (root: Element): Element | undefined => {
  const prolog = isTopic(root.name) ? childNamed(root, 'prolog') : undefined;
  return prolog && childElements(prolog).find(isMark);
};

/** The id of the topic for which this one stands in; undefined for a topic of its own. */
export function baseOf(root: Element, self: string): string | undefined {
  const href = markIn(root)?.attributes['href'];
  const reference = href === undefined ? undefined : readReference(href, self);
  return reference?.kind === 'item' && reference.id !== self ? reference.id : undefined;
}

/**
 * The fingerprint of the text of the base with which this one was last held together; undefined
 * where that is not known.
 */
export const basedOn = (root: Element): string | undefined => markIn(root)?.attributes['value'];

const isOther = (child: Node): boolean => !isElement(child) || !isMark(child);

/**
 * The topic, marked as an alternate of another.
 * @param fingerprint of the text of the base as it is now
 */
export function asAlternateOf(root: Element, base: string, fingerprint?: string): Element {
  const mark = element('data', {
    name: alternateMark,
    href: writeReference({ kind: 'item', id: base }),
    ...(fingerprint === undefined ? {} : { value: fingerprint }),
  });
  return withProlog(root, (prolog) => ({
    ...prolog,
    children: [...prolog.children.filter(isOther), mark],
  }));
}

export interface NewAlternate {
  readonly id: string;
  /** What it stands in for. */
  readonly base: string;
  /** Of the text of the base when it was made, to tell when that has changed. */
  readonly fingerprint?: string;
  /** The attributes that say for whom it is; they take the place of those of the topic. */
  readonly conditions: Attributes;
}

/** A copy of a topic that stands in for another one, or for the topic itself. */
export const alternateOf = (
  root: Element,
  { id, base, fingerprint, conditions }: NewAlternate,
): Element => ({
  ...asAlternateOf(root, base, fingerprint),
  attributes: { ...root.attributes, ...conditions, id },
});

/** The topic without its being an alternate: it stands for itself. */
export const onItsOwn = (root: Element): Element =>
  withProlog(root, (prolog) => ({ ...prolog, children: prolog.children.filter(isOther) }));
