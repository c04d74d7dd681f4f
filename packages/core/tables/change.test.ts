import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { validate, writeCanonical } from '../grammar/index.ts';
import {
  element,
  findAll,
  isElement,
  lineOf,
  readXml,
  textOf,
  type Element,
  type Node,
} from '../markup/index.ts';
import {
  changeTable,
  columnMeasures,
  gridOf,
  measured,
  tableChanges,
  withColumnWidths,
  type TableChange,
} from './index.ts';

/**
 * Draws a CALS table from a picture: one string a row, the same letter for one cell, a blank line
 * between head and body. `drawn` is its inverse, so that a test shows both as a person sees them.
 */
function cals(...rows: string[]): Element {
  const width = rows[0]!.length;
  const cell = (picture: string[], row: number, column: number): Element | undefined => {
    const letter = picture[row]![column]!;
    if (picture[row]![column - 1] === letter || picture[row - 1]?.[column] === letter)
      return undefined;
    let across = 1;
    while (picture[row]![column + across] === letter) across += 1;
    let down = 1;
    while (picture[row + down]?.[column] === letter) down += 1;
    return element(
      'entry',
      {
        ...(across > 1 ? { namest: `c${column}`, nameend: `c${column + across - 1}` } : {}),
        ...(down > 1 ? { morerows: String(down - 1) } : {}),
      },
      letter === '.' ? [] : [letter],
    );
  };
  const section = (name: string, picture: string[]): Element[] =>
    picture.length === 0
      ? []
      : [
          element(
            name,
            {},
            picture.map((line, row) =>
              element(
                'row',
                {},
                Array.from(line).flatMap((_, column) => cell(picture, row, column) ?? []),
              ),
            ),
          ),
        ];
  const gap = rows.indexOf('');
  const specs = Array.from({ length: width }, (_, column) =>
    element('colspec', { colname: `c${column}`, colwidth: '1*' }),
  );
  return element('tgroup', { cols: String(width) }, [
    ...specs,
    ...section('thead', gap === -1 ? [] : rows.slice(0, gap)),
    ...section('tbody', rows.slice(gap + 1)),
  ]);
}
function drawn(table: Element): string[] {
  const { head, body, columns, problems } = gridOf(table);
  expect(problems).toEqual([]);
  const picture = (rows: typeof body): string[] => {
    const lines = rows.map(() => Array.from({ length: columns.length }, () => ' '));
    rows.forEach((row, index) =>
      row.cells.forEach(({ element: one, column, columnSpan, rowSpan }) => {
        for (let down = 0; down < rowSpan; down += 1)
          for (let across = 0; across < columnSpan; across += 1)
            lines[index + down]![column + across] =
              lineOf(one).replace(/\s/gu, '') === '' ? '.' : textOf(one)[0]!;
      }),
    );
    return lines.map((line) => line.join(''));
  };
  return head.length === 0 ? picture(body) : [...picture(head), '', ...picture(body)];
}
function pathOf(root: Element, letter: string): number[] {
  const visit = (at: Node, path: number[]): number[] | undefined => {
    if (!isElement(at)) return undefined;
    if (at.name.endsWith('entry') && textOf(at) === letter) return path;
    for (const [index, child] of at.children.entries()) {
      const found = visit(child, [...path, index]);
      if (found) return found;
    }
    return undefined;
  };
  return visit(root, [])!;
}
const changed = (table: Element, letter: string, change: TableChange): string[] | undefined => {
  const result = changeTable(table, pathOf(table, letter), change);
  return result && drawn(result.table);
};

