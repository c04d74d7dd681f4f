import { stepTo, unguarded } from '@ukiyo/core/editing';
import type { Agreed } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import { problem, type Problem } from '@ukiyo/core/problems';
import { useDebounceFn } from '@vueuse/core';
import type { Node } from 'prosemirror-model';
import { Mapping, type StepMap } from 'prosemirror-transform';
import type { EditorView } from 'prosemirror-view';
import { nextTick, ref, shallowRef, watch, type ShallowRef } from 'vue';
import type { SourceLanguage } from '../../editor/sourceLanguage.ts';
import { messageOf } from '../../parts/api.ts';
import { useHeldText, type LeftText } from './heldText.ts';
import { textForm, type TextForm } from './textForms.ts';

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
const overtaken = (): Problem =>
  problem(
    'error',
    'source.overtaken',
    'Another person changed the same passage. Copy what you need, then reload the text.',
    { line: 1, column: 1 },
  );

/** The document that a text was last the same as, and what came after it. */
interface Base {
  readonly form: TextForm;
  readonly document: Node;
  readonly root: Element;
  readonly since: Mapping;
}

/**
 * Takes a text into the topic as a step, fitted in behind what others did since.
 * @returns what is wrong with the text, and whether it is in the topic now
 */
function applyText(
  editor: EditorView,
  { form, document, root, since }: Base,
  text: string,
  agreed: Agreed,
): { readonly isTaken: boolean; readonly problems: readonly Problem[] } {
  const result = form.read(text, root, agreed);
  if (!result.root) return { isTaken: false, problems: result.problems };
  const step = stepTo(document, result.root)?.map(since);
  const applied = step?.apply(editor.state.doc);
  if (step === null || (applied && !applied.doc))
    return { isTaken: false, problems: [overtaken(), ...result.problems] };
  if (step) editor.dispatch(unguarded(editor.state.tr.step(step)));
  return { isTaken: true, problems: result.problems };
}

/** A topic as it is shown as text; nothing is while there is no language. */
function useShownText() {
  return {
    language: ref<SourceLanguage>(),
    text: ref(''),
    problems: shallowRef<readonly Problem[]>([]),
    /** Whether there is something in the text that is not in the topic yet. */
    isHeld: ref(false),
  };
}

type ShownText = ReturnType<typeof useShownText>;

/**
 * Holds a text from the moment in which something is typed into it, and keeps it in this browser,
 * until it is in the topic.
 * @param keep takes the text into the topic, once hands rest
 */
function holdWhileNew(
  shown: ShownText,
  hold: (held: LeftText | undefined) => void,
  isNew: (text: string) => boolean,
  keep: () => void,
): void {
  const { language, text, isHeld } = shown;
  const keepSoon = useDebounceFn(keep, settles);
  const holdNow = (): void =>
    hold(
      isHeld.value && language.value ? { language: language.value, text: text.value } : undefined,
    );
  watch(isHeld, holdNow);
  watch(text, (now) => {
    if (!language.value || !isNew(now)) return;
    isHeld.value = true;
    holdNow();
    void keepSoon();
  });
}

/**
 * The two directions between the page and its text. A text is compared with the document that it
 * was made from, so that what others change in the meantime is kept.
 */
function useTextExchange({ view, read, agreed, refuse }: Written, shown: ShownText) {
  const { language, text, problems, isHeld } = shown;
  let base: Base | undefined;
  let written = '';
  /** One's own changes come back as changes of the page. */
  let isApplying = false;

  /** Shows the topic as it is on the page. @returns whether it can be shown so */
  function show(form: TextForm): boolean {
    const root = read();
    const document = view.value?.state.doc;
    const next = root && form.write(root);
    if (next && 'refusal' in next) refuse(next.refusal);
    if (!document || !next || 'refusal' in next) return false;
    base = { form, document, root, since: new Mapping() };
    written = next.text;
    text.value = next.text;
    isHeld.value = false;
    problems.value = form.read(next.text, root, agreed()).problems;
    return true;
  }
  /** Shows the topic again as it is on the page, without what could not be taken into it. */
  function refresh(): void {
    if (base) show(base.form);
  }
  /** Takes the text into the topic; it stays held, with its problems, where it cannot be read. */
  function apply(): void {
    const editor = view.value;
    if (!editor || !base || text.value === written) return;
    const changedByOthers = base.since.maps.length > 0;
    isApplying = true;
    const taken = applyText(editor, base, text.value, agreed());
    isApplying = false;
    problems.value = taken.problems;
    if (!taken.isTaken) return;
    written = text.value;
    isHeld.value = false;
    const root = read();
    if (changedByOthers || !root) refresh();
    else base = { form: base.form, document: editor.state.doc, root, since: new Mapping() };
  }
  function close(): void {
    language.value = undefined;
    isHeld.value = false;
    base = undefined;
    problems.value = [];
  }
  const refreshSoon = useDebounceFn(() => {
    if (!isHeld.value) refresh();
  }, settles);
  /** Is called with every change of the page, by anybody. */
  function follow(maps: readonly StepMap[]): void {
    if (!base || isApplying) return;
    for (const map of maps) base.since.appendMap(map);
    if (!isHeld.value) void refreshSoon();
  }
  return { show, refresh, apply, close, follow, isNew: (now: string): boolean => now !== written };
}

/**
 * The open topic as text. What can be read goes into the topic as a step like any other, fitted in
 * behind what others did since the text was shown; what cannot stays here, with the reason, until
 * it can or is discarded.
 */
export function useSource(topic: Written) {
  const { view, name, refuse } = topic;
  const shown = useShownText();
  const { language, text, problems, isHeld } = shown;
  const held = useHeldText(name);
  const { show, refresh, apply, close, follow, isNew } = useTextExchange(topic, shown);

  /** Shows the page as text in a language, once that can be written, and then acts on it. */
  async function showAs(as: SourceLanguage, then?: () => void): Promise<void> {
    const topic = name();
    try {
      const form = await textForm(as);
      // Meanwhile another topic can have been opened.
      if (name() !== topic || !show(form)) return;
      language.value = as;
      then?.();
    } catch (error) {
      refuse(messageOf(error));
    }
  }
  function open(as: SourceLanguage): void {
    if (!language.value || leave()) void showAs(as);
  }
  function reopenLeft(): void {
    const found = held.left.value;
    if (!found) return;
    void showAs(found.language, () => {
      held.left.value = undefined;
      void nextTick(() => (text.value = found.text));
    });
  }
  /** Back to the page; false when the text is not a topic, and so stays open. */
  function leave(): boolean {
    if (isHeld.value) apply();
    if (isHeld.value) {
      refuse(`The text cannot go into the topic yet: ${problems.value[0]?.message ?? ''}`);
      return false;
    }
    close();
    void nextTick(() => view.value?.focus());
    return true;
  }
  holdWhileNew(shown, held.hold, isNew, apply);
  const { left, lookForLeft, discard: discardLeft } = held;
  return {
    ...shown,
    left,
    lookForLeft,
    reopenLeft,
    discardLeft,
    open,
    leave,
    close,
    refresh,
    follow,
  };
}
