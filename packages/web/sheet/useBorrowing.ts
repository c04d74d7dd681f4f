import {
  borrowAt,
  borrowedAt,
  canBorrow,
  idsAround,
  pathOf,
  replaceElement,
} from '@ukiyo/core/editing';
import { labelOf } from '@ukiyo/core/grammar';
import {
  borrowing,
  idsOf,
  localCopy,
  passagesOf,
  readReference,
  withIds,
  type Passage,
} from '@ukiyo/core/library';
import { isElement, nodeAt, type Element } from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { useMessage } from 'naive-ui';
import type { EditorState } from 'prosemirror-state';
import { useCopied } from '../editor/copied.ts';
import { useConrefSources, type BorrowingPage, type ConrefSources } from './useConrefSources.ts';
import { useSharing } from './useSharing.ts';

/** A passage of another topic, and whether it can be shown at the caret. */
export interface Offered extends Passage {
  readonly refusal: string | undefined;
}

const cannotStand = (name: string): string => `A ${labelOf(name).toLowerCase()} cannot stand here.`;

/** What a topic has to lend, and why some of it cannot be shown at the caret. */
function offersOf(root: Element, state: EditorState, isOwn: boolean): readonly Offered[] {
  const { $from } = state.selection;
  const ancestors = Array.from({ length: $from.depth }, (_, depth) =>
    pathOf(state.doc, $from.before(depth + 1))?.join('.'),
  );
  return passagesOf(root).map((passage): Offered => {
    const holdsCaret = isOwn && ancestors.includes(passage.path.join('.'));
    const { name } = passage.element;
    const refusal = canBorrow(state, name) ? undefined : cannotStand(name);
    return { ...passage, refusal: holdsCaret ? 'The caret is in it.' : refusal };
  });
}

/** Shows a run of passages at the caret; those without an ID get one at their home. */
function borrowingAt(page: BorrowingPage, sources: ConrefSources) {
  const { refuse, readSource, saveSource, leadsBack } = sources;
  /** The IDs given to passages of the page itself, as it is by now. */
  function nameOwn(paths: readonly Path[]): readonly string[] {
    let ids: readonly string[] = [];
    page.changeRoot((own) => {
      const named = withIds(own, paths);
      ids = named.ids;
      return named.root;
    });
    return ids;
  }
  /** @param key under which maps know the source: another map can let another topic lend */
  return async (id: string, paths: readonly Path[], key?: string): Promise<boolean> => {
    const source = await readSource(id);
    const first = source && paths[0] && nodeAt(source.root, paths[0]);
    const state = page.view.value?.state;
    if (!source || !isElement(first) || !state)
      return refuse('This passage is not there any more.');
    if (!canBorrow(state, first.name)) return refuse(cannotStand(first.name));
    const { root, ids } = withIds(source.root, paths);
    const named = { ...source, root };
    if (await leadsBack(named, ids, idsAround(state, first.name)))
      return refuse(
        'This passage shows, directly or through others, the place where it would stand. It ' +
          'cannot be borrowed here.',
      );
    if (id === page.id()) {
      // Others may have changed the page meanwhile.
      if (nameOwn(paths).join() !== ids.join())
        return refuse('This passage is not there any more.');
    } else if (root !== source.root && !(await saveSource(named))) return false;
    page.apply((now) => borrowAt(now, first.name, borrowing(id, ids, key)) ?? now.tr);
    return true;
  };
}

/**
 * Borrowing from other topics, and lending to them: by choosing, by pasting, by moving what should
 * be shared.
 */
export function useBorrowing(page: BorrowingPage) {
  const message = useMessage();
  const { copied } = useCopied();
  const sources = useConrefSources(page);
  const { refuse, readSource } = sources;
  const borrow = borrowingAt(page, sources);
  const state = (): EditorState | undefined => page.view.value?.state;

  async function offers(id: string): Promise<readonly Offered[]> {
    const source = await readSource(id);
    const at = state();
    return source && at ? offersOf(source.root, at, id === page.id()) : [];
  }
  async function borrowCopied(): Promise<boolean> {
    const last = copied.value;
    const source = last && (await readSource(last.item));
    if (!last || !source) return refuse('What was copied is not in the library any more.');
    const now = new Map(passagesOf(source.root).map(({ path, words }) => [path.join('.'), words]));
    if (!last.paths.every((path, index) => now.get(path.join('.')) === last.words[index]))
      return refuse('What was copied has changed at its home. Copy it there once more.');
    return borrow(last.item, last.paths);
  }
  /** Makes the borrowed passage at the caret a copy of its own. */
  async function makeLocal(): Promise<boolean> {
    const borrowed = state() && borrowedAt(state()!);
    const reference =
      borrowed && readReference(page.conrefSourceOf(borrowed.attributes) ?? '', page.id());
    const source = reference?.kind === 'item' ? await readSource(reference.id) : undefined;
    if (!borrowed || !source) return refuse('The home of this passage is not in the library.');
    const taken = new Set(idsOf(page.read() ?? source.root).keys());
    const copy = localCopy(borrowed.attributes, source.root, source.id, taken);
    const now = state();
    if (!copy || !now || borrowedAt(now)?.position !== borrowed.position)
      return refuse('The home of this passage has no such element.');
    page.apply((at) => replaceElement(at, borrowed.position, copy));
    message.info('This is a copy now. It does not follow its home any more.', { duration: 6000 });
    return true;
  }
  return {
    offers,
    borrow,
    borrowCopied,
    makeLocal,
    share: useSharing(page, sources),
    hasCopied: () => copied.value !== null,
  };
}
