import { map, topic, type Cases } from '../case.ts';

const reltables = '2.2.3.2 Relationship tables';
const linking = '2.2.3.2 Relationship tables: the linking attribute';

const topics = {
  'a.dita': topic('a', 'Anchors', '<p>Drop it.</p>'),
  'b.dita': topic('b', 'Buoys', '<p>Pass it.</p>'),
  'c.dita': topic('c', 'Chains', '<p>Count it.</p>'),
};
const shown = '<topicref href="a.dita"/><topicref href="b.dita"/><topicref href="c.dita"/>';
const related = (table: string, entries = shown): Record<string, string> => ({
  'book.ditamap': map(`${entries}<reltable>${table}</reltable>`),
  ...topics,
});
const row = (...cells: string[]): string =>
  `<relrow>${cells.map((cell) => `<relcell>${cell}</relcell>`).join('')}</relrow>`;
const to = (file: string, more = ''): string => `<topicref href="${file}.dita"${more}/>`;

export const relating: Cases = {
  'each topic of a row leads to those in its other cells': {
    section: reltables,
    files: related(row(to('a'), to('b'), to('c'))),
    site: {
      links: [
        'Buoys → Buoys',
        'Chains → Chains',
        'Anchors → Anchors',
        'Chains → Chains',
        'Anchors → Anchors',
        'Buoys → Buoys',
      ],
    },
  },
  'topics of one cell do not lead to each other': {
    section: reltables,
    files: related(row(to('a') + to('b'), to('c'))),
    site: {
      links: ['Chains → Chains', 'Chains → Chains', 'Anchors → Anchors', 'Buoys → Buoys'],
    },
  },
  'rows have nothing to do with each other': {
    section: reltables,
    files: related(row(to('a'), to('b')) + row(to('c'), '')),
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
  },
  'an address outside is a related link with its words': {
    section: reltables,
    files: related(
      row(
        to('a'),
        '<topicref href="https://brinewell.example/tides" scope="external" format="html">' +
          '<topicmeta><linktext>Tide tables</linktext></topicmeta></topicref>',
      ),
    ),
    shows: ['Related topics', 'Tide tables', 'Buoys'],
    site: { links: ['Tide tables → https://brinewell.example/tides'] },
  },
  'an address outside without words is shown itself': {
    section: reltables,
    files: related(
      row(to('a'), '<topicref href="https://brinewell.example/tides" scope="external"/>'),
    ),
    site: { links: ['https://brinewell.example/tides → https://brinewell.example/tides'] },
  },
  'a key of an address outside is a related link': {
    section: reltables,
    files: related(
      row(
        to('a'),
        '<topicref keyref="tides"><topicmeta><navtitle>Tides</navtitle></topicmeta>' +
          '</topicref>',
      ),
      `<keydef keys="tides" href="https://brinewell.example/tides" scope="external"/>${shown}`,
    ),
    site: { links: ['Tides → https://brinewell.example/tides'] },
  },
  'the title of a column is the heading of links into it': {
    section: reltables,
    files: related(
      '<relheader><relcolspec><title>Gear</title></relcolspec>' +
        `<relcolspec><title>Marks at sea</title></relcolspec></relheader>${row(to('a'), to('b'))}`,
    ),
    site: { has: { '.related h2': ['Marks at sea', 'Gear'] } },
    shows: ['Anchors', 'Marks at sea', 'Buoys', 'Gear', 'Anchors'],
  },
  'columns without a title have the usual heading': {
    section: reltables,
    files: related(`<relheader><relcolspec/><relcolspec/></relheader>${row(to('a'), to('b'))}`),
    site: { has: { '.related h2': ['Related topics', 'Related topics'] } },
  },
  'links into several columns have a heading each': {
    section: reltables,
    files: related(
      '<relheader><relcolspec/><relcolspec><title>Marks</title></relcolspec>' +
        '<relcolspec><title>Gear</title></relcolspec></relheader>' +
        row(
          to('a', ' linking="sourceonly"'),
          to('b', ' linking="targetonly"'),
          to('c', ' linking="targetonly"'),
        ),
    ),
    site: { has: { '.related h2': ['Marks', 'Gear'] } },
  },
  'a topic that is only a source is not led to': {
    section: linking,
    files: related(row(to('a', ' linking="sourceonly"'), to('b'))),
    site: { links: ['Buoys → Buoys'] },
  },
  'a topic that is only a target leads nowhere': {
    section: linking,
    files: related(row(to('a', ' linking="targetonly"'), to('b'))),
    site: { links: ['Anchors → Anchors'] },
  },
  'a column says how all of its cells are linked': {
    section: linking,
    files: related(
      '<relheader><relcolspec linking="sourceonly"/><relcolspec/></relheader>' +
        row(to('a'), to('b')) +
        row(to('c'), to('b')),
    ),
    site: { links: ['Buoys → Buoys', 'Buoys → Buoys'] },
  },
  'an entry with linking of its own is not bound to its column': {
    section: linking,
    files: related(
      '<relheader><relcolspec linking="none"/><relcolspec/></relheader>' +
        row(to('a', ' linking="normal"'), to('b')),
    ),
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
  },
  'a row that is filtered out links nothing': {
    section: '2.4.3.3 Filtering and flagging logic',
    files: related(row(to('a'), to('b')).replace('<relrow>', '<relrow audience="crew">')),
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    site: { links: [] },
  },
  'a relationship table of a map in the map holds as well': {
    section: reltables,
    files: {
      'book.ditamap': map(`${shown}<mapref href="more.ditamap"/>`),
      'more.ditamap': `<map><reltable>${row(to('a'), to('b'))}</reltable></map>`,
      ...topics,
    },
    map: 'book.ditamap',
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
  },
  'a topic of a relationship table that is not in the map is no link': {
    section: reltables,
    files: related(row(to('a'), to('c')), '<topicref href="a.dita"/><topicref href="b.dita"/>'),
    site: { links: [] },
    hides: ['Chains'],
  },
  'a collection that is a family links its topics to each other': {
    section: '2.2.3.3 collection-type',
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita" collection-type="family"><topicref href="b.dita"/>' +
          '<topicref href="c.dita"/></topicref>',
      ),
      ...topics,
    },
    site: { links: ['Chains → Chains', 'Buoys → Buoys'] },
  },
};
