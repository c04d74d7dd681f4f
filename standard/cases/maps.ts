import { map, topic, type Cases } from '../case.ts';

const navigation = '2.4.4.5 Processing key references for navigation links and images';

const topics = {
  'a.dita': topic('a', 'Anchors', '<p>Drop it.</p>'),
  'b.dita': topic('b', 'Buoys', '<p>Pass it.</p>'),
};
const book = (entries: string): Record<string, string> => ({
  'book.ditamap': map(entries),
  ...topics,
});

export const maps: Cases = {
  'an entry by a key shows the topic of the key': {
    section: navigation,
    files: book('<keydef keys="k" href="a.dita"/><topicref keyref="k"/>'),
    shows: ['Anchors', 'Drop it.'],
    contents: ['Anchors'],
  },
  'an entry by a key may come before its definition': {
    section: navigation,
    files: book(
      '<topicref keyref="k"><topicref href="b.dita"/></topicref><keydef keys="k" href="a.dita"/>',
    ),
    contents: ['Anchors', '  Buoys'],
  },
  'chapters are named by keys too': {
    section: navigation,
    files: {
      'book.ditamap':
        '<bookmap><title>Book</title><frontmatter><keydef keys="k" href="a.dita"/></frontmatter>' +
        '<chapter keyref="k"><topicref href="b.dita"/></chapter></bookmap>',
      ...topics,
    },
    contents: ['Anchors', '  Buoys'],
  },
  'a key goes before the address beside it': {
    section: navigation,
    files: book('<keydef keys="k" href="a.dita"/><topicref keyref="k" href="b.dita"/>'),
    contents: ['Anchors'],
    hides: ['Pass it.'],
  },
  'the address beside a key that is not defined stands in for it': {
    section: navigation,
    files: book('<topicref keyref="nowhere" href="b.dita"/>'),
    contents: ['Buoys'],
  },
  'an entry by a key that is not defined is reported, and what is below it stays': {
    section: navigation,
    files: book('<topicref keyref="nowhere"><topicref href="b.dita"/></topicref>'),
    contents: ['Buoys'],
    problems: ['key.undefined'],
  },
  'a key without an address gives a heading': {
    section: '2.4.4.6 Processing key references to generate text or link text',
    files: book(
      '<keydef keys="k"><topicmeta><navtitle>Moorings</navtitle></topicmeta></keydef>' +
        '<topicref keyref="k"><topicref href="a.dita"/></topicref>',
    ),
    contents: ['Moorings', '  Anchors'],
  },
  'an entry by a key may show a part of its topic': {
    section: navigation,
    files: {
      'book.ditamap': map('<keydef keys="k" href="c.dita"/><topicref keyref="k/inner"/>'),
      'c.dita':
        '<topic id="c"><title>Chains</title><body><p>Outer.</p></body><topic id="inner">' +
        '<title>Links</title><body><p>Inner.</p></body></topic></topic>',
    },
    map: 'book.ditamap',
    shows: ['Links', 'Inner.'],
    hides: ['Outer.'],
  },
  'a map is named by a key': {
    section: navigation,
    files: {
      ...book(
        '<keydef keys="more" href="inner.ditamap" format="ditamap"/><topicref href="a.dita"/>' +
          '<topicref keyref="more" format="ditamap"/>',
      ),
      'inner.ditamap': '<map><topicref href="b.dita"/></map>',
    },
    map: 'book.ditamap',
    contents: ['Anchors', 'Buoys'],
  },
  'a definition may take its address from another key': {
    section: '2.4.4.2 Setting key names with the keys attribute',
    files: book(
      '<keydef keys="one" keyref="two"/><keydef keys="two" href="a.dita"/><topicref keyref="one"/>',
    ),
    contents: ['Anchors'],
  },
  'keys that name each other in a circle lead nowhere': {
    section: '2.4.4.3 Effective key definitions',
    files: book(
      '<keydef keys="one" keyref="two"/><keydef keys="two" keyref="one"/><topicref href="b.dita"/>' +
        '<topicref keyref="one"/>',
    ),
    contents: ['Buoys'],
    problems: ['key.empty'],
  },
  'a map in a map gives its entries where it stands': {
    section: '2.2.1 DITA maps',
    files: {
      ...book('<topicref href="a.dita"><mapref href="inner.ditamap"/></topicref>'),
      'inner.ditamap': '<map><title>Inner</title><topicref href="b.dita"/></map>',
    },
    map: 'book.ditamap',
    contents: ['Anchors', '  Buoys'],
    hides: ['Inner'],
  },
  'an entry that is not for contents is there, and its contents are not': {
    section: '2.2.1.2 DITA map attributes, toc',
    files: book('<topicref href="a.dita" toc="no"/><topicref href="b.dita"/>'),
    shows: ['Drop it.', 'Pass it.'],
    site: { contents: ['Buoys'] },
  },
  'a group has no heading': {
    section: '3.3.3.3 topicgroup',
    files: book(
      '<topicgroup><topicmeta><navtitle>Group</navtitle></topicmeta><topicref href="a.dita"/>' +
        '</topicgroup>',
    ),
    contents: ['Anchors'],
    hides: ['Group'],
  },
  'a resource is no part of the publication': {
    section: '2.2.1.2 DITA map attributes, processing-role',
    files: book(
      '<topicref href="a.dita"/><topicref href="b.dita" processing-role="resource-only"/>',
    ),
    contents: ['Anchors'],
    hides: ['Pass it.'],
  },
  'an excluded branch goes with all below it': {
    section: '2.4.3.3 Filtering and flagging logic',
    files: book('<topicref href="a.dita" product="d"><topicref href="b.dita"/></topicref>'),
    filter: '<val><prop att="product" val="d" action="exclude"/></val>',
    contents: [],
    hides: ['Drop it.', 'Pass it.'],
  },
};
