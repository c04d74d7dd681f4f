import { shareableAt, shareFrom } from '@ukiyo/core/editing';
import { isTopic, topicTemplate } from '@ukiyo/core/grammar';
import { borrowing, movePassages, withoutBody } from '@ukiyo/core/library';
import type { EditorState } from 'prosemirror-state';
import { messageOf } from '../parts/api.ts';
import { useItems } from '../parts/items.ts';
import type { BorrowingPage, ConrefSources } from './useConrefSources.ts';

/** Moves what is selected to another topic, and borrows it back from there. */
export function useSharing(page: BorrowingPage, sources: ConrefSources) {
  const items = useItems();
  const { refuse, readSource, saveSource } = sources;
  const state = (): EditorState | undefined => page.view.value?.state;

  /**
   * @param into the ID of the topic that is to hold it, or undefined for a new one with a title
   * @returns whether it is borrowed from there now
   */
  return async (into: string | undefined, title: string): Promise<boolean> => {
    const own = page.read();
    const shared = state() && shareableAt(state()!);
    if (!own || !shared || !isTopic(own.name))
      return refuse('The selected content cannot be shared.');
    const { elements, ancestors } = shared;
    const empty = withoutBody(topicTemplate(own.name, 'new', title));
    // Before a topic is made that could hold nothing.
    if (into === undefined && !movePassages(empty, elements, ancestors, page.id()))
      return refuse('A new topic has no place for this content.');
    try {
      const folder = items.find(page.id())?.folder ?? '';
      const id = into ?? (await items.create({ type: own.name, title, folder })).id;
      const source = await readSource(id);
      const root = source && (into === undefined ? withoutBody(source.root) : source.root);
      const lent = root && movePassages(root, elements, ancestors, page.id());
      if (!source || !lent)
        return refuse(`“${items.find(id)?.title ?? id}” has no place for this content.`);
      if (!(await saveSource({ ...source, root: lent.root }))) return false;
      const still = state() && shareableAt(state()!);
      if (still?.from !== shared.from || still.to !== shared.to)
        return refuse(
          'Someone changed this passage in the meantime. The shared copy exists, but is not used here.',
        );
      page.apply((at) => shareFrom(at, shared, borrowing(id, lent.ids)));
      return true;
    } catch (error) {
      return refuse(messageOf(error));
    }
  };
}
