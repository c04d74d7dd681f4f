import type { Element, ElementContent, Text } from 'hast';
import { find, html } from 'property-information';
import { printable } from '../shared/index.ts';

/** Markup that was serialised before: it is written as it is. @see serializeHtml */
interface Raw {
  readonly type: 'raw';
  readonly value: string;
}

/**
 * What a publication becomes for everything that is read in a browser, an e-reader or as Markdown:
 * nodes of hast (github.com/syntax-tree/hast), one or several in their order.
 */
export type Html = HtmlNode | readonly Html[];
export type HtmlNode = ElementContent | Raw;

type AttributeValue = string | number | boolean | undefined;
type PropertyValue = Element['properties'][string];

/** The property that hast has for an attribute, and how its value is written there. */
interface Property {
  readonly name: string;
  readonly between: ' ' | ',' | undefined;
}
const properties = new Map<string, Property>();
function propertyOf(attribute: string): Property {
  const known = properties.get(attribute);
  if (known) return known;
  const { property, spaceSeparated, commaSeparated } = find(html, attribute);
  const found: Property = {
    name: property,
    between: spaceSeparated ? ' ' : commaSeparated ? ',' : undefined,
  };
  properties.set(attribute, found);
  return found;
}

/** Most texts have nothing that cannot be shown; one look is cheaper than rewriting. */
const showable = /^[\t\n\r\u0020-\u007E\u00A0-\u2027\u202F-\u2065\u206A-\uD7FF]*$/;
const shown = (value: string): string => (showable.test(value) ? value : printable(value));

export const text = (value: string): Html =>
  value === '' ? [] : ({ type: 'text', value: shown(value) } satisfies Text);

/** Quicker than to look for a property that nodes have. */
export const isList = (part: Html): part is readonly Html[] => Array.isArray(part);

function flatten(parts: readonly Html[], into: HtmlNode[]): HtmlNode[] {
  for (const part of parts)
    if (isList(part)) flatten(part, into);
    else into.push(part);
  return into;
}
/** The nodes of a part, in their order. */
export const htmlNodes = (part: Html): readonly HtmlNode[] => flatten([part], []);
export const isEmpty = (part: Html): boolean => isList(part) && part.every(isEmpty);

/** Markup that was serialised before, for parts that many pages share. */
export const raw = (written: string): Raw => ({ type: 'raw', value: written });

/** Parts one after the other, with something between each and the next. */
export const join = (parts: readonly Html[], between: Html): Html =>
  parts.flatMap((part, at) => (at === 0 ? [part] : [between, part]));

/**
 * One element.
 * @param name of the element
 * @param attributes by the names that HTML has for them; what is undefined or false is left out
 */
export function tag(
  name: string,
  attributes: Readonly<Record<string, AttributeValue>> = {},
  ...children: readonly Html[]
): Element {
  const own: Record<string, PropertyValue> = {};
  for (const key of Object.keys(attributes)) {
    const value = attributes[key];
    if (value === undefined || value === false) continue;
    const { name: property, between } = propertyOf(key);
    own[property] =
      typeof value !== 'string'
        ? value
        : between === undefined
          ? shown(value)
          : shown(value).split(between);
  }
  return {
    type: 'element',
    tagName: name,
    properties: own,
    // Raw nodes stand where others may.
    children: flatten(children, []) as ElementContent[],
  };
}

/** The same with one more attribute on its first element; it comes before the others. */
export function withHtmlAttribute(part: Html, name: string, value: string): Html {
  if (isList(part)) {
    const [first, ...rest] = part;
    return first === undefined ? part : [withHtmlAttribute(first, name, value), ...rest];
  }
  return part.type === 'element'
    ? { ...part, properties: { [propertyOf(name).name]: value, ...part.properties } }
    : part;
}

/** Attributes of HTML that an element has by what its source says of it. */
export interface OwnAttributes {
  readonly classes: readonly string[];
  readonly others: Readonly<Record<string, string>>;
}

/**
 * The same with these attributes as well: on its only element, else on one around it.
 * @param name of the element around it
 */
export function withOwn(
  part: Html,
  { classes, others }: OwnAttributes,
  name: 'span' | 'div',
): Html {
  const isPlain = classes.length === 0 && Object.keys(others).length === 0;
  if (isPlain || isEmpty(part)) return part;
  const [only, ...more] = htmlNodes(part);
  if (only?.type !== 'element' || more.length > 0)
    return tag(name, { class: classes.join(' ') || undefined, ...others }, part);
  const own = only.properties['className'];
  const className = [...(Array.isArray(own) ? own : []), ...classes];
  return {
    ...only,
    properties: {
      ...only.properties,
      ...(className.length === 0 ? {} : { className }),
      ...others,
    },
  };
}

const isElement = (node: HtmlNode): node is Element => node.type === 'element';

/** Every element of a part, each before what is in it. */
export function* elementsIn(part: Html): Generator<Element> {
  for (const node of htmlNodes(part).filter(isElement)) {
    yield node;
    yield* elementsIn(node.children);
  }
}

/** The addresses that elements name, as properties. */
const addresses = ['href', 'src', 'poster'] as const;
/** An address from the root, into the same page, or with a scheme (RFC 3986, 3.1). */
const standsAlone = /^(?:["#/]|[a-z][a-z\d+.-]*:)/iu;

/**
 * The same with its relative addresses as they are from a folder below.
 * @param up the way from there to the folder that they are relative to, as `../`
 */
export function seenFrom(part: Html, up: string): Html {
  if (up === '') return part;
  if (isList(part)) return part.map((one) => seenFrom(one, up));
  if (part.type !== 'element') return part;
  const moved = { ...part.properties };
  for (const name of addresses) {
    const value = moved[name];
    if (typeof value === 'string' && !standsAlone.test(value)) moved[name] = `${up}${value}`;
  }
  return {
    ...part,
    properties: moved,
    children: part.children.map((child) => seenFrom(child, up)) as ElementContent[],
  };
}
