export type Attributes = Readonly<Record<string, string>>;

/** One element with its attributes and what it contains, in document order. Immutable by habit. */
export interface Element {
  readonly name: string;
  readonly attributes: Attributes;
  readonly children: readonly Node[];
}

export interface Comment {
  readonly comment: string;
}

export interface Instruction {
  readonly target: string;
  readonly body: string;
}

/** Text is a plain string; two texts never stand side by side and none is empty. */
export type Node = Element | Comment | Instruction | string;

export function isElement(node: Node | undefined): node is Element {
  return typeof node === 'object' && 'name' in node;
}

/** Characters of a name, at most; what is longer is not read. */
export const longestName = 250;
/** NameStartChar and NameChar (XML 1.0, fifth edition, 2.3). */
const nameStart = [
  ':A-Z_a-z\\u00C0-\\u00D6\\u00D8-\\u00F6\\u00F8-\\u02FF\\u0370-\\u037D\\u037F-\\u1FFF',
  '\\u200C-\\u200D\\u2070-\\u218F\\u2C00-\\u2FEF\\u3001-\\uD7FF\\uF900-\\uFDCF\\uFDF0-\\uFFFD',
  '\\u{10000}-\\u{EFFFF}',
].join('');
const namePattern = new RegExp(
  `^[${nameStart}][\\u0300-\\u036F\\u203F\\u2040${nameStart}\\-.0-9\\u00B7]{0,${longestName - 1}}$`,
  'u',
);

/**
 * What no XML document can hold (XML 1.0, section 2.2): control characters, halves of surrogate
 * pairs, non-characters.
 */
export const unwritable = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\uD800-\uDFFF\uFFFE\uFFFF]/u;

/** Whether a value from outside is a set of attributes that can be written. */
export function isAttributes(value: unknown): value is Attributes {
  return (
    typeof value === 'object' &&
    value !== null &&
    !Array.isArray(value) &&
    Object.entries(value).every(
      ([name, text]) => namePattern.test(name) && typeof text === 'string',
    )
  );
}

/** Comments and instructions know no escapes. */
const isWritable = (value: object, part: string, forbidden: RegExp): boolean => {
  const text: unknown = Reflect.get(value, part);
  return typeof text === 'string' && !forbidden.test(text) && !unwritable.test(text);
};

const deepest = 200;

/** Whether a value from outside is a node that can be written. */
export function isNode(value: unknown, depth = 0): value is Node {
  if (typeof value === 'string') return true;
  if (typeof value !== 'object' || value === null || depth > deepest) return false;
  if ('comment' in value) return isWritable(value, 'comment', /--|-$/u);
  if ('target' in value)
    return (
      typeof value.target === 'string' &&
      namePattern.test(value.target) &&
      isWritable(value, 'body', /\?>/u)
    );
  if (!('name' in value && 'attributes' in value && 'children' in value)) return false;
  return (
    typeof value.name === 'string' &&
    namePattern.test(value.name) &&
    isAttributes(value.attributes) &&
    Array.isArray(value.children) &&
    value.children.every((child) => isNode(child, depth + 1))
  );
}

export function isComment(node: Node): node is Comment {
  return typeof node === 'object' && 'comment' in node;
}

export function isInstruction(node: Node): node is Instruction {
  return typeof node === 'object' && 'target' in node;
}

/**
 * Makes an element; neighbouring texts are joined and empty ones dropped, so the result is always a
 * proper tree.
 */
export function element(
  name: string,
  attributes: Attributes = {},
  children: readonly Node[] = [],
): Element {
  return { name, attributes, children: joinTexts(children) };
}

export function joinTexts(nodes: readonly Node[]): readonly Node[] {
  if (
    !nodes.some(
      (node, i) => node === '' || (typeof node === 'string' && typeof nodes[i - 1] === 'string'),
    )
  )
    return nodes;
  const joined: Node[] = [];
  for (const node of nodes) {
    const last = joined.at(-1);
    if (node === '') continue;
    if (typeof node === 'string' && typeof last === 'string')
      joined[joined.length - 1] = last + node;
    else joined.push(node);
  }
  return joined;
}

export function childElements(parent: Element): Element[] {
  return parent.children.filter(isElement);
}

export function childNamed(parent: Element, ...names: string[]): Element | undefined {
  return parent.children.find(
    (node): node is Element => isElement(node) && names.includes(node.name),
  );
}

/** All text inside, in order, without comments and instructions. */
export function textOf(node: Node): string {
  if (typeof node === 'string') return node;
  return isElement(node) ? node.children.map(textOf).join('') : '';
}

/** The text as a reader would see it on one line. */
export function lineOf(node: Node): string {
  return textOf(node).replace(/\s+/gu, ' ').trim();
}

/**
 * Visits `root` and every element below it, parents first. Returning `false` skips what is inside.
 */
export function walk(
  root: Element,
  visit: (found: Element, path: readonly number[]) => boolean | void,
): void {
  const path: number[] = [];
  const enter = (found: Element): void => {
    if (visit(found, path) === false) return;
    found.children.forEach((child, index) => {
      if (!isElement(child)) return;
      path.push(index);
      enter(child);
      path.pop();
    });
  };
  enter(root);
}

/** Every element below and including `root` for which `test` holds, parents first. */
export function findAll(root: Element, test: (found: Element) => boolean): Element[] {
  const found: Element[] = [];
  walk(root, (candidate) => {
    if (test(candidate)) found.push(candidate);
  });
  return found;
}

/** The same without those that are in another that is found. */
export function findOutermost(root: Element, test: (found: Element) => boolean): Element[] {
  const found: Element[] = [];
  walk(root, (candidate) => {
    if (!test(candidate)) return undefined;
    found.push(candidate);
    return false;
  });
  return found;
}

export function withAttribute(target: Element, name: string, value: string | undefined): Element {
  const { [name]: _old, ...rest } = target.attributes;
  return { ...target, attributes: value === undefined ? rest : { ...rest, [name]: value } };
}
