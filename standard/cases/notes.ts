import { topic, type Cases } from '../case.ts';

const footnotes = '3.2.2.8 fn';
const references = '3.2.2.22 xref';

const one = (body: string): Record<string, string> => ({ 'a.dita': topic('a', 'Lamps', body) });
/** Words of a link without words of its own to this element. */
const leading = (element: string): Record<string, string> =>
  one(`<p>See <xref href="#a/x"/>.</p>${element}`);

export const notes: Cases = {
  'a footnote stands below with its mark in the text': {
    section: footnotes,
    files: one('<p>Burn colza<fn>An oil.</fn> at night.</p>'),
    site: { shows: ['Burn colza1 at night.'], has: { '.fn-mark': '1' } },
    print: { shows: ['An oil.'], has: { note: 1 } },
  },
  'a footnote with an id has its mark where it is referred to': {
    section: footnotes,
    files: one(
      '<p>First<fn id="n">An oil.</fn> words.</p><p>Colza<xref href="#a/n" type="fn"/> burns.</p>',
    ),
    site: { shows: ['First words.', 'Colza1 burns.'], has: { '.fn-mark': '1' } },
    print: { shows: ['An oil.'], has: { note: 1 } },
  },
  'several references lead to one footnote': {
    section: footnotes,
    files: one(
      '<p>Colza<xref href="#a/n" type="fn"/> and rape<xref href="#a/n" type="fn"/> and tar' +
        '<fn>Black.</fn>.<fn id="n">An oil.</fn></p>',
    ),
    site: { shows: ['Colza1 and rape1 and tar2.'], has: { '.fn-mark': ['1', '1', '2'] } },
    print: { shows: ['An oil.'], has: { note: 2 } },
  },
  'a reference leads to a footnote whatever its type says': {
    section: footnotes,
    files: one('<p>Colza<xref href="#a/n"/>.<fn id="n">An oil.</fn></p>'),
    site: { has: { '.fn-mark': '1' } },
    print: { has: { note: 1 } },
  },
  'a footnote that nothing refers to stands where it is': {
    section: footnotes,
    files: one('<p>Colza<fn id="n">An oil.</fn> burns.</p>'),
    site: { has: { '.fn-mark': '1' } },
    print: { shows: ['An oil.'], has: { note: 1 } },
  },
  'a footnote has a mark of its own': {
    section: footnotes,
    files: one('<p>Colza<fn callout="*">An oil.</fn> and tar<fn>Black.</fn>.</p>'),
    site: { has: { '.fn-mark': ['*', '2'] } },
    print: { shows: ['An oil.', 'Black.'], has: { note: 2 } },
  },
  'a footnote keeps its lists': {
    section: footnotes,
    files: one('<p>Oils<fn>These:<ul><li>Colza</li><li>Sperm</li></ul></fn>.</p>'),
    site: { has: { '.fn-mark': '1' } },
    print: { shows: ['These:', 'Colza', 'Sperm'], has: { note: 1 } },
  },
  'footnotes of a table stand under it, once for several references': {
    section: footnotes,
    files: one(
      '<simpletable><strow><stentry>2 l<xref href="#a/n" type="fn"/></stentry><stentry>3 l' +
        '<xref href="#a/n" type="fn"/></stentry></strow></simpletable>' +
        '<p><fn id="n">Per night.</fn></p>',
    ),
    site: { has: { '.fn-mark': ['1', '1'] } },
    print: { shows: ['Per night.'] },
  },
  'a reference to an item of a numbered list shows its number': {
    section: references,
    files: leading('<ol><li>One</li><li id="x">Two</li></ol>'),
    shows: ['See 2'],
  },
  'a reference to an item without a number shows how it begins': {
    section: references,
    files: leading('<ul><li>One</li><li id="x">Trim the wick</li></ul>'),
    shows: ['See Trim the wick'],
  },
  'a reference to a step shows its number': {
    section: references,
    files: {
      'a.dita':
        '<task id="a"><title>Trim</title><taskbody><context>See <xref href="#a/x"/>.</context>' +
        '<steps><step><cmd>Cut.</cmd></step><step id="x"><cmd>Light.</cmd></step></steps>' +
        '</taskbody></task>',
    },
    shows: ['See step 2'],
  },
  'a reference to a paragraph shows how it begins': {
    section: references,
    files: leading('<p id="x">Trim the wick <b>twice</b> a night.</p>'),
    shows: ['See Trim the wick twice a night.'],
  },
  'a reference to a long paragraph shows its first words': {
    section: references,
    files: leading(
      '<p id="x">Trim the wick twice a night and once more before the dawn when the oil is low</p>',
    ),
    shows: ['See Trim the wick twice a night and once more before the dawn…'],
  },
  'a reference to a section shows its title': {
    section: references,
    files: leading('<section id="x"><title>By night</title><p>Burn.</p></section>'),
    shows: ['By night'],
    site: { links: ['By night → Lamps # a--x'] },
  },
  'a reference to a section without a title shows how it begins': {
    section: references,
    files: leading('<section id="x"><p>Burn colza.</p></section>'),
    shows: ['Burn colza.'],
    site: { links: ['Burn colza. → Lamps # a--x'] },
  },
  'a reference to a figure or table shows its number': {
    section: references,
    files: one(
      '<p>See <xref href="#a/f"/> and <xref href="#a/t"/>.</p><fig id="f"><title>Wick</title>' +
        '<p>Here</p></fig><table id="t"><title>Oils</title><tgroup cols="1"><tbody><row>' +
        '<entry>1</entry></row></tbody></tgroup></table>',
    ),
    shows: ['See Figure 1-1', 'Table 1-1'],
  },
  'a reference to a figure without a title shows what its image says': {
    section: references,
    files: {
      ...leading('<fig id="x"><image href="w.svg"><alt>A wick</alt></image></fig>'),
      'w.svg':
        '<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9" viewBox="0 0 9 9">' +
        '<path d="M0 0h9v9z"/></svg>',
    },
    shows: ['See A wick'],
  },
  'a reference to a definition shows its term': {
    section: references,
    files: leading('<dl><dlentry id="x"><dt>Colza</dt><dd>An oil</dd></dlentry></dl>'),
    shows: ['See Colza'],
  },
  'a reference to a parameter shows its name': {
    section: references,
    files: leading('<parml><plentry id="x"><pt>depth</pt><pd>In metres</pd></plentry></parml>'),
    shows: ['See depth'],
  },
  'a reference to a note shows how it begins': {
    section: references,
    files: leading('<note id="x">The lens is hot.</note>'),
    shows: ['See The lens is hot.'],
  },
};
