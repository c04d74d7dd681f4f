import type { Node as EditorNode } from 'prosemirror-model';
import { element, type Node } from '../markup/index.ts';
import { blockToElement } from './from-editor.ts';
import { blockFrom } from './to-editor.ts';

/** Words of a line with their markup, as a document of their own: for fields that hold a phrase. */
export const phraseDocument = (nodes: readonly Node[]): EditorNode =>
  blockFrom(element('title', {}, nodes));
export const phraseOf = (document: EditorNode): readonly Node[] =>
  blockToElement(document).children;
