import type { Node as EditorNode, NodeType } from 'prosemirror-model';
import { element, type Element } from '../markup/index.ts';
import { blockFrom } from './to-editor.ts';

const times = (count: number, make: (index: number) => Element): Element[] =>
  Array.from({ length: count }, (_, index) => make(index));
const rowOf = (name: string, cell: string, columns: number): Element =>
  element(
    name,
    {},
    times(columns, () => element(cell)),
  );
const property = (name: string, suffix = ''): Element =>
  element(
    name,
    {},
    ['type', 'value', 'desc'].map((part) => element(`prop${part}${suffix}`)),
  );

/** How a new table is to be. */
export interface TableShape {
  readonly kind: 'table' | 'simpletable';
  readonly title: string;
  /** Without the head. */
  readonly rows: number;
  readonly columns: number;
  readonly hasHead: boolean;
  /** CALS: which sides have a line; `''` leaves it to the style. */
  readonly frame: '' | 'all' | 'topbot' | 'sides' | 'none';
}
export const usualTable: TableShape = {
  kind: 'table',
  title: '',
  rows: 2,
  columns: 3,
  hasHead: true,
  frame: '',
};

function tableOf({ kind, title, rows, columns, hasHead, frame }: TableShape): Element {
  const framed = frame === '' ? {} : { frame };
  if (kind === 'simpletable')
    return element('simpletable', framed, [
      ...(hasHead ? [rowOf('sthead', 'stentry', columns)] : []),
      ...times(rows, () => rowOf('strow', 'stentry', columns)),
    ]);
  return element('table', framed, [
    element('title', {}, [title]),
    element('tgroup', { cols: String(columns) }, [
      ...times(columns, (index) => element('colspec', { colname: `col${index + 1}` })),
      ...(hasHead ? [element('thead', {}, [rowOf('row', 'entry', columns)])] : []),
      element(
        'tbody',
        {},
        times(rows, () => rowOf('row', 'entry', columns)),
      ),
    ]),
  ]);
}

/**
 * What a block is when it is new: a table has a head, and rows enough to see its shape; a section
 * its title; a hazard statement the word for how grave it is, and a place for each part.
 */
const starters: Readonly<Record<string, Element>> = {
  section: element('section', {}, [element('title'), element('p')]),
  table: tableOf(usualTable),
  simpletable: tableOf({ ...usualTable, kind: 'simpletable', columns: 2 }),
  properties: element('properties', {}, [
    property('prophead', 'hd'),
    property('property'),
    property('property'),
  ]),
  choicetable: element(
    'choicetable',
    {},
    times(2, () => element('chrow', {}, [element('choption'), element('chdesc')])),
  ),
  hazardstatement: element('hazardstatement', { type: 'warning' }, [
    element('messagepanel', {}, [
      element('typeofhazard'),
      element('consequence'),
      element('howtoavoid'),
    ]),
  ]),
};

/** A new table of that shape. */
export const newTable = (shape: TableShape): EditorNode => blockFrom(tableOf(shape));

/** A new block of a type with what it needs. */
export function newBlock(type: NodeType): EditorNode | null {
  const starter = starters[type.spec.element ?? ''];
  return starter ? blockFrom(starter) : type.createAndFill();
}
