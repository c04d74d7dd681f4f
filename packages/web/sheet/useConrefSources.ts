import { writeCanonical } from '@ukiyo/core/grammar';
import { elementById, conrefsIn, partsOfFragment, readItem } from '@ukiyo/core/library';
import type { Attributes, Element } from '@ukiyo/core/markup';
import { useMessage } from 'naive-ui';
import type { EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import type { ShallowRef } from 'vue';
import { messageOf } from '../parts/api.ts';
import { useItems } from '../parts/items.ts';

/** A topic from which others borrow, as it is now. */
export interface ConrefSource {
  readonly id: string;
  readonly root: Element;
  readonly version: number;
}

/** The page of a topic, whose text is newer than the library's. */
interface OwnPage {
  readonly id: () => string;
  readonly read: () => Element | undefined;
}

/** The same page, as passages are put into it. */
export interface BorrowingPage extends OwnPage {
  readonly view: ShallowRef<EditorView | undefined>;
  readonly changeRoot: (change: (root: Element) => Element) => void;
  readonly apply: (change: (state: EditorState) => Transaction) => void;
  /** Where what an element borrows has its home, also when it is named by a key. */
  readonly conrefSourceOf: (attributes: Attributes) => string | undefined;
}

/** A chain of borrowed passages is followed over this many of them. */
const mostPassages = 200;

/** Reads and changes topics that passages are borrowed from: sources of content references. */
export function useConrefSources(page: OwnPage) {
  const items = useItems();
  const message = useMessage();

  /** Says why something cannot be done; false, so that it can be given back. */
  const refuse = (text: string): false => {
    message.warning(text, { duration: 8000, closable: true });
    return false;
  };

  /** The topic as it is now; undefined when it cannot be read. */
  async function readSource(id: string): Promise<ConrefSource | undefined> {
    const own = id === page.id() ? page.read() : undefined;
    if (own) return { id, root: own, version: 0 };
    try {
      const { kind, text, version } = await items.read(id);
      const { root } = readItem(id, kind, text);
      return root && { id, root, version };
    } catch {
      return undefined;
    }
  }

  /** Writes a changed source; false, with the reason shown, when it could not be written. */
  async function saveSource({ id, root, version }: ConrefSource): Promise<boolean> {
    try {
      await items.save(id, writeCanonical(root), version);
      return true;
    } catch (error) {
      return refuse(messageOf(error));
    }
  }

  /**
   * Whether showing these elements would in the end show the place where they are to stand.
   * @param ancestors the IDs of the elements of the page around that place
   */
  async function leadsBack(
    source: ConrefSource,
    elements: readonly string[],
    ancestors: readonly string[],
  ): Promise<boolean> {
    const seen = new Set<string>();
    const waiting = elements.map((element): { id: string; element: string | undefined } => ({
      id: source.id,
      element,
    }));
    for (let next = waiting.shift(); next && seen.size < mostPassages; next = waiting.shift()) {
      const key = `${next.id}/${next.element ?? ''}`;
      if (seen.has(key)) continue;
      seen.add(key);
      const part = next.element === undefined ? undefined : partsOfFragment(next.element).element;
      if (next.id === page.id() && (part === undefined || ancestors.includes(part))) return true;
      const root = next.id === source.id ? source.root : (await readSource(next.id))?.root;
      const found = root && elementById(root, next.element);
      if (found) waiting.push(...conrefsIn(found.element, next.id));
    }
    return false;
  }

  return { refuse, readSource, saveSource, leadsBack };
}
export type ConrefSources = ReturnType<typeof useConrefSources>;
