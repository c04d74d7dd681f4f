import type { EditorState } from 'prosemirror-state';
import { tableChanges, type TableChange } from '../tables/index.ts';
import type { Choice } from './choice.ts';
import { changeTableAt } from './table-editing.ts';

const tableWords: Readonly<Record<TableChange, readonly [label: string, help: string]>> = {
  'row-below': ['Row below', 'A new row after this one.'],
  'row-above': ['Row above', 'A new row before this one.'],
  'column-after': ['Column after', 'A new column after this one.'],
  'column-before': ['Column before', 'A new column before this one.'],
  'merge-across': [
    'Join with the next cell',
    'One cell over both columns; the text of both stays.',
  ],
  'merge-down': ['Join with the cell below', 'One cell over both rows; the text of both stays.'],
  'merge-left': [
    'Join with the cell before',
    'One cell over both columns; the text of both stays.',
  ],
  'merge-up': ['Join with the cell above', 'One cell over both rows; the text of both stays.'],
  split: [
    'Split the cell',
    'One cell again for each row and column it reaches over; the text stays in the first.',
  ],
  'split-last': [
    'Split the cell, text in the last',
    'The same, with the text in the last of the cells.',
  ],
  'row-up': ['Move the row up', 'Before the one above it.'],
  'row-down': ['Move the row down', 'After the one below it.'],
  'row-to-head': ['Make the row a head', 'It is repeated on every page that the table reaches.'],
  'row-to-body': ['Make the head a row', 'The last row of the head becomes one of the body.'],
  'column-left': ['Move the column left', 'Before the one at its left, in head and body.'],
  'column-right': ['Move the column right', 'After the one at its right, in head and body.'],
  'column-wider': ['Wider column', 'At the cost of the others.'],
  'column-narrower': ['Narrower column', 'To the gain of the others.'],
  'sort-up': ['Sort by this column', 'The rows of the body, A to Z, small numbers first.'],
  'sort-down': [
    'Sort by this column, backward',
    'The rows of the body, Z to A, large numbers first.',
  ],
  'row-remove': ['Remove the row', 'Cells that come down from above become shorter.'],
  'column-remove': ['Remove the column', 'Cells that reach over it become narrower.'],
};

/** What can be done to the table around the caret. */
export function tableChoices(state: EditorState): Choice[] {
  return tableChanges.flatMap((change) => {
    const changed = changeTableAt(state, change);
    const [label, help] = tableWords[change];
    return changed
      ? [
          {
            kind: 'table',
            element: change,
            label,
            help,
            place: 'in the table',
            within: state.selection.$from.depth,
            apply: () => changed,
          },
        ]
      : [];
  });
}
