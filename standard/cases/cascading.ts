import { map, topic, type Cases } from '../case.ts';

const cascade = '2.4.4.5 Cascading of metadata attributes in a DITA map';
const relations = '2.2.4.1 Relationship tables';

const seas = {
  'a.dita': topic('a', 'Anchors', '<p>Drop it.</p>'),
  'b.dita': topic('b', 'Buoys', '<p>Red buoys</p>'),
  'c.dita': topic('c', 'Chains', '<p>Long chains</p>'),
};
const book = (entries: string) => ({ ...seas, 'book.ditamap': map(entries) });

export const cascading: Cases = {
  'what stands below an entry that is not in the contents is not there either': {
    section: cascade,
    files: book(
      '<topicref href="a.dita" toc="no"><topicref href="b.dita"/></topicref><topicref' +
        ' href="c.dita"/>',
    ),
    shows: ['Drop it.', 'Red buoys', 'Long chains'],
    contents: ['Chains'],
  },
  'an entry can be in the contents below one that is not': {
    section: cascade,
    files: book(
      '<topicref href="a.dita" toc="no"><topicref href="b.dita" toc="yes"/></topicref>' +
        '<topicref href="c.dita"/>',
    ),
    site: { contents: ['Buoys', 'Chains'] },
    print: { shows: ['Red buoys'] },
  },
  'an entry can be normal below one that is a resource': {
    section: cascade,
    files: book(
      '<topicref href="a.dita" processing-role="resource-only">' +
        '<topicref href="b.dita" processing-role="normal"/></topicref><topicref href="c.dita"/>',
    ),
    shows: ['Red buoys', 'Long chains'],
    hides: ['Drop it.'],
    contents: ['Buoys', 'Chains'],
  },
  'what stands below a resource is one': {
    section: cascade,
    files: book(
      '<topicgroup processing-role="resource-only"><topicref href="a.dita"/></topicgroup>' +
        '<topicref href="c.dita"/>',
    ),
    shows: ['Long chains'],
    hides: ['Drop it.'],
  },
  'attributes of the map hold for all its entries': {
    section: cascade,
    files: {
      ...seas,
      'book.ditamap':
        '<map toc="no"><title>Book</title><topicref href="a.dita"/>' +
        '<topicref href="b.dita" toc="yes"/></map>',
    },
    shows: ['Drop it.', 'Red buoys'],
    contents: ['Buoys'],
  },
  'attributes of a reference hold for the map that it names': {
    section: cascade,
    files: {
      ...seas,
      'book.ditamap': map('<mapref href="parts.ditamap" toc="no"/><topicref href="c.dita"/>'),
      'parts.ditamap': map('<topicref href="a.dita"/>'),
    },
    map: 'book.ditamap',
    shows: ['Drop it.', 'Long chains'],
    contents: ['Chains'],
  },
  'an entry for screens is not on paper': {
    section: '3.10.7 print',
    files: book('<topicref href="a.dita" print="no"/><topicref href="b.dita"/>'),
    site: { shows: ['Drop it.', 'Red buoys'] },
    print: { shows: ['Red buoys'], hides: ['Drop it.'], contents: ['Buoys'] },
  },
  'an entry for paper is not on screens': {
    section: '3.10.7 print',
    files: book('<topicref href="a.dita" print="printonly"/><topicref href="b.dita"/>'),
    site: { shows: ['Red buoys'], hides: ['Drop it.'], contents: ['Buoys'] },
    print: { shows: ['Drop it.', 'Red buoys'] },
  },
  'an entry that is not searched is not found': {
    section: '3.10.7 search',
    files: book('<topicref href="a.dita" search="no"/><topicref href="b.dita"/>'),
    shows: ['Drop it.', 'Red buoys'],
    site: { finds: { drop: [], buoy: ['Buoys'] } },
  },
  'a target of delivery that names no output is for filters alone': {
    section: '3.10.4 deliveryTarget',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p deliveryTarget="kiosk">At the quay</p><p deliveryTarget="print">On paper</p>' +
          '<p deliveryTarget="html">On screens</p>',
      ),
    },
    shows: ['At the quay'],
    site: { shows: ['On screens'], hides: ['On paper'] },
    print: { shows: ['On paper'], hides: ['On screens'] },
  },
  'a filter excludes a target of delivery that names no output': {
    section: '3.10.4 deliveryTarget',
    files: {
      'a.dita': topic('a', 'Anchors', '<p deliveryTarget="kiosk">At the quay</p><p>All</p>'),
    },
    filter: '<val><prop att="deliveryTarget" val="kiosk" action="exclude"/></val>',
    shows: ['All'],
    hides: ['At the quay'],
  },
  'an entry that leads to the web is in the contents, with its address': {
    section: '2.2.2 topicref, scope',
    files: book(
      '<topicref href="a.dita"/><topicref href="https://tides.example/" scope="external" ' +
        'format="html"><topicmeta><navtitle>Tides</navtitle></topicmeta></topicref>',
    ),
    shows: ['Drop it.', 'Tides', 'https://tides.example/'],
    contents: ['Anchors', 'Tides'],
    site: { links: ['https://tides.example/ → https://tides.example/'] },
    print: { has: { link: 'https://tides.example/' } },
  },
  'an entry that leads to the web is named by its link text, else by its address': {
    section: '2.2.2 topicref, scope',
    files: book(
      '<topicref href="https://tides.example/" scope="external" format="html"><topicmeta>' +
        '<linktext>Tides</linktext></topicmeta></topicref>' +
        '<topicref href="https://moon.example/" scope="external" format="html"/>',
    ),
    contents: ['Tides', 'https://moon.example/'],
  },
  'index entries of the map lead to the topic': {
    section: '3.2.6.4 keywords, indexterm in topicmeta',
    files: {
      ...seas,
      'book.ditamap':
        '<bookmap><title>Book</title><chapter href="a.dita"><topicmeta><keywords><indexterm>' +
        'mooring</indexterm></keywords></topicmeta></chapter><backmatter><booklists><indexlist/>' +
        '</booklists></backmatter></bookmap>',
    },
    print: { shows: ['Drop it.', 'mooring'] },
  },
  'cells of a relationship table name topics by keys': {
    section: relations,
    files: book(
      '<topicref href="a.dita" keys="anchor"/><topicref href="b.dita" keys="buoy"/><reltable>' +
        '<relrow><relcell><topicref keyref="anchor"/></relcell><relcell><topicref ' +
        'keyref="buoy"/></relcell></relrow></reltable>',
    ),
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
    print: { has: { link: 2 } },
  },
  'keys of a relationship table can be defined after it': {
    section: relations,
    files: book(
      '<topicref href="a.dita"/><topicref href="b.dita"/><reltable><relrow><relcell><topicref ' +
        'href="a.dita"/></relcell><relcell><topicref keyref="late"/></relcell></relrow>' +
        '</reltable><keydef keys="late" href="b.dita"/>',
    ),
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
    print: { has: { link: 2 } },
  },
  'a key of a relationship table that is not defined is a problem': {
    section: relations,
    files: book(
      '<topicref href="a.dita"/><reltable><relrow><relcell><topicref href="a.dita"/></relcell>' +
        '<relcell><topicref keyref="none"/></relcell></relrow></reltable>',
    ),
    shows: ['Drop it.'],
    problems: ['key.undefined'],
  },
  'columns of a relationship table say which way links go': {
    section: relations,
    files: book(
      '<topicref href="a.dita"/><topicref href="b.dita"/><reltable><relheader>' +
        '<relcolspec linking="sourceonly"/><relcolspec linking="targetonly"/></relheader>' +
        '<relrow><relcell><topicref href="a.dita"/></relcell><relcell><topicref href="b.dita"/>' +
        '</relcell></relrow></reltable>',
    ),
    site: { links: ['Buoys → Buoys'] },
    print: { has: { link: 1 } },
  },
  'an entry of a relationship table says itself which way links go': {
    section: relations,
    files: book(
      '<topicref href="a.dita"/><topicref href="b.dita"/><reltable><relrow><relcell><topicref ' +
        'href="a.dita"/></relcell><relcell><topicref href="b.dita" linking="targetonly"/>' +
        '</relcell></relrow></reltable>',
    ),
    site: { links: ['Buoys → Buoys'] },
    print: { has: { link: 1 } },
  },
};
