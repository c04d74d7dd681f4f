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
import { useAutosave } from '../../parts/autosave.ts';
import { useDesigns } from '../../parts/designs.ts';
import { useSafeLeaving } from '../../parts/safeLeaving.ts';
import { usePlace } from '../../shell/place.ts';

type Kept<Content> = { readonly id: string; readonly version: number; readonly content: Content };

/** Where one kind of designs is kept. */
interface Keeping<Content> {
  readonly find: (id: string) => Kept<Content> | undefined;
  readonly save: (id: string, version: number, content: Content) => Promise<void>;
}

/**
 * One style sheet, page plan or site look that is being changed: seen at once, saved when one
 * rests, every change can be undone.
 */
function useDraft<Content extends object>(keeping: Keeping<Content>, id: Ref<string>) {
  const designs = useDesigns();
  const place = usePlace();
  const draft = shallowRef<Content>();
  const failure = ref('');
  /** Whether another person has saved it meanwhile. */
  const isConflict = ref(false);
  const history = useRefHistory(draft, { capacity: 200 });
  const autosave = useAutosave<Content>({
    async save(of, content) {
      const kept = keeping.find(of);
      // What was removed meanwhile stays removed.
      if (kept) await keeping.save(of, kept.version, content);
      failure.value = '';
    },
    failed(_of, error) {
      isConflict.value = error instanceof ApiError && error.status === 409;
      failure.value = isConflict.value ? '' : messageOf(error);
      return !isConflict.value;
    },
  });
  useSafeLeaving(autosave.isSafe, autosave.flush);

  watch(
    [id, () => keeping.find(id.value)?.id],
    () => {
      draft.value = keeping.find(id.value)?.content;
      history.clear();
      failure.value = '';
      isConflict.value = false;
      place.saved = '';
    },
    { immediate: true },
  );
  const words = { saved: 'Saved', changed: 'Saving …', saving: 'Saving …', failed: 'Not saved' };
  watch(autosave.state, (state) => (place.saved = words[state]));

  function save(): void {
    if (draft.value) autosave.change(id.value, draft.value);
  }
  function change(act: (content: Content) => Content): void {
    if (!draft.value) return;
    draft.value = act(draft.value);
    save();
  }
  function step(act: () => void): void {
    act();
    save();
  }
  /** Saves what is on the page over what the other person saved. */
  async function keepMine(): Promise<void> {
    await designs.load();
    isConflict.value = false;
    await autosave.flush();
  }
  /** Shows what is stored; what was on the page can be had back by undoing. */
  function show(content: Content): void {
    autosave.discard(id.value);
    isConflict.value = false;
    draft.value = content;
  }
  async function showTheirs(): Promise<void> {
    await designs.load();
    const kept = keeping.find(id.value);
    if (kept) show(kept.content);
  }
  return {
    draft,
    failure,
    isConflict,
    keepMine,
    showTheirs,
    show,
    change,
    undo: () => step(history.undo),
    redo: () => step(history.redo),
    canUndo: history.canUndo,
    canRedo: history.canRedo,
  };
}

export function useSheetDraft(id: Ref<string>) {
  const designs = useDesigns();
  const made = useDraft<StyleSheet>(
    {
      find: (of) => designs.list.sheets.find((one) => one.id === of),
      save: designs.saveSheet,
    },
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
    {
      find: (of) => designs.list.plans.find((one) => one.id === of),
      save: designs.savePlan,
    },
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
    {
      find: (of) => designs.list.looks.find((one) => one.id === of),
      save: designs.saveLook,
    },
    id,
  );
  return {
    ...made,
    problems: computed(() => (made.draft.value ? checkLook(made.draft.value) : [])),
  };
}
