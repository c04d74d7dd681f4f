import { Dictionaries } from '@ukiyo/contracts';
import { useDebounceFn } from '@vueuse/core';
import { wrap, type Remote } from 'comlink';
import type { EditorView } from 'prosemirror-view';
import { ref, watch, type ShallowRef } from 'vue';
import { arrive } from '../editor/arrivals.ts';
import { judged, unknownIn } from '../editor/spelling.ts';
import type { Speller } from '../editor/spelling.worker.ts';
import { ask } from '../parts/api.ts';
import { useLibrary } from '../parts/library.ts';

const settles = 500;

interface Opened {
  readonly speller: Remote<Speller>;
  /** Whether there is a dictionary; without one the browser's own spelling is left on. */
  readonly ready: Promise<boolean>;
}
/** A dictionary is large: all pages that are open share it. */
const opened = new Map<string, Opened>();
function spellerOf(locale: string): Opened {
  const known = opened.get(locale);
  if (known) return known;
  const speller = wrap<Speller>(
    new Worker(new URL('../editor/spelling.worker.ts', import.meta.url), { type: 'module' }),
  );
  const load = async (): Promise<boolean> => {
    try {
      await speller.open(await ask(`/dictionaries/${encodeURIComponent(locale)}`, Dictionaries));
      return true;
    } catch {
      // The next page asks for it again.
      opened.delete(locale);
      return false;
    }
  };
  const made = { speller, ready: load() };
  opened.set(locale, made);
  return made;
}

/**
 * Spelling in the language of the content, by a dictionary that ships and the words of the team.
 */
export function useSpelling(view: ShallowRef<EditorView | undefined>, locale: () => string) {
  const library = useLibrary();
  const hasDictionary = ref(false);
  const teamWords = (): readonly string[] => library.agreements.words[locale()] ?? [];
  let opening: Promise<Remote<Speller> | undefined> | undefined;

  /** Nothing without a dictionary. It waits for the first words, so that the page is shown first. */
  const open = (): Promise<Remote<Speller> | undefined> => (opening ??= begin());
  async function begin(): Promise<Remote<Speller> | undefined> {
    const { speller, ready } = spellerOf(locale());
    if (!(await ready)) return undefined;
    await speller.allow(teamWords());
    hasDictionary.value = true;
    view.value?.dom.setAttribute('spellcheck', 'false');
    return speller;
  }
  /** Words that wait for the hand to rest: half a word is not judged. */
  let waiting: string[] = [];
  function check(words: readonly string[]): void {
    waiting.push(...words);
    void open();
    void checkSoon();
  }
  const checkSoon = useDebounceFn(checkNow, settles);
  async function checkNow(): Promise<void> {
    const speller = await open();
    const words = waiting;
    waiting = [];
    if (!speller) return;
    let wrong: readonly string[];
    try {
      wrong = await speller.check(words);
    } catch {
      waiting.unshift(...words);
      return;
    }
    const editor = view.value;
    if (wrong.length === 0 || !editor) return;
    arrive(editor, (state) => judged(state.tr, new Set([...unknownIn(state), ...wrong])));
  }
  const suggest = async (word: string): Promise<string[]> => (await open())?.suggest(word) ?? [];
  /** Makes a word right for the whole team. */
  const allow = (word: string): Promise<void> => library.addWord(locale(), word);
  watch(
    () => library.agreements,
    async () => {
      const speller = await opening;
      await speller?.allow(teamWords());
      const editor = view.value;
      if (!editor) return;
      const known = new Set(teamWords().map((word) => word.toLowerCase()));
      const isKnown = (word: string): boolean => known.has(word.toLowerCase());
      arrive(editor, (state) =>
        judged(state.tr, new Set([...unknownIn(state)].filter((word) => !isKnown(word)))),
      );
    },
  );
  return { hasDictionary, check, suggest, allow };
}
