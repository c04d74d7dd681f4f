import { throughLens } from '@ukiyo/core/facets';
import {
  conrefRange,
  elementOf,
  mergeAttributes,
  readItem,
  readReference,
} from '@ukiyo/core/library';
import { isElement, type Attributes, type Element, type Node as XmlNode } from '@ukiyo/core/markup';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import { differenceOf, drawAll, redraw, type Draw } from './drawn.ts';
import { lentDom } from './lent.ts';
import { variationOf, type Variation } from './variation.ts';
import type { PageContext } from './views.ts';

/** Gives the text of a topic or map; rejects when it cannot be had. */
export type ReadText = (
  id: string,
) => Promise<{ title: string; text: string; kind: 'topic' | 'map' }>;

interface Passage {
  readonly title: string;
  /** None where it is not in the library. */
  readonly elements: readonly Element[];
}

type Passages = ReadonlyMap<string, Passage>;
type Seen = Pick<Variation, 'facets' | 'lens'>;
interface State {
  readonly passages: Passages;
  readonly seen: Seen;
  readonly decorations: DecorationSet;
}
const key = new PluginKey<State>('borrowed');

const again = 'again';

export interface BorrowedHost {
  readonly read: ReadText;
  readonly seen: () => Seen;
  /** Opens the home of what an element borrows. */
  readonly goHome: (reference: string) => void;
  /** What a key leads to. */
  readonly targetOf: (key: string) => string | undefined;
  /** An element with what its variables say. */
  readonly withWords: (element: Element) => Element;
  readonly page: PageContext;
}

/**
 * Shows in every borrowed passage what is borrowed, through the lens of the page, and from which
 * topic.
 */
export function borrowedPassages(
  self: string,
  { read, seen, goHome, targetOf, withWords, page }: BorrowedHost,
): Plugin {
  const asked = new Set<string>();
  const borrowedRunBy = (node: Node): Borrowed | undefined =>
    borrowedIn(attributesOf(node), targetOf);
  const fetchPassage = async (view: EditorView, { reference, end }: Borrowed): Promise<void> => {
    const target = readReference(reference, self);
    let passage: Passage = { title: 'nowhere', elements: [] };
    if (target.kind === 'item') {
      try {
        const lender = await read(target.id);
        const root = readItem(target.id, lender.kind, lender.text).root;
        const found = root && elementOf(root, target.element);
        if (found)
          passage = {
            title: lender.title,
            elements: await withBorrowed(
              conrefRange(root, found, end, target.id).map(({ element }) => element),
              target.id,
              mostBorrowedDeep,
            ),
          };
      } catch {
        // the passage keeps saying that it is not there
      }
    }
    if (!view.isDestroyed)
      view.dispatch(view.state.tr.setMeta(key, [keyOf({ reference, end }), passage]));
  };
  /** What is borrowed by what is borrowed, in its place. */
  const withBorrowed = async (
    elements: readonly Element[],
    home: string,
    left: number,
  ): Promise<Element[]> => {
    const filled: Element[] = [];
    for (const element of elements) {
      const inner = borrowedIn(element.attributes, targetOf);
      const target = inner && readReference(inner.reference, home);
      const lender =
        target?.kind === 'item' && left > 0
          ? await read(target.id).catch(() => undefined)
          : undefined;
      const root =
        target?.kind === 'item' && lender
          ? readItem(target.id, lender.kind, lender.text).root
          : undefined;
      const found = root && target?.kind === 'item' ? elementOf(root, target.element) : undefined;
      if (root && found && target?.kind === 'item') {
        // For whom it is where it is borrowed counts as well.
        const run = conrefRange(root, found, inner?.end, target.id).map((one, at) =>
          at === 0
            ? {
                ...one.element,
                attributes: mergeAttributes(element.attributes, one.element.attributes),
              }
            : one.element,
        );
        filled.push(...(await withBorrowed(run, target.id, left - 1)));
      } else filled.push({ ...element, children: await inPlace(element.children, home, left) });
    }
    return filled;
  };
  const inPlace = async (
    nodes: readonly XmlNode[],
    home: string,
    left: number,
  ): Promise<XmlNode[]> => {
    const filled: XmlNode[] = [];
    for (const node of nodes)
      filled.push(...(isElement(node) ? await withBorrowed([node], home, left) : [node]));
    return filled;
  };
  const draw =
    (passages: Passages, through: Seen): Draw =>
    (node, position) => {
      const borrowed = borrowedRunBy(node);
      const passage = borrowed && passages.get(keyOf(borrowed));
      if (!borrowed || !passage) return [];
      const visible = passage.elements
        .flatMap((element) => throughLens(element, through.lens, through.facets) ?? [])
        .map(withWords);
      const lent = (): globalThis.Node =>
        passage.elements.length === 0
          ? document.createTextNode('This passage is not in the library.')
          : lentDom(visible, page);
      return [
        Decoration.widget(
          position + 1,
          () => shown(passage, lent(), () => goHome(borrowed.reference)),
          { key: `${keyOf(borrowed)} ${passage.title} ${JSON.stringify(visible)}`, side: -1 },
        ),
      ];
    };
  const look = (view: EditorView, from: number, to: number): void =>
    view.state.doc.nodesBetween(from, to, (node) => {
      const borrowed = borrowedRunBy(node);
      if (!borrowed || asked.has(keyOf(borrowed))) return;
      asked.add(keyOf(borrowed));
      void fetchPassage(view, borrowed);
    });
  return new Plugin<State>({
    key,
    state: {
      init: () => ({ passages: new Map(), seen: seen(), decorations: DecorationSet.empty }),
      apply(transaction, state) {
        const found = transaction.getMeta(key) as [string, Passage] | typeof again | undefined;
        const passages: Passages = Array.isArray(found)
          ? new Map(state.passages).set(...found)
          : found === again
            ? new Map()
            : state.passages;
        const now = variationOf(transaction) ?? state.seen;
        if (passages !== state.passages || now !== state.seen)
          return {
            passages,
            seen: now,
            decorations: drawAll(transaction.doc, draw(passages, now)),
          };
        return transaction.docChanged
          ? { ...state, decorations: redraw(state.decorations, transaction, draw(passages, now)) }
          : state;
      },
    },
    view(view) {
      look(view, 0, view.state.doc.content.size);
      return {
        update(_view, before) {
          if (
            key.getState(view.state)?.passages !== key.getState(before)?.passages &&
            key.getState(view.state)?.passages.size === 0
          ) {
            asked.clear();
            return look(view, 0, view.state.doc.content.size);
          }
          const range =
            before.doc === view.state.doc ? undefined : differenceOf(before.doc, view.state.doc);
          if (range) look(view, range.from, range.to);
        },
      };
    },
    props: { decorations: (state) => key.getState(state)?.decorations },
  });
}

