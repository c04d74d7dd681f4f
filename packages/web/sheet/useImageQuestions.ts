import {
  addImage,
  alternativeAt,
  canAddImage,
  elementOfAnswer,
  imageFrom,
  imageMapAt,
  mediaAt,
  noteAt,
  pasteBlocks,
  rewordNote,
  withAlternative,
  withImageMap,
  withMedia,
  wordsOfAnswer,
} from '@ukiyo/core/editing';
import { element, type Element } from '@ukiyo/core/markup';
import { useFileDialog } from '@vueuse/core';
import type { EditorState } from 'prosemirror-state';
import type { Answered, AskingPage, Questions } from './questions.ts';

type Asking = Parameters<Questions['ask']>[0];

/** What can be said about the note, image or film at a position. */
function wordsQuestion(state: EditorState, position: number): Asking {
  const map = imageMapAt(state, position);
  if (map && alternativeAt(state, position))
    return { asks: 'areas', imagemap: map.element, position: map.position };
  const media = mediaAt(state, position);
  if (media)
    return {
      asks: 'media',
      before: media,
      apply: (at, object) => withMedia(at, position, elementOfAnswer(object) ?? media),
    };
  const note = noteAt(state, position);
  if (note)
    return {
      asks: 'words',
      ...note,
      apply: (at, words) => rewordNote(at, position, wordsOfAnswer(words)),
    };
  return {
    asks: 'words',
    element: 'alt',
    words: alternativeAt(state, position) ?? '',
    apply: (at, words) => withAlternative(at, position, wordsOfAnswer(words)),
  };
}

/** Where the image is that was just put in: in the selection, or in the block around it. */
function newImage({ doc, selection }: EditorState): number | undefined {
  const { $from, from, to } = selection;
  const block = $from.depth > 0 ? $from.before(Math.max(1, $from.depth - 1)) : 0;
  const end = Math.min(doc.content.size, block + (doc.nodeAt(block)?.nodeSize ?? 0));
  return imageFrom(doc, from, to) ?? imageFrom(doc, block, end);
}

/** What is asked about images and notes: their words, their areas, and files that become images. */
export function useImageQuestions({ view, apply, upload }: AskingPage, questions: Questions) {
  const dialog = useFileDialog({ accept: 'image/*', multiple: false, reset: true });
  let waitingForFile: Answered | undefined;

  function reword(position: number): void {
    if (view.value) questions.ask(wordsQuestion(view.value.state, position));
  }
  function askForAlternative(): void {
    const position = view.value && newImage(view.value.state);
    if (position !== undefined) reword(position);
  }
  /** Keeps what was drawn, if the image map is still where it was. */
  function keepAreas(imagemap: Element): void {
    const asked = questions.take('areas');
    if (!asked) return;
    apply((state) =>
      imageMapAt(state, Math.min(asked.position + 1, state.doc.content.size))
        ? withImageMap(state, asked.position, imagemap)
        : state.tr,
    );
  }

  async function takeFile(file: File, insert: Answered): Promise<void> {
    const reference = await upload(file);
    if (reference === undefined) return;
    apply((state) => insert(state, reference));
    askForAlternative();
  }
  function chooseFile(): void {
    const asked = questions.take('image');
    if (!asked) return;
    waitingForFile = asked.apply;
    dialog.open();
  }
  dialog.onChange((files) => {
    const [file] = files ?? [];
    if (file && waitingForFile) void takeFile(file, waitingForFile);
  });
  /**
   * Image files that came by themselves go into the line, or to the nearest place that takes an
   * image.
   */
  async function takeFiles(files: readonly File[]): Promise<void> {
    for (const file of files)
      await takeFile(file, (state, answer) => {
        const href = wordsOfAnswer(answer);
        return canAddImage(state)
          ? addImage(state, href)
          : pasteBlocks(state, [element('image', { href, placement: 'break' })]).transaction;
      });
  }
  return { reword, askForAlternative, keepAreas, chooseFile, takeFiles };
}
