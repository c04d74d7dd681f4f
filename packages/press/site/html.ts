import { escapeAttribute, escapeText } from '@ukiyo/core/markup';
import { printable } from '../shared/text.ts';

/** Markup that is safe to put into a page as it is. Only the functions here make it. */
export type Html = string & { readonly safe: unique symbol };

export const raw = (markup: string): Html => markup as Html;
export const text = (value: string): Html => raw(escapeText(printable(value)));
export const join = (parts: readonly Html[], between = ''): Html => raw(parts.join(between));

type AttributeValue = string | number | boolean | undefined;
const withoutEnd = new Set(['img', 'br', 'meta', 'link', 'col', 'input', 'hr', 'area', 'source']);

/** One HTML element. Attributes that are undefined or false are left out. */
export function tag(name: string, attributes: Readonly<Record<string, AttributeValue>> = {}, ...children: readonly Html[]): Html {
  const written = Object.entries(attributes)
    .filter(([, value]) => value !== undefined && value !== false)
    .map(([key, value]) => (value === true ? ` ${key}` : ` ${key}="${escapeAttribute(printable(String(value))).replace(/&#xA;/gu, ' ')}"`))
    .join('');
  return raw(withoutEnd.has(name) ? `<${name}${written}>` : `<${name}${written}>${children.join('')}</${name}>`);
}