/** Reads what is borrowed once more: its homes may have changed. */
export const readAgain = (state: EditorState): Transaction => state.tr.setMeta(key, again);

interface Borrowed {
  readonly reference: string;
  readonly end: string | undefined;
}
const keyOf = ({ reference, end }: Borrowed): string =>
  end === undefined ? reference : `${reference} ${end}`;
export const attributesOf = (node: Node): Attributes =>
  (node.attrs['attributes'] ?? {}) as Attributes;
/** What attributes borrow: directly, or by a key and the id of an element in what it leads to. */
function borrowedIn(
  { conref, conkeyref, conrefend: end }: Attributes,
  targetOf: BorrowedHost['targetOf'],
): Borrowed | undefined {
  if (conref !== undefined) return { reference: conref, end };
  const [key = '', element] = conkeyref?.split('/') ?? [];
  const target = key === '' ? undefined : targetOf(key);
  return conkeyref === undefined
    ? undefined
    : {
        reference:
          target === undefined
            ? conkeyref
            : element === undefined
              ? target
              : `${target.split('/')[0]!}/${element}`,
        end,
      };
}
/** Where what an element with these attributes shows has its home. */
export const conrefSourceOf = (
  attributes: Attributes,
  targetOf: BorrowedHost['targetOf'],
): string | undefined => borrowedIn(attributes, targetOf)?.reference;

/** Passages in passages in passages; what goes deeper leads back. */
const mostBorrowedDeep = 5;

function shown(
  { title, elements }: Passage,
  lent: globalThis.Node,
  goHome: () => void,
): HTMLElement {
  const dom = document.createElement('div');
  dom.className = 'borrowed-text';
  dom.contentEditable = 'false';
  const from = document.createElement('button');
  from.type = 'button';
  from.className = 'borrowed-from';
  from.textContent = `borrowed · ${title}`;
  from.title = 'Edit it at its home (Enter when it is selected)';
  from.addEventListener('mousedown', (event) => event.preventDefault());
  from.addEventListener('click', goHome);
  const [first] = elements;
  if (first?.name === 'note') dom.dataset['note'] = first.attributes['type'] ?? 'note';
  dom.append(lent, from);
  return dom;
}
