import { map, topic, type Cases } from '../case.ts';

const relatedLinks = '2.2.4.3 Related links';

/** Three topics, of which the first has these links. */
const leading = (links: string): Record<string, string> => ({
  'a.dita': topic('a', 'Anchors', '<p>Drop it.</p>', `<related-links>${links}</related-links>`),
  'b.dita': topic('b', 'Buoys'),
  'c.dita': topic('c', 'Chains'),
});
const inRow = (...cells: readonly string[]): string =>
  `<reltable><relrow>${cells
    .map((href) => `<relcell><topicref href="${href}"/></relcell>`)
    .join('')}</relrow></reltable>`;
const bothOf = map(
  `<topicref href="a.dita"/><topicref href="b.dita"/>${inRow('a.dita', 'b.dita')}`,
);

export const linking: Cases = {
  'a link of a topic is among its related links': {
    section: relatedLinks,
    files: leading('<link href="b.dita"/>'),
    shows: ['Drop it.', 'Buoys'],
    site: { links: ['Buoys → Buoys'] },
    print: { has: { link: 1 } },
  },
  'words of a link of its own are shown in place of the title': {
    section: relatedLinks,
    files: leading('<link href="b.dita"><linktext>All buoys</linktext></link>'),
    shows: ['All buoys'],
    site: { links: ['All buoys → Buoys'] },
    print: { has: { link: 1 } },
  },
  'a list of links has a title and a remark': {
    section: relatedLinks,
    files: leading(
      '<linklist><title>Read first</title><link href="c.dita"/><link href="b.dita"/>' +
        '<linkinfo>In this order.</linkinfo></linklist>',
    ),
    shows: ['Read first', 'Chains', 'Buoys', 'In this order.'],
    site: { links: ['Chains → Chains', 'Buoys → Buoys'] },
    print: { has: { link: 2 } },
  },
  'a link to an address outside is shown with its words': {
    section: relatedLinks,
    files: leading(
      '<link href="https://tides.example/tables" scope="external" format="html">' +
        '<linktext>Tide tables</linktext></link>',
    ),
    shows: ['Tide tables'],
    site: { links: ['Tide tables → https://tides.example/tables'] },
    print: { has: { link: 'Tide tables' } },
  },
  'links of a pool are related links without an order of their own': {
    section: relatedLinks,
    files: leading(
      '<linkpool><link href="b.dita"/><linkpool><link href="c.dita"/></linkpool></linkpool>',
    ),
    site: { links: ['Buoys → Buoys', 'Chains → Chains'] },
    print: { has: { link: 2 } },
  },
  'a list of links in a list keeps its title': {
    section: relatedLinks,
    files: leading(
      '<linklist><title>Moorings</title><linklist><title>In ports</title><link href="b.dita"/>' +
        '</linklist></linklist>',
    ),
    shows: ['Moorings', 'In ports', 'Buoys'],
    site: { links: ['Buoys → Buoys'] },
    print: { has: { link: 1 } },
  },
  'a link says what it leads to in a description': {
    section: relatedLinks,
    files: leading('<link href="b.dita"><desc>Of all colours.</desc></link>'),
    shows: ['Buoys', 'Of all colours.'],
    site: { links: ['Buoys → Buoys'] },
    print: { has: { link: 1 } },
  },
  'an excluded link is not there': {
    section: '2.4.3.1 Conditional processing attributes',
    files: leading(
      '<link href="b.dita" audience="crew"><linktext>For the crew</linktext></link>' +
        '<link href="c.dita"/>',
    ),
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    hides: ['For the crew'],
    site: { links: ['Chains → Chains'] },
    print: { has: { link: 1 } },
  },
  'an excluded pool goes with its links': {
    section: '2.4.3.1 Conditional processing attributes',
    files: leading(
      '<linkpool audience="crew"><link href="b.dita"/></linkpool><link href="c.dita"/>',
    ),
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    site: { links: ['Chains → Chains'] },
    print: { has: { link: 1 } },
  },
  'a row of a relationship table links its cells': {
    section: '2.2.4.1 Relationship tables',
    files: { ...leading(''), 'book.ditamap': bothOf },
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
    print: { has: { link: 2 } },
  },
  'a link to the same topic by the topic and by the map is there once': {
    section: relatedLinks,
    files: { ...leading('<link href="b.dita"/>'), 'book.ditamap': bothOf },
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
    print: { has: { link: 2 } },
  },
  'an address with illegal signs is encoded in links, and shown as it is written': {
    section: '2.4.1.2 URI-based addressing',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>See <xref href="https://tides.example/[low]/" scope="external" format="html">the ' +
          'tides</xref>.</p>',
      ),
    },
    site: { leads: ['the tides → https://tides.example/%5Blow%5D/'] },
    shows: ['See the tides.'],
  },
  'an address that cannot be read is reported, and its words stay': {
    section: '2.4.1.2 URI-based addressing',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>See <xref href="https://" scope="external" format="html">the tides</xref>.</p>',
      ),
    },
    site: { leads: [] },
    shows: ['See the tides.'],
    problems: ['link.unreadable'],
  },
};
