import { SaxesParser } from 'saxes';
import { problem, type Problem } from '../problems/index.ts';
import { isComment, isInstruction, longestName, type Element, type Node } from './element.ts';

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
  /** Declared entities, and UTF-16 code units of all texts that they put in together. */
  entities: 1000,
  entityText: 1024 * 1024,
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
   * The document type declaration without its angle brackets, as it stood. Of it only entities
   * that stand for a text are obeyed.
   */
  readonly doctype?: string;
  /** Comments and processing instructions outside the root, as they were written. */
  readonly before: readonly string[];
  readonly after: readonly string[];
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
 * Internal entities that stand for a text are expanded, within bounds. External ones, those of
 * parameters and those that hold markup are an error where they are used: nothing is ever fetched.
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

/** Builds the tree of one text from what the parser meets, within the limits. */
class TreeBuilder {
  root: Element | undefined;
  doctype: string | undefined;
  readonly before: string[] = [];
  readonly after: string[] = [];
  readonly problems: Problem[] = [];
  readonly positions: Map<Element, SourcePosition> | undefined;
  readonly #parser: Parser;
  readonly #open: Open[] = [];
  #attributeCount = 0;
  #elementCount = 0;
  #entityText = 0;

  constructor(parser: Parser, withPositions: boolean) {
    this.#parser = parser;
    this.positions = withPositions ? new Map() : undefined;
    parser.on('error', (error) => this.#fail(error));
    parser.on('doctype', (declaration) => {
      this.doctype = declaration.trim();
      this.#declare(entitiesIn(declaration));
    });
    parser.on('opentagstart', () => this.#begin());
    parser.on('attribute', (attribute) => this.#checkAttribute(attribute));
    parser.on('opentag', (tag) => this.#enter(tag));
    parser.on('closetag', () => this.#leave());
    parser.on('text', (text) => this.#add(text));
    parser.on('cdata', (text) => this.#add(text));
    parser.on('comment', (comment) => this.#add({ comment }));
    parser.on('processinginstruction', ({ target, body }) => {
      this.#checkName(target);
      this.#add({ target, body });
    });
  }

  #here(): SourcePosition {
    return { line: this.#parser.line, column: this.#parser.column + 1 };
  }

  #refuse(code: string, message: string): never {
    this.problems.push(problem('error', code, message, this.#here()));
    throw new Refusal();
  }

  #fail({ message: told }: Error): never {
    const message = told.replace(/^(\S+:)?\d+:\d+: /u, '').replace(/\.$/u, '');
    const code = /entity/u.test(message) ? 'xml.entities' : 'xml.not-well-formed';
    return this.#refuse(code, `This is not well-formed XML: ${message}.`);
  }

  /** Lets the parser put entities in, as long as they stay within bounds. */
  #declare(entities: ReadonlyMap<string, string>): void {
    for (const [name, value] of entities)
      Object.defineProperty(this.#parser.ENTITIES, name, {
        configurable: true,
        get: () => {
          this.#entityText += value.length;
          if (this.#entityText > limits.entityText)
            this.#refuse('xml.entities', 'The entities of this text grow beyond all bounds.');
          return value;
        },
      });
  }

  #begin(): void {
    this.#attributeCount = 0;
    this.#elementCount += 1;
    if (this.#elementCount > limits.elements)
      this.#refuse(
        'xml.too-many-elements',
        `The text has more than ${limits.elements} elements. Split it.`,
      );
    if (this.#open.length >= limits.depth)
      this.#refuse('xml.too-deep', `More than ${limits.depth} elements are open at once.`);
  }

  #checkName(name: string): void {
    if (name.length > longestName)
      this.#refuse(
        'xml.name-too-long',
        `The name “${name.slice(0, 40)}…” is longer than ${longestName} characters.`,
      );
  }

  #checkAttribute({ name, value }: { readonly name: string; readonly value: string }): void {
    this.#checkName(name);
    this.#attributeCount += 1;
    if (this.#attributeCount > limits.attributes)
      this.#refuse(
        'xml.too-many-attributes',
        `An element has more than ${limits.attributes} attributes.`,
      );
    if (value.length > limits.attributeLength)
      this.#refuse(
        'xml.attribute-too-long',
        `The attribute “${name}” is longer than ${limits.attributeLength} characters.`,
      );
  }

  #enter(tag: { readonly name: string; readonly attributes: Record<string, string> }): void {
    this.#checkName(tag.name);
    const entry: Open = { name: tag.name, attributes: { ...tag.attributes }, children: [] };
    this.positions?.set(entry, this.#here());
    this.#open.push(entry);
  }

  #leave(): void {
    const closed = this.#open.pop();
    if (closed === undefined) return;
    if (this.#open.length === 0) this.root = closed;
    else this.#add(closed);
  }

  #addOutside(node: Node): void {
    const side = this.root === undefined ? this.before : this.after;
    if (isComment(node)) side.push(`<!--${node.comment}-->`);
    else if (isInstruction(node))
      side.push(`<?${node.target}${node.body === '' ? '' : ` ${node.body}`}?>`);
  }

  #add(node: Node): void {
    const siblings = this.#open.at(-1)?.children;
    if (siblings === undefined) return this.#addOutside(node);
    if (node === '') return;
    const last = siblings.at(-1);
    if (typeof node === 'string' && typeof last === 'string')
      siblings[siblings.length - 1] = last + node;
    else siblings.push(node);
  }
}

/**
 * The internal entities that a document type declares as plain text, with their character
 * references and entities in them replaced (XML 1.0, 4.2.1 and 4.5).
 */
function entitiesIn(declaration: string): ReadonlyMap<string, string> {
  const declared = new Map<string, string>();
  const pattern = /<!--[\s\S]*?-->|<!ENTITY\s+([^\s%"'<>&;]+)\s+(?:"([^"]*)"|'([^']*)')\s*>/gu;
  for (const [, name, double, single] of declaration.matchAll(pattern)) {
    if (declared.size >= limits.entities) break;
    // The first declaration counts.
    if (name !== undefined && !declared.has(name) && !isPredefined(name))
      declared.set(name, double ?? single ?? '');
  }
  const expanded = new Map<string, string>();
  for (const name of declared.keys()) {
    const value = expandedEntity(name, declared, []);
    if (value !== undefined && !value.includes('<')) expanded.set(name, value);
  }
  return expanded;
}

const predefined: Readonly<Record<string, string>> = {
  amp: '&',
  lt: '<',
  gt: '>',
  quot: '"',
  apos: "'",
};
const isPredefined = (name: string): boolean => Object.hasOwn(predefined, name);

/** @returns undefined where an entity uses itself, is not declared or grows beyond bounds */
function expandedEntity(
  name: string,
  declared: ReadonlyMap<string, string>,
  within: readonly string[],
): string | undefined {
  const value = declared.get(name);
  if (value === undefined || within.includes(name) || within.length > 20) return undefined;
  let made = '';
  let from = 0;
  for (const found of value.matchAll(/&(?:#x([\da-f]+)|#(\d+)|([^\s;&]+));/giu)) {
    const [all, hex, decimal, entity] = found;
    const code = hex === undefined ? Number(decimal) : Number.parseInt(hex, 16);
    const part =
      entity === undefined
        ? code <= 0x10ffff
          ? String.fromCodePoint(code)
          : undefined
        : isPredefined(entity)
          ? predefined[entity]
          : expandedEntity(entity, declared, [...within, name]);
    if (part === undefined) return undefined;
    made += value.slice(from, found.index) + part;
    from = found.index + all.length;
    if (made.length > limits.attributeLength) return undefined;
  }
  return made + value.slice(from);
}

function read(text: string, withPositions: boolean): ReadResult {
  if (text.length > limits.size) {
    const millions = limits.size / 1024 / 1024;
    const message = `The text has more than ${millions} million characters. Split it.`;
    return { problems: [problem('error', 'xml.too-large', message)] };
  }
  const parser = new Parser({ position: withPositions as true, xmlns: false });
  const built = new TreeBuilder(parser, withPositions);
  try {
    parser.write(text.startsWith('\uFEFF') ? text.slice(1) : text).close();
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    return { problems: built.problems };
  }
  const { root, positions, doctype, before, after, problems } = built;
  if (root === undefined)
    return { problems: [problem('error', 'xml.empty', 'There is no element in this file.')] };
  return {
    document: {
      root,
      before,
      after,
      ...(positions ? { positions } : {}),
      ...(doctype === undefined ? {} : { doctype }),
    },
    problems,
  };
}
