import { topic, type Cases } from '../case.ts';

const cals = '3.2.4.1 Table elements (CALS: OASIS TM 9502:1995)';
const simple = '3.2.4.2 Simple tables';

interface Parts {
  readonly table?: string;
  readonly group?: string;
  readonly columns?: string;
  readonly head?: string;
  readonly rows: string;
}
const three = '<colspec colname="c1"/><colspec colname="c2"/><colspec colname="c3"/>';
/** A topic with one table; of three columns where nothing else is said. */
const table = ({ table: own = '', group = '', columns = three, head = '', rows }: Parts) => ({
  'a.dita': topic(
    'a',
    'Lights',
    `<table ${own}><tgroup cols="3" ${group}>${columns}` +
      `${head === '' ? '' : `<thead>${head}</thead>`}<tbody>${rows}</tbody></tgroup></table>`,
  ),
});
const row = (...cells: readonly string[]): string =>
  `<row>${cells.map((cell) => (cell.startsWith('<') ? cell : `<entry>${cell}</entry>`)).join('')}</row>`;

export const tables: Cases = {
  'a cell that names its column stands in it, and columns left out are empty': {
    section: cals,
    files: table({
      rows: row('<entry colname="c1">red</entry>', '<entry colname="c3">6 s</entry>'),
    }),
    shows: ['red', '6 s'],
    site: { has: { td: ['red', '', '6 s'] } },
    print: { has: { td: ['red', '', '6 s'] } },
  },
  'a named column is found after a cell that comes down from above': {
    section: cals,
    files: table({
      rows:
        row('<entry morerows="1">north</entry>', 'red', '6 s') +
        row('<entry colname="c3">9 s</entry>'),
    }),
    site: { has: { 'tr:nth-child(2) td': ['', '9 s'], 'td[rowspan="2"]': 'north' } },
    print: { shows: ['north', 'red', '6 s', '9 s'] },
  },
  'a row that ends early has empty cells': {
    section: cals,
    files: table({ rows: row('red') + row('green', 'fixed', '3 s') }),
    site: { has: { 'tr:nth-child(1) td': ['red', '', ''] } },
  },
  'a cell reaches over columns by their names': {
    section: cals,
    files: table({ rows: row('red', '<entry namest="c2" nameend="c3">dark</entry>') }),
    site: { has: { 'td[colspan="2"]': 'dark' } },
  },
  'a cell reaches over columns by the name of a span': {
    section: cals,
    files: table({
      columns: `${three}<spanspec namest="c1" nameend="c2" spanname="both" align="center"/>`,
      rows: row('<entry spanname="both">red</entry>', '6 s'),
    }),
    site: { has: { 'td.center[colspan="2"]': 'red' } },
  },
  'columns stand in the order of their numbers': {
    section: cals,
    files: table({
      columns:
        '<colspec colnum="3" colname="late"/><colspec colnum="1" colname="first"/>' +
        '<colspec colname="next"/>',
      rows: row('<entry colname="next">red</entry>', '<entry colname="late">6 s</entry>'),
    }),
    site: { has: { td: ['', 'red', '6 s'] } },
    print: { has: { td: ['', 'red', '6 s'] } },
  },
  'the first column heads its rows where the table says so': {
    section: cals,
    files: table({ table: 'rowheader="firstcol"', rows: row('north', 'red', '6 s') }),
    site: { has: { 'th[scope="row"]': 'north', td: ['red', '6 s'] } },
    print: { shows: ['north'] },
  },
  'any column heads its rows where it says so': {
    section: cals,
    files: table({
      columns:
        '<colspec colname="c1"/><colspec colname="c2" rowheader="headers"/><colspec colname="c3"/>',
      rows: row('1', 'north', '6 s'),
    }),
    site: { has: { 'th[scope="row"]': 'north' } },
    print: { shows: ['north'] },
  },
  'a head over several columns heads them all': {
    section: cals,
    files: table({
      head: row('Light', '<entry namest="c2" nameend="c3">Character</entry>'),
      rows: row('north', 'red', '6 s'),
    }),
    site: { has: { 'th[scope="col"]': 'Light', 'th[scope="colgroup"]': 'Character' } },
    print: { has: { th: ['Light', 'Character'] } },
  },
  'a cell says itself what it heads': {
    section: cals,
    files: table({ rows: row('<entry scope="row">north</entry>', 'red', '6 s') }),
    site: { has: { 'th[scope="row"]': 'north' } },
  },
  'a cell names the cells that head it': {
    section: cals,
    files: table({
      head: row('<entry id="col">Colour</entry>', 'Period', 'Range'),
      rows: row('<entry headers="col">red</entry>', '6 s', '9 M'),
    }),
    site: { has: { 'td[headers$="col"]': 'red' } },
  },
  'columns are aligned by the group, the column and the cell, the nearest first': {
    section: cals,
    files: table({
      group: 'align="right"',
      columns:
        '<colspec colname="c1"/><colspec colname="c2" align="center"/><colspec colname="c3"/>',
      rows:
        row('1', '2', '<entry align="justify">3</entry>') +
        row('4', '<entry align="left">5</entry>', '6'),
    }),
    site: {
      has: { 'td.right': ['1', '4', '6'], 'td.center': '2', 'td.justify': '3', 'td.left': '5' },
    },
  },
  'cells stand as high as the body, the row and the cell say, the nearest first': {
    section: cals,
    files: {
      'a.dita': topic(
        'a',
        'Lights',
        '<table><tgroup cols="2"><tbody valign="middle"><row><entry>1</entry>' +
          '<entry valign="top">2</entry></row><row valign="bottom"><entry>3</entry>' +
          '<entry>4</entry></row></tbody></tgroup></table>',
      ),
    },
    site: { has: { 'td.middle': '1', 'td.top': '2', 'td.bottom': ['3', '4'] } },
  },
  'numbers line up on their decimal sign': {
    section: cals,
    files: table({
      columns:
        '<colspec colname="c1" align="char" char="."/><colspec colname="c2"/><colspec' +
        ' colname="c3"/>',
      rows: row('1.5', 'a', 'b') + row('22.25', 'a', 'b') + row('3', 'a', 'b'),
    }),
    site: { shows: ['1.5', '22.25', '3'], has: { 'td.center': 3 } },
    print: { shows: ['1.5', '22.25', '3'] },
  },
  'numbers line up at the end of the column by their offset': {
    section: cals,
    files: table({
      columns:
        '<colspec colname="c1" align="char" char="," charoff="80"/><colspec colname="c2"/>' +
        '<colspec colname="c3"/>',
      rows: row('1,5', 'a', 'b') + row('22,25', 'a', 'b'),
    }),
    site: { has: { 'td.right': 2 } },
  },
  'rules below rows come from the table, the group, the column, the row and the cell': {
    section: cals,
    files: table({
      table: 'rowsep="0"',
      rows:
        `<row rowsep="1"><entry>1</entry><entry rowsep="0">2</entry><entry>3</entry>` +
        `</row>${row('4', '5', '6')}${row('7', '8', '9')}`,
    }),
    site: {
      has: { 'td.rule-above': ['4', '6'], 'td.no-rule-above': ['5', '7', '8', '9'] },
    },
  },
  'rules after columns come from the group, the column and the cell': {
    section: cals,
    files: table({
      group: 'colsep="1"',
      columns: '<colspec colname="c1"/><colspec colname="c2" colsep="0"/><colspec colname="c3"/>',
      rows: row('1', '2', '3') + row('<entry colsep="0">4</entry>', '5', '6'),
    }),
    site: {
      has: { 'td.rule-before': '2', 'td.no-rule-before': ['3', '5', '6'] },
    },
  },
  'a frame stands around the table, or at some of its edges, or nowhere': {
    section: cals,
    files: table({ table: 'frame="topbot"', rows: row('1', '2', '3') }),
    site: { has: { 'table.framed.frame-top.frame-bottom:not(.frame-sides)': 1 } },
  },
  'a table without a frame has none': {
    section: cals,
    files: table({ table: 'frame="none"', rows: row('1', '2', '3') }),
    site: { has: { 'table.framed:not(.frame-top):not(.frame-bottom):not(.frame-sides)': 1 } },
  },
  'columns are as wide as their shares': {
    section: cals,
    files: table({
      columns:
        '<colspec colname="c1" colwidth="2*"/><colspec colname="c2" colwidth="*"/>' +
        '<colspec colname="c3" colwidth="1*"/>',
      rows: row('1', '2', '3'),
    }),
    site: { has: { 'col[style="width: 50%"]': 1, 'col[style="width: 25%"]': 2 } },
  },
  'columns are as wide as their lengths': {
    section: cals,
    files: table({
      columns:
        '<colspec colname="c1" colwidth="30mm"/><colspec colname="c2" colwidth="1*"/>' +
        '<colspec colname="c3" colwidth="1in"/>',
      rows: row('1', '2', '3'),
    }),
    site: { has: { 'col[style="width: 30mm"]': 1, 'col[style="width: 25.4mm"]': 1, col: 3 } },
  },
  'a row with more cells than columns is a problem, and every cell is shown': {
    section: cals,
    files: table({ rows: row('1', '2', '3', 'four', 'five') }),
    shows: ['1', '2', '3', 'four', 'five'],
    problems: ['table.too-many-cells'],
  },
  'a cell that names a column that is not there is a problem, and is shown': {
    section: cals,
    files: table({ rows: row('<entry colname="c9">red</entry>', '2', '3') }),
    shows: ['red', '2', '3'],
    problems: ['table.unknown-column'],
  },
  'a cell that reaches below the table is a problem, and is shown': {
    section: cals,
    files: table({ rows: row('<entry morerows="4">red</entry>', '2', '3') }),
    shows: ['red', '2', '3'],
    problems: ['table.span'],
  },
  'a table of two groups is two tables under one title': {
    section: cals,
    files: {
      'a.dita': topic(
        'a',
        'Lights',
        '<table><title>All lights</title><tgroup cols="2"><tbody><row><entry>1</entry>' +
          '<entry>2</entry></row></tbody></tgroup><tgroup cols="1"><tbody><row>' +
          '<entry>3</entry></row></tbody></tgroup></table>',
      ),
    },
    shows: ['All lights', '1', '2', '3'],
    site: { has: { table: 2, caption: 1 } },
  },
  'a simple table has heads, and a key column that heads its rows': {
    section: simple,
    files: {
      'a.dita': topic(
        'a',
        'Lights',
        '<simpletable keycol="2"><sthead><stentry>No.</stentry><stentry>Light</stentry></sthead>' +
          '<strow><stentry>1</stentry><stentry>north</stentry></strow></simpletable>',
      ),
    },
    shows: ['No.', 'Light', '1', 'north'],
    site: { has: { 'th[scope="col"]': ['No.', 'Light'], 'th[scope="row"]': 'north' } },
    print: { has: { th: ['No.', 'Light'] } },
  },
  'columns of a simple table are as wide as their shares': {
    section: simple,
    files: {
      'a.dita': topic(
        'a',
        'Lights',
        '<simpletable relcolwidth="1* 3*"><strow><stentry>1</stentry><stentry>2</stentry></strow>' +
          '</simpletable>',
      ),
    },
    site: { has: { 'col[style="width: 25%"]': 1, 'col[style="width: 75%"]': 1 } },
  },
};
