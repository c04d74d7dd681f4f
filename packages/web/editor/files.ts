import { Plugin, TextSelection } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';

const imagesIn = (data: DataTransfer | null): File[] =>
  [...(data?.files ?? [])].filter((file) => file.type.startsWith('image/'));

/**
 * Takes image files that are pasted or dropped; what else is on the clipboard goes its usual way.
 */
export function imageFiles(take: (files: readonly File[]) => void): Plugin {
  return new Plugin({
    props: {
      handlePaste(_view, { clipboardData }) {
        const files = imagesIn(clipboardData);
        // Word processors put a picture of copied text beside the text.
        if (files.length === 0 || clipboardData?.getData('text/html') !== '') return false;
        take(files);
        return true;
      },
      handleDrop(view: EditorView, { dataTransfer, clientX, clientY }) {
        const files = imagesIn(dataTransfer);
        const at = view.posAtCoords({ left: clientX, top: clientY })?.pos;
        if (files.length === 0 || at === undefined) return false;
        view.dispatch(view.state.tr.setSelection(TextSelection.near(view.state.doc.resolve(at))));
        take(files);
        return true;
      },
    },
  });
}
