import {
  contentKindOf,
  contentOf,
  definitionOf,
  elementDefinitions,
  isInline,
  isPhrase,
  isTopic,
  textSymbol,
  type Expression,
} from '../grammar/index.ts';

/** Node types that stand for no element, or for an element in one of its two shapes. */
export const special = {
  document: 'doc',
  text: 'text',
  /** A line of text that stands directly in a list item, cell or note: written without a tag. */
  line: 'txt',
  /** A paragraph that holds blocks. */
  flowParagraph: 'p_flow',
  blockImage: 'image_block',
  /** Whatever the editor shows but does not open: kept to the letter. */
  rawBlock: 'raw_block',
  rawInline: 'raw_inline',
} as const;

/**
 * Elements that are data beside the text, or that have forms of their own elsewhere. They are kept
 * and shown closed.
 */
const closed = new Set([
  'prolog',
  'titlealts',
  'related-links',
  'area',
  'colspec',
  'spanspec',
  'data',
  'data-about',
  'foreign',
  'unknown',
  'mathml',
  'svg-container',
  'syntaxdiagram',
  'object',
  'param',
  'longdescref',
  'glossBody',
  'linkinfo',
]);

/**
 * The schema's name of an element: content expressions of the schema know no hyphens, and its own
 * text node is called text.
 */
export const nodeName = (element: string): string =>
  element === 'text' ? 'text_element' : element.replace(/-/gu, '_');

/** Elements that become block nodes of their own. */
export function isBlockNode(name: string): boolean {
  return (
    definitionOf(name) !== undefined &&
    !isInline(name) &&
    !closed.has(name) &&
    contentKindOf(name) !== 'empty'
  );
}

/** Elements that become marks on text, and, where a mark cannot express them, inline nodes. */
export function isMark(name: string): boolean {
  return isPhrase(name) && contentKindOf(name) !== 'empty' && name !== 'menucascade';
}

/** Every element that can stand in a topic, reached from the topic kinds. */
export function editableElements(): string[] {
  const reached = new Set<string>();
  const visit = (name: string): void => {
    if (reached.has(name) || !definitionOf(name) || closed.has(name)) return;
    reached.add(name);
    const symbols = (part: Expression): void => {
      if (part.kind === 'symbol') {
        if (part.symbol !== textSymbol) visit(part.symbol);
      } else if (part.kind === 'repeat') symbols(part.part);
      else part.parts.forEach(symbols);
    };
    symbols(contentOf(name)!);
  };
  elementDefinitions.filter(({ name }) => isTopic(name)).forEach(({ name }) => visit(name));
  return [...reached];
}

/** The elements that are open in the editor: as blocks, as lines or as words. */
export const editableNames = (): ReadonlySet<string> =>
  new Set(
    editableElements().filter(
      (name) => isBlockNode(name) || isMark(name) || ['image', 'menucascade'].includes(name),
    ),
  );
