import { definitionOf, isA, isInline, isTopic, validate } from '../grammar/index.ts';
import {
  element,
  isElement,
  nodeAt,
  replaceAt,
  walk,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { readReference, writeReference } from './address.ts';
import { readableText } from './derive.ts';
import { elementById, freeId, idsOf, type FoundElement } from './ids.ts';
import { rewriteReferences } from './rewrite.ts';

const borrowAttributes = ['conref', 'conkeyref', 'conrefend', 'conaction'];
const useTarget = '-dita-use-conref-target';

/** The borrowed element, or the run of its siblings up to `conrefend` (DITA 1.3, 2.4.5.2). */
export function conrefRange(
  root: Element,
  first: FoundElement,
  end: string | undefined,
  self: string,
): FoundElement[] {
  const reference = end === undefined ? undefined : readReference(end, self);
  const last =
    reference?.kind === 'item' && reference.element !== undefined
      ? elementById(root, reference.element)
      : undefined;
  if (!last) return [first];
  const parentPath = first.path.slice(0, -1);
  const from = first.path.at(-1) ?? 0;
  const to = last.path.at(-1) ?? 0;
  let parent: Node | undefined = root;
  for (const index of parentPath) parent = isElement(parent) ? parent.children[index] : undefined;
  if (!isElement(parent) || last.path.length !== first.path.length || to < from) return [first];
  return parent.children
    .slice(from, to + 1)
    .flatMap((child, offset) =>
      isElement(child) ? [{ element: child, path: [...parentPath, from + offset] }] : [],
    );
}

/**
 * The borrower's attributes go before the lender's unless they say otherwise; its id stays (DITA
 * 1.3, 2.4.5.4).
 */
export function mergeAttributes(borrower: Attributes, lender: Attributes): Attributes {
  const { id: _lenderId, ...lent } = lender;
  const own = Object.entries(borrower).filter(
    ([name, value]) => !borrowAttributes.includes(name) && value !== useTarget,
  );
  return { ...lent, ...Object.fromEntries(own) };
}

/** The attributes of an element without those by which it borrows or lends. */
export const withoutBorrowing = (attributes: Attributes): Attributes =>
  Object.fromEntries(
    Object.entries(attributes).filter(([name]) => !borrowAttributes.includes(name)),
  );

/** A block of a topic that can be borrowed. */
export interface Passage extends FoundElement {
  /** How deep it stands among those that can be borrowed. */
  readonly depth: number;
  readonly words: string;
}

/** Parts that are borrowed with what holds them. */
const heldParts = [
  'title',
  'cmd',
  'tgroup',
  'thead',
  'tbody',
  'row',
  'entry',
  'sthead',
  'strow',
  'stentry',
  'dt',
  'dd',
  'image',
];
const isPassage = (node: Node): node is Element =>
  isElement(node) &&
  definitionOf(node.name) !== undefined &&
  !isInline(node.name) &&
  !isTopic(node.name) &&
  !heldParts.some((part) => isA(node.name, part)) &&
  !borrowAttributes.some((name) => node.attributes[name] !== undefined);

/**
 * What can be borrowed from the body of a topic, in document order; what is borrowed there already
 * has another home.
 */
export function passagesOf(root: Element): Passage[] {
  const passages: Passage[] = [];
  const visit = (parent: Element, path: Path, depth: number): void =>
    parent.children.forEach((child, index) => {
      if (!isPassage(child)) return;
      const at = [...path, index];
      passages.push({ element: child, path: at, depth, words: readableText(child) });
      visit(child, at, depth + 1);
    });
  root.children.forEach(
    (child, index) => isElement(child) && isA(child.name, 'body') && visit(child, [index], 0),
  );
  return passages;
}

const wordsOfId = 4;

/** The tree with an id on each of the elements at these paths; those that have one keep it. */
export function withIds(
  root: Element,
  paths: readonly Path[],
): { readonly root: Element; readonly ids: readonly string[] } {
  const taken = new Set(idsOf(root).keys());
  const ids: string[] = [];
  let changed = root;
  for (const path of paths) {
    const found = nodeAt(changed, path);
    if (!isElement(found)) continue;
    const id =
      found.attributes['id'] ??
      freeId(readableText(found).split(' ').slice(0, wordsOfId).join(' '), taken, found.name);
    taken.add(id);
    ids.push(id);
    if (found.attributes['id'] === undefined)
      changed = replaceAt(changed, path, [{ ...found, attributes: { ...found.attributes, id } }]);
  }
  return { root: changed, ids };
}

/** What borrows a run of passages by the ids of its first and last. */
export function borrowing(lender: string, ids: readonly string[], key?: string): Attributes {
  const [first] = ids;
  const last = ids.at(-1);
  const reference = (id: string): string =>
    writeReference({ kind: 'item', id: lender, element: id });
  return first === undefined || last === undefined
    ? {}
    : {
        ...(key === undefined ? { conref: reference(first) } : { conkeyref: `${key}/${first}` }),
        ...(ids.length > 1 ? { conrefend: reference(last) } : {}),
      };
}

/**
 * The tree with references that mean the text itself written so that they mean it from anywhere.
 */
const fromAnywhere = (root: Element, self: string): Element =>
  rewriteReferences(root, (value) => {
    const reference = readReference(value, self);
    return value.startsWith('#') && reference.kind === 'item' ? writeReference(reference) : value;
  });

/**
 * What a borrowing element shows, as content of its own.
 * @param taken ids of the text that it becomes part of: those that are in use there are not brought
 * along
 * @returns undefined when the lender has no such element
 */
export function localCopy(
  borrower: Attributes,
  lender: Element,
  lenderId: string,
  taken: ReadonlySet<string>,
): Element[] | undefined {
  const reference = readReference(borrower['conref'] ?? '', lenderId);
  const found = reference.kind === 'item' ? elementById(lender, reference.element) : undefined;
  if (!found) return undefined;
  const withFreeIds = (one: Element): Element => {
    const { id, ...others } = one.attributes;
    const attributes = id !== undefined && taken.has(id) ? others : one.attributes;
    return {
      ...one,
      attributes,
      children: one.children.map((child) => (isElement(child) ? withFreeIds(child) : child)),
    };
  };
  return conrefRange(lender, found, borrower['conrefend'], lenderId).map(
    ({ element: passage }, index) => {
      const copy = withFreeIds(fromAnywhere(passage, lenderId));
      return index === 0
        ? { ...copy, attributes: mergeAttributes(borrower, copy.attributes) }
        : copy;
    },
  );
}

const faults = (root: Element): number =>
  validate(root).filter(({ severity }) => severity === 'error').length;

/**
 * Puts elements into a tree at `path`, in the last part of each name in `ancestors` or in a new one,
 * at the last place where they may stand.
 * @param most faults that the tree may then have
 */
function putInto(
  root: Element,
  path: Path,
  ancestors: readonly string[],
  { passages, most }: { readonly passages: readonly Element[]; readonly most: number },
): { root: Element; path: Path } | undefined {
  const parent = nodeAt(root, path);
  if (!isElement(parent)) return undefined;
  const [name, ...rest] = ancestors;
  const last =
    name === undefined
      ? -1
      : parent.children.findLastIndex((child) => isElement(child) && child.name === name);
  if (last >= 0) return putInto(root, [...path, last], rest, { passages, most });
  const content = ancestors.reduceRight<readonly Element[]>(
    (inside, holder) => [element(holder, {}, inside)],
    passages,
  );
  for (let index = parent.children.length; index >= 0; index -= 1) {
    const changed = replaceAt(root, path, [
      {
        ...parent,
        children: [...parent.children.slice(0, index), ...content, ...parent.children.slice(index)],
      },
    ]);
    if (faults(changed) <= most)
      return { root: changed, path: [...path, index, ...ancestors.map(() => 0)] };
  }
  return undefined;
}

/** A new lender has nothing but what it lends. */
export const withoutBody = (root: Element): Element => ({
  ...root,
  children: root.children.map((child) =>
    isElement(child) && isA(child.name, 'body') ? { ...child, children: [] } : child,
  ),
});

/** A lender that has taken passages in. */
export interface MovedPassages {
  readonly root: Element;
  readonly ids: readonly string[];
}

/**
 * Moves passages into the body of a topic that lends them.
 * @param ancestors names of the elements that held them, from the body inward: as few of them as are
 * needed are made
 * @param self the text that they come from
 * @returns the lender with an id on each of them, which keeps theirs where it is free; undefined
 * when it can hold them nowhere
 */
export function movePassages(
  lender: Element,
  passages: readonly Element[],
  ancestors: readonly string[],
  self: string,
): MovedPassages | undefined {
  const body = lender.children.findIndex((child) => isElement(child) && isA(child.name, 'body'));
  if (body === -1) return undefined;
  const taken = new Set(idsOf(lender).keys());
  const free = (one: Element): Element => {
    const { id, ...others } = one.attributes;
    const attributes =
      id !== undefined && taken.has(id)
        ? { ...others, id: freeId(id, taken, one.name) }
        : one.attributes;
    if (attributes['id'] !== undefined) taken.add(attributes['id']);
    return {
      ...one,
      attributes,
      children: one.children.map((child) => (isElement(child) ? free(child) : child)),
    };
  };
  const moved = passages.map((passage) => free(fromAnywhere(passage, self)));
  // What is wrong with the passages by themselves is no reason.
  const before = moved.reduce((sum, passage) => sum + faults(passage), faults(lender));
  for (let needed = 0; needed <= ancestors.length; needed += 1) {
    const settled = putInto(lender, [body], ancestors.slice(ancestors.length - needed), {
      passages: moved,
      most: before,
    });
    if (!settled) continue;
    const first = settled.path.at(-1) ?? 0;
    return withIds(
      settled.root,
      moved.map((_passage, index) => [...settled.path.slice(0, -1), first + index]),
    );
  }
  return undefined;
}

/** Where the passages inside an element have their homes. */
export function conrefsIn(
  root: Element,
  self: string,
): { readonly id: string; readonly element: string | undefined }[] {
  const homes: { id: string; element: string | undefined }[] = [];
  walk(root, ({ attributes }) => {
    const reference =
      attributes['conref'] === undefined ? undefined : readReference(attributes['conref'], self);
    if (reference?.kind === 'item') homes.push({ id: reference.id, element: reference.element });
  });
  return homes;
}
