import {
  borrowAt,
  borrowedAt,
  canBorrow,
  idsAround,
  pathOf,
  replaceElement,
  shareableAt,
  shareFrom,
} from '@ukiyo/core/editing';
import { isTopic, labelOf, topicTemplate, writeCanonical } from '@ukiyo/core/grammar';
import {
  borrowing,
  elementOf,
  homesIn,
  idsOf,
  lend,
  localCopy,
  passagesOf,
  readItem,
  readReference,
  withIds,
  withoutBody,
  type Passage,
} from '@ukiyo/core/library';
import { isElement, nodeAt, type Attributes, type Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { useMessage } from 'naive-ui';
import type { EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import type { ShallowRef } from 'vue';
import { useCopied } from '../editor/copied.ts';
import { messageOf } from '../parts/api.ts';
import { useLibrary } from '../parts/library.ts';

interface BorrowingPage {
  readonly id: () => string;
  readonly view: ShallowRef<EditorView | undefined>;
  readonly read: () => Element | undefined;
  readonly changeRoot: (change: (root: Element) => Element) => void;
  readonly apply: (change: (state: EditorState) => Transaction) => void;
  /** Where what an element borrows has its home, also when it is named by a key. */
  readonly conrefSourceOf: (attributes: Attributes) => string | undefined;
}

/** A passage of a lender, and whether it can be shown at the caret. */
export interface Offered extends Passage {
  readonly refusal: string | undefined;
}

const mostHomes = 200;

/**
 * Borrowing from other topics, and lending to them: by choosing, by pasting, by moving what should
 * be shared.
 */
export function useBorrowing({ id, view, read, changeRoot, apply, conrefSourceOf }: BorrowingPage) {
  const library = useLibrary();
  const message = useMessage();
  const { copied } = useCopied();
  const state = (): EditorState | undefined => view.value?.state;
  const refuse = (text: string): false => {
    message.warning(text, { duration: 8000, closable: true });
    return false;
  };

  /** A topic as it is now: this one as it stands on the page. */
  async function lenderOf(lender: string): Promise<{ root: Element; version: number } | undefined> {
    const own = lender === id() ? read() : undefined;
    if (own) return { root: own, version: 0 };
    try {
      const { kind, text, version } = await library.read(lender);
      const { root } = readItem(lender, kind, text);
      return root && { root, version };
    } catch {
      return undefined;
    }
  }
  /** Writes what was changed in a lender. */
  async function keep(lender: string, root: Element, version: number): Promise<boolean> {
    try {
      await library.save(lender, writeCanonical(root), version);
      return true;
    } catch (error) {
      return refuse(messageOf(error));
    }
  }

  /** What a topic has to lend, and why some of it cannot be shown here. */
  async function offers(lender: string): Promise<readonly Offered[]> {
    const found = await lenderOf(lender);
    const at = state();
    if (!found || !at) return [];
    const { $from } = at.selection;
    const around = Array.from({ length: $from.depth }, (_, depth) =>
      pathOf(at.doc, $from.before(depth + 1))?.join('.'),
    );
    return passagesOf(found.root).map((passage): Offered => {
      const holdsCaret = lender === id() && around.includes(passage.path.join('.'));
      return {
        ...passage,
        refusal: holdsCaret
          ? 'The caret is in it.'
          : canBorrow(at, passage.element.name)
            ? undefined
            : `A ${labelOf(passage.element.name).toLowerCase()} cannot stand here.`,
      };
    });
  }

  /** Whether showing these would show the place itself in the end. */
  async function leadsBack(
    lender: string,
    root: Element,
    ids: readonly string[],
    around: readonly string[],
  ): Promise<boolean> {
    const seen = new Set<string>();
    const waiting = ids.map((element): { id: string; element: string | undefined } => ({
      id: lender,
      element,
    }));
    for (let home = waiting.shift(); home && seen.size < mostHomes; home = waiting.shift()) {
      const key = `${home.id}/${home.element ?? ''}`;
      if (seen.has(key)) continue;
      seen.add(key);
      if (home.id === id() && (home.element === undefined || around.includes(home.element)))
        return true;
      const within = home.id === lender ? root : (await lenderOf(home.id))?.root;
      const found = within && elementOf(within, home.element);
      if (found) waiting.push(...homesIn(found.element, home.id));
    }
    return false;
  }

  /**
   * Shows a run of passages at the caret; those without an id get one at their home.
   * @param key under which maps know the lender: another map can let another topic lend
   */
  async function borrow(lender: string, paths: readonly Path[], key?: string): Promise<boolean> {
    const found = await lenderOf(lender);
    const [path] = paths;
    const first = found && path && nodeAt(found.root, path);
    const at = state();
    if (!found || !isElement(first) || !at) return refuse('This passage is not there any more.');
    if (!canBorrow(at, first.name))
      return refuse(`A ${labelOf(first.name).toLowerCase()} cannot stand here.`);
    const { root, ids } = withIds(found.root, paths);
    if (await leadsBack(lender, root, ids, idsAround(at, first.name)))
      return refuse(
        'This passage shows, directly or through others, the place where it would stand. It ' +
          'cannot be borrowed here.',
      );
    if (lender === id()) {
      // Others may have changed the page meanwhile.
      let now: readonly string[] = [];
      changeRoot((own) => {
        const given = withIds(own, paths);
        now = given.ids;
        return given.root;
      });
      if (now.join() !== ids.join()) return refuse('This passage is not there any more.');
    } else if (root !== found.root && !(await keep(lender, root, found.version))) return false;
    apply((now) => borrowAt(now, first.name, borrowing(lender, ids, key)) ?? now.tr);
    return true;
  }
  async function borrowCopied(): Promise<boolean> {
    const last = copied.value;
    const found = last && (await lenderOf(last.item));
    if (!last || !found) return refuse('What was copied is not in the library any more.');
    const now = passagesOf(found.root);
    const isSame = last.paths.every(
      (path, index) =>
        now.find((passage) => passage.path.join('.') === path.join('.'))?.words ===
        last.words[index],
    );
    if (!isSame) return refuse('What was copied has changed at its home. Copy it there once more.');
    return borrow(last.item, last.paths);
  }

  /** Makes the borrowed passage at the caret a copy of its own. */
  async function makeLocal(): Promise<boolean> {
    const borrowed = state() && borrowedAt(state()!);
    const reference = borrowed && readReference(conrefSourceOf(borrowed.attributes) ?? '', id());
    const found = reference?.kind === 'item' ? await lenderOf(reference.id) : undefined;
    if (!borrowed || reference?.kind !== 'item' || !found)
      return refuse('The home of this passage is not in the library.');
    const copy = localCopy(
      borrowed.attributes,
      found.root,
      reference.id,
      new Set(idsOf(read() ?? found.root).keys()),
    );
    const now = state();
    if (!copy || !now || borrowedAt(now)?.position !== borrowed.position)
      return refuse('The home of this passage has no such element.');
    apply((at) => replaceElement(at, borrowed.position, copy));
    message.info('This is a copy now. It does not follow its home any more.', { duration: 6000 });
    return true;
  }

  /**
   * Moves what is selected to a topic that lends it, and borrows it back.
   * @param lender the id of a topic, or undefined for a new one with a title
   */
  async function share(lender: string | undefined, title: string): Promise<boolean> {
    const own = read();
    const shared = state() && shareableAt(state()!);
    if (!own || !shared || !isTopic(own.name)) return refuse('This cannot be shared.');
    // Before a topic is made that could hold nothing.
    if (
      lender === undefined &&
      !lend(
        withoutBody(topicTemplate(own.name, 'new', title)),
        shared.elements,
        shared.around,
        id(),
      )
    )
      return refuse('No new topic could hold this.');
    try {
      const into =
        lender ??
        (await library.create({ type: own.name, title, folder: library.find(id())?.folder ?? '' }))
          .id;
      const found = await lenderOf(into);
      const lent =
        found &&
        lend(
          lender === undefined ? withoutBody(found.root) : found.root,
          shared.elements,
          shared.around,
          id(),
        );
      if (!found || !lent)
        return refuse(`“${library.find(into)?.title ?? into}” can hold this nowhere.`);
      if (!(await keep(into, lent.root, found.version))) return false;
      const now = state();
      const still = now && shareableAt(now);
      if (!now || still?.from !== shared.from || still.to !== shared.to)
        return refuse(
          'Somebody changed this meanwhile. It is lent now, but not borrowed here yet.',
        );
      apply((at) => shareFrom(at, shared, borrowing(into, lent.ids)));
      return true;
    } catch (error) {
      return refuse(messageOf(error));
    }
  }
  return { offers, borrow, borrowCopied, makeLocal, share, hasCopied: () => copied.value !== null };
}
