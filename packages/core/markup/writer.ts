import {
  isComment,
  isElement,
  isInstruction,
  unwritable,
  type Element,
  type Node,
} from './element.ts';

/**
 * Says of an element whether its children each stand on a line of their own. White space between
 * them must not matter.
 */
export type Layout = (element: Element) => boolean;

const textEscapes: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '\r': '&#xD;',
};
const valueEscapes: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  '\t': '&#x9;',
  '\n': '&#xA;',
  '\r': '&#xD;',
};

const escaped = (
  text: string,
  special: RegExp,
  escapes: Readonly<Record<string, string>>,
): string =>
  text.replace(
    special,
    (character) => escapes[character] ?? (unwritable.test(character) ? '\uFFFD' : character),
  );

export function escapeText(text: string): string {
  return escaped(text, specialInText, textEscapes);
}

export function escapeAttribute(value: string): string {
  return escaped(value, specialInValue, valueEscapes);
}

const specialInText = new RegExp(`[&<>\\r]|${unwritable.source}`, 'gu');
const specialInValue = new RegExp(`[&<>"\\t\\n\\r]|${unwritable.source}`, 'gu');

/** `id` first, the others by code unit: the same element is always written the same. */
function sortedAttributes(element: Element): [string, string][] {
  const order = (name: string): string => (name === 'id' ? '' : name);
  return Object.entries(element.attributes).sort(([a], [b]) => (order(a) < order(b) ? -1 : 1));
}

/**
 * Writes a tree in canonical form: one spelling for each tree, so that equal trees give equal text
 * and line-wise comparison works.
 * @param linesOf elements whose children get lines of their own, indented by two spaces; all others
 * are written without added white space
 */
export function writeXml(root: Element, linesOf: Layout = () => false): string {
  const out: string[] = [];
  writePieces(root, linesOf, (piece) => out.push(piece));
  return out.join('');
}

/** The length of what `writeXml` gives, in UTF-16 code units, without making that text. */
export function xmlLength(root: Element, linesOf: Layout): number {
  let length = 0;
  writePieces(root, linesOf, (piece) => (length += piece.length));
  return length;
}

function writePieces(root: Element, linesOf: Layout, put: (piece: string) => void): void {
  const write = (node: Node, indent: string): void => {
    if (typeof node === 'string') put(escapeText(node));
    else if (isComment(node)) put(`<!--${node.comment}-->`);
    else if (isInstruction(node))
      put(`<?${node.target}${node.body === '' ? '' : ` ${node.body}`}?>`);
    else if (isElement(node)) {
      put(`<${node.name}`);
      for (const [name, value] of sortedAttributes(node))
        put(` ${name}="${escapeAttribute(value)}"`);
      if (node.children.length === 0) {
        put('/>');
        return;
      }
      put('>');
      const lines = linesOf(node);
      for (const child of node.children) {
        if (lines) put(`\n${indent}  `);
        write(child, lines ? `${indent}  ` : indent);
      }
      if (lines) put(`\n${indent}`);
      put(`</${node.name}>`);
    }
  };
  write(root, '');
  put('\n');
}
