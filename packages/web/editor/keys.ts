import { editingKeys, structureGuard } from '@ukiyo/core/editing';
import { redo, undo } from 'prosemirror-history';
import { keymap } from 'prosemirror-keymap';
import type { Command, Plugin } from 'prosemirror-state';

/** The keys of the writer's page. `openPalette` shows what can go here. */
export function editorKeys(openPalette: () => void, save: () => void): Plugin[] {
  const calling =
    (act: () => void): Command =>
    () => {
      act();
      return true;
    };
  return [keymap({ 'Mod-z': undo, 'Mod-Shift-z': redo, 'Mod-y': redo, 'Ctrl-Space': calling(openPalette), 'Mod-s': calling(save) }), keymap(editingKeys), structureGuard];
}
