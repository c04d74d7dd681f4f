import {
  searchedLines,
  patternOf,
  placesOf,
  replaceFound,
  type Found,
  type Query,
} from '@ukiyo/core/editing';
import { useDebounceFn } from '@vueuse/core';
import { wrap, type Remote } from 'comlink';
import { TextSelection } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { onUnmounted, reactive, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import { arrive } from './arrivals.ts';
import type { Finder } from './finding.worker.ts';
import { showFound } from './found.ts';

/** Some patterns never come to an end. */
const longestSearch = 3000;

/** Searches in a worker, which is ended when a search does not end by itself. */
class Search {
  #worker: { thread: Worker; finder: Remote<Finder>; isReady: Promise<unknown> } | undefined;
  #isBusy = false;

  /** Ends what is still searched for: it would keep the next question waiting. */
  async begin(): Promise<Remote<Finder>> {
    if (this.#isBusy) this.stop();
    this.#worker ??= startWorker();
    const { finder, isReady } = this.#worker;
    // Loading the worker is no part of the time that a search may take.
    await isReady;
    return finder;
  }
  /** @returns undefined when it takes too long */
  find(
    finder: Remote<Finder>,
    ...question: Parameters<Finder['find']>
  ): Promise<ReturnType<Finder['find']> | undefined> {
    this.#isBusy = true;
    const late = new Promise<undefined>((resolve) => setTimeout(resolve, longestSearch, undefined));
    return Promise.race([finder.find(...question), late]);
  }
  /** The last question has its answer, or is given up. */
  end(isAnswered: boolean): void {
    this.#isBusy = false;
    if (!isAnswered) this.stop();
  }
  stop(): void {
    this.#worker?.thread.terminate();
    this.#worker = undefined;
    this.#isBusy = false;
  }
}
function startWorker() {
  const thread = new Worker(new URL('./finding.worker.ts', import.meta.url), { type: 'module' });
  const finder = wrap<Finder>(thread);
  return { thread, finder, isReady: finder.begin() };
}

/** Marks what was found in the present text; after a change the search starts again. */
function mark(editor: EditorView, found: readonly Found[], index: number): void {
  const { doc } = editor.state;
  arrive(editor, (now) => (now.doc === doc ? showFound(now.tr, found, index) : now.tr));
}

/** Selects one of what was found. */
function goTo(editor: EditorView, found: readonly Found[], index: number): void {
  const { from, to } = found[index]!;
  const { doc, tr } = editor.state;
  const selected = tr.setSelection(TextSelection.create(doc, from, to)).scrollIntoView();
  editor.dispatch(showFound(selected, found, index));
}

/** What is looked for, and what is to stand in its place. */
const emptyQuery: Query & { readonly replacement: string } = {
  text: '',
  matchCase: false,
  wholeWord: false,
  isPattern: false,
  within: '',
  replacement: '',
};
type OpenQuery = { -readonly [Key in keyof typeof emptyQuery]: (typeof emptyQuery)[Key] };

/** Finding and replacing in the open topic. */
export function useFinding(view: ShallowRef<EditorView | undefined>, changes: Ref<number>) {
  const query = reactive<OpenQuery>({ ...emptyQuery });
  const found = shallowRef<readonly Found[]>([]);
  const current = ref(-1);
  const refusal = ref('');
  const search = new Search();
  let asked = 0;

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
    const lines = searchedLines(doc, query.within);
    const texts = lines.map(({ text }) => text);
    const finder = await search.begin();
    if (question !== asked) return;
    const finds = await search.find(finder, texts, pattern, query.replacement, query.isPattern);
    if (question !== asked) return;
    search.end(finds !== undefined);
    if (!finds) {
      refusal.value = 'This pattern takes too long. Make it simpler.';
      return show([], -1);
    }
    // The text may have changed meanwhile: then the search is started again by the change.
    if (view.value?.state.doc !== doc) return;
    const places = placesOf(lines, finds);
    const next = places.findIndex(({ from }) => from >= selection.from);
    show(places, places.length === 0 ? -1 : Math.max(0, next));
  }
  function show(places: readonly Found[], index: number): void {
    found.value = places;
    current.value = index;
    const editor = view.value;
    if (editor) mark(editor, places, index);
  }
  /** Goes to the next find, or with -1 to the one before. */
  function go(offset: 1 | -1): void {
    const count = found.value.length;
    if (!view.value || count === 0) return;
    current.value = (current.value + offset + count) % count;
    goTo(view.value, found.value, current.value);
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
  onUnmounted(() => search.stop());
  return { query, found, current, refusal, find, go, replaceOne, replaceAll, close };
}
