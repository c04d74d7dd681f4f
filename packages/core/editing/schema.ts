import { Schema, type AttributeSpec, type MarkSpec, type NodeSpec } from 'prosemirror-model';
import {
  contentKindOf,
  contentOf,
  definitionOf,
  isInline,
  isTopic,
  mayContain,
  textSymbol,
  type Expression,
} from '../grammar/index.ts';
import { isAttributes, isNode, type Attributes, type Node as XmlNode } from '../markup/index.ts';
import { editableElements, isBlockNode, isMark, nodeName, special } from './names.ts';

declare module 'prosemirror-model' {
  interface NodeSpec {
    /** The element that the node stands for. */
    element?: string;
  }
  interface MarkSpec {
    element?: string;
  }
}

/** Values come from other people's editors too, so what cannot be written as XML is refused. */
const checked = (holds: (value: unknown) => boolean) => ({
  validate: (value: unknown): void => {
    if (!holds(value)) throw new RangeError('A value that cannot be written');
  },
});
const bag: AttributeSpec = { default: {} as Attributes, ...checked(isAttributes) };
const rawNode: AttributeSpec = checked((value) => isNode(value));
const rawChildren: AttributeSpec = {
  default: [] as readonly XmlNode[],
  ...checked((value) => Array.isArray(value) && value.every((child) => isNode(child))),
};
const span: AttributeSpec = {
  default: 1,
  ...checked((value) => Number.isSafeInteger(value) && Number(value) > 0),
};
/** Shown in an empty line until something is typed. */
const guidance: AttributeSpec = {
  default: null as string | null,
  ...checked((value) => value === null || (typeof value === 'string' && !value.includes('?>'))),
};

/**
 * A content expression of the grammar as one of the schema: text and inline elements become lines,
 * and what cannot be opened may stand between any two parts, so that nothing ever has to be thrown
 * away.
 */
function schemaContent(expression: Expression, available: ReadonlySet<string>): string {
  const write = (part: Expression): string => {
    if (part.kind === 'symbol') return symbol(part.symbol);
    if (part.kind === 'repeat') {
      const inner = withRaw(part.part);
      if (inner === '') return '';
      const flows =
        part.part.kind === 'choice' &&
        flatten(part.part).some((one) => one.kind === 'symbol' && one.symbol === textSymbol);
      if (part.most === 1) return `(${inner})?`;
      // A place for text always has a line, so that the caret can stand there.
      return `(${inner})${part.least === 1 || flows ? '+' : '*'}`;
    }
    const parts = part.parts.map(write).filter((one) => one !== '');
    if (parts.length === 0) return '';
    return part.kind === 'choice'
      ? `(${[...new Set(parts)].join(' | ')})`
      : parts.join(` ${special.rawBlock}* `);
  };
  const withRaw = (part: Expression): string => {
    if (part.kind !== 'choice') return write(part);
    const parts = [
      ...new Set(
        flatten(part)
          .map(write)
          .filter((one) => one !== ''),
      ),
    ];
    // The line first: an element that can hold itself is otherwise filled with itself without end.
    return parts.length === 0
      ? ''
      : [
          ...parts.filter((one) => one === special.line),
          ...parts.filter((one) => one !== special.line),
          special.rawBlock,
        ].join(' | ');
  };
  const flatten = (part: Expression): Expression[] =>
    part.kind === 'choice' ? part.parts.flatMap(flatten) : [part];
  const symbol = (name: string): string => {
    if (name === textSymbol) return special.line;
    if (name === 'image') return special.blockImage;
    if (name === 'p') return `(p | ${special.flowParagraph})`;
    if (isInline(name)) return '';
    return available.has(name) && isBlockNode(name) ? nodeName(name) : '';
  };
  const body = write(expression);
  return body === '' ? `${special.rawBlock}*` : `${special.rawBlock}* ${body} ${special.rawBlock}*`;
}

/** Whether text can stand directly in the element, beside blocks: then lines are put into it. */
function flowContent(expression: Expression, available: ReadonlySet<string>): string {
  // Images stand in lines here.
  return schemaContent(expression, available).replaceAll(` | ${special.blockImage}`, '');
}

