import { map, topic, type Cases } from '../case.ts';

const sets = '3.3.1 topicset and topicsetref';
const navref = '3.2.2.6 navref';
const anchors = '3.2.2.2 anchor';
const copies = '2.4.5.4 Using the copy-to attribute';
const scopes = '2.4.4.7 Key scopes';
const branches = '2.4.3.4 Branch filtering';

const topics = {
  'a.dita': topic('a', 'Anchors', '<p>Drop it.</p>'),
  'b.dita': topic('b', 'Buoys', '<p>Pass it.</p>'),
  'c.dita': topic('c', 'Chains', '<p>Count it.</p>'),
};
const keyword = (key: string, words: string): string =>
  `<keydef keys="${key}"><topicmeta><keywords><keyword>${words}</keyword></keywords>` +
  '</topicmeta></keydef>';
const filterOf = (value: string): string =>
  `<val><prop att="audience" val="${value}" action="exclude"/></val>`;

export const arranging: Cases = {
  'a set of topics stands where it is': {
    section: sets,
    files: {
      'book.ditamap': map(
        '<topicset id="set"><topicref href="a.dita"/><topicref href="b.dita"/></topicset>',
      ),
      ...topics,
    },
    contents: ['Anchors', 'Buoys'],
  },
  'a set with a topic of its own has that above the others': {
    section: sets,
    files: {
      'book.ditamap': map('<topicset id="set" href="a.dita"><topicref href="b.dita"/></topicset>'),
      ...topics,
    },
    contents: ['Anchors', '  Buoys'],
  },
  'a reference to a set of another map shows its topics': {
    section: sets,
    files: {
      'book.ditamap': map(
        '<topicref href="c.dita"/>' +
          '<topicsetref href="sets.ditamap#set" format="ditamap" type="topicset"/>',
      ),
      'sets.ditamap':
        '<map id="sets"><topicset id="set"><topicref href="a.dita"/></topicset>' +
        '<topicref href="b.dita"/></map>',
      ...topics,
    },
    map: 'book.ditamap',
    contents: ['Chains', 'Anchors'],
    hides: ['Pass it.'],
  },
  'a reference to a set with a topic of its own shows that too': {
    section: sets,
    files: {
      'book.ditamap': map('<topicsetref href="sets.ditamap#set" format="ditamap"/>'),
      'sets.ditamap':
        '<map id="sets"><topicset id="set" href="a.dita"><topicref href="b.dita"/></topicset>' +
        '</map>',
      ...topics,
    },
    map: 'book.ditamap',
    contents: ['Anchors', '  Buoys'],
  },
  'a reference to a set that is not there is reported': {
    section: sets,
    files: {
      'book.ditamap': map(
        '<topicref href="c.dita"/><topicsetref href="sets.ditamap#none" format="ditamap"/>',
      ),
      'sets.ditamap': '<map id="sets"/>',
      ...topics,
    },
    map: 'book.ditamap',
    contents: ['Chains'],
    problems: ['map.missing-map'],
  },
  'a map for navigation is in the contents': {
    section: navref,
    files: {
      'book.ditamap': map('<topicref href="a.dita"/><navref href="more.ditamap"/>'),
      'more.ditamap': '<map><title>More</title><topicref href="b.dita"/></map>',
      ...topics,
    },
    map: 'book.ditamap',
    contents: ['Anchors', 'Buoys'],
  },
  'a map hangs at the anchor that it names': {
    section: anchors,
    files: {
      'book.ditamap': map('<mapref href="main.ditamap"/><mapref href="more.ditamap"/>'),
      'main.ditamap':
        '<map id="main"><topicref href="a.dita"><anchor id="here"/></topicref>' +
        '<topicref href="b.dita"/></map>',
      'more.ditamap': '<map anchorref="main.ditamap#here"><topicref href="c.dita"/></map>',
      ...topics,
    },
    map: 'book.ditamap',
    contents: ['Anchors', '  Chains', 'Buoys'],
  },
  'a map whose anchor is in no map of the publication stands where it is': {
    section: anchors,
    files: {
      'book.ditamap': map('<topicref href="a.dita"/><mapref href="more.ditamap"/>'),
      'main.ditamap': '<map id="main"><anchor id="here"/></map>',
      'more.ditamap': '<map anchorref="main.ditamap#here"><topicref href="c.dita"/></map>',
      ...topics,
    },
    map: 'book.ditamap',
    contents: ['Anchors', 'Chains'],
  },
  'entries that refer to an anchor stand in both places': {
    section: anchors,
    files: {
      'book.ditamap':
        '<map id="book"><title>Book</title><topicref href="a.dita"><anchor id="here"/></topicref>' +
        '<anchorref href="#here"><topicref href="c.dita"/></anchorref></map>',
      ...topics,
    },
    contents: ['Anchors', '  Chains', 'Chains'],
  },
  'an anchor where nothing hangs shows nothing': {
    section: anchors,
    files: {
      'book.ditamap': map('<topicref href="a.dita"><anchor id="here"/></topicref>'),
      ...topics,
    },
    contents: ['Anchors'],
  },
  'maps that hang in themselves are reported, and nothing of them is lost': {
    section: anchors,
    files: {
      'book.ditamap': map('<topicref href="a.dita"/><mapref href="more.ditamap"/>'),
      'more.ditamap':
        '<map id="more" anchorref="#here"><topicref href="c.dita"/><anchor id="here"/></map>',
      ...topics,
    },
    map: 'book.ditamap',
    contents: ['Anchors', 'Chains'],
    problems: ['map.cycle'],
  },
  'a topic with another name stands beside itself, and links by each name lead there': {
    section: copies,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/><topicref href="a.dita" copy-to="spare.dita"/>' +
          '<topicref href="b.dita"/>',
      ),
      ...topics,
      'b.dita': topic(
        'b',
        'Buoys',
        '<p><xref href="a.dita">plain</xref> and <xref href="spare.dita">spare</xref></p>',
      ),
    },
    contents: ['Anchors', 'Anchors', 'Buoys'],
    site: { leads: ['plain → a.html', 'spare → spare.html'] },
  },
  'a page has the name that the map gives it': {
    section: copies,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita" copy-to="spare-anchor.dita"/><topicref href="b.dita"/>',
      ),
      ...topics,
      'b.dita': topic('b', 'Buoys', '<p><xref href="a.dita"/></p>'),
    },
    contents: ['Anchors', 'Buoys'],
    site: { leads: ['Anchors → spare-anchor.html'] },
  },
  'a link by the name of a copy leads to the copy alone': {
    section: copies,
    files: {
      'book.ditamap': map(
        '<topicref href="b.dita"/>' +
          '<topicref href="a.dita" copy-to="one.dita" locktitle="yes"><topicmeta>' +
          '<navtitle>First</navtitle></topicmeta></topicref>' +
          '<topicref href="a.dita" copy-to="two.dita" locktitle="yes"><topicmeta>' +
          '<navtitle>Second</navtitle></topicmeta></topicref>',
      ),
      ...topics,
      'b.dita': topic('b', 'Buoys', '<p><xref href="two.dita">two</xref></p>'),
    },
    site: { contents: ['Buoys', 'First', 'Second'], leads: ['two → two.html'] },
  },
  'the scope of a map reference and that of its map are one': {
    section: scopes,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/><mapref href="inner.ditamap" keyscope="outer"/>',
      ),
      'inner.ditamap': `<map keyscope="inner">${keyword('maker', 'Brinewell')}</map>`,
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>By <ph keyref="outer.maker"/> and <ph keyref="inner.maker"/>.</p>',
      ),
    },
    map: 'book.ditamap',
    shows: ['By Brinewell and Brinewell.'],
  },
  'a key leads into the branch of its scope': {
    section: branches,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/>' +
          '<topicref href="b.dita" keys="buoy" keyscope="part">' +
          '<ditavalref href="crew.ditaval"><ditavalmeta>' +
          '<dvrResourcePrefix>crew-</dvrResourcePrefix>' +
          '<dvrKeyscopePrefix>crew-</dvrKeyscopePrefix></ditavalmeta></ditavalref>' +
          '<ditavalref href="guest.ditaval"><ditavalmeta>' +
          '<dvrResourcePrefix>guest-</dvrResourcePrefix>' +
          '<dvrKeyscopePrefix>guest-</dvrKeyscopePrefix></ditavalmeta></ditavalref></topicref>',
      ),
      'crew.ditaval': filterOf('guest'),
      'guest.ditaval': filterOf('crew'),
      'a.dita': topic(
        'a',
        'Anchors',
        '<p><xref keyref="crew-part.buoy">crew</xref> ' +
          '<xref keyref="guest-part.buoy">guest</xref></p>',
      ),
      'b.dita': topic(
        'b',
        'Buoys',
        '<p audience="crew">For the crew.</p><p audience="guest">For guests.</p>',
      ),
    },
    contents: ['Anchors', 'Buoys', 'Buoys'],
    site: { leads: ['crew → crew-b.html', 'guest → guest-b.html'] },
  },
  'the text of links to a topic is said by the map': {
    section: '3.2.2.x linktext',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"><topicmeta><linktext>How to anchor</linktext></topicmeta>' +
          '</topicref><topicref href="b.dita"/>',
      ),
      ...topics,
      'b.dita': topic('b', 'Buoys', '<p>See <xref href="a.dita"/>.</p>'),
    },
    contents: ['Anchors', 'Buoys'],
    shows: ['How to anchor'],
    site: { links: ['How to anchor → Anchors'] },
  },
  'a link with words of its own keeps them': {
    section: '3.2.2.x linktext',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"><topicmeta><linktext>How to anchor</linktext></topicmeta>' +
          '</topicref><topicref href="b.dita"/>',
      ),
      ...topics,
      'b.dita': topic('b', 'Buoys', '<p>See <xref href="a.dita">that</xref>.</p>'),
    },
    hides: ['How to anchor'],
    site: { links: ['that → Anchors'] },
  },
  'related links say the text that the map gives': {
    section: '3.2.2.x linktext',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"><topicmeta><linktext>How to anchor</linktext></topicmeta>' +
          '</topicref><topicref href="b.dita"/><reltable><relrow>' +
          '<relcell><topicref href="a.dita"/></relcell><relcell><topicref href="b.dita"/>' +
          '</relcell></relrow></reltable>',
      ),
      ...topics,
    },
    site: { links: ['Buoys → Buoys', 'How to anchor → Anchors'] },
  },
};
