import { NewItem } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import { titleOf } from '@ukiyo/core/library';
import { nextTick, ref } from 'vue';
import { useRouter } from 'vue-router';
import type { Opening } from '../editor/live/client.ts';
import type { useLive } from '../editor/live/useLive.ts';
import type { useEditor } from '../editor/useEditor.ts';
import { useFailure } from '../parts/attempts.ts';
import { useItems } from '../parts/items.ts';
import { useLibrary } from '../parts/library.ts';
import { useVariables } from '../parts/variables.ts';

interface OpeningHost {
  readonly id: () => string;
  readonly editor: ReturnType<typeof useEditor>;
  /** Opens the line to the topic, and closes it. */
  readonly live: () => Pick<ReturnType<typeof useLive>, 'open' | 'close'>;
  /** Called once, when the topic is shown for the first time. */
  readonly begin: (() => void) | undefined;
}

const nothing = (): undefined => undefined;

/** Opens the topic on its page, and makes a topic again of what was removed while it was open. */
export function useOpening({ id, editor, live, begin }: OpeningHost) {
  const items = useItems();
  const library = useLibrary();
  const variables = useVariables();
  const router = useRouter();
  const mount = ref<HTMLElement>();
  /** Whether a page has been drawn: what lies beside it can follow. */
  const isDrawn = ref(false);
  const { failure, attempt } = useFailure();
  let isNew = true;
  /** Where the topic is in the library: once it is removed, nothing else knows. */
  let folder = '';

  function lay(opening: Opening): void {
    if (!mount.value) return;
    editor.show(mount.value, id(), opening);
    // The second frame comes after the first has been drawn.
    requestAnimationFrame(() => requestAnimationFrame(() => (isDrawn.value = true)));
    // The page is shown with the next frame; before, nothing on it can be focused.
    if (isNew) void nextTick(() => begin?.());
    isNew = false;
  }
  /**
   * Where the topic is, and what others than itself say on its page. The page does without what
   * fails; that is loaded once the server is there again.
   */
  async function loadSurroundings(): Promise<void> {
    void library.ensure().catch(nothing);
    folder = (await items.load(id()).catch(nothing))?.folder ?? '';
  }
  async function show(): Promise<void> {
    failure.value = '';
    isNew = true;
    editor.clear();
    live().close();
    if (id() === '') return;
    await attempt(async () => {
      // The variables must be there before the first key.
      const ready = Promise.all([variables.ensure().catch(nothing), nextTick()]);
      await Promise.all([live().open(id(), ready), loadSurroundings()]);
    });
  }
  /** What is on the page of a topic that was removed becomes a topic again. */
  async function putBack(): Promise<void> {
    const root = editor.read();
    const type = root && NewItem.shape.type.safeParse(root.name).data;
    if (!root || !type) return;
    await attempt(async () => {
      const made = await items.create({ type, title: titleOf(root) || id(), folder });
      const text = writeCanonical({ ...root, attributes: { ...root.attributes, id: made.id } });
      await items.save(made.id, text, made.version);
      if (made.id === id()) await show();
      else await router.push({ name: 'write', params: { id: made.id } });
    });
  }
  return { mount, isDrawn, failure, lay, show, putBack };
}