/** What is done, the table before, the cell, the change, and the table after. */
const changes: [string, string[], string, TableChange, string[]][] = [
  ['a row above', ['ab', 'cd'], 'c', 'row-above', ['ab', '..', 'cd']],
  ['a row below', ['ab', 'cd'], 'd', 'row-below', ['ab', 'cd', '..']],
  ['a row through a cell that reaches down', ['ab', 'ac'], 'b', 'row-below', ['ab', 'a.', 'ac']],
  ['a row below a cell that reaches down', ['ab', 'ac'], 'a', 'row-below', ['ab', 'ac', '..']],
  ['a row in the head only', ['ab', '', 'cd'], 'a', 'row-below', ['ab', '..', '', 'cd']],
  ['a row less', ['ab', 'cd'], 'a', 'row-remove', ['cd']],
  [
    'a row less under a cell that reaches down',
    ['ab', 'ac', 'de'],
    'c',
    'row-remove',
    ['ab', 'de'],
  ],
  [
    'a row less in which a cell begins that reaches down',
    ['ab', 'ac', 'de'],
    'b',
    'row-remove',
    ['ac', 'de'],
  ],
  ['a column before', ['ab', 'cd'], 'b', 'column-before', ['a.b', 'c.d']],
  ['a column after, also in the head', ['ab', '', 'cd'], 'd', 'column-after', ['ab.', '', 'cd.']],
  ['a column through a cell that reaches over', ['aa', 'bc'], 'b', 'column-after', ['aaa', 'b.c']],
  ['a column less', ['ab', 'cd'], 'a', 'column-remove', ['b', 'd']],
  ['a column less under a cell that reaches over', ['aa', 'bc'], 'c', 'column-remove', ['a', 'b']],
  ['two cells joined', ['ab', 'cd'], 'a', 'merge-across', ['aa', 'cd']],
  ['two cells joined downward', ['ab', 'cd'], 'a', 'merge-down', ['ab', 'ad']],
  ['two cells joined from the right', ['ab', 'cd'], 'b', 'merge-left', ['aa', 'cd']],
  ['two cells joined from below', ['ab', 'cd'], 'c', 'merge-up', ['ab', 'ad']],
  [
    'a joined cell split with its words in the last',
    ['aab', 'aac', 'def'],
    'a',
    'split-last',
    ['..b', '.ac', 'def'],
  ],
  ['a row moved up', ['ab', 'cd', 'ef'], 'c', 'row-up', ['cd', 'ab', 'ef']],
  ['a row moved down past others', ['aab', 'cde'], 'b', 'row-down', ['cde', 'aab']],
  [
    'a column moved right, also in the head',
    ['ab', '', 'cd'],
    'c',
    'column-right',
    ['ba', '', 'dc'],
  ],
  [
    'a column moved left under a cell that covers both',
    ['aab', 'cde'],
    'd',
    'column-left',
    ['aab', 'dce'],
  ],
  ['its first row made a head', ['ab', 'cd'], 'a', 'row-to-head', ['ab', '', 'cd']],
  ['a second head row', ['ab', '', 'cd', 'ef'], 'c', 'row-to-head', ['ab', 'cd', '', 'ef']],
  ['its head made a row', ['ab', '', 'cd'], 'b', 'row-to-body', ['ab', 'cd']],
  ['its rows sorted', ['xy', '', 'ca', 'ab', 'bc'], 'c', 'sort-up', ['xy', '', 'ab', 'bc', 'ca']],
  [
    'its rows sorted backward by another column, empty ones last',
    ['ca', 'ab', 'b.'],
    'b',
    'sort-down',
    ['ab', 'ca', 'b.'],
  ],
  ['a joined cell split', ['aab', 'aac', 'def'], 'a', 'split', ['a.b', '..c', 'def']],
];

