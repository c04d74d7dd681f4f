import {
  checkLook,
  checkPlan,
  checkSheet,
  type PagePlan,
  type SiteLook,
  type StyleSheet,
} from '@ukiyo/core/styles';
import { useRefHistory } from '@vueuse/core';
import { computed, ref, shallowRef, watch, type Ref } from 'vue';
import { ApiError, messageOf } from '../../parts/api.ts';
import { useDesigns } from '../../parts/designs.ts';
import { usePlace } from '../../shell/place.ts';

type Kept<Content> = { readonly id: string; readonly version: number; readonly content: Content };

/** How long one rests before what was changed is saved, in milliseconds. */
const rest = 500;

/**
 * One style sheet, page plan or site look that is being changed: seen at once, saved when one
 * rests, every change can be undone.
 */
function useDraft<Content extends object>(
  find: () => Kept<Content> | undefined,
  save: (id: string, version: number, content: Content) => Promise<void>,
  key: Ref<string>,
) {
  const place = usePlace();
  const draft = shallowRef<Content>();
  const failure = ref('');
  const history = useRefHistory(draft, { capacity: 200 });
  let timer: ReturnType<typeof setTimeout> | undefined;
  let saving: Promise<void> = Promise.resolve();

  watch(
    [key, () => find()?.id],
    () => {
      draft.value = find()?.content;
      history.clear();
      failure.value = '';
      place.saved = '';
    },
    { immediate: true },
  );
  async function put(id: string, content: Content): Promise<void> {
    const kept = find();
    if (kept?.id !== id || kept.content === content) return;
    try {
      await save(id, kept.version, content);
      failure.value = '';
      place.saved = 'Saved';
    } catch (error) {
      failure.value =
        error instanceof ApiError && error.status === 409
          ? 'Somebody else has changed it meanwhile. Your changes are still here; load the ' +
            'page again to see theirs.'
          : messageOf(error);
      place.saved = 'Not saved';
    }
  }
  /** Saves what was not saved yet. */
  function flush(): Promise<void> {
    clearTimeout(timer);
    const [id, content] = [find()?.id, draft.value];
    if (id !== undefined && content) saving = saving.then(() => put(id, content));
    return saving;
  }
  function later(): void {
    place.saved = 'Saving …';
    clearTimeout(timer);
    timer = setTimeout(() => void flush(), rest);
  }
  function change(act: (content: Content) => Content): void {
    if (!draft.value) return;
    draft.value = act(draft.value);
    later();
  }
  function undo(): void {
    history.undo();
    later();
  }
  function redo(): void {
    history.redo();
    later();
  }
  return {
    draft,
    failure,
    change,
    undo,
    redo,
    flush,
    canUndo: history.canUndo,
    canRedo: history.canRedo,
  };
}

export function useSheetDraft(id: Ref<string>) {
  const designs = useDesigns();
  const made = useDraft<StyleSheet>(
    () => designs.list.sheets.find((one) => one.id === id.value),
    designs.saveSheet,
    id,
  );
  return {
    ...made,
    problems: computed(() => (made.draft.value ? checkSheet(made.draft.value) : [])),
  };
}
export function usePlanDraft(id: Ref<string>) {
  const designs = useDesigns();
  const made = useDraft<PagePlan>(
    () => designs.list.plans.find((one) => one.id === id.value),
    designs.savePlan,
    id,
  );
  return {
    ...made,
    problems: computed(() => (made.draft.value ? checkPlan(made.draft.value) : [])),
  };
}
export function useLookDraft(id: Ref<string>) {
  const designs = useDesigns();
  const made = useDraft<SiteLook>(
    () => designs.list.looks.find((one) => one.id === id.value),
    designs.saveLook,
    id,
  );
  return {
    ...made,
    problems: computed(() => (made.draft.value ? checkLook(made.draft.value) : [])),
  };
}
