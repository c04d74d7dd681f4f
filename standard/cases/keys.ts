import { map, topic, type Cases } from '../case.ts';

const effective = '2.4.4.3 Effective key definitions';
const processing = '2.4.4.6 Processing key references to generate text or link text';
const navigation = '2.4.4.5 Processing key references for navigation links and images';
const filtering = '2.4.3.3 Filtering and flagging logic';

const keyword = (key: string, words: string, more = ''): string =>
  `<keydef keys="${key}"${more}><topicmeta><keywords><keyword>${words}</keyword></keywords>` +
  '</topicmeta></keydef>';
const excludeCrew = '<val><prop att="audience" val="crew" action="exclude"/></val>';
const empty = (body: string, ...entries: string[]): Record<string, string> => ({
  'book.ditamap': map(`${entries.join('')}<topicref href="a.dita"/>`),
  'a.dita': topic('a', 'Anchors', body),
});

export const keys: Cases = {
  'a phrase with a key says its keyword': {
    section: processing,
    files: empty('<p>Made by <ph keyref="maker"/>.</p>', keyword('maker', 'Brinewell')),
    shows: ['Made by Brinewell.'],
  },
  'of two definitions in a map the first is effective': {
    section: effective,
    files: empty('<p>It is <ph keyref="k"/>.</p>', keyword('k', 'first'), keyword('k', 'second')),
    shows: ['It is first.'],
    hides: ['second'],
    problems: ['key.twice'],
  },
  'a definition of the map goes before one of a map in it': {
    section: effective,
    files: {
      ...empty(
        '<p>It is <ph keyref="k"/>.</p>',
        '<mapref href="inner.ditamap"/>',
        keyword('k', 'outer'),
      ),
      'inner.ditamap': `<map>${keyword('k', 'inner')}</map>`,
    },
    map: 'book.ditamap',
    shows: ['It is outer.'],
  },
  'a conditional definition that is not excluded is effective before a later one': {
    section: filtering,
    files: empty(
      '<p>It is <ph keyref="k"/>.</p>',
      keyword('k', 'for crew', ' audience="crew"'),
      keyword('k', 'for all'),
    ),
    shows: ['It is for crew.'],
    hides: ['for all'],
  },
  'an excluded definition is none': {
    section: filtering,
    files: empty(
      '<p>It is <ph keyref="k"/>.</p>',
      keyword('k', 'for crew', ' audience="crew"'),
      keyword('k', 'for all'),
    ),
    filter: excludeCrew,
    shows: ['It is for all.'],
    hides: ['for crew'],
  },
  'an excluded wording in a definition is not taken': {
    section: filtering,
    files: empty(
      '<p>It is <ph keyref="k"/>.</p>',
      '<keydef keys="k"><topicmeta><keywords><keyword audience="crew">for crew</keyword>' +
        '<keyword audience="port">for the port</keyword></keywords></topicmeta></keydef>',
    ),
    filter: excludeCrew,
    shows: ['It is for the port.'],
    hides: ['for crew'],
  },
  'a key that is not defined is reported': {
    section: effective,
    files: empty('<p>It is <ph keyref="nowhere"/>.</p>'),
    problems: ['key.undefined'],
  },
  'words of the element itself go before those of its key': {
    section: processing,
    files: empty(
      '<p>It is <keyword keyref="k">written</keyword>, <ph keyref="k">said</ph> and ' +
        '<term keyref="k">called</term>.</p>',
      keyword('k', 'defined'),
    ),
    shows: ['It is written, said and called.'],
    hides: ['defined'],
  },
  'a link by a key to a topic leads there, with its title': {
    section: navigation,
    files: {
      ...empty('<p>See <xref keyref="k"/>.</p>', '<topicref keys="k" href="b.dita"/>'),
      'b.dita': topic('b', 'Buoys'),
    },
    site: { links: ['Buoys → Buoys'] },
  },
  'a link by a key says the link text of its definition': {
    section: processing,
    files: {
      ...empty(
        '<p>See <xref keyref="k"/>.</p>',
        '<topicref keys="k" href="b.dita"><topicmeta><linktext>all about buoys</linktext>' +
          '</topicmeta></topicref>',
      ),
      'b.dita': topic('b', 'Buoys'),
    },
    shows: ['See', 'all about buoys'],
    site: { links: ['all about buoys → Buoys'] },
  },
  'a link by a key to an address outside says the link text of its definition': {
    section: processing,
    files: empty(
      '<p>See <xref keyref="k"/>.</p>',
      '<keydef keys="k" href="https://tides.example/tables" scope="external" format="html">' +
        '<topicmeta><linktext>Tide tables</linktext></topicmeta></keydef>',
    ),
    shows: ['See', 'Tide tables'],
    site: { links: ['Tide tables → https://tides.example/tables'] },
  },
  'a link by a key that has words alone says these, and leads nowhere': {
    section: processing,
    files: empty('<p>See <xref keyref="k"/>.</p>', keyword('k', 'the almanac')),
    shows: ['See the almanac.'],
    site: { links: [] },
  },
  'phrases, keywords and terms by a key with an address are links': {
    section: navigation,
    files: {
      ...empty(
        '<p><ph keyref="k"/>, <keyword keyref="k"/>, <term keyref="k"/>, ' +
          '<ph keyref="k">own words</ph></p>',
        '<topicref keys="k" href="b.dita"><topicmeta><keywords><keyword>the buoys</keyword>' +
          '</keywords></topicmeta></topicref>',
      ),
      'b.dita': topic('b', 'Buoys'),
    },
    site: {
      links: ['the buoys → Buoys', 'the buoys → Buoys', 'the buoys → Buoys', 'own words → Buoys'],
    },
  },
  'a key leads to an element in its topic': {
    section: '2.4.4.1 Key-based addressing, keyref with an element ID',
    files: {
      ...empty('<p>See <xref keyref="k/lit"/>.</p>', '<topicref keys="k" href="b.dita"/>'),
      'b.dita': topic('b', 'Buoys', '<section id="lit"><title>Lit buoys</title></section>'),
    },
    site: { links: ['Lit buoys → Buoys # b--lit'] },
  },
  'a key by which nothing can be found leaves the address beside it': {
    section: navigation,
    files: {
      ...empty('<p>See <xref keyref="nowhere" href="b.dita"/>.</p>', '<topicref href="b.dita"/>'),
      'b.dita': topic('b', 'Buoys'),
    },
    site: { links: ['Buoys → Buoys'] },
  },
  'an image by a key is shown': {
    section: navigation,
    files: {
      ...empty(
        '<fig><image keyref="plan"><alt>The plan</alt></image></fig>',
        '<keydef keys="plan" href="plan.svg" format="svg"/>',
      ),
      'plan.svg': '<svg xmlns="http://www.w3.org/2000/svg" width="40" height="30"/>',
    },
    site: { has: { 'img[alt="The plan"]': 1 } },
  },
};