describe('a CALS table (OASIS exchange table model)', () => {
  it.each(changes)('gets %s', (...[, before, letter, change, after]) => {
    expect(changed(cals(...before), letter, change)).toEqual(after);
  });
  it.each([
    ['its only row', ['ab'], 'a', 'row-remove'],
    ['its only column', ['a', 'b'], 'a', 'column-remove'],
    ['a join over the edge', ['ab'], 'b', 'merge-across'],
    ['a join of cells that do not lie side by side', ['ab', 'cb'], 'a', 'merge-across'],
    ['a join of head and body', ['ab', '', 'cd'], 'a', 'merge-down'],
    ['a join that leaves a row without a cell', ['a', 'b'], 'a', 'merge-down'],
    ['a row moved over a cell that holds two rows', ['ab', 'ac', 'de'], 'c', 'row-down'],
    ['a row moved out of the head', ['ab', '', 'cd'], 'a', 'row-down'],
    ['a column moved out of a joined cell', ['aab', 'cde'], 'd', 'column-right'],
    ['its only row made a head', ['ab'], 'a', 'row-to-head'],
    ['rows sorted that hang together', ['ab', 'ac', 'de'], 'd', 'sort-up'],
    ['a join with the head from below', ['ab', '', 'cd'], 'c', 'merge-up'],
    ['a split of one plain cell', ['ab'], 'a', 'split'],
  ] as [string, string[], string, TableChange][])('refuses %s', (_what, before, letter, change) => {
    expect(changed(cals(...before), letter, change)).toBeUndefined();
  });
  it('keeps the words of both cells that are joined, apart from each other', () => {
    const { table, cell } = changeTable(
      cals('ab', 'cd'),
      pathOf(cals('ab', 'cd'), 'c'),
      'merge-across',
    )!;
    expect(writeCanonical(table).replace(/\s*\n\s*/gu, '')).toContain(
      '<entry nameend="c1" namest="c0"><p>c</p><p>d</p></entry>',
    );
    expect(cell).toEqual([3 - 1, 1, 0]);
  });
  it('gives a new column a name of its own and the width of its neighbour', () => {
    const { table } = changeTable(cals('ab'), pathOf(cals('ab'), 'a'), 'column-after')!;
    const specs = findAll(table, ({ name }) => name === 'colspec').map(
      ({ attributes }) => attributes,
    );
    expect(table.attributes['cols']).toBe('3');
    expect(new Set(specs.map(({ colname }) => colname)).size).toBe(3);
    expect(specs[1]).toMatchObject({ colwidth: '1*' });
  });
  it('stays a table that can be drawn and is valid, whatever is done to it', () => {
    const all = tableChanges;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...all), fc.nat()), { minLength: 1, maxLength: 12 }),
        (steps) => {
          let table = cals('ab', '', 'cd', 'ef');
          for (const [change, seed] of steps) {
            const cells = findAll(table, ({ name }) => name === 'entry');
            const wanted = cells[seed % cells.length]!;
            const path = ((): number[] => {
              for (const [section, part] of table.children.entries())
                if (isElement(part))
                  for (const [row, one] of part.children.entries())
                    if (isElement(one))
                      for (const [at, cell] of one.children.entries())
                        if (cell === wanted) return [section, row, at];
              throw new Error('not there');
            })();
            table = changeTable(table, path, change)?.table ?? table;
            expect(drawn(table).every((line) => !line.includes(' '))).toBe(true);
            expect(validate(element('table', {}, [table]))).toEqual([]);
          }
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe('widths of columns', () => {
  it('are read in every unit (CALS: shares, and lengths that are points without a unit)', () => {
    expect(measured('2*')).toEqual({ unit: '*', amount: 2 });
    expect(measured('*')).toEqual({ unit: '*', amount: 1 });
    expect(measured('1in').amount).toBeCloseTo(25.4);
    expect(measured('72').amount).toBeCloseTo(25.4);
    expect(measured(undefined)).toEqual({ unit: '*', amount: 1 });
    expect(
      columnMeasures(
        readXml('<tgroup cols="1"><tbody><row><entry/></row></tbody></tgroup>').document!.root,
      ),
    ).toBeUndefined();
  });
  it('follow the hand: shares stay shares, lengths stay lengths', () => {
    const table = withColumnWidths(cals('abc', 'def'), [20, 60, 20]);
    expect(gridOf(table).columns.map(({ width }) => width)).toEqual(['20*', '60*', '20*']);
    const fixed = {
      ...table,
      children: table.children.map((one, at) =>
        at === 0 && isElement(one)
          ? { ...one, attributes: { ...one.attributes, colwidth: '30mm' } }
          : one,
      ),
    };
    expect(gridOf(withColumnWidths(fixed, [25, 50, 25])).columns.map(({ width }) => width)).toEqual(
      ['25mm', '50*', '25*'],
    );
  });
  it('are changed by keys at the cost of the others', () => {
    const wider = changeTable(
      cals('ab', 'cd'),
      pathOf(cals('ab', 'cd'), 'a'),
      'column-wider',
    )!.table;
    expect(gridOf(wider).columns.map(({ width }) => width)).toEqual(['55*', '45*']);
    expect(
      gridOf(changeTable(wider, pathOf(wider, 'b'), 'column-wider')!.table).columns.map(
        ({ width }) => width,
      ),
    ).toEqual(['50*', '50*']);
  });
});

describe('a simple table', () => {
  const simple = (xml: string): Element => readXml(xml).document!.root;
  const short = (table: Element | undefined): string | undefined =>
    table && writeCanonical(table).replace(/\s*\n\s*/gu, '');
  it('gets rows and columns, with its relative widths', () => {
    const table = simple(
      '<simpletable relcolwidth="1* 2*"><sthead><stentry>a</stentry><stentry>b</stentry>' +
        '</sthead><strow><stentry>c</stentry><stentry>d</stentry></strow></simpletable>',
    );
    expect(short(changeTable(table, pathOf(table, 'd'), 'column-before')?.table)).toBe(
      '<simpletable relcolwidth="1* 2* 2*"><sthead><stentry>a</stentry><stentry/>' +
        '<stentry>b</stentry></sthead><strow><stentry>c</stentry><stentry/><stentry>d</stentry>' +
        '</strow></simpletable>',
    );
    expect(short(changeTable(table, pathOf(table, 'a'), 'row-remove')?.table)).toContain(
      '<simpletable relcolwidth="1* 2*"><strow>',
    );
    expect(changeTable(table, pathOf(table, 'a'), 'row-above')).toBeUndefined();
    expect(changeTable(table, pathOf(table, 'c'), 'merge-across')).toBeUndefined();
  });
  it('of properties gets rows of the same parts and no columns', () => {
    const table = simple(
      '<properties><property><proptype>x</proptype><propdesc>y</propdesc></property></properties>',
    );
    expect(short(changeTable(table, [0, 0], 'row-below')?.table)).toBe(
      '<properties><property><proptype>x</proptype><propdesc>y</propdesc></property>' +
        '<property><proptype/><propdesc/></property></properties>',
    );
    expect(changeTable(table, [0, 0], 'column-after')).toBeUndefined();
  });
});
