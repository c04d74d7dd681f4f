import { SaxesParser } from 'saxes';
import { problem, type Problem } from '../problems/index.ts';
import { longestName, type Element, type Node } from './element.ts';

/**
 * Bounds on what is read. They are far beyond real topics and keep hostile files from exhausting
 * memory or the stack.
 */
export const limits = {
  /** Open elements. Recursive walks stay well inside the default stack. */
  depth: 200,
  /** UTF-16 code units of text: what can be written can be read, wherever it comes from. */
  size: 4 * 1024 * 1024,
  /** Elements of one text; a map of 10,000 topics has some 20,000. */
  elements: 100_000,
  /** Attributes of one element. */
  attributes: 200,
  /** UTF-16 code units of one attribute value. */
  attributeLength: 64 * 1024,
} as const;

export interface SourcePosition {
  /** 1-based. */
  readonly line: number;
  /** 1-based, in UTF-16 code units. */
  readonly column: number;
}

export interface XmlDocument {
  readonly root: Element;
  /**
   * The document type declaration without its angle brackets, as it stood; nothing in it is obeyed.
   */
  readonly doctype?: string;
  /** Where the start tag of each element ends; only when asked for. */
  readonly positions?: ReadonlyMap<Element, SourcePosition>;
}

export interface ReadResult {
  /** Absent when the text is not well-formed or passes a limit; then `problems` says why. */
  readonly document?: XmlDocument;
  readonly problems: readonly Problem[];
}

class Refusal extends Error {}

/**
 * V8 keeps the fields of a subclass in fast slots; a plain SaxesParser with more than seven
 * handlers becomes a dictionary, which is three times slower.
 */
class Parser extends SaxesParser<{ position: true; xmlns: false }> {}

interface Open {
  readonly name: string;
  readonly attributes: Record<string, string>;
  readonly children: Node[];
}

/**
 * Reads one XML 1.0 document (W3C XML 1.0, fifth edition).
 * Entities other than the five predefined ones and character references are an error: none is ever
 * expanded or fetched.
 * @returns the document, or problems `xml.not-well-formed`, `xml.entities`, `xml.too-large`,
 * `xml.too-many-elements`, `xml.too-deep`, `xml.too-many-attributes`, `xml.name-too-long`,
 * `xml.empty`, each with line and column.
 */
export function readXml(
  text: string,
  { positions = false }: { readonly positions?: boolean } = {},
): ReadResult {
  const quick = read(text, positions);
  // Keeping track of lines costs a fifth of the time and is needed only to say where something is
  // wrong.
  return quick.document || positions ? quick : read(text, true);
}

function read(text: string, withPositions: boolean): ReadResult {
  if (text.length > limits.size)
    return {
      problems: [
        problem(
          'error',
          'xml.too-large',
          `The text has more than ${limits.size / 1024 / 1024} million characters. Split it.`,
        ),
      ],
    };
  const parser = new Parser({ position: withPositions as true, xmlns: false });
  const problems: Problem[] = [];
  const positions = withPositions ? new Map<Element, SourcePosition>() : undefined;
  const open: Open[] = [];
  let root: Element | undefined;
  let doctype: string | undefined;
  let attributeCount = 0;
  let elementCount = 0;
  const here = (): SourcePosition => ({ line: parser.line, column: parser.column + 1 });
  const refuse = (code: string, message: string): never => {
    problems.push(problem('error', code, message, here()));
    throw new Refusal();
  };
  const add = (node: Node): void => {
    const siblings = open.at(-1)?.children;
    if (siblings === undefined || node === '') return;
    const last = siblings.at(-1);
    if (typeof node === 'string' && typeof last === 'string')
      siblings[siblings.length - 1] = last + node;
    else siblings.push(node);
  };

  parser.on('error', (error) => {
    const message = error.message.replace(/^(\S+:)?\d+:\d+: /u, '').replace(/\.$/u, '');
    refuse(
      /entity/u.test(message) ? 'xml.entities' : 'xml.not-well-formed',
      `This is not well-formed XML: ${message}.`,
    );
  });
  parser.on('doctype', (declaration) => {
    doctype = declaration.trim();
  });
  parser.on('opentagstart', () => {
    attributeCount = 0;
    elementCount += 1;
    if (elementCount > limits.elements)
      refuse(
        'xml.too-many-elements',
        `The text has more than ${limits.elements} elements. Split it.`,
      );
    if (open.length >= limits.depth)
      refuse('xml.too-deep', `More than ${limits.depth} elements are open at once.`);
  });
  const refuseLongName = (name: string): void => {
    if (name.length > longestName)
      refuse(
        'xml.name-too-long',
        `The name “${name.slice(0, 40)}…” is longer than ${longestName} characters.`,
      );
  };
  parser.on('attribute', ({ name, value }) => {
    refuseLongName(name);
    attributeCount += 1;
    if (attributeCount > limits.attributes)
      refuse(
        'xml.too-many-attributes',
        `An element has more than ${limits.attributes} attributes.`,
      );
    if (value.length > limits.attributeLength)
      refuse(
        'xml.attribute-too-long',
        `The attribute “${name}” is longer than ${limits.attributeLength} characters.`,
      );
  });
  parser.on('opentag', (tag) => {
    refuseLongName(tag.name);
    const entry: Open = { name: tag.name, attributes: { ...tag.attributes }, children: [] };
    positions?.set(entry, here());
    open.push(entry);
  });
  parser.on('closetag', () => {
    const closed = open.pop();
    if (closed === undefined) return;
    if (open.length === 0) root = closed;
    else add(closed);
  });
  parser.on('text', add);
  parser.on('cdata', add);
  parser.on('comment', (comment) => add({ comment }));
  parser.on('processinginstruction', ({ target, body }) => {
    refuseLongName(target);
    add({ target, body });
  });

  try {
    parser.write(text.startsWith('\uFEFF') ? text.slice(1) : text).close();
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return { problems };
  }
  if (root === undefined)
    return { problems: [problem('error', 'xml.empty', 'There is no element in this file.')] };
  return {
    document: {
      root,
      ...(positions ? { positions } : {}),
      ...(doctype === undefined ? {} : { doctype }),
    },
    problems,
  };
}