/** Nodes that stand for no element of their own, and images, which are whole. */
const wholeNodes = (topics: readonly string[]): Record<string, NodeSpec> => ({
  [special.document]: { content: `(${topics.join(' | ')} | ${special.rawBlock})` },
  [special.line]: { content: 'inline*', attrs: { guidance }, group: 'lines' },
  [special.text]: { group: 'inline' },
  [special.rawBlock]: { atom: true, attrs: { node: rawNode }, selectable: true },
  [special.rawInline]: {
    atom: true,
    inline: true,
    group: 'inline',
    attrs: { node: rawNode },
    selectable: true,
  },
  [special.blockImage]: {
    atom: true,
    element: 'image',
    attrs: { attributes: bag, children: rawChildren },
    selectable: true,
    draggable: true,
  },
  image: {
    atom: true,
    inline: true,
    group: 'inline',
    element: 'image',
    attrs: { attributes: bag, children: rawChildren },
    draggable: true,
  },
});

/** What the elements of the editor are made from. */
interface Vocabulary {
  readonly available: ReadonlySet<string>;
  /** Elements that name words in a line. */
  readonly phrases: readonly string[];
}

const phrasesIn = ({ phrases }: Vocabulary, parent: string): string[] =>
  phrases.filter((name) => mayContain(parent, name)).map(nodeName);

/** The content of a line, and the marks on it. */
function lineIn(
  vocabulary: Vocabulary,
  parent: string,
): { readonly content: string; readonly marks: string } {
  const phrases = phrasesIn(vocabulary, parent);
  const images = mayContain(parent, 'image') ? ['image'] : [];
  const inline = phrases.map((name) => `${name}_inline`);
  return {
    content: `(${[special.text, special.rawInline, ...images, ...inline].join(' | ')})*`,
    marks: phrases.join(' '),
  };
}

/** Words that an element names are a mark; where nothing is in them, a node. */
function phraseSpecs(
  vocabulary: Vocabulary,
  name: string,
): { readonly mark: MarkSpec; readonly node: NodeSpec } {
  const strangers = vocabulary.phrases.filter(
    (other) => !mayContain(name, other) && !mayContain(other, name),
  );
  const attrs = { attributes: bag };
  return {
    mark: {
      element: name,
      attrs,
      excludes: strangers.map(nodeName).join(' '),
      inclusive: name !== 'xref',
    },
    node: { element: name, inline: true, group: 'inline', ...lineIn(vocabulary, name), attrs },
  };
}

/** A block: of lines, of text, or of other blocks. */
function blockSpec(vocabulary: Vocabulary, name: string): NodeSpec {
  const { available } = vocabulary;
  const attrs = { attributes: bag };
  const kind = contentKindOf(name)!;
  if (kind === 'text' || name === 'p') {
    const isCode = definitionOf(name)!.verbatim === true;
    return {
      element: name,
      ...lineIn(vocabulary, name),
      attrs: { ...attrs, guidance },
      ...(isCode ? { code: true, whitespace: 'pre' as const } : {}),
    };
  }
  const content = contentOf(name)!;
  const shown = name === 'entry' ? { columnSpan: span, rowSpan: span } : {};
  return {
    element: name,
    content: kind === 'flow' ? flowContent(content, available) : schemaContent(content, available),
    attrs: { ...attrs, ...shown },
    isolating: kind === 'flow' && ['entry', 'stentry'].includes(name),
    defining: true,
  };
}

function makeSchema(): Schema {
  const elements = editableElements();
  const available = new Set(elements);
  const vocabulary = { available, phrases: elements.filter(isMark) };
  const nodes = wholeNodes(elements.filter(isTopic).map(nodeName));
  const marks: Record<string, MarkSpec> = {};
  for (const name of elements) {
    if (isMark(name)) {
      const { mark, node } = phraseSpecs(vocabulary, name);
      marks[nodeName(name)] = mark;
      nodes[`${nodeName(name)}_inline`] = node;
    } else if (isBlockNode(name)) nodes[nodeName(name)] = blockSpec(vocabulary, name);
    // A paragraph with blocks in it is another node than one that is a line.
    if (name === 'p')
      nodes[special.flowParagraph] = {
        element: 'p',
        content: flowContent(contentOf('p')!, available),
        attrs: { attributes: bag },
      };
  }
  return new Schema({ nodes, marks, topNode: special.document });
}

/** The editor's schema of topics, made from the grammar. */
export const editorSchema = makeSchema();
