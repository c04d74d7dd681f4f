import { escapeAttribute, escapeText } from '@ukiyo/core/markup';
import { printable } from '../shared/text.ts';

/** Markup that is safe to put into a page as it is. Only the functions here make it. */
export type Html = string & { readonly safe: unique symbol };

export const raw = (markup: string): Html => markup as Html;
/** Most texts have nothing that must be written otherwise; one look is cheaper than rewriting. */
const plain = new RegExp(
  String.raw`^[\t\u0020\u0021\u0023-\u0025\u0027-\u003B\u003D\u003F-\u007E` +
    String.raw`\u00A0-\u2027\u202F-\u2065\u206A-\uD7FF]*$`,
);
export const text = (value: string): Html =>
  raw(plain.test(value) ? value : escapeText(printable(value)));
const attributeText = (value: string): string =>
  plain.test(value) ? value : escapeAttribute(printable(value)).replace(/&#xA;/gu, ' ');
/**
 * Strings are added up rather than joined: the engine then copies them once, for the whole page.
 */
export const join = (parts: readonly Html[], between = ''): Html =>
  raw(parts.reduce<string>((whole, part, at) => (at === 0 ? part : whole + between + part), ''));

type AttributeValue = string | number | boolean | undefined;
const withoutEnd = new Set(['img', 'br', 'meta', 'link', 'col', 'input', 'hr', 'area', 'source']);

/** One HTML element. Attributes that are undefined or false are left out. */
export function tag(
  name: string,
  attributes: Readonly<Record<string, AttributeValue>> = {},
  ...children: readonly Html[]
): Html {
  let start = `<${name}`;
  for (const key of Object.keys(attributes)) {
    const value = attributes[key];
    if (value === undefined || value === false) continue;
    start += value === true ? ` ${key}` : ` ${key}="${attributeText(String(value))}"`;
  }
  return raw(withoutEnd.has(name) ? `${start}>` : `${start}>${join(children)}</${name}>`);
}

/**
 * The same as XML: elements without an end are closed, attributes without a value have one. Only
 * what `tag` has made is that regular.
 */
export const asXml = (html: string): string =>
  html
    .replace(/<(img|br|meta|link|col|input|hr|area|source)\b([^>]*)>/gu, '<$1$2/>')
    .replace(/(<[a-z][^<>]*?) (hidden|controls|defer)(?=[ />])/gu, '$1 $2=""');
