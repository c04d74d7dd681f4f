import type { Node as EditorNode } from 'prosemirror-model';
import type { EditorState, Transaction } from 'prosemirror-state';
import { definitionOf, labelOf } from '../grammar/index.ts';
import type { Element } from '../markup/index.ts';
import { special } from './names.ts';
import type { TableShape } from './starters.ts';

/**
 * What a question that a choice asks is answered with: an address, words, how a table is to be, or
 * an element.
 */
export type Answer = string | TableShape | Element;
export const wordsOfAnswer = (answer: Answer | undefined): string =>
  typeof answer === 'string' ? answer : '';

/** The element that answers; undefined for other answers. */
export const elementOfAnswer = (answer: Answer | undefined): Element | undefined =>
  typeof answer === 'object' && 'name' in answer ? answer : undefined;

/** Something that can be done at a place with an element, without making anything invalid. */
export interface Choice {
  /**
   * Put a new one there; change the table; name words of the line; borrow or lend; put one around;
   * make something into one.
   */
  readonly kind: 'insert' | 'table' | 'phrase' | 'share' | 'wrap' | 'turn';
  readonly element: string;
  readonly label: string;
  readonly help: string;
  /** Where it goes, around what, or instead of what. */
  readonly place: string;
  /** The depth of the element that it goes into. */
  readonly within: number;
  /**
   * What has to be chosen or said before: the target of a link, a variable, the words of a note, an
   * image of the library, what is played, facet values; what is borrowed, or who lends.
   */
  readonly asks?:
    | 'target'
    | 'words'
    | 'image'
    | 'variable'
    | 'table'
    | 'character'
    | 'media'
    | 'facets'
    | 'passage'
    | 'copied'
    | 'lender'
    | 'copy';
  /**
   * The change, made for the state that the choice was offered for, with the answer to what it
   * asks.
   */
  readonly apply: (state: EditorState, answer?: Answer) => Transaction;
}

export const elementOf = (node: EditorNode): string => node.type.spec.element ?? 'topic';
export const labelOfNode = (node: EditorNode): string =>
  node.type.name === special.line ? 'line' : labelOf(elementOf(node));

/** A choice that is called as its element is. */
export const choiceOf = (
  choice: Pick<Choice, 'kind' | 'element' | 'place' | 'within'>,
  apply: Choice['apply'],
): Choice => ({
  ...choice,
  label: labelOf(choice.element),
  help: definitionOf(choice.element)?.help ?? '',
  apply,
});
