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
const isNoteElement = (name: string): name is NoteElement =>
  (noteElements as readonly string[]).includes(name);
const isPlain = ({ children }: Element): boolean =>
  children.every((child) => typeof child === 'string');

/**
 * What begins a further line of an index entry, and what it becomes (DITA 1.3, indexing domain).
 */
const furtherLines = [
  { begins: 'see also ', element: 'index-see-also' },
  { begins: 'see ', element: 'index-see' },
  { begins: 'from ', attribute: 'start' },
  { begins: 'to ', attribute: 'end' },
] as const;

/**
 * What a note says. An index entry says its sub-entries after ` › `, and what else it does in
 * further lines: `see X`, `see also X`, `from NAME` and `to NAME` for the ends of a range.
 * Undefined when it holds more than that.
 */
function wordsOf(note: Element): string | undefined {
  if (note.name !== 'indexterm') return isPlain(note) ? textOf(note) : undefined;
  const levels: string[] = [];
  const lines: string[] = [];
  for (let at: Element | undefined = note; at;) {
    const inner: Element[] = at.children.filter(isElement);
    const next: Element[] = inner.filter(({ name }) => name === 'indexterm');
    const further = inner.map((one) =>
      furtherLines.find((line) => 'element' in line && line.element === one.name && isPlain(one)),
    );
    if (next.length > 1 || further.filter((one) => one === undefined).length > next.length)
      return undefined;
    levels.push(
      textOf({ ...at, children: at.children.filter((child) => typeof child === 'string') }).trim(),
    );
    for (const [index, line] of further.entries())
      if (line) lines.push(`${line.begins}${textOf(inner[index]!)}`);
    for (const line of furtherLines)
      if ('attribute' in line && at.attributes[line.attribute] !== undefined)
        lines.push(`${line.begins}${at.attributes[line.attribute]!}`);
    at = next[0];
  }
  return [levels.filter((level) => level !== '').join(within), ...lines].join('\n');
}

function noteOf(name: NoteElement, words: string, attributes: Element['attributes'] = {}): Element {
  if (name !== 'indexterm') return element(name, attributes, [words]);
  const { start: _start, end: _end, ...kept } = attributes;
  const lines = words.split('\n').map((line) => line.trim());
  const isFurther = (line: string): boolean =>
    furtherLines.some(({ begins }) => line.startsWith(begins));
  // A range ends without saying its entry again.
  const [first = ''] = lines;
  const entry = isFurther(first) && lines.length === 1 && first.startsWith('to ') ? '' : first;
  const further = (entry === '' ? lines : lines.slice(1)).filter(isFurther).map((line) => {
    const kind = furtherLines.find(({ begins }) => line.startsWith(begins))!;
    return { kind, value: line.slice(kind.begins.length).trim() };
  });
  const ends = Object.fromEntries(
    further.flatMap(({ kind, value }) => ('attribute' in kind ? [[kind.attribute, value]] : [])),
  );
  const references = further.flatMap(({ kind, value }) =>
    'element' in kind ? [element(kind.element, {}, [value])] : [],
  );
  const levels = entry.split(/\s*[›>]\s*/u).filter((part) => part !== '');
  // What is said of an entry is said of its innermost part.
  const nested = (own: readonly string[], outer: Element['attributes']): Element =>
    element('indexterm', own.length <= 1 ? { ...outer, ...ends } : outer, [
      ...own.slice(0, 1),
      ...(own.length <= 1 ? references : [nested(own.slice(1), {})]),
    ]);
  return nested(levels, kept);
}

/** The notes that can stand at the caret. */
export function notesAt({ selection: { $from, $to } }: EditorState): NoteElement[] {
  const holder = textElementAt($from);
  return holder === undefined || !$from.sameParent($to)
    ? []
    : noteElements.filter((name) => mayContain(holder, name));
}

/** Puts a note behind the selection. */
export function addNote(state: EditorState, name: NoteElement, words: string): Transaction {
  const { to } = state.selection;
  return state.tr
    .insert(to, editorSchema.nodes[special.rawInline]!.create({ node: noteOf(name, words) }))
    .scrollIntoView();
}

/**
 * The note at a position with its words; undefined when there is none, or one that holds more than
 * words.
 */
export function noteAt(
  state: EditorState,
  position: number,
): { element: NoteElement; words: string } | undefined {
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
