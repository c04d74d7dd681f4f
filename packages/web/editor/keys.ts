import { editingKeys, structureGuard } from '@ukiyo/core/editing';
import { redo, undo } from 'prosemirror-history';
import { keymap } from 'prosemirror-keymap';
import type { Command, Plugin } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';

/** The keys of the writer's page. @param own those that open something beside it */
export function editorKeys(own: Readonly<Record<string, (view: EditorView) => void>>): Plugin[] {
  const calling =
    (act: (view: EditorView) => void): Command =>
    (_state, _dispatch, view) => {
      if (view) act(view);
      return true;
    };
  const opening = Object.fromEntries(Object.entries(own).map(([key, act]) => [key, calling(act)]));
  return [
    keymap({ 'Mod-z': undo, 'Mod-Shift-z': redo, 'Mod-y': redo, ...opening }),
    keymap(editingKeys),
    structureGuard,
  ];
}
