import { map, topic, type Cases } from '../case.ts';

const conref = '2.4.5.1 Conref overview';
const pushing = '2.4.5.2 Processing conrefs: pushing content';
const inMaps = '2.4.5.2 Processing conrefs: maps';

const target = topic(
  'a',
  'Anchors',
  '<ol id="list"><li id="one">Look.</li><li id="two">Drop it.</li></ol><p id="last">Done.</p>',
);
/** A map that shows the target and has a topic at hand that puts content into it. */
const pushed = (body: string, more: Record<string, string> = {}): Record<string, string> => ({
  'book.ditamap': map(
    '<topicref href="a.dita"/><topicref href="push.dita" processing-role="resource-only"/>',
  ),
  'a.dita': target,
  'push.dita': topic('push', 'Pushing', body),
  ...more,
});
const excludeCrew = '<val><prop att="audience" val="crew" action="exclude"/></val>';

export const borrowing: Cases = {
  'content is put before an element that a mark names': {
    section: pushing,
    files: pushed(
      '<ol><li conaction="pushbefore">Call out.</li>' +
        '<li conaction="mark" conref="a.dita#a/two"/></ol>',
    ),
    shows: ['Look.', 'Call out.', 'Drop it.'],
    hides: ['Pushing'],
    site: { has: { 'ol li': ['Look.', 'Call out.', 'Drop it.'] } },
  },
  'content is put after an element that a mark names': {
    section: pushing,
    files: pushed(
      '<ol><li conaction="mark" conref="a.dita#a/two"/><li conaction="pushafter">Check.</li></ol>',
    ),
    shows: ['Look.', 'Drop it.', 'Check.', 'Done.'],
    site: { has: { 'ol li': ['Look.', 'Drop it.', 'Check.'] } },
  },
  'several elements are put after one, in their order': {
    section: pushing,
    files: pushed(
      '<ol><li conaction="mark" conref="a.dita#a/two"/><li conaction="pushafter">Check.</li>' +
        '<li conaction="pushafter">Report.</li></ol>',
    ),
    shows: ['Drop it.', 'Check.', 'Report.', 'Done.'],
  },
  'content is put before and after one mark': {
    section: pushing,
    files: pushed(
      '<ol><li conaction="pushbefore">Before.</li><li conaction="mark" conref="a.dita#a/one"/>' +
        '<li conaction="pushafter">After.</li></ol>',
    ),
    shows: ['Before.', 'Look.', 'After.', 'Drop it.'],
  },
  'content replaces an element': {
    section: pushing,
    files: pushed('<p conaction="pushreplace" conref="a.dita#a/last">Finished.</p>'),
    shows: ['Drop it.', 'Finished.'],
    hides: ['Done.'],
  },
  'links to what is replaced lead to what replaces it': {
    section: pushing,
    files: {
      ...pushed('<p conaction="pushreplace" conref="a.dita#a/last" id="other">Finished.</p>'),
      'book.ditamap': map(
        '<topicref href="a.dita"/><topicref href="push.dita" processing-role="resource-only"/>' +
          '<topicref href="b.dita"/>',
      ),
      'b.dita': topic('b', 'Buoys', '<p><xref href="a.dita#a/last">The end</xref></p>'),
    },
    map: 'book.ditamap',
    shows: ['Finished.', 'The end'],
    site: { links: ['The end → Anchors # a--last'] },
  },
  'a mark takes nothing from what it names': {
    section: pushing,
    files: {
      ...pushed('<p>Own words.</p><ol><li conaction="mark" conref="a.dita#a/two"/></ol>'),
      'book.ditamap': map('<topicref href="push.dita"/>'),
    },
    shows: ['Own words.'],
    hides: ['Drop it.'],
  },
  'what is put elsewhere does not stand where it is written': {
    section: pushing,
    files: {
      ...pushed(
        '<ul><li>Stays.</li><li conaction="pushbefore">Goes.</li>' +
          '<li conaction="mark" conref="a.dita#a/one"/></ul>',
      ),
      'book.ditamap': map('<topicref href="push.dita"/>'),
    },
    shows: ['Stays.'],
    hides: ['Goes.', 'Look.'],
  },
  'the target is named by a key': {
    section: pushing,
    files: {
      ...pushed('<p conaction="pushreplace" conkeyref="deck/last">Finished.</p>'),
      'book.ditamap': map(
        '<keydef keys="deck" href="a.dita"/><topicref href="a.dita"/>' +
          '<topicref href="push.dita" processing-role="resource-only"/>',
      ),
    },
    shows: ['Finished.'],
    hides: ['Done.'],
  },
  'a topic at hand by a key puts content into others': {
    section: pushing,
    files: {
      ...pushed('<p conaction="pushreplace" conref="a.dita#a/last">Finished.</p>'),
      'book.ditamap': map('<keydef keys="more" href="push.dita"/><topicref href="a.dita"/>'),
    },
    shows: ['Finished.'],
    hides: ['Done.'],
  },
  'a topic that is not in the map puts nothing anywhere': {
    section: pushing,
    files: {
      ...pushed('<p conaction="pushreplace" conref="a.dita#a/last">Finished.</p>'),
      'book.ditamap': map('<topicref href="a.dita"/>'),
    },
    shows: ['Done.'],
    hides: ['Finished.'],
  },
  'what is filtered out is put nowhere': {
    section: pushing,
    files: pushed(
      '<p conaction="pushreplace" conref="a.dita#a/last" audience="crew">For the crew.</p>',
    ),
    filter: excludeCrew,
    shows: ['Done.'],
    hides: ['For the crew.'],
  },
  'what stands in something filtered out is put nowhere': {
    section: pushing,
    files: pushed(
      '<section audience="crew"><p conaction="pushreplace" conref="a.dita#a/last">Crew.</p>' +
        '</section>',
    ),
    filter: excludeCrew,
    shows: ['Done.'],
    hides: ['Crew.'],
  },
  'content that is put somewhere borrows, names keys and links': {
    section: pushing,
    files: {
      ...pushed(
        '<p conaction="pushreplace" conref="a.dita#a/last"><ph keyref="maker"/>: ' +
          '<ph conref="b.dita#b/word"/></p>',
      ),
      'book.ditamap': map(
        '<keydef keys="maker"><topicmeta><keywords><keyword>Brinewell</keyword></keywords>' +
          '</topicmeta></keydef><topicref href="a.dita"/>' +
          '<topicref href="push.dita" processing-role="resource-only"/>',
      ),
      'b.dita': topic('b', 'Buoys', '<p><ph id="word">lent word</ph></p>'),
    },
    shows: ['Brinewell: lent word'],
  },
  'what borrows a replaced element gets what replaces it': {
    section: pushing,
    files: {
      ...pushed('<p conaction="pushreplace" conref="a.dita#a/last">Finished.</p>'),
      'book.ditamap': map(
        '<topicref href="b.dita"/><topicref href="push.dita" processing-role="resource-only"/>',
      ),
      'b.dita': topic('b', 'Buoys', '<p conref="a.dita#a/last"/>'),
    },
    shows: ['Finished.'],
    hides: ['Done.'],
  },
  'content without a mark beside it is reported': {
    section: pushing,
    files: pushed('<ol><li conaction="pushbefore">Call out.</li><li>Other.</li></ol>'),
    hides: ['Call out.'],
    problems: ['push.unmarked'],
  },
  'content for an element that is not there is reported': {
    section: pushing,
    files: pushed('<p conaction="pushreplace" conref="a.dita#a/nowhere">Finished.</p>'),
    hides: ['Finished.'],
    problems: ['borrow.missing'],
  },
  'content that cannot stand at its target is reported': {
    section: pushing,
    files: pushed('<p conaction="pushreplace" conref="a.dita#a/two">Paragraph.</p>'),
    shows: ['Drop it.'],
    hides: ['Paragraph.'],
    problems: ['borrow.mismatch'],
  },
  'of two replacements of an element the first holds, and the other is reported': {
    section: pushing,
    files: pushed(
      '<p conaction="pushreplace" conref="a.dita#a/last">First.</p>' +
        '<p conaction="pushreplace" conref="a.dita#a/last">Second.</p>',
    ),
    shows: ['First.'],
    hides: ['Second.', 'Done.'],
    problems: ['push.twice'],
  },
  'topics that put content into each other come to an end': {
    section: pushing,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p id="x">Plain x.</p>' +
          '<p conaction="pushreplace" conref="b.dita#b/y"><ph id="in-a">A</ph></p>',
      ),
      'b.dita': topic(
        'b',
        'Buoys',
        '<p id="y">Plain y.</p>' +
          '<div><p><ph conaction="pushreplace" conref="a.dita#a/in-a">' +
          'B <ph id="in-b">b</ph></ph></p></div>',
      ),
      'c.dita': topic(
        'c',
        'Chains',
        '<p><ph conaction="pushreplace" conref="b.dita#b/in-b">C ' +
          '<ph conref="a.dita#a/in-a"/></ph></p>',
      ),
    },
    shows: ['Anchors', 'Plain x.', 'Buoys', 'Chains'],
    hides: ['Plain y.'],
    problems: ['push.cycle'],
  },

  'an entry of a map is lent by another map': {
    section: inMaps,
    files: {
      'book.ditamap': map('<topicref conref="lender.ditamap#lender/branch"/>'),
      'lender.ditamap':
        '<map id="lender"><topicref id="branch" href="a.dita"><topicref href="b.dita"/>' +
        '</topicref></map>',
      'a.dita': target,
      'b.dita': topic('b', 'Buoys'),
    },
    map: 'book.ditamap',
    contents: ['Anchors', '  Buoys'],
  },
  'a run of entries is lent': {
    section: inMaps,
    files: {
      'book.ditamap': map(
        '<topicref conref="lender.ditamap#lender/from" conrefend="lender.ditamap#lender/to"/>',
      ),
      'lender.ditamap':
        '<map id="lender"><topicref id="from" href="a.dita"/><topicref href="b.dita"/>' +
        '<topicref id="to" href="c.dita"/><topicref href="d.dita"/></map>',
      'a.dita': target,
      'b.dita': topic('b', 'Buoys'),
      'c.dita': topic('c', 'Chains'),
      'd.dita': topic('d', 'Docks'),
    },
    map: 'book.ditamap',
    contents: ['Anchors', 'Buoys', 'Chains'],
    hides: ['Docks'],
  },
  'attributes of the borrowing entry go before those that are lent': {
    section: inMaps,
    files: {
      'book.ditamap': map(
        '<topicref href="b.dita"/><topicref toc="no" conref="lender.ditamap#lender/branch"/>',
      ),
      'lender.ditamap': '<map id="lender"><topicref id="branch" toc="yes" href="a.dita"/></map>',
      'a.dita': target,
      'b.dita': topic('b', 'Buoys'),
    },
    map: 'book.ditamap',
    contents: ['Buoys'],
    shows: ['Drop it.'],
  },
  'an entry is lent by a map that a key names': {
    section: inMaps,
    files: {
      'book.ditamap': map(
        '<topicref conkeyref="parts/branch"/>' +
          '<keydef keys="parts" href="lender.ditamap" format="ditamap"/>',
      ),
      'lender.ditamap': '<map id="lender"><topicref id="branch" href="a.dita"/></map>',
      'a.dita': target,
    },
    map: 'book.ditamap',
    contents: ['Anchors'],
  },
  'keys in lent entries are defined': {
    section: inMaps,
    files: {
      'book.ditamap': map(
        '<keydef keys="x" conref="lender.ditamap#lender/key"/><topicref href="b.dita"/>',
      ),
      'lender.ditamap':
        '<map id="lender"><keydef id="key" keys="maker"><topicmeta><keywords>' +
        '<keyword>Brinewell</keyword></keywords></topicmeta></keydef></map>',
      'b.dita': topic('b', 'Buoys', '<p>Made by <ph keyref="x"/>.</p>'),
    },
    map: 'book.ditamap',
    shows: ['Made by Brinewell.'],
  },
  'the words of a key are lent': {
    section: inMaps,
    files: {
      'book.ditamap': map(
        '<keydef keys="maker"><topicmeta><keywords>' +
          '<keyword conref="words.dita#words/maker"/></keywords></topicmeta></keydef>' +
          '<topicref href="b.dita"/>',
      ),
      'words.dita': topic('words', 'Words', '<p><keyword id="maker">Brinewell</keyword></p>'),
      'b.dita': topic('b', 'Buoys', '<p>Made by <ph keyref="maker"/>.</p>'),
    },
    map: 'book.ditamap',
    shows: ['Made by Brinewell.'],
  },
  'rows of relationship tables are lent': {
    section: inMaps,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/><topicref href="b.dita"/>' +
          '<reltable><relrow conref="lender.ditamap#lender/row"/></reltable>',
      ),
      'lender.ditamap':
        '<map id="lender"><reltable><relrow id="row"><relcell><topicref href="a.dita"/></relcell>' +
        '<relcell><topicref href="b.dita"/></relcell></relrow></reltable></map>',
      'a.dita': target,
      'b.dita': topic('b', 'Buoys'),
    },
    map: 'book.ditamap',
    site: { links: ['Buoys → Buoys', 'Anchors → Anchors'] },
  },
  'a map that lends what is not there is reported': {
    section: inMaps,
    files: {
      'book.ditamap': map(
        '<topicref href="a.dita"/><topicref conref="lender.ditamap#lender/nowhere"/>',
      ),
      'lender.ditamap': '<map id="lender"/>',
      'a.dita': target,
    },
    map: 'book.ditamap',
    contents: ['Anchors'],
    problems: ['borrow.missing'],
  },
  'entries that borrow each other are reported': {
    section: inMaps,
    files: {
      'book.ditamap':
        '<map id="book"><title>Book</title><topicref href="a.dita"/>' +
        '<topicref id="one" conref="other.ditamap#other/two"/></map>',
      'other.ditamap': '<map id="other"><topicref id="two" conref="book.ditamap#book/one"/></map>',
      'a.dita': target,
    },
    map: 'book.ditamap',
    contents: ['Anchors'],
    problems: ['borrow.cycle'],
  },
  'a run that ends before it begins is only its first element': {
    section: conref,
    files: {
      'a.dita': target,
      'b.dita': topic(
        'b',
        'Buoys',
        '<ol><li conref="a.dita#a/two" conrefend="a.dita#a/one"/></ol><p>Rest.</p>',
      ),
    },
    shows: ['Buoys', 'Drop it.', 'Rest.'],
  },
};
