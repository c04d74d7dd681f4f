import { map, topic, type Cases } from '../case.ts';

const lockTitle = '2.2.1.2 DITA map attributes, locktitle';
const alternativeTitles = '3.2.2.3 titlealts';

const titled = (alternatives: string): string =>
  `<topic id="a"><title>Anchors of every kind</title><titlealts>${alternatives}</titlealts>` +
  '<body><p>Drop it.</p></body></topic>';

export const titles: Cases = {
  'a title of the map that is not locked gives way to that of the topic': {
    section: lockTitle,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita" navtitle="Old"/><topicref href="b.dita"><topicmeta>' +
          '<navtitle>Older</navtitle></topicmeta></topicref>',
      ),
      'a.dita': topic('a', 'Anchors'),
      'b.dita': topic('b', 'Buoys'),
    },
    hides: ['Old'],
    contents: ['Anchors', 'Buoys'],
  },
  'a locked title of the map is for contents, and the heading stays': {
    section: lockTitle,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita" locktitle="yes"><topicmeta><navtitle>Short</navtitle>' +
          '</topicmeta></topicref><topicref href="b.dita" locktitle="yes" navtitle="Brief"/>',
      ),
      'a.dita': topic('a', 'Anchors of every kind'),
      'b.dita': topic('b', 'Buoys of every kind'),
    },
    shows: ['Anchors of every kind', 'Buoys of every kind'],
    site: {
      contents: ['Short', 'Brief'],
      has: { 'article h1': ['Anchors of every kind', 'Buoys of every kind'] },
    },
    print: { has: { h1: ['Anchors of every kind', 'Buoys of every kind'] } },
  },
  'the element goes before the attribute': {
    section: '3.3.1.3 navtitle',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita" locktitle="yes" navtitle="By attribute"><topicmeta>' +
          '<navtitle>By element</navtitle></topicmeta></topicref>',
      ),
      'a.dita': topic('a', 'Anchors'),
    },
    hides: ['By attribute'],
    site: { contents: ['By element'] },
  },
  'a heading without a topic is called as the map says': {
    section: '3.3.3.4 topichead',
    files: {
      'book.ditamap': map(
        '<topichead navtitle="Moorings"><topicref href="a.dita"/></topichead>' +
          '<topichead><topicmeta><navtitle>Signals</navtitle></topicmeta>' +
          '<topicref href="b.dita"/></topichead>',
      ),
      'a.dita': topic('a', 'Anchors'),
      'b.dita': topic('b', 'Buoys'),
    },
    shows: ['Moorings', 'Anchors', 'Signals', 'Buoys'],
    contents: ['Moorings', '  Anchors', 'Signals', '  Buoys'],
  },
  'a topic says itself what it is called in contents': {
    section: alternativeTitles,
    files: { 'a.dita': titled('<navtitle>Anchors</navtitle>') },
    shows: ['Anchors of every kind'],
    site: { contents: ['Anchors'], has: { 'article h1': 'Anchors of every kind' } },
  },
  'what a topic is called in contents gives way to a locked title of the map': {
    section: alternativeTitles,
    files: {
      'book.ditamap': map('<topicref href="a.dita" locktitle="yes" navtitle="Holding fast"/>'),
      'a.dita': titled('<navtitle>Anchors</navtitle>'),
    },
    site: { contents: ['Holding fast'] },
  },
  'a topic is found by the title that it has for the search': {
    section: '3.2.2.4 searchtitle',
    files: {
      'a.dita': titled('<searchtitle>Mooring gear</searchtitle>'),
      'b.dita': topic('b', 'Buoys'),
    },
    contents: ['Anchors of every kind', 'Buoys'],
    site: {
      has: { 'article h1': ['Anchors of every kind', 'Buoys'] },
      finds: { moor: ['Anchors of every kind'], anchor: ['Anchors of every kind'] },
    },
  },
  'the title for the search that the map gives goes before that of the topic': {
    section: '3.3.1.4 topicmeta, searchtitle',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"><topicmeta><searchtitle>Holding gear</searchtitle></topicmeta>' +
          '</topicref>',
      ),
      'a.dita': titled('<searchtitle>Mooring gear</searchtitle>'),
    },
    site: { finds: { hold: ['Anchors of every kind'], moor: [] } },
  },
  'an excluded title for contents leaves the title of the topic': {
    section: '2.4.3.1 Conditional processing attributes',
    files: { 'a.dita': titled('<navtitle audience="crew">Hooks</navtitle>') },
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    hides: ['Hooks'],
    contents: ['Anchors of every kind'],
  },
  'a variable in a title of contents is filled in': {
    section: '2.4.4.6 Processing key references to generate text',
    files: {
      'book.ditamap': map(
        '<keydef keys="ship"><topicmeta><keywords><keyword>Petrel</keyword></keywords></topicmeta>' +
          '</keydef><topicref href="a.dita"/>',
      ),
      'a.dita': titled('<navtitle>Anchors of the <ph keyref="ship"/></navtitle>'),
    },
    site: { contents: ['Anchors of the Petrel'] },
  },
  'nested topics have titles for contents of their own': {
    section: alternativeTitles,
    files: {
      'a.dita':
        '<topic id="a"><title>Anchors</title><topic id="b"><title>Buoys of every kind</title>' +
        '<titlealts><navtitle>Buoys</navtitle></titlealts></topic></topic>',
    },
    site: { contents: ['Anchors', '  Buoys'] },
  },
  'the printed contents say what the map calls a topic': {
    section: lockTitle,
    files: {
      'book.ditamap':
        '<bookmap><title>Book</title><frontmatter><booklists><toc/></booklists></frontmatter>' +
        '<chapter href="a.dita" locktitle="yes" navtitle="Short"/></bookmap>',
      'a.dita': topic('a', 'Anchors of every kind'),
    },
    print: { shows: ['Short', 'Anchors of every kind'] },
  },
};
