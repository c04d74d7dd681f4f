import { stepTo, takenAsItIs } from '@ukiyo/core/editing';
import { writeCanonical } from '@ukiyo/core/grammar';
import type { Agreed } from '@ukiyo/core/library';
import { readMarkdown, writeMarkdown } from '@ukiyo/core/markdown';
import type { Element } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';
import { readSource } from '@ukiyo/core/source';
import { useDebounceFn } from '@vueuse/core';
import type { Node } from 'prosemirror-model';
import { Mapping, type StepMap } from 'prosemirror-transform';
import type { EditorView } from 'prosemirror-view';
import { nextTick, ref, shallowRef, watch, type ShallowRef } from 'vue';
import { z } from 'zod';
import type { SourceLanguage } from '../../editor/sourceLanguage.ts';

interface Written {
  readonly view: ShallowRef<EditorView | undefined>;
  readonly read: () => Element | undefined;
  /** Names the topic in this browser. */
  readonly name: () => string;
  readonly agreed: () => Agreed;
  /** Why a topic cannot be shown so. */
  readonly refuse: (reason: string) => void;
}

const settles = 400;
const LeftText = z.object({ language: z.enum(['source', 'markdown']), text: z.string() });
type LeftText = z.infer<typeof LeftText>;

/**
 * The open topic as text. What can be read goes into the topic as a step like any other, fitted in
 * behind what others did since the text was shown; what cannot stays here, with the reason, until
 * it can or is let go.
 */
export function useSource({ view, read, name, agreed, refuse }: Written) {
  const language = ref<SourceLanguage>();
  const text = ref('');
  const problems = shallowRef<readonly Problem[]>([]);
  /** Whether there is something in the text that is not in the topic yet. */
  const isHeld = ref(false);
  /** The document that the text was last the same as, and what came after it. */
  let base: { document: Node; root: Element; since: Mapping } | undefined;
  let shown = '';
  /** One's own changes come back as changes of the page. */
  let isKeeping = false;

  /** What a browser that went down left of a text that was not in the topic yet. */
  const left = shallowRef<LeftText>();
  function lookForLeft(): void {
    try {
      left.value = LeftText.safeParse(JSON.parse(localStorage.getItem(name()) ?? 'null')).data;
    } catch {
      left.value = undefined;
    }
  }
  /** Beside the page's own store: as long as a text is held, it is kept in this browser. */
  function keepHeld(): void {
    try {
      if (isHeld.value && language.value)
        localStorage.setItem(
          name(),
          JSON.stringify({ language: language.value, text: text.value }),
        );
      else localStorage.removeItem(name());
    } catch {
      // More than the browser's store takes: the text stays in the open page.
    }
  }
  function takeUp(): void {
    const found = left.value;
    left.value = undefined;
    if (!found || !refresh(found.language)) return;
    language.value = found.language;
    void nextTick(() => (text.value = found.text));
  }
  function letGo(): void {
    left.value = undefined;
    localStorage.removeItem(name());
  }

  function written(root: Element, as: SourceLanguage): string | undefined {
    if (as === 'source') return writeCanonical(root);
    const made = writeMarkdown(root);
    if ('text' in made) return made.text;
    refuse(made.refusal);
    return undefined;
  }
  /** Shows the topic as it stands on the page. */
  function refresh(as: SourceLanguage): boolean {
    const root = read();
    const next = root && view.value && written(root, as);
    if (next === undefined || !root || !view.value) return false;
    base = { document: view.value.state.doc, root, since: new Mapping() };
    shown = next;
    text.value = next;
    isHeld.value = false;
    problems.value = as === 'source' ? readSource(next, root, agreed()).problems : [];
    return true;
  }
  function open(as: SourceLanguage): void {
    if (language.value && !leave()) return;
    if (refresh(as)) language.value = as;
  }
  /** Back to the page; false when the text is not a topic, and so stays open. */
  function leave(): boolean {
    if (isHeld.value) keep();
    if (isHeld.value) {
      refuse(`The text cannot go into the topic yet: ${problems.value[0]?.message ?? ''}`);
      return false;
    }
    close();
    void nextTick(() => view.value?.focus());
    return true;
  }
  function close(): void {
    language.value = undefined;
    isHeld.value = false;
    base = undefined;
    problems.value = [];
  }

  function keep(): void {
    const editor = view.value;
    const as = language.value;
    if (!editor || !base || !as || text.value === shown) return;
    const result =
      as === 'source'
        ? readSource(text.value, base.root, agreed())
        : readMarkdown(text.value, base.root);
    problems.value = result.problems;
    if (!result.root) return;
    const step = stepTo(base.document, result.root)?.map(base.since);
    const changedByOthers = base.since.maps.length > 0;
    const applied = step?.apply(editor.state.doc);
    if (step === null || (applied && !applied.doc)) {
      problems.value = [
        problem(
          'error',
          'source.overtaken',
          'Somebody changed the same place meanwhile. Copy what you need, and take the ' +
            'newest text.',
          { line: 1, column: 1 },
        ),
        ...result.problems,
      ];
      return;
    }
    shown = text.value;
    isHeld.value = false;
    isKeeping = true;
    if (step) editor.dispatch(takenAsItIs(editor.state.tr.step(step)));
    isKeeping = false;
    const root = read();
    if (changedByOthers || !root) refresh(as);
    else base = { document: editor.state.doc, root, since: new Mapping() };
  }
  const keepSoon = useDebounceFn(keep, settles);
  watch(isHeld, keepHeld);
  watch(text, (now) => {
    if (!language.value || now === shown) return;
    isHeld.value = true;
    keepHeld();
    void keepSoon();
  });

  const refreshSoon = useDebounceFn(() => {
    if (language.value && !isHeld.value) refresh(language.value);
  }, settles);
  /** Told of every change of the page, by whomever. */
  function follow(maps: readonly StepMap[]): void {
    if (!base || isKeeping) return;
    for (const map of maps) base.since.appendMap(map);
    if (!isHeld.value) void refreshSoon();
  }
  return {
    language,
    text,
    problems,
    isHeld,
    left,
    lookForLeft,
    takeUp,
    letGo,
    open,
    leave,
    close,
    refresh,
    follow,
  };
}
