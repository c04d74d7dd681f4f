import type { Choice } from '@ukiyo/core/editing';
import { useDebounceFn, useEventListener } from '@vueuse/core';
import { TextSelection } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { shallowRef, type ShallowRef } from 'vue';
import type { PopPlace } from '../../editor/popList.ts';

const settles = 160;
const height = 40;
const width = 510;
/** What fits a few words most often, in the order in which hands learn it. */
const usual = ['b', 'i', 'uicontrol', 'codeph', 'term', 'xref', 'indexterm'];

/** What can be done with the selected words, shown beside them once the hand rests. */
export function useSelected({ view, choices }: { readonly view: ShallowRef<EditorView | undefined>; readonly choices: () => Choice[] }) {
  const bar = shallowRef<{ readonly place: PopPlace; readonly choices: readonly Choice[] }>();
  let isPressed = false;

  function show(): void {
    const editor = view.value;
    if (!editor || editor.isDestroyed || !editor.editable || isPressed || !editor.hasFocus()) return;
    const { selection } = editor.state;
    if (!(selection instanceof TextSelection) || selection.empty) return;
    const all = choices();
    const fitting = usual.flatMap((element) => all.find((one) => one.element === element && (one.kind === 'phrase' || one.kind === 'insert')) ?? []);
    const box = editor.coordsAtPos(selection.from);
    const above = box.top - height - 6;
    bar.value = { place: { left: Math.max(8, Math.min(box.left, window.innerWidth - width)), top: above > 50 ? above : editor.coordsAtPos(selection.to).bottom + 6 }, choices: fitting };
  }
  const showSoon = useDebounceFn(show, settles);
  function look(): void {
    bar.value = undefined;
    const selection = view.value?.state.selection;
    if (selection && !selection.empty) void showSoon();
  }
  useEventListener(document, 'pointerdown', () => (isPressed = true), { capture: true });
  useEventListener(document, 'pointerup', () => {
    isPressed = false;
    void showSoon();
  });
  useEventListener(document, 'scroll', () => (bar.value = undefined), { capture: true, passive: true });
  useEventListener(document, 'focusin', ({ target }) => {
    if (bar.value && target instanceof Element && !target.closest('.ProseMirror, .selection-bar')) bar.value = undefined;
  });
  return { bar, look };
}
