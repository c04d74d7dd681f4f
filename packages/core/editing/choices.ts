import type { MarkType, Node as EditorNode } from 'prosemirror-model';
import { NodeSelection, Selection, type EditorState, type Transaction } from 'prosemirror-state';
import { findWrapping } from 'prosemirror-transform';
import { definitionOf, labelOf, mayContain } from '../grammar/index.ts';
import type { Attributes } from '../markup/index.ts';
import { permits, placeholderTarget, type HouseRule } from '../rules/index.ts';
import { tableChanges, type TableChange } from '../tables/index.ts';
import { blockTypes, canBeNamed, fittingTypes, inOrder, textElementAt } from './fitting.ts';
import { addImage, blockOfImage, canAddImage } from './images.ts';
import { canLink, linkAttributes, linkTo } from './linking.ts';
import { childrenOf } from './items.ts';
import { special } from './names.ts';
import { editorSchema } from './schema.ts';
import { addNote, notesAt } from './notes.ts';
import { newBlock, newTable, type TableShape } from './starters.ts';
import { changeTableAt } from './table-editing.ts';

/** What a question that a choice asks is answered with: an address, words, or how a table is to be. */
export type Answer = string | TableShape;
export const wordsOfAnswer = (answer: Answer | undefined): string => (typeof answer === 'string' ? answer : '');

/** Something that can be done at a place with an element, without making anything invalid. */
export interface Choice {
  /** Put a new one there; change the table; name words of the line; put one around; make something into one. */
  readonly kind: 'insert' | 'table' | 'phrase' | 'wrap' | 'turn';
  readonly element: string;
  readonly label: string;
  readonly help: string;
  /** Where it goes, around what, or instead of what. */
  readonly place: string;
  /** The depth of the element that it goes into. */
  readonly within: number;
  /** What has to be chosen or said before: the target of a link, the words of a note, an image of the library. */
  readonly asks?: 'target' | 'words' | 'image' | 'table' | 'character';
  /** The change, made for the state that the choice was offered for, with the answer to what it asks. */
  readonly apply: (state: EditorState, answer?: Answer) => Transaction;
}

const elementOf = (node: EditorNode): string => node.type.spec.element ?? 'topic';
const nameOf = (node: EditorNode): string => (node.type.name === special.line ? 'line' : labelOf(elementOf(node)));

/** Each once, at the nearest place; an image that can stand by itself is offered so. */
const withoutDoubles = (choices: readonly Choice[]): Choice[] => choices.filter(({ element }, index) => choices.findIndex((one) => one.element === element) === index);

function describe(kind: Choice['kind'], element: string, place: string, within: number, apply: Choice['apply']): Choice {
  return { kind, element, label: labelOf(element), help: definitionOf(element)?.help ?? '', place, within, apply };
}

/**
 * Everything that can be done at the selection, by kind, nearest first.
 * @param rules of the team: what one of them forbids is not offered
 * @param isTemplate whether the topic is one that others begin as: then guidance can be written
 */
export function choicesAt(state: EditorState, rules: readonly HouseRule[] = [], isTemplate = false): Choice[] {
  const { $from } = state.selection;
  const around = Array.from({ length: $from.depth + 1 }, (_, depth) => $from.node(depth));
  const isOffered = ({ kind, element, within }: Choice): boolean => {
    if (kind === 'table') return true;
    const siblings = kind === 'insert' ? childrenOf(around[within]!).map(elementOf) : [];
    return permits(rules, element, around.slice(1, within + 1).map(elementOf), siblings);
  };
  return [
    ...withoutDoubles([...insertChoices(state), ...imageChoices(state)].filter(isOffered)),
    ...(isTemplate ? guidanceChoices(state) : []),
    ...languageChoices(state),
    ...[...characterChoices(state), ...noteChoices(state), ...tableChoices(state), ...linkChoices(state), ...phraseChoices(state), ...wrapChoices(state), ...turnChoices(state)].filter(isOffered),
  ];
}

