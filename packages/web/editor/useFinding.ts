import {
  linesOf,
  patternOf,
  placesOf,
  replaceFound,
  type Found,
  type Query,
} from '@ukiyo/core/editing';
import { useDebounceFn } from '@vueuse/core';
import { wrap } from 'comlink';
import { TextSelection } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { onUnmounted, reactive, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import type { Finder } from './finding.worker.ts';
import { showFound } from './found.ts';

/** Some patterns never come to an end. */
const longestSearch = 3000;

/** Finding and replacing in the open topic. */
export function useFinding(view: ShallowRef<EditorView | undefined>, changes: Ref<number>) {
  const query = reactive<{ -readonly [Key in keyof Query]: Query[Key] } & { replacement: string }>({
    text: '',
    matchCase: false,
    wholeWord: false,
    isPattern: false,
    within: '',
    replacement: '',
  });
  const found = shallowRef<readonly Found[]>([]);
  const current = ref(-1);
  const refusal = ref('');
  let worker: ReturnType<typeof start> | undefined;
  let isBusy = false;
  let asked = 0;

  /** Loading the worker is no part of the time that a search may take. */
  function start() {
    const thread = new Worker(new URL('./finding.worker.ts', import.meta.url), { type: 'module' });
    const finder = wrap<Finder>(thread);
    return { thread, finder, isReady: finder.begin() };
  }
  function stop(): void {
    worker?.thread.terminate();
    worker = undefined;
    isBusy = false;
  }
  async function find(): Promise<void> {
    const editor = view.value;
    asked += 1;
    const question = asked;
    refusal.value = '';
    if (!editor || query.text === '') return show([], -1);
    const pattern = patternOf(query);
    if ('refusal' in pattern) {
      refusal.value = pattern.refusal;
      return show([], -1);
    }
    const { doc, selection } = editor.state;
    const lines = linesOf(doc, query.within);
    // One that is still at an earlier question would keep this one waiting.
    if (isBusy) stop();
    worker ??= start();
    await worker.isReady;
    if (question !== asked) return;
    isBusy = true;
    const late = new Promise<undefined>((resolve) => setTimeout(resolve, longestSearch, undefined));
    const texts = lines.map(({ text }) => text);
    const finds = await Promise.race([
      worker.finder.find(texts, pattern, query.replacement, query.isPattern),
      late,
    ]);
    if (question !== asked) return;
    isBusy = false;
    if (!finds) {
      stop();
      refusal.value = 'This pattern takes too long. Make it simpler.';
      return show([], -1);
    }
    // Meanwhile somebody may have typed: then it is asked again by itself.
    if (view.value?.state.doc !== doc) return;
    const places = placesOf(lines, finds);
    const next = places.findIndex(({ from }) => from >= selection.from);
    show(places, places.length === 0 ? -1 : Math.max(0, next));
  }
  function show(places: readonly Found[], index: number): void {
    found.value = places;
    current.value = index;
    const editor = view.value;
    if (editor) editor.dispatch(showFound(editor.state.tr, places, index));
  }
  /** Goes to the next find, or with -1 to the one before. */
  function go(offset: 1 | -1): void {
    const editor = view.value;
    const count = found.value.length;
    if (!editor || count === 0) return;
    const index = (current.value + offset + count) % count;
    const { from, to } = found.value[index]!;
    current.value = index;
    editor.dispatch(
      showFound(
        editor.state.tr
          .setSelection(TextSelection.create(editor.state.doc, from, to))
          .scrollIntoView(),
        found.value,
        index,
      ),
    );
  }
  function replace(places: readonly Found[]): void {
    const editor = view.value;
    if (!editor?.editable || places.length === 0) return;
    editor.dispatch(replaceFound(editor.state, places).scrollIntoView());
  }
  // Asked once more first: what is to stand there may have been typed a moment ago.
  async function replaceOne(): Promise<void> {
    await find();
    replace(found.value.slice(current.value, current.value + 1));
  }
  async function replaceAll(): Promise<void> {
    await find();
    replace(found.value);
  }
  function close(): void {
    asked += 1;
    show([], -1);
    view.value?.focus();
  }

  const findSoon = useDebounceFn(find, 120);
  watch(query, () => void findSoon());
  watch([view, changes], () => {
    if (query.text !== '') void findSoon();
  });
  onUnmounted(stop);
  return { query, found, current, refusal, find, go, replaceOne, replaceAll, close };
}
