import {
  isElement,
  joinTexts,
  writeXml,
  xmlLength,
  type Element,
  type Node,
} from '../markup/index.ts';
import { contentKindOf, definitionOf, isForeign, isInline, isPhrase } from './table.ts';

function keepsSpace(element: Element): boolean {
  return (
    element.attributes['xml:space'] === 'preserve' || definitionOf(element.name)?.verbatim === true
  );
}

const isBlockNode = (node: Node | undefined): boolean =>
  isElement(node) && definitionOf(node.name) !== undefined && !isInline(node.name);
/** At the edge of a block, and beside one, white space is not seen. */
const space = /[ \t\n\r]+/gu;

/**
 * The tree without white space that means nothing: none between elements where no text may stand,
 * none at the edges of blocks, one space for any run elsewhere. Preformatted content and elements
 * that the grammar does not know are left as they are.
 */
export function normalise(element: Element): Element {
  const kind = contentKindOf(element.name);
  if (kind === undefined || isForeign(element.name)) return element;
  if (keepsSpace(element)) return keepingSpace(element);
  const children = element.children.map((child) => (isElement(child) ? normalise(child) : child));
  if (kind === 'elements' || kind === 'empty') {
    return withChildren(
      element,
      children.map((child) => (typeof child === 'string' && child.trim() === '' ? '' : child)),
    );
  }
  const edges = !isPhrase(element.name);
  return withChildren(
    element,
    children.map((child, index) => {
      if (typeof child !== 'string') return child;
      const before = children[index - 1];
      const after = children[index + 1];
      let text = /[\t\n\r]| {2}/u.test(child) ? child.replace(space, ' ') : child;
      if (before === undefined ? edges : isBlockNode(before)) text = text.replace(/^ /u, '');
      if (after === undefined ? edges : isBlockNode(after)) text = text.replace(/ $/u, '');
      return text;
    }),
  );
}

/**
 * The element with these children; the same object when they are the same, which for stored texts
 * they nearly always are.
 */
function withChildren(element: Element, children: readonly Node[]): Element {
  return children.every((child, index) => child === element.children[index])
    ? element
    : { ...element, children: joinTexts(children) };
}

/**
 * Text and phrases to the letter; what stands apart from the line, such as a footnote, is content
 * like any other.
 */
function keepingSpace(element: Element): Element {
  return withChildren(
    element,
    element.children.map((child) =>
      isElement(child) ? (isPhrase(child.name) ? keepingSpace(child) : normalise(child)) : child,
    ),
  );
}

function hasLines(element: Element): boolean {
  const kind = contentKindOf(element.name);
  if (
    kind === undefined ||
    kind === 'empty' ||
    kind === 'text' ||
    isInline(element.name) ||
    keepsSpace(element)
  )
    return false;
  return element.children.every(
    (child) =>
      typeof child !== 'string' && (kind === 'elements' || !isElement(child) || isBlockNode(child)),
  );
}

/** The one text in which a topic or map is stored, compared and exported. */
export function writeCanonical(root: Element): string {
  return writeXml(normalise(root), hasLines);
}

/** How many characters that text has, in UTF-16 code units. */
export const canonicalLength = (root: Element): number => xmlLength(normalise(root), hasLines);
