import {
  alternativeAt,
  answeredVariable,
  addImage,
  canAddImage,
  elementOfAnswer,
  imageFrom,
  imageMapAt,
  linkAttributes,
  linkTo,
  mediaAt,
  noteAt,
  pasteBlocks,
  rewordNote,
  shareableAt,
  toggleValue,
  varyingsAt,
  withAlternative,
  withImageMap,
  withMedia,
  wordsOfAnswer,
  type Answer,
  type Choice,
  type TableShape,
  type Varying,
} from '@ukiyo/core/editing';
import { element, type Element } from '@ukiyo/core/markup';
import { useFileDialog } from '@vueuse/core';
import type { EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { shallowRef, type ShallowRef } from 'vue';
import { misspeltAt } from '../editor/spelling.ts';
import { placeAtCaret, type PopPlace } from '../editor/popList.ts';

/** Something that waits for an answer at the caret. */
type Question =
  | { readonly asks: 'choice'; readonly place: PopPlace; readonly choices: readonly Choice[] }
  | {
      readonly asks: 'table';
      readonly place: PopPlace;
      readonly kind: TableShape['kind'];
      readonly apply: Answered;
    }
  | {
      readonly asks: 'spelling';
      readonly place: PopPlace;
      readonly word: string;
      readonly suggestions: readonly string[];
      readonly apply: Answered;
    }
  | {
      readonly asks: 'areas';
      readonly place: PopPlace;
      readonly imagemap: Element;
      readonly position: number;
    }
  | {
      readonly asks: 'target' | 'image' | 'character' | 'variable';
      readonly place: PopPlace;
      readonly apply: Answered;
    }
  | { readonly asks: 'passage'; readonly place: PopPlace }
  | { readonly asks: 'lender'; readonly place: PopPlace; readonly label: string }
  | {
      readonly asks: 'facets';
      readonly place: PopPlace;
      readonly varying: Varying;
      readonly outward: number;
      readonly wider: string | undefined;
    }
  | {
      readonly asks: 'media';
      readonly place: PopPlace;
      readonly before?: Element;
      readonly apply: Answered;
    }
  | {
      readonly asks: 'words';
      readonly place: PopPlace;
      readonly element: string;
      readonly words: string;
      readonly apply: Answered;
    };
type Answered = (state: EditorState, answer: Answer) => Transaction;

interface Asked {
  readonly view: ShallowRef<EditorView | undefined>;
  readonly choices: () => Choice[];
  readonly apply: (change: (state: EditorState) => Transaction) => void;
  /** Takes a file into the library; gives its reference. */
  readonly upload: (file: File) => Promise<string | undefined>;
  readonly borrowCopied: () => void;
  readonly makeLocal: () => void;
}

/**
 * What the page asks at the caret, one thing at a time: what can go here, where a link leads, which
 * image, which words.
 */
export function useInsertDialogs({ view, choices, apply, upload, borrowCopied, makeLocal }: Asked) {
  const question = shallowRef<Question>();
  const dialog = useFileDialog({ accept: 'image/*', multiple: false, reset: true });
  let waitingForFile: Answered | undefined;

  function ask(make: (place: PopPlace, state: EditorState) => Question): void {
    if (view.value?.editable) question.value = make(placeAtCaret(view.value), view.value.state);
  }
  /** A question that has given way to the next one closes nothing any more. */
  function close(asks: Question['asks']): void {
    if (question.value?.asks !== asks) return;
    question.value = undefined;
    view.value?.focus();
  }
  function answer(given: Answer): void {
    const asked = question.value;
    question.value = undefined;
    if (!asked || !('apply' in asked)) return;
    apply((state) => asked.apply(state, given));
    if (asked.asks === 'image') askForAlternative();
  }

  const openPalette = (): void => ask((place) => ({ asks: 'choice', place, choices: choices() }));
  function choose(choice: Choice): void {
    const { asks, element } = choice;
    question.value = undefined;
    if (asks === 'words')
      // Words that are marked for the index are its entry.
      ask((place, { doc, selection: { from, to } }) => ({
        asks,
        place,
        element,
        words: element === 'indexterm' ? doc.textBetween(from, to) : '',
        apply: choice.apply,
      }));
    else if (asks === 'table')
      ask((place) => ({
        asks,
        place,
        kind: element === 'table' ? element : 'simpletable',
        apply: choice.apply,
      }));
    else if (asks === 'facets') askFacets();
    else if (asks === 'passage') ask((place) => ({ asks, place }));
    else if (asks === 'lender')
      ask((place, state) => ({ asks, place, label: shareableAt(state)?.label ?? '' }));
    else if (asks === 'copied') borrowCopied();
    else if (asks === 'copy') makeLocal();
    else if (asks) ask((place) => ({ asks, place, apply: choice.apply }));
    else apply((state) => choice.apply(state));
  }
  /** @param from where begins what was typed to ask for the link */
  const askForTarget = (from: number): void =>
    ask((place) => ({
      asks: 'target',
      place,
      apply: (state, reference) =>
        linkTo(state, linkAttributes(wordsOfAnswer(reference)) ?? {}, from),
    }));

  const askForVariable = (from: number): void =>
    ask((place) => ({
      asks: 'variable',
      place,
      apply: (state, chosen) => answeredVariable(state, wordsOfAnswer(chosen), from),
    }));

  /** @param outward how far around the caret is asked for */
  function askFacets(outward = 0): void {
    const varyings = view.value ? varyingsAt(view.value.state) : [];
    const varying = varyings[outward];
    if (varying)
      ask((place) => ({
        asks: 'facets',
        place: question.value?.asks === 'facets' ? question.value.place : place,
        varying,
        outward,
        wider: varyings[(outward + 1) % varyings.length]?.label,
      }));
  }
  function widenFacets(): void {
    const asked = question.value;
    if (asked?.asks === 'facets' && view.value)
      askFacets((asked.outward + 1) % varyingsAt(view.value.state).length);
  }
  /** Sets one value, or takes it away; more can follow. */
  function toggleFacet(facet: string, value: string): void {
    const editor = view.value;
    const asked = question.value;
    if (!editor || asked?.asks !== 'facets') return;
    const varying = varyingsAt(editor.state)[asked.outward];
    if (!varying) return;
    editor.dispatch(toggleValue(editor.state, varying, facet, value));
    askFacets(asked.outward);
  }

  /** What the misspelt word at the caret could be; false where there is none. */
  function askSpelling(suggest: (word: string) => Promise<string[]>): boolean {
    const found = view.value && misspeltAt(view.value.state);
    if (!found) return false;
    const apply: Answered = (state, answer) => {
      const now = misspeltAt(state);
      return now?.word === found.word
        ? state.tr.insertText(wordsOfAnswer(answer), now.from, now.to)
        : state.tr;
    };
    void suggest(found.word).then((suggestions) =>
      ask((place) => ({ asks: 'spelling', place, word: found.word, suggestions, apply })),
    );
    return true;
  }

  /** Keeps what was drawn, if the image map is still where it was. */
  function keepAreas(imagemap: Element): void {
    const asked = question.value;
    question.value = undefined;
    if (asked?.asks !== 'areas') return;
    apply((state) =>
      imageMapAt(state, Math.min(asked.position + 1, state.doc.content.size))
        ? withImageMap(state, asked.position, imagemap)
        : state.tr,
    );
  }

  /** The words of a note, or what is said of an image, at a position. */
  function reword(position: number): void {
    ask((place, state) => {
      const map = imageMapAt(state, position);
      if (map && alternativeAt(state, position))
        return { asks: 'areas', place, imagemap: map.element, position: map.position };
      const media = mediaAt(state, position);
      if (media)
        return {
          asks: 'media',
          place,
          before: media,
          apply: (at, object) => withMedia(at, position, elementOfAnswer(object) ?? media),
        };
      const note = noteAt(state, position);
      if (note)
        return {
          asks: 'words',
          place,
          ...note,
          apply: (at, words) => rewordNote(at, position, wordsOfAnswer(words)),
        };
      return {
        asks: 'words',
        place,
        element: 'alt',
        words: alternativeAt(state, position) ?? '',
        apply: (at, words) => withAlternative(at, position, wordsOfAnswer(words)),
      };
    });
  }
  function askForAlternative(): void {
    const { doc, selection } = view.value!.state;
    const block =
      selection.$from.depth > 0
        ? selection.$from.before(Math.max(1, selection.$from.depth - 1))
        : 0;
    const position =
      imageFrom(doc, selection.from, selection.to) ??
      imageFrom(doc, block, Math.min(doc.content.size, block + (doc.nodeAt(block)?.nodeSize ?? 0)));
    if (position !== undefined) reword(position);
  }

  async function takeFile(file: File, insert: Answered): Promise<void> {
    const reference = await upload(file);
    if (reference === undefined) return;
    apply((state) => insert(state, reference));
    askForAlternative();
  }
  function chooseFile(): void {
    const asked = question.value;
    question.value = undefined;
    if (asked?.asks !== 'image') return;
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
      await takeFile(file, (state, href) =>
        canAddImage(state)
          ? addImage(state, wordsOfAnswer(href))
          : pasteBlocks(state, [
              element('image', { href: wordsOfAnswer(href), placement: 'break' }),
            ]).transaction,
      );
  }
  return {
    question,
    openPalette,
    choose,
    answer,
    close,
    askForTarget,
    askForVariable,
    reword,
    chooseFile,
    takeFiles,
    keepAreas,
    askSpelling,
    askFacets,
    widenFacets,
    toggleFacet,
  };
}
