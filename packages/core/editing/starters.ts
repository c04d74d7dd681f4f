import type { Node as EditorNode, NodeType } from 'prosemirror-model';
import { element, type Element } from '../markup/index.ts';
import { blockFrom } from './to-editor.ts';

const times = (count: number, make: (index: number) => Element): Element[] => Array.from({ length: count }, (_, index) => make(index));
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

/** What a table is when it is new: a head, and rows enough to see its shape. */
const starters: Readonly<Record<string, Element>> = {
  table: element('table', {}, [
    element('title'),
    element('tgroup', { cols: '3' }, [
      ...times(3, (index) => element('colspec', { colname: `col${index + 1}` })),
      element('thead', {}, [rowOf('row', 'entry', 3)]),
      element(
        'tbody',
        {},
        times(2, () => rowOf('row', 'entry', 3)),
      ),
    ]),
  ]),
  simpletable: element('simpletable', {}, [rowOf('sthead', 'stentry', 2), ...times(2, () => rowOf('strow', 'stentry', 2))]),
  properties: element('properties', {}, [property('prophead', 'hd'), property('property'), property('property')]),
  choicetable: element(
    'choicetable',
    {},
    times(2, () => element('chrow', {}, [element('choption'), element('chdesc')])),
  ),
};

/** A new block of a type with what it needs. */
export function newBlock(type: NodeType): EditorNode | null {
  const starter = starters[type.spec.element ?? ''];
  return starter ? blockFrom(starter) : type.createAndFill();
}
