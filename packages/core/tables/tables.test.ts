import fc from 'fast-check';
import { expect, it } from 'vitest';
import { lineOf, readXml } from '../markup/index.ts';
import { gridOf } from './index.ts';

const tgroup = (inner: string, columns = 3): string =>
  `<tgroup cols="${columns}">` +
  Array.from({ length: columns }, (_, index) => `<colspec colname="c${index + 1}"/>`).join('') +
  `<tbody>${inner}</tbody>` +
  '</tgroup>';
const grid = (xml: string) => gridOf(readXml(xml).document!.root);
const drawn = (xml: string) =>
  grid(xml).body.map(({ cells }) =>
    cells
      .map(
        ({ element, column, columnSpan, rowSpan }) =>
          `${lineOf(element)}@${column}${columnSpan > 1 ? `→${columnSpan}` : ''}` +
          (rowSpan > 1 ? `↓${rowSpan}` : ''),
      )
      .join(' '),
  );

it('places spans across and down (OASIS exchange table model)', () => {
  expect(
    drawn(
      tgroup(
        '<row><entry morerows="1">a</entry><entry namest="c2" nameend="c3">b</entry></row>' +
          '<row><entry>c</entry><entry>d</entry></row><row><entry colname="c3">e</entry>' +
          '</row>',
      ),
    ),
  ).toEqual(['a@0↓2 b@1→2', 'c@1 d@2', 'e@2']);
});

it.each([
  [
    '<row><entry>a</entry><entry>b</entry><entry>c</entry><entry>d</entry></row>',
    'table.too-many-cells',
  ],
  ['<row><entry morerows="5">a</entry></row>', 'table.span'],
  ['<row><entry namest="c3" nameend="c1">a</entry></row>', 'table.span'],
  ['<row><entry namest="zz" nameend="c2">a</entry></row>', 'table.unknown-column'],
  [
    '<row><entry>a</entry><entry morerows="1">b</entry></row><row>' +
      '<entry namest="c1" nameend="c3">c</entry></row>',
    'table.span',
  ],
])('stays drawable when spans are impossible: %s', (rows, code) => {
  expect(grid(tgroup(rows)).problems.map((problem) => problem.code)).toEqual([code]);
});

it('reads simple tables and properties, leaving out columns that no row uses', () => {
  expect(
    grid(
      '<properties><prophead><proptypehd>T</proptypehd><propdeschd>D</propdeschd>' +
        '</prophead><property><propdesc>d</propdesc></property></properties>',
    ),
  ).toMatchObject({
    columns: [{}, {}],
    head: [{ cells: [{ column: 0 }, { column: 1 }] }],
    body: [{ cells: [{ column: 1 }] }],
  });
  expect(
    grid(
      '<simpletable relcolwidth="1* 3*" keycol="1"><strow><stentry>a</stentry>' +
        '<stentry>b</stentry></strow></simpletable>',
    ),
  ).toMatchObject({
    columns: [{ width: '1*' }, { width: '3*' }],
    body: [{ cells: [{ heads: true }, { heads: false }] }],
  });
});

it('never overlaps cells and loses none, whatever the spans say', () => {
  const name = fc.constantFrom('c1', 'c2', 'c3', 'c9', '');
  const cell = fc.record({
    namest: name,
    nameend: name,
    morerows: fc.integer({ min: -1, max: 4 }),
  });
  fc.assert(
    fc.property(
      fc.array(fc.array(cell, { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 5 }),
      (rows) => {
        const xml = tgroup(
          rows
            .map(
              (row) =>
                '<row>' +
                row
                  .map(({ namest, nameend, morerows }) => {
                    const from = namest ? ` namest="${namest}"` : '';
                    const to = nameend ? ` nameend="${nameend}"` : '';
                    return `<entry${from}${to} morerows="${morerows}"/>`;
                  })
                  .join('') +
                '</row>',
            )
            .join(''),
        );
        const { body, columns } = grid(xml);
        const taken = new Set<string>();
        body.forEach(({ cells }, rowIndex) => {
          for (const { column, columnSpan, rowSpan } of cells)
            for (let x = column; x < column + columnSpan; x += 1)
              for (let y = rowIndex; y < rowIndex + rowSpan; y += 1) {
                expect(taken.has(`${x},${y}`)).toBe(false);
                expect(x < columns.length && y < body.length).toBe(true);
                taken.add(`${x},${y}`);
              }
        });
        expect(body.map(({ cells }) => cells.length)).toEqual(rows.map((row) => row.length));
      },
    ),
  );
});
