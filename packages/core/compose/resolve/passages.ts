import type { When } from '../../facets/index.ts';
import { isA, labelOf } from '../../grammar/index.ts';
import {
  conrefRange,
  elementOf,
  readReference,
  type FoundElement,
  type Reference,
} from '../../library/index.ts';
import type { Attributes, Element } from '../../markup/index.ts';
import type { Path } from '../../problems/index.ts';
import type { Gathering } from './gathering.ts';
import type { Cursor } from './resolved.ts';

/** The deepest nesting of borrowed passages; real texts have a few levels. */
const deepest = 50;

/** An element that borrows (DITA 1.3, 2.4.5.2), where it stands. */
export interface Borrower {
  readonly element: Element;
  readonly attributes: Attributes;
  readonly cursor: Cursor;
}

/** A topic from which is borrowed, and who gets what it gives; everybody, where nothing is said. */
export interface PassageSource {
  readonly id: string;
  readonly root: Element;
  readonly when?: When;
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

type ItemReference = Reference & { readonly kind: 'item' };

/** The reference as the borrower has it. */
export const nameOfPassage = ({ attributes }: Borrower): string =>
  attributes['conref'] ?? attributes['conkeyref'] ?? '';

/** What a borrower names; undefined where that is no topic. */
export function passageReference(
  { attributes, cursor }: Borrower,
  gathering: Gathering,
): ItemReference | undefined {
  const { conref, conkeyref = '' } = attributes;
  const reference =
    conref === undefined ? gathering.keyTarget(conkeyref) : readReference(conref, cursor.item);
  return reference?.kind === 'item' ? reference : undefined;
}

/**
 * The topics that give what a reference names: that which is chosen for these readers, and where
 * readers decide, alternates for some of them. An alternate gives only what it has.
 */
export function passageSources(
  { id, element }: ItemReference,
  gathering: Gathering,
): readonly PassageSource[] {
  const having = (one: string): PassageSource | undefined => {
    const root = gathering.readItem(one)?.root;
    return root && elementOf(root, element) ? { id: one, root } : undefined;
  };
  const { id: chosen, others, when } = gathering.choose(id);
  const closer = others.flatMap((other) => {
    const source = having(other.id);
    return source ? [{ ...source, when: other.when }] : [];
  });
  const base = gathering.readItem(id)?.root;
  const rest = (chosen === id ? undefined : having(chosen)) ?? (base && { id, root: base });
  if (!rest) return closer;
  if (closer.length === 0) return [rest];
  // Readers whose alternate has no such element get that of the others.
  const unless = closer.flatMap((one) => (one.when.all ? [one.when.all] : []));
  return [
    ...closer,
    { ...rest, when: closer.length === others.length && when ? when : { unless } },
  ];
}

/**
 * What an element borrows from one source.
 * @returns the passage, or why it cannot be borrowed: `borrow.missing`, `borrow.cycle`,
 * `borrow.mismatch`
 */
export function findPassage(
  borrower: Borrower,
  { id, root }: PassageSource,
  element: string | undefined,
): FoundPassage | PassageFault {
  const { cursor, attributes } = borrower;
  const name = nameOfPassage(borrower);
  const first = elementOf(root, element);
  if (!first)
    return {
      code: 'borrow.missing',
      message: `The passage “${name}” cannot be borrowed: the topic has no element with that id.`,
    };
  const key = `${id}/${first.path.join('.')}`;
  if (
    cursor.borrowing.includes(key) ||
    cursor.borrowing.length >= deepest ||
    (id === cursor.item && isWithin(cursor.path, first.path))
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
