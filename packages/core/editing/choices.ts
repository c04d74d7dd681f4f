import type { Node as EditorNode } from 'prosemirror-model';
import { NodeSelection, Selection, type EditorState } from 'prosemirror-state';
import { findWrapping } from 'prosemirror-transform';
import { permits, type HouseRule } from '../rules/index.ts';
import { borrowingChoices } from './borrowing.ts';
import {
  choiceOf,
  elementOf,
  elementOfAnswer,
  labelOfNode,
  wordsOfAnswer,
  type Choice,
} from './choice.ts';
import { expandableChoices } from './expanding.ts';
import { blockTypes, fittingTypes } from './fitting.ts';
import { blockOfImage } from './images.ts';
import { childrenOf } from './items.ts';
import { variableChoices } from './keyed.ts';
import {
  characterChoices,
  guidanceChoices,
  imageChoices,
  languageChoices,
  linkChoices,
  linkFormChoices,
  noteChoices,
  phraseChoices,
} from './line-choices.ts';
import { addMedia, placeForMedia } from './media.ts';
import { special } from './names.ts';
import { newBlock, newTable } from './starters.ts';
import { tableChoices } from './table-choices.ts';
import { varyingChoices } from './varying.ts';

/** Each once, at the nearest place; an image that can stand by itself is offered so. */
const distinctChoices = (choices: readonly Choice[]): Choice[] =>
  choices.filter(
    ({ element }, index) => choices.findIndex((one) => one.element === element) === index,
  );

/**
 * Everything that can be done at the selection, by kind, nearest first.
 * @param rules of the team: what one of them forbids is not offered
 * @param isTemplate whether the topic is one that others begin as: then guidance can be written
 * @param hasCopied whether something was copied that can be borrowed
 */
export function choicesAt(
  state: EditorState,
  rules: readonly HouseRule[] = [],
  isTemplate = false,
  hasCopied = false,
): Choice[] {
  const { $from } = state.selection;
  const ancestors = Array.from({ length: $from.depth + 1 }, (_, depth) => $from.node(depth));
  const isOffered = ({ kind, element, within }: Choice): boolean => {
    if (kind === 'table') return true;
    const siblings = kind === 'insert' ? childrenOf(ancestors[within]!).map(elementOf) : [];
    return permits(rules, element, ancestors.slice(1, within + 1).map(elementOf), siblings);
  };
  return [
    ...distinctChoices(
      [...insertChoices(state), ...imageChoices(state), ...mediaChoices(state)].filter(isOffered),
    ),
    ...(isTemplate ? guidanceChoices(state) : []),
    ...languageChoices(state),
    ...linkFormChoices(state),
    ...expandableChoices(state),
    ...varyingChoices(state),
    ...borrowingChoices(state, hasCopied),
    ...variableChoices(state),
    ...[
      ...characterChoices(state),
      ...noteChoices(state),
      ...tableChoices(state),
      ...linkChoices(state),
      ...phraseChoices(state),
      ...wrapChoices(state),
      ...turnChoices(state),
    ].filter(isOffered),
  ];
}

/**
 * The elements that can be put after the block at the caret, nearest first. An empty line that may
 * go is replaced.
 */
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
      const choice = choiceOf(
        { kind: 'insert', element, place: `into ${labelOfNode(parent)}`, within: depth },
        ({ tr }, answer) => {
          const start = $from.before(depth + 1);
          const end = $from.after(depth + 1);
          const at = instead ? start : end;
          const made =
            typeof answer === 'object' &&
            'rows' in answer &&
            (element === 'table' || element === 'simpletable')
              ? newTable({ ...answer, kind: element })
              : asksForImage && answer !== undefined
                ? blockOfImage(element, wordsOfAnswer(answer))
                : newBlock(type)!;
          tr.replaceRangeWith(at, end, made);
          const inside = typeof answer === 'object' ? firstCellIn(made) : 0;
          return tr
            .setSelection(
              made.isAtom
                ? NodeSelection.create(tr.doc, at)
                : Selection.near(tr.doc.resolve(at + 1 + inside), 1),
            )
            .scrollIntoView();
        },
      );
      choices.push(
        asksForImage
          ? { ...choice, asks: 'image' }
          : element === 'table' || element === 'simpletable'
            ? { ...choice, asks: 'table' }
            : choice,
      );
    }
  }
  return choices;
}

const mediaChoices = (state: EditorState): Choice[] =>
  placeForMedia(state) === undefined
    ? []
    : [
        {
          ...choiceOf(
            {
              kind: 'insert',
              element: 'object',
              place: 'by itself',
              within: state.selection.$from.depth,
            },
            (at, answer) => addMedia(at, elementOfAnswer(answer)),
          ),
          asks: 'media',
        },
      ];

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

/** The elements that can be put around the selected blocks. */
function wrapChoices(state: EditorState): Choice[] {
  const { $from, $to } = state.selection;
  const range = $from.blockRange($to);
  if (!range) return [];
  const count = range.endIndex - range.startIndex;
  const place =
    count === 1
      ? `around ${labelOfNode(range.parent.child(range.startIndex))}`
      : `around ${count} elements`;
  return blockTypes.flatMap((type) => {
    const wrapping = findWrapping(range, type);
    // One that would need something else around it as well is not what was asked for.
    if (wrapping?.[0]?.type !== type || wrapping.length > 2) return [];
    const filled = state.tr.wrap(range, wrapping);
    return isWhole(filled.doc)
      ? [
          choiceOf(
            { kind: 'wrap', element: type.spec.element!, place, within: range.depth },
            ({ tr }) => tr.wrap(range, wrapping).scrollIntoView(),
          ),
        ]
      : [];
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
      if (
        type.isTextblock !== node.isTextblock ||
        !parent.canReplaceWith(index, index + 1, type) ||
        !type.validContent(node.content)
      )
        continue;
      seen.add(element);
      const position = $from.before(depth);
      choices.push(
        choiceOf(
          { kind: 'turn', element, place: `instead of ${labelOfNode(node)}`, within: depth - 1 },
          ({ tr }) =>
            tr
              .setNodeMarkup(position, type, { attributes: node.attrs['attributes'] as unknown })
              .scrollIntoView(),
        ),
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