/** The elements that can be put after the block at the caret, nearest first. An empty line that may go is replaced. */
function insertChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  const choices: Choice[] = [];
  const isEmptyLine = $from.parent.isTextblock && $from.parent.content.size === 0;
  for (let depth = $from.depth - 1; depth >= 0; depth -= 1) {
    const parent = $from.node(depth);
    const index = $from.indexAfter(depth);
    const replaces = isEmptyLine && depth === $from.depth - 1;
    for (const type of fittingTypes(parent, index)) {
      const element = type.spec.element ?? '';
      const instead = replaces && parent.canReplaceWith(index - 1, index, type);
      const asksForImage = element === 'image' || element === 'fig' || element === 'imagemap';
      const choice = describe('insert', element, `into ${nameOf(parent)}`, depth, ({ tr }, answer) => {
        const start = $from.before(depth + 1);
        const end = $from.after(depth + 1);
        const at = instead ? start : end;
        const made =
          typeof answer === 'object' && (element === 'table' || element === 'simpletable')
            ? newTable({ ...answer, kind: element })
            : asksForImage && answer !== undefined
              ? blockOfImage(element, wordsOfAnswer(answer))
              : newBlock(type)!;
        tr.replaceRangeWith(at, end, made);
        const inside = typeof answer === 'object' ? firstCellIn(made) : 0;
        return tr.setSelection(made.isAtom ? NodeSelection.create(tr.doc, at) : Selection.near(tr.doc.resolve(at + 1 + inside), 1)).scrollIntoView();
      });
      choices.push(asksForImage ? { ...choice, asks: 'image' } : element === 'table' || element === 'simpletable' ? { ...choice, asks: 'table' } : choice);
    }
  }
  return choices;
}

/** Where the first cell begins inside a table: its title was asked for, so one goes on there. */
function firstCellIn(table: EditorNode): number {
  let found = 0;
  table.descendants((node, position) => {
    if (found === 0 && isCell(node)) found = position + 1;
    return found === 0;
  });
  return found;
}
const isCell = (node: EditorNode): boolean => ['entry', 'stentry'].includes(elementOf(node));

function linkChoices(state: EditorState): Choice[] {
  if (!canLink(state)) return [];
  const place = state.selection.empty ? 'with the words of its target' : 'from the selected words';
  return [{ ...describe('phrase', 'xref', place, state.selection.$from.depth, (at, answer) => linkTo(at, linkAttributes(wordsOfAnswer(answer)) ?? {})), asks: 'target' }];
}

const imageChoices = (state: EditorState): Choice[] =>
  canAddImage(state) ? [{ ...describe('insert', 'image', 'in the line', state.selection.$from.depth, (at, answer) => addImage(at, wordsOfAnswer(answer))), asks: 'image' }] : [];

/** Languages of program text that are offered by name; any other can be written as the style of the code block. */
const languages: Readonly<Record<string, string>> = {
  bash: 'Shell',
  c: 'C',
  cpp: 'C++',
  csharp: 'C#',
  css: 'CSS',
  go: 'Go',
  ini: 'INI',
  java: 'Java',
  javascript: 'JavaScript',
  json: 'JSON',
  plaintext: 'none',
  python: 'Python',
  sql: 'SQL',
  typescript: 'TypeScript',
  xml: 'XML, HTML',
  yaml: 'YAML',
};

/** In a code block: the language it is in, as HTML names it (HTML, 4.5.15). */
function languageChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  if ($from.parent.type.spec.code !== true) return [];
  const { outputclass = '', ...others } = $from.parent.attrs['attributes'] as Attributes;
  const styles = outputclass.split(/\s+/u).filter((style) => style !== '' && !style.startsWith('language-'));
  return Object.entries(languages).map(([name, label]) => ({
    kind: 'turn',
    element: `language-${name}`,
    label: `Language: ${label}`,
    help: 'Sets its words apart by colour, here and in help sites.',
    place: `of ${nameOf($from.parent)}`,
    within: $from.depth,
    apply: ({ tr }) => tr.setNodeAttribute($from.before(), 'attributes', { ...others, outputclass: [...styles, `language-${name}`].join(' ') }),
  }));
}

