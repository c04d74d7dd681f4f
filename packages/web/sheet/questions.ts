import type { Answer, Choice, TableShape, Varying } from '@ukiyo/core/editing';
import type { Element } from '@ukiyo/core/markup';
import type { EditorState, Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { shallowRef, type ShallowRef } from 'vue';
import { placeAtCaret, type PopPlace } from '../editor/popList.ts';

/** Makes the change that an answer stands for. */
export type Answered = (state: EditorState, answer: Answer) => Transaction;

/** The page at whose caret something is asked. */
export interface AskingPage {
  readonly view: ShallowRef<EditorView | undefined>;
  readonly choices: () => Choice[];
  readonly apply: (change: (state: EditorState) => Transaction) => void;
  /** Takes a file into the library; gives its reference. */
  readonly upload: (file: File) => Promise<string | undefined>;
  readonly borrowCopied: () => void;
  readonly makeLocal: () => void;
}

/** What is asked, without the place at which it is shown. */
type Asking =
  | { readonly asks: 'choice'; readonly choices: readonly Choice[] }
  | { readonly asks: 'table'; readonly kind: TableShape['kind']; readonly apply: Answered }
  | {
      readonly asks: 'spelling';
      readonly word: string;
      readonly suggestions: readonly string[];
      readonly apply: Answered;
    }
  | { readonly asks: 'areas'; readonly imagemap: Element; readonly position: number }
  | { readonly asks: 'image'; readonly apply: Answered }
  | { readonly asks: 'target' | 'character' | 'variable'; readonly apply: Answered }
  | { readonly asks: 'passage' }
  | { readonly asks: 'lender'; readonly label: string }
  | {
      readonly asks: 'facets';
      readonly varying: Varying;
      readonly outward: number;
      readonly wider: string | undefined;
    }
  | { readonly asks: 'media'; readonly before?: Element; readonly apply: Answered }
  | {
      readonly asks: 'words';
      readonly element: string;
      readonly words: string;
      readonly apply: Answered;
    };

/** Something that waits for an answer at the caret. */
export type PageQuestion = Asking & { readonly place: PopPlace };

/** The one question that a page asks at a time. */
export function useQuestions(view: ShallowRef<EditorView | undefined>) {
  const question = shallowRef<PageQuestion>();
  /** @param at where it is shown; at the caret without it */
  function ask(asking: Asking, at?: PopPlace): void {
    if (view.value?.editable) question.value = { ...asking, place: at ?? placeAtCaret(view.value) };
  }
  /** Takes the question away and gives it back, if it is this one. */
  function take<K extends PageQuestion['asks']>(
    asks: K,
  ): Extract<PageQuestion, { readonly asks: K }> | undefined {
    const asked = question.value;
    if (asked?.asks !== asks) return undefined;
    question.value = undefined;
    return asked as Extract<PageQuestion, { readonly asks: K }>;
  }
  /** A question that has given way to the next one closes nothing any more. */
  function close(asks: PageQuestion['asks']): void {
    if (take(asks)) view.value?.focus();
  }
  return { question, ask, take, close };
}
export type Questions = ReturnType<typeof useQuestions>;
