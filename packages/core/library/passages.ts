import { isA, labelOf } from '../grammar/index.ts';
import { isElement, type Attributes, type Element, type Node } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { readReference } from './address.ts';
import { conrefRange, mergeAttributes } from './borrowing.ts';
import { elementById, type FoundElement } from './ids.ts';

/** The deepest nesting of borrowed passages; real texts have a few levels. */
const deepest = 50;

/** Where an element stands that borrows. */
export interface BorrowingPlace {
  /** The ID of the topic or map in which it is written. */
  readonly item: string;
  readonly path: Path;
  /** `item/path` of every passage that is being borrowed around here, outermost first. */
  readonly borrowing: readonly string[];
}

/** An element that borrows (DITA 1.3, 2.4.5.2), where it stands. */
export interface Borrower<Place extends BorrowingPlace = BorrowingPlace> {
  readonly element: Element;
  readonly attributes: Attributes;
  readonly place: Place;
}

/** What an element borrows, first to last, and a name for it while it is being resolved. */
export interface FoundPassage {
  readonly key: string;
  readonly first: FoundElement;
  readonly run: readonly FoundElement[];
}
export interface PassageFault {
  readonly code: `borrow.${string}`;
  readonly message: string;
}

/** The reference as the borrower has it. */
export const nameOfPassage = ({ attributes }: Pick<Borrower, 'attributes'>): string =>
  attributes['conref'] ?? attributes['conkeyref'] ?? '';

/**
 * What an element borrows from one topic.
 * @param element ID of the passage; the whole topic without it
 * @returns the passage, or why it cannot be borrowed: `borrow.missing`, `borrow.cycle`,
 * `borrow.mismatch`
 */
export function findPassage(
  borrower: Borrower,
  { id, root }: { readonly id: string; readonly root: Element },
  element: string | undefined,
): FoundPassage | PassageFault {
  const { place, attributes } = borrower;
  const name = nameOfPassage(borrower);
  const first = elementById(root, element);
  if (!first)
    return {
      code: 'borrow.missing',
      message: `The passage “${name}” cannot be borrowed: the topic has no element with that id.`,
    };
  const key = `${id}/${first.path.join('.')}`;
  if (
    place.borrowing.includes(key) ||
    place.borrowing.length >= deepest ||
    (id === place.item && isWithin(place.path, first.path))
  )
    return {
      code: 'borrow.cycle',
      message: `The passage “${name}” borrows itself. It is left out.`,
    };
  const [own, found] = [borrower.element.name, first.element.name];
  // A more special element may stand for a more general one, and the other way round.
  if (!isA(found, own) && !isA(own, found))
    return {
      code: 'borrow.mismatch',
      message: `“${labelOf(found)}” cannot be borrowed as “${labelOf(own)}”.`,
    };
  return { key, first, run: conrefRange(root, first, attributes['conrefend'], id) };
}

const isWithin = (path: Path, outer: Path): boolean =>
  outer.every((step, index) => path[index] === step);

/** Gives what passages are read from. */
export interface PassageReader {
  /** The tree of a topic or map; undefined where it cannot be had. */
  readonly read: (id: string) => Promise<Element | undefined>;
  /** The reference to which a key leads. */
  readonly targetOf: (key: string) => string | undefined;
}

/**
 * Where what an element shows has its home: directly, or by a key and the ID of an element in what
 * the key leads to. A key that leads nowhere stays as it is.
 */
export function conrefSourceOf(
  { conref, conkeyref }: Attributes,
  targetOf: PassageReader['targetOf'],
): string | undefined {
  if (conref !== undefined || conkeyref === undefined) return conref;
  const [key = '', element] = conkeyref.split('/');
  const target = key === '' ? undefined : targetOf(key);
  if (target === undefined) return conkeyref;
  return element === undefined ? target : `${target.split('/')[0]!}/${element}`;
}

/** Passages that one passage may borrow to be shown; real ones borrow some dozens at most. */
const mostPassages = 1000;

/** Reads one passage and counts what it borrows: each level can double what the one below has. */
class PassageResolver {
  readonly #reader: PassageReader;
  #count = 0;

  constructor(reader: PassageReader) {
    this.#reader = reader;
  }

  get isTooLarge(): boolean {
    return this.#count > mostPassages;
  }

  async passage(borrower: Borrower): Promise<readonly Element[] | PassageFault> {
    const { attributes, place } = borrower;
    const { read, targetOf } = this.#reader;
    this.#count += 1;
    if (this.isTooLarge) return [];
    const reference = readReference(conrefSourceOf(attributes, targetOf) ?? '', place.item);
    const root = reference.kind === 'item' ? await read(reference.id) : undefined;
    if (reference.kind !== 'item' || !root)
      return {
        code: 'borrow.missing',
        message: `The passage “${nameOfPassage(borrower)}” is not in the library.`,
      };
    const found = findPassage(borrower, { id: reference.id, root }, reference.element);
    if (!('run' in found)) return found;
    const borrowing = [...place.borrowing, found.key];
    const filled: Element[] = [];
    for (const [at, { element, path }] of found.run.entries()) {
      // The conditions of the borrowing element count as well.
      const merged =
        at === 0 ? mergeAttributes(attributes, element.attributes) : element.attributes;
      const within = { item: reference.id, path, borrowing };
      filled.push(...(await this.#filled({ ...element, attributes: merged }, within)));
    }
    return filled;
  }

  /** An element with its borrowed passages filled in; those that cannot be borrowed are left out. */
  async #filled(element: Element, place: BorrowingPlace): Promise<readonly Element[]> {
    const { attributes } = element;
    if (attributes['conref'] !== undefined || attributes['conkeyref'] !== undefined) {
      const passage = await this.passage({ element, attributes, place });
      return 'code' in passage ? [] : passage;
    }
    const children: Node[] = [];
    for (const [index, child] of element.children.entries())
      if (isElement(child))
        children.push(...(await this.#filled(child, { ...place, path: [...place.path, index] })));
      else children.push(child);
    return [{ ...element, children }];
  }
}

/**
 * What an element borrows, with all passages borrowed in it, found as builds find them
 * (`findPassage`) but for all readers, without a filter.
 * @returns the elements that replace it, or why there are none: the faults of `findPassage`, and
 * `borrow.large` for more passages than a page can show
 */
export async function readPassage(
  borrower: Borrower,
  reader: PassageReader,
): Promise<readonly Element[] | PassageFault> {
  const resolver = new PassageResolver(reader);
  const passage = await resolver.passage(borrower);
  return resolver.isTooLarge
    ? {
        code: 'borrow.large',
        message: `The passage “${nameOfPassage(borrower)}” borrows too many others to be shown here.`,
      }
    : passage;
}
