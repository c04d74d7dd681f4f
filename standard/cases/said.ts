import { map, topic, type Cases } from '../case.ts';

const one = (body: string): Record<string, string> => ({ 'a.dita': topic('a', 'Lamps', body) });
const task = (steps: string): Record<string, string> => ({
  'a.dita': `<task id="a"><title>Trim</title><taskbody>${steps}</taskbody></task>`,
});

/** Words beside the text of blocks: heads, descriptions, sources, titles as attributes. */
export const said: Cases = {
  'a definition list has heads': {
    section: '3.2.2.5 dl, dlhead',
    files: one(
      '<dl><dlhead><dthd>Lamp</dthd><ddhd>Range</ddhd></dlhead>' +
        '<dlentry><dt>Oil</dt><dd>9 miles</dd></dlentry></dl>',
    ),
    shows: ['Lamp', 'Range', 'Oil', '9 miles'],
    site: { has: { 'dt.head': 'Lamp', 'dd.head': 'Range' } },
  },
  'a figure has a description': {
    section: '3.2.2.6 fig, desc',
    files: one('<fig><title>Wick</title><desc>Trimmed at noon.</desc><p>Here.</p></fig>'),
    site: { shows: ['Here.', 'Wick', 'Trimmed at noon.'] },
    print: { shows: ['Here.', 'Trimmed at noon.', 'Wick'] },
  },
  'a figure without a title has a description': {
    section: '3.2.2.6 fig, desc',
    files: one('<fig><desc>Trimmed at noon.</desc><p>Here.</p></fig>'),
    shows: ['Trimmed at noon.'],
    site: { has: { figcaption: 'Trimmed at noon.' } },
  },
  'a table has a description': {
    section: '3.2.4.1.1 table, desc',
    files: one(
      '<table><title>Oils</title><desc>Per night.</desc><tgroup cols="1"><tbody><row>' +
        '<entry>2 l</entry></row></tbody></tgroup></table>',
    ),
    site: { shows: ['Oils', 'Per night.', '2 l'] },
    print: { shows: ['Per night.', '2 l'] },
  },
  'a long quotation says where it is from': {
    section: '3.2.2.10 lq',
    files: one('<lq reftitle="Rules of light">Let it burn.</lq>'),
    shows: ['Let it burn.', 'Rules of light'],
    site: { has: { 'blockquote p': ['Let it burn.', '— Rules of light'] } },
  },
  'the source of a long quotation can be followed': {
    section: '3.2.2.10 lq',
    files: one(
      '<lq reftitle="Rules" href="https://rules.example/" scope="external" format="html">' +
        'Let it burn.</lq>',
    ),
    site: { links: ['Rules → https://rules.example/'] },
    print: { has: { link: 'Rules' } },
  },
  'a long quotation refers to its source': {
    section: '3.2.2.11 longquoteref',
    files: one(
      '<lq>Let it burn.<longquoteref href="https://rules.example/" scope="external" ' +
        'format="html"/></lq>',
    ),
    site: { links: ['https://rules.example/ → https://rules.example/'] },
    print: { has: { link: 'https://rules.example/' } },
  },
  'a section has a title as an attribute': {
    section: '3.10.2 spectitle',
    files: one('<section spectitle="By night"><p>Burn.</p></section>'),
    shows: ['By night', 'Burn.'],
    site: { has: { h2: 'By night' } },
  },
  'a title of its own counts more than one as an attribute': {
    section: '3.10.2 spectitle',
    files: one('<section spectitle="By day"><title>By night</title><p>Burn.</p></section>'),
    shows: ['By night', 'Burn.'],
    hides: ['By day'],
  },
  'lists, code and lines have titles as attributes': {
    section: '3.10.2 spectitle',
    files: one(
      '<ul spectitle="Tools"><li>Shears</li></ul><ol spectitle="Order"><li>Cut</li></ol>' +
        '<dl spectitle="Oils"><dlentry><dt>Colza</dt><dd>Yellow</dd></dlentry></dl>' +
        '<codeblock spectitle="Signal">...---</codeblock><lines spectitle="Address">Point</lines>',
    ),
    shows: [
      'Tools',
      'Shears',
      'Order',
      'Cut',
      'Oils',
      'Colza',
      'Yellow',
      'Signal',
      '...---',
      'Address',
      'Point',
    ],
  },
  'a note has a title as an attribute': {
    section: '3.10.2 spectitle',
    files: one('<note spectitle="Mind the oil">It is hot.</note>'),
    shows: ['Mind the oil', 'It is hot.'],
  },
  'a group in a figure has its title': {
    section: '3.2.2.7 figgroup',
    files: one(
      '<fig><title>Lamp</title><figgroup><title>Parts</title><ph>Wick</ph></figgroup></fig>',
    ),
    shows: ['Parts', 'Wick', 'Lamp'],
  },
  'named styles are classes of HTML': {
    section: '3.10.13 outputclass',
    files: one(
      '<p outputclass="warm">Glow</p><ul outputclass="short plainly"><li outputclass="first">One' +
        '</li></ul><p>A <ph outputclass="amber">light</ph></p><simpletable><strow ' +
        'outputclass="top-row"><stentry outputclass="dim">Cell</stentry></strow></simpletable>',
    ),
    site: {
      has: {
        'p.warm': 'Glow',
        'ul.short.plainly': 'One',
        'li.first': 'One',
        '.amber': 'light',
        'tr.top-row td.dim': 'Cell',
      },
    },
  },
  'a named style of a topic is a class of its article': {
    section: '3.10.13 outputclass',
    files: {
      'a.dita':
        '<topic id="a" outputclass="storm"><title>Gale</title><body><p>Wind</p></body></topic>',
      'book.ditamap': map('<topicref href="a.dita"/>'),
    },
    site: { shows: ['Wind'] },
  },
  'a step that may be left out says so': {
    section: '3.3.1.4 step, importance',
    files: task(
      '<steps><step importance="optional"><cmd>Polish the lens.</cmd></step>' +
        '<step importance="required"><cmd>Trim the wick.</cmd></step>' +
        '<step><cmd>Light it.</cmd></step></steps>',
    ),
    shows: ['Optional: Polish the lens.', 'Required: Trim the wick.', 'Light it.'],
  },
  'what is said of the target of a link is shown when it is pointed at': {
    section: '3.2.2.22 xref, desc',
    files: one(
      '<p><xref href="https://rules.example/" scope="external" format="html">Rules' +
        '<desc>All of them</desc></xref></p>',
    ),
    site: { links: ['Rules → https://rules.example/'], has: { 'a[title="All of them"]': 'Rules' } },
  },
};