/** In a template: words that stand in an empty place until something is typed. */
function guidanceChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock || $from.parent.type.spec.attrs?.['guidance'] === undefined) return [];
  const apply = (at: EditorState, answer?: Answer): Transaction => {
    const { $from: $at } = at.selection;
    const tr = at.tr.delete($at.start(), $at.end()).setNodeAttribute($at.before(), 'guidance', wordsOfAnswer(answer).replaceAll('?>', '') || null);
    return tr.setSelection(Selection.near(tr.doc.resolve($at.start())));
  };
  return [
    {
      kind: 'insert',
      element: 'guidance',
      label: 'Guidance',
      help: 'Words that stand here until something is typed; never published.',
      place: `instead of the words of ${nameOf($from.parent)}`,
      within: $from.depth,
      asks: 'words',
      apply,
    },
  ];
}

/** Characters that no key has, where there is text, and words that stand for what is still to be written. */
function characterChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  if (!$from.parent.isTextblock) return [];
  const within = $from.depth;
  const mark = { kind: 'insert' as const, place: 'in the line', within };
  const placeholder = (words: string): EditorNode => editorSchema.nodes[special.rawInline]!.create({ node: { target: placeholderTarget, body: words.replaceAll('?>', '') } });
  return [
    {
      ...mark,
      element: 'character',
      label: 'Special character',
      help: 'Found by its name or category: dash, degree, arrow …',
      asks: 'character',
      apply: (at, answer) => at.tr.insertText(wordsOfAnswer(answer)).scrollIntoView(),
    },
    ...(textElementAt($from) === undefined || $from.parent.type.spec.code
      ? []
      : [
          {
            ...mark,
            element: 'placeholder',
            label: 'Placeholder',
            help: 'Stands for words still to be written; typing over it replaces it.',
            asks: 'words' as const,
            apply: (at: EditorState, answer?: Answer) => at.tr.replaceSelectionWith(placeholder(wordsOfAnswer(answer)), false).scrollIntoView(),
          },
        ]),
  ];
}

const noteChoices = (state: EditorState): Choice[] =>
  notesAt(state).map((name) => ({ ...describe('insert', name, 'in the line', state.selection.$from.depth, (at, answer) => addNote(at, name, wordsOfAnswer(answer))), asks: 'words' }));

/** Names for the selected words, or for the words that are typed next. */
function phraseChoices(state: EditorState): Choice[] {
  const { $from, empty, from, to } = state.selection;
  const element = textElementAt($from);
  if (element === undefined) return [];
  const fitting = phrasesIn(element).filter((type) => canBeNamed(state, type.spec.element!));
  return fitting.map((type) =>
    describe('phrase', type.spec.element!, empty ? 'for what is typed next' : 'for the selected words', $from.depth, ({ tr }) => {
      const mark = type.create();
      return empty ? tr.addStoredMark(mark) : tr.addMark(from, to, mark);
    }),
  );
}

const targeted = new Set(['xref', 'abbreviated-form', 'text', 'boolean', 'state']);

function phrasesIn(element: string): MarkType[] {
  return Object.values(editorSchema.marks)
    .filter((type) => type.spec.element !== undefined && !targeted.has(type.spec.element) && mayContain(element, type.spec.element))
    .sort(inOrder);
}

