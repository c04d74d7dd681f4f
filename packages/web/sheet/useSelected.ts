import type { Choice } from '@ukiyo/core/editing';
import { useDebounceFn, useEventListener } from '@vueuse/core';
import { TextSelection } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { shallowRef, type ShallowRef } from 'vue';
import type { PopPlace } from '../editor/popList.ts';

const settles = 160;
const height = 40;
const width = 510;
/** What fits a few words most often, in the order in which hands learn it. */
const usual = ['b', 'i', 'uicontrol', 'codeph', 'term', 'xref', 'indexterm'];

const rests = 600;
/** What usually goes into an empty place, by what it stands in. */
const usualIn: Readonly<Record<string, readonly string[]>> = {
  step: ['info', 'stepresult', 'substeps', 'note'],
  steps: ['step'],
  entry: ['p', 'image', 'note'],
};
const usualElsewhere = ['ul', 'ol', 'note', 'fig', 'table', 'section', 'example'];
const most = 5;

interface Bar {
  readonly label: string;
  readonly place: PopPlace;
  readonly choices: readonly Choice[];
}

/** What fits the selected words, above them or below. */
function barForWords(editor: EditorView, choices: readonly Choice[]): Bar {
  const { selection } = editor.state;
  const fitting = usual.flatMap(
    (element) =>
      choices.find(
        (one) => one.element === element && (one.kind === 'phrase' || one.kind === 'insert'),
      ) ?? [],
  );
  const box = editor.coordsAtPos(selection.from);
  const above = box.top - height - 6;
  const left = Math.max(8, Math.min(box.left, window.innerWidth - width));
  const top = above > 50 ? above : editor.coordsAtPos(selection.to).bottom + 6;
  return { label: 'For the selected words', place: { left, top }, choices: fitting };
}

/** What usually goes into a place without words yet; titles want words and nothing else. */
function barForPlace(editor: EditorView, choices: () => readonly Choice[]): Bar | undefined {
  const { $from } = editor.state.selection;
  const { parent, depth } = $from;
  if (!parent.isTextblock || parent.content.size > 0 || parent.type.spec.element === 'title')
    return undefined;
  const around = Array.from(
    { length: depth },
    (_, up) => $from.node(depth - 1 - up).type.spec.element ?? '',
  );
  const wanted = around.map((element) => usualIn[element]).find((one) => one) ?? usualElsewhere;
  const all = choices();
  const fitting = wanted
    .flatMap((element) => all.find((one) => one.element === element && one.kind === 'insert') ?? [])
    .slice(0, most);
  const line = editor.nodeDOM($from.before());
  const box = line instanceof HTMLElement ? line.getBoundingClientRect() : undefined;
  // Words that are shown in its place hide it.
  if (fitting.length === 0 || box?.height === 0) return undefined;
  const { left, bottom } = editor.coordsAtPos($from.pos);
  return {
    label: 'What usually goes here',
    place: { left, top: (box?.bottom ?? bottom) + 6 },
    choices: fitting,
  };
}

/**
 * What can be done with the selected words, or usually goes into an empty place, shown beside it
 * once the hand rests.
 */
export function useSelected({
  view,
  choices,
}: {
  readonly view: ShallowRef<EditorView | undefined>;
  readonly choices: () => Choice[];
}) {
  const bar = shallowRef<Bar>();
  let isPressed = false;

  function show(): void {
    const editor = view.value;
    if (!editor || editor.isDestroyed || !editor.editable || isPressed || !editor.hasFocus())
      return;
    const { selection } = editor.state;
    if (!(selection instanceof TextSelection)) return;
    if (!selection.empty) bar.value = barForWords(editor, choices());
    else bar.value = barForPlace(editor, choices) ?? bar.value;
  }
  const showSoon = useDebounceFn(show, settles);
  const showAfterRest = useDebounceFn(show, rests);
  function look(): void {
    bar.value = undefined;
    const selection = view.value?.state.selection;
    if (selection) void (selection.empty ? showAfterRest() : showSoon());
  }
  useEventListener(document, 'pointerdown', () => (isPressed = true), { capture: true });
  useEventListener(document, 'pointerup', () => {
    isPressed = false;
    void showSoon();
  });
  useEventListener(document, 'scroll', () => (bar.value = undefined), {
    capture: true,
    passive: true,
  });
  useEventListener(document, 'focusin', ({ target }) => {
    if (bar.value && target instanceof Element && !target.closest('.ProseMirror, .selection-bar'))
      bar.value = undefined;
  });
  return { bar, look };
}
