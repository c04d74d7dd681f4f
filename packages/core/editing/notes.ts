import { NodeSelection, type EditorState, type Transaction } from 'prosemirror-state';
import { mayContain } from '../grammar/index.ts';
import { element, isElement, textOf, type Element, type Node as XmlNode } from '../markup/index.ts';
import { textElementAt } from './fitting.ts';
import { special } from './names.ts';
import { editorSchema } from './schema.ts';

/** Elements that stand in a line and say something beside it. */
const noteElements = ['fn', 'indexterm', 'draft-comment'] as const;
export type NoteElement = (typeof noteElements)[number];

const within = ' › ';
const isNoteElement = (name: string): name is NoteElement => (noteElements as readonly string[]).includes(name);
const isPlain = ({ children }: Element): boolean => children.every((child) => typeof child === 'string');

/** What a note says, sub-entries of an index entry after ` › `; undefined when it holds more than words. */
function wordsOf(note: Element): string | undefined {
  if (note.name !== 'indexterm') return isPlain(note) ? textOf(note) : undefined;
  const inner = note.children.filter(isElement);
  if (inner.length === 0) return textOf(note);
  const [only] = inner;
  const below = inner.length === 1 && only!.name === 'indexterm' ? wordsOf(only!) : undefined;
  return below === undefined ? undefined : [textOf({ ...note, children: note.children.filter((child) => typeof child === 'string') }).trim(), below].join(within);
}

function noteOf(name: NoteElement, words: string, attributes: Element['attributes'] = {}): Element {
  if (name !== 'indexterm') return element(name, attributes, [words]);
  const [own = '', ...below] = words.split(/\s*[›>]\s*/u).filter((part) => part !== '');
  return element(name, attributes, [own, ...(below.length > 0 ? [noteOf('indexterm', below.join(within))] : [])]);
}

/** The notes that can stand at the caret. */
export function notesAt({ selection: { $from, $to } }: EditorState): NoteElement[] {
  const holder = textElementAt($from);
  return holder === undefined || !$from.sameParent($to) ? [] : noteElements.filter((name) => mayContain(holder, name));
}

/** Puts a note behind the selection. */
export function addNote(state: EditorState, name: NoteElement, words: string): Transaction {
  const { to } = state.selection;
  return state.tr.insert(to, editorSchema.nodes[special.rawInline]!.create({ node: noteOf(name, words) })).scrollIntoView();
}

/** The note at a position with its words; undefined when there is none, or one that holds more than words. */
export function noteAt(state: EditorState, position: number): { element: NoteElement; words: string } | undefined {
  const node = state.doc.nodeAt(position);
  const held = node?.type.name === special.rawInline ? (node.attrs['node'] as XmlNode) : undefined;
  if (!isElement(held) || !isNoteElement(held.name)) return undefined;
  const words = wordsOf(held);
  return words === undefined ? undefined : { element: held.name, words };
}

export function rewordNote(state: EditorState, position: number, words: string): Transaction {
  const held = state.doc.nodeAt(position)!.attrs['node'] as Element;
  const { tr } = state;
  tr.setNodeAttribute(position, 'node', noteOf(held.name as NoteElement, words, held.attributes));
  return tr.setSelection(NodeSelection.create(tr.doc, position));
}
