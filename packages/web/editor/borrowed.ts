import { pathOf } from '@ukiyo/core/editing';
import { throughLens } from '@ukiyo/core/facets';
import { conrefSourceOf, readItem, readPassage, readReference } from '@ukiyo/core/library';
import type { Attributes, Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import type { Node } from 'prosemirror-model';
import { Plugin, PluginKey, type EditorState, type Transaction } from 'prosemirror-state';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import { arrive } from './arrivals.ts';
import { differenceOf, drawAll, redraw, type Draw } from './drawn.ts';
import { passageDom } from './passageDom.ts';
import { variationOf, type Variation } from './variation.ts';
import type { PageImages } from './views.ts';

/** Gives the text of a topic or map; rejects when it cannot be had. */
export type ReadText = (
  id: string,
) => Promise<{ title: string; text: string; kind: 'topic' | 'map' }>;

interface Passage {
  /** Of the topic that has it. */
  readonly title: string;
  readonly elements: readonly Element[];
  /** Why it cannot be shown. */
  readonly fault?: string;
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
  readonly page: PageImages;
}

/** An element of the page that borrows. */
interface Borrowed {
  readonly element: Element;
  readonly path: Path;
  /** Where what it borrows has its home. */
  readonly reference: string;
}
/** Elements that borrow the same show the same. */
const keyOf = ({ element: { name, attributes }, reference }: Borrowed): string =>
  JSON.stringify([name, reference, attributes['conrefend']]);

export const nodeAttributes = (node: Node): Attributes =>
  (node.attrs['attributes'] ?? {}) as Attributes;

/** What is borrowed there, as builds take it in; the words say why where nothing can be shown. */
async function readBorrowed(
  self: string,
  { element, path, reference }: Borrowed,
  { read, targetOf }: BorrowedHost,
): Promise<Passage> {
  const titles = new Map<string, string>();
  const readRoot = async (id: string): Promise<Element | undefined> => {
    try {
      const { kind, text, title } = await read(id);
      titles.set(id, title);
      return readItem(id, kind, text).root;
    } catch {
      return undefined;
    }
  };
  const place = { item: self, path, borrowing: [] };
  const borrower = { element, attributes: element.attributes, place };
  const found = await readPassage(borrower, { read: readRoot, targetOf });
  const target = readReference(reference, self);
  const title = (target.kind === 'item' ? titles.get(target.id) : undefined) ?? 'nowhere';
  return 'code' in found
    ? { title, elements: [], fault: found.message }
    : { title, elements: found };
}

/** The borrowed passages of a page: which are there, what they show, and how that is drawn. */
class BorrowedPage {
  readonly #self: string;
  readonly #host: BorrowedHost;
  readonly #asked = new Set<string>();

  constructor(self: string, host: BorrowedHost) {
    this.#self = self;
    this.#host = host;
  }

  /** Reads what is borrowed between two positions and was not asked for yet. */
  look(view: EditorView, from: number, to: number): void {
    view.state.doc.nodesBetween(from, to, (node, position) => {
      const borrowed = this.#borrowedBy(node, () => pathOf(view.state.doc, position) ?? []);
      if (!borrowed || this.#asked.has(keyOf(borrowed))) return;
      this.#asked.add(keyOf(borrowed));
      void readBorrowed(this.#self, borrowed, this.#host).then((passage) => {
        arrive(view, (state) => state.tr.setMeta(key, [keyOf(borrowed), passage]));
      });
    });
  }
  lookAgain(view: EditorView): void {
    this.#asked.clear();
    this.look(view, 0, view.state.doc.content.size);
  }

  draw(passages: Passages, { lens, facets }: Seen): Draw {
    const { withWords, page, goHome } = this.#host;
    return (node, position) => {
      const borrowed = this.#borrowedBy(node, () => []);
      const passage = borrowed && passages.get(keyOf(borrowed));
      if (!borrowed || !passage) return [];
      const visible = passage.elements
        .flatMap((element) => throughLens(element, lens, facets) ?? [])
        .map(withWords);
      const content = (): globalThis.Node =>
        passage.fault === undefined
          ? passageDom(visible, page)
          : document.createTextNode(passage.fault);
      return [
        Decoration.widget(
          position + 1,
          () => shown(passage, content(), () => goHome(borrowed.reference)),
          { key: `${keyOf(borrowed)} ${passage.title} ${JSON.stringify(visible)}`, side: -1 },
        ),
      ];
    };
  }

  #borrowedBy(node: Node, path: () => Path): Borrowed | undefined {
    const attributes = nodeAttributes(node);
    const name = node.type.spec.element;
    const reference = conrefSourceOf(attributes, this.#host.targetOf);
    if (reference === undefined || name === undefined) return undefined;
    // For whom the element itself is, the page shows with the element.
    const { conref, conkeyref, conrefend } = attributes;
    const borrows = Object.entries({ conref, conkeyref, conrefend }).flatMap(
      ([attribute, value]) => (value === undefined ? [] : [[attribute, value]]),
    );
    const element = { name, attributes: Object.fromEntries(borrows) as Attributes, children: [] };
    return { element, path: path(), reference };
  }
}

/**
 * Shows in every borrowed passage what is borrowed, through the lens of the page, and from which
 * topic.
 */
export function borrowedPassages(self: string, host: BorrowedHost): Plugin {
  const borrowed = new BorrowedPage(self, host);
  return new Plugin<State>({
    key,
    state: {
      init: () => ({ passages: new Map(), seen: host.seen(), decorations: DecorationSet.empty }),
      apply(transaction, state) {
        const found = transaction.getMeta(key) as [string, Passage] | typeof again | undefined;
        const passages: Passages = Array.isArray(found)
          ? new Map(state.passages).set(...found)
          : found === again
            ? new Map()
            : state.passages;
        const seen = variationOf(transaction) ?? state.seen;
        const draw = borrowed.draw(passages, seen);
        if (passages !== state.passages || seen !== state.seen)
          return { passages, seen, decorations: drawAll(transaction.doc, draw) };
        return transaction.docChanged
          ? { ...state, decorations: redraw(state.decorations, transaction, draw) }
          : state;
      },
    },
    view(view) {
      borrowed.look(view, 0, view.state.doc.content.size);
      return {
        update(_view, before) {
          const passages = key.getState(view.state)?.passages;
          if (passages !== key.getState(before)?.passages && passages?.size === 0)
            return borrowed.lookAgain(view);
          const range =
            before.doc === view.state.doc ? undefined : differenceOf(before.doc, view.state.doc);
          if (range) borrowed.look(view, range.from, range.to);
        },
      };
    },
    props: { decorations: (state) => key.getState(state)?.decorations },
  });
}

/** Reads what is borrowed once more: its homes may have changed. */
export const readAgain = (state: EditorState): Transaction => state.tr.setMeta(key, again);

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
