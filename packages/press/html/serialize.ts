import { escapeAttribute, escapeText } from '@ukiyo/core/markup';
import type { Element } from 'hast';
import { find, html } from 'property-information';
import { isList, type Html } from './tree.ts';

/** Elements without content and end tag: of HTML (13.1.2) and of package documents. */
const empty = new Set('img br meta link col input hr area source item itemref'.split(' '));
/** Their text is written as it is (HTML, 13.1.2): renderers keep it free of end tags. */
const rawText = new Set(['script', 'style']);
/** Most texts have nothing that must be written otherwise; one look is cheaper than rewriting. */
const plain = /^[\u0020\u0021\u0023-\u0025\u0027-\u003B\u003D\u003F-\u007E\u00A0-\uD7FF]*$/;

/** How an attribute begins, and what separates the values of a list. */
interface Attribute {
  readonly name: string;
  readonly start: string;
  readonly between: string;
}
const attributes = new Map<string, Attribute>();
function attributeOf(property: string): Attribute {
  const known = attributes.get(property);
  if (known) return known;
  const { attribute, commaSeparated } = find(html, property);
  const found = {
    name: attribute,
    start: ` ${attribute}="`,
    between: commaSeparated ? ',' : ' ',
  };
  attributes.set(property, found);
  return found;
}
const attributeText = (value: string): string =>
  plain.test(value) ? value : escapeAttribute(value).replace(/&#xA;/gu, ' ');

/** How the syntaxes differ in what this writes. */
interface Syntax {
  /** What ends an element without content. */
  readonly emptyEnd: '>' | '/>';
  /** What an attribute has that is on. */
  readonly on: '' | '=""';
}
const htmlSyntax: Syntax = { emptyEnd: '>', on: '' };
const xmlSyntax: Syntax = { emptyEnd: '/>', on: '=""' };

function startOf({ tagName, properties }: Element, { on }: Syntax): string {
  let start = `<${tagName}`;
  for (const property of Object.keys(properties)) {
    const value = properties[property];
    const { name, start: opening, between } = attributeOf(property);
    if (value === true) start += ` ${name}${on}`;
    else if (typeof value === 'string') start += `${opening}${attributeText(value)}"`;
    else if (Array.isArray(value)) start += `${opening}${attributeText(value.join(between))}"`;
    else start += `${opening}${value}"`;
  }
  return start;
}
/**
 * Strings are added up rather than joined: the engine then copies them once, for the whole page.
 */
function write(part: Html, syntax: Syntax): string {
  if (isList(part)) {
    let all = '';
    for (const one of part) all += write(one, syntax);
    return all;
  }
  switch (part.type) {
    case 'text':
      return plain.test(part.value) ? part.value : escapeText(part.value);
    case 'raw':
      return part.value;
    case 'element': {
      const start = startOf(part, syntax);
      if (part.children.length === 0 && empty.has(part.tagName)) return start + syntax.emptyEnd;
      const content = rawText.has(part.tagName)
        ? part.children.map((child) => ('value' in child ? child.value : '')).join('')
        : write(part.children, syntax);
      return `${start}>${content}</${part.tagName}>`;
    }
    default:
      return '';
  }
}

/** As HTML (HTML Living Standard, 13.1), without a document type. */
export const serializeHtml = (part: Html): string => write(part, htmlSyntax);
/** As XML (HTML Living Standard, 14): for e-books. */
export const serializeXml = (part: Html): string => write(part, xmlSyntax);

/** A whole page, with its document type. */
export const serializePage = (page: Html): string => `<!doctype html>\n${serializeHtml(page)}\n`;
