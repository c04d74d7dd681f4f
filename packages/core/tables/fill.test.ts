import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readXml, writeXml, type Element } from '../markup/index.ts';
import { contentsOf, fillTable, gridOf } from './index.ts';

const table = (xml: string): Element => readXml(xml).document!.root;
const two = table(
  '<tgroup cols="2"><thead><row><entry>A</entry><entry>B</entry></row></thead><tbody><row>' +
    '<entry>1</entry><entry>2</entry></row></tbody></tgroup>',
);
const simple = table(
  '<simpletable><strow><stentry>1</stentry><stentry>2</stentry></strow></simpletable>',
);

describe('contents put into cells', () => {
  it('go rightward and down; rows and columns come where the table ends', () => {
    const filled = fillTable(two, [1, 0, 1], [[['x'], ['y']], [['z']]])!;
    expect(contentsOf(filled.table)).toEqual([
      [['A'], ['B'], []],
      [['1'], ['x'], ['y']],
      [[], ['z'], []],
    ]);
    expect(filled.table.attributes['cols']).toBe('3');
    expect(contentsOf(fillTable(simple, [0, 1], [[['x']], [['y']]])!.table)).toEqual([
      [['1'], ['x']],
      [[], ['y']],
    ]);
  });
  it('begin in the head and go on in the body', () => {
    expect(contentsOf(fillTable(two, [0, 0, 0], [[['x']], [['y']]])!.table)).toEqual([
      [['x'], ['B']],
      [['y'], ['2']],
    ]);
  });
  it('pass by what others reach over, and columns with a meaning do not become more', () => {
    const joined = table(
      '<tgroup cols="2"><colspec colname="a"/><colspec colname="b"/><tbody><row>' +
        '<entry namest="a" nameend="b">1</entry></row><row><entry>2</entry><entry>3</entry>' +
        '</row></tbody></tgroup>',
    );
    expect(
      writeXml(
        fillTable(
          joined,
          [2, 0, 0],
          [
            [['x'], ['y']],
            [['z'], ['w']],
          ],
        )!.table,
      ),
    ).toMatch(/>x<\/entry><\/row><row><entry[^>]*>z<\/entry><entry[^>]*>w</u);
    const properties = table(
      '<properties><property><proptype>1</proptype><propvalue>2</propvalue></property>' +
        '</properties>',
    );
    expect(
      gridOf(fillTable(properties, [0, 0], [[['x'], ['y'], ['z'], ['w']]])!.table).columns.length,
    ).toBe(gridOf(properties).columns.length);
    expect(fillTable(two, [7, 7, 7], [[['x']]])).toBeUndefined();
  });
  it('hold each content exactly once, wherever they begin and however large they are', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(two, simple),
        fc.nat(9),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 5 }),
        (start, pick, rows, columns) => {
          const cells = [...gridOf(start).head, ...gridOf(start).body].flatMap((row) => row.cells);
          const contents = Array.from({ length: rows }, (_, down) =>
            Array.from({ length: columns }, (__, right) => [`<${down}:${right}>`]),
          );
          const found = contentsOf(
            fillTable(start, cells[pick % cells.length]!.path, contents)!.table,
          ).flat(2);
          for (const content of contents.flat(2))
            expect(found.filter((one) => one === content)).toHaveLength(1);
        },
      ),
    );
  });
});