const tableWords: Readonly<Record<TableChange, readonly [label: string, help: string]>> = {
  'row-below': ['Row below', 'A new row after this one.'],
  'row-above': ['Row above', 'A new row before this one.'],
  'column-after': ['Column after', 'A new column after this one.'],
  'column-before': ['Column before', 'A new column before this one.'],
  'merge-across': ['Join with the next cell', 'One cell over both columns; the text of both stays.'],
  'merge-down': ['Join with the cell below', 'One cell over both rows; the text of both stays.'],
  'merge-left': ['Join with the cell before', 'One cell over both columns; the text of both stays.'],
  'merge-up': ['Join with the cell above', 'One cell over both rows; the text of both stays.'],
  split: ['Split the cell', 'One cell again for each row and column it reaches over; the text stays in the first.'],
  'split-last': ['Split the cell, text in the last', 'The same, with the text in the last of the cells.'],
  'row-up': ['Move the row up', 'Before the one above it.'],
  'row-down': ['Move the row down', 'After the one below it.'],
  'row-to-head': ['Make the row a head', 'It is repeated on every page that the table reaches.'],
  'row-to-body': ['Make the head a row', 'The last row of the head becomes one of the body.'],
  'column-left': ['Move the column left', 'Before the one at its left, in head and body.'],
  'column-right': ['Move the column right', 'After the one at its right, in head and body.'],
  'column-wider': ['Wider column', 'At the cost of the others.'],
  'column-narrower': ['Narrower column', 'To the gain of the others.'],
  'sort-up': ['Sort by this column', 'The rows of the body, A to Z, small numbers first.'],
  'sort-down': ['Sort by this column, backward', 'The rows of the body, Z to A, large numbers first.'],
  'row-remove': ['Remove the row', 'Cells that come down from above become shorter.'],
  'column-remove': ['Remove the column', 'Cells that reach over it become narrower.'],
};

/** What can be done to the table around the caret. */
function tableChoices(state: EditorState): Choice[] {
  return tableChanges.flatMap((change) => {
    const changed = changeTableAt(state, change);
    const [label, help] = tableWords[change];
    return changed ? [{ kind: 'table', element: change, label, help, place: 'in the table', within: state.selection.$from.depth, apply: () => changed }] : [];
  });
}

/** The elements that can be put around the selected blocks. */
function wrapChoices(state: EditorState): Choice[] {
  const { $from, $to } = state.selection;
  const range = $from.blockRange($to);
  if (!range) return [];
  const count = range.endIndex - range.startIndex;
  const place = count === 1 ? `around ${nameOf(range.parent.child(range.startIndex))}` : `around ${count} elements`;
  return blockTypes.flatMap((type) => {
    const wrapping = findWrapping(range, type);
    // One that would need something else around it as well is not what was asked for.
    if (wrapping?.[0]?.type !== type || wrapping.length > 2) return [];
    const filled = state.tr.wrap(range, wrapping);
    return isWhole(filled.doc) ? [describe('wrap', type.spec.element!, place, range.depth, ({ tr }) => tr.wrap(range, wrapping).scrollIntoView())] : [];
  });
}

/** What the open elements can be made into with their content kept, innermost first. */
function turnChoices(state: EditorState): Choice[] {
  const { $from } = state.selection;
  const choices: Choice[] = [];
  const seen = new Set<string>();
  for (let depth = $from.depth; depth > 1; depth -= 1) {
    const node = $from.node(depth);
    const parent = $from.node(depth - 1);
    const index = $from.index(depth - 1);
    if (node.type.name === special.rawBlock || node.type.name === special.line) continue;
    for (const type of blockTypes) {
      const element = type.spec.element ?? '';
      if (type === node.type || seen.has(element) || element === node.type.spec.element) continue;
      if (type.isTextblock !== node.isTextblock || !parent.canReplaceWith(index, index + 1, type) || !type.validContent(node.content)) continue;
      seen.add(element);
      const position = $from.before(depth);
      choices.push(
        describe('turn', element, `instead of ${nameOf(node)}`, depth - 1, ({ tr }) => tr.setNodeMarkup(position, type, { attributes: node.attrs['attributes'] as unknown }).scrollIntoView()),
      );
    }
  }
  return choices;
}

function isWhole(document: EditorNode): boolean {
  try {
    document.check();
    return true;
  } catch {
    return false;
  }
}
