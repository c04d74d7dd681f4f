import {
  findPassage,
  mergeAttributes,
  nameOfPassage,
  readReference,
  type Borrower,
  type FoundPassage,
  type Library,
  type LibraryItem,
  type Reference,
} from '../../library/index.ts';
import { isElement, type Element, type Node } from '../../markup/index.ts';
import { problem, type Problem } from '../../problems/index.ts';

/** What a map borrows, and the map that lends it. */
interface LentEntries {
  readonly lender: LibraryItem;
  readonly passage: FoundPassage;
}

/**
 * Finds what an element of a map borrows from a map (DITA 1.3, 2.5.1 “conref”).
 * @param reference what it names
 * @returns the run of elements, or problems `borrow.*`
 */
export function findEntries(
  borrower: Borrower,
  reference: Reference | undefined,
  library: Library,
): LentEntries | Problem {
  const { item, path } = borrower.place;
  const lender = reference?.kind === 'item' ? library.item(reference.id) : undefined;
  const root = lender?.root;
  if (!lender || !root || reference?.kind !== 'item')
    return problem(
      'error',
      'borrow.missing',
      `The passage “${nameOfPassage(borrower)}” cannot be borrowed: there is no such map.`,
      { item, path },
    );
  const passage = findPassage(borrower, { id: lender.id, root }, reference.element);
  return 'code' in passage
    ? problem('error', passage.code, passage.message, { item, path })
    : { lender, passage };
}

/** The first of a run with the attributes of its borrower, which go before its own. */
export const lentElements = (
  { attributes }: Borrower,
  { run }: FoundPassage,
): readonly { readonly element: Element; readonly path: FoundPassage['first']['path'] }[] =>
  run.map((found, index) =>
    index === 0
      ? {
          ...found,
          element: {
            ...found.element,
            attributes: mergeAttributes(attributes, found.element.attributes),
          },
        }
      : found,
  );

interface Filling {
  readonly library: Library;
  readonly report: (found: Problem) => void;
  /** Called for each passage: whether there are too many of them. */
  readonly isTooLarge: () => boolean;
}

/**
 * An element of a map with all that is borrowed in it: its titles, metadata and relationship
 * tables. What cannot be borrowed is left out and reported.
 */
export function filled(
  element: Element,
  place: Borrower['place'],
  { library, report, isTooLarge }: Filling,
): Element {
  const fill = (node: Node, at: Borrower['place']): readonly Node[] => {
    if (!isElement(node)) return [node];
    const { attributes } = node;
    if (attributes['conref'] === undefined)
      return [
        {
          ...node,
          children: node.children.flatMap((child, index) =>
            fill(child, { ...at, path: [...at.path, index] }),
          ),
        },
      ];
    if (isTooLarge()) return [];
    const borrower = { element: node, attributes, place: at };
    const found = findEntries(borrower, readReference(attributes['conref'], at.item), library);
    if ('code' in found) {
      report(found);
      return [];
    }
    const { lender, passage } = found;
    const borrowing = [...at.borrowing, passage.key];
    return lentElements(borrower, passage).flatMap(({ element: lent, path }) =>
      fill(lent, { item: lender.id, path, borrowing }),
    );
  };
  return {
    ...element,
    children: element.children.flatMap((child, index) =>
      fill(child, { ...place, path: [...place.path, index] }),
    ),
  };
}

/** Whether anything in a tree is borrowed. */
export const borrows = ({ children }: Element): boolean =>
  children.some(
    (child) => isElement(child) && (child.attributes['conref'] !== undefined || borrows(child)),
  );
