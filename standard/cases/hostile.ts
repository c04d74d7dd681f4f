import { map, topic, type Cases } from '../case.ts';

/** What a package can hold by mistake or malice. The rest of it is published. */
const entities = '2.1.3.1 DTD: entities';
const scopes = '2.4.4.7 Key scopes';
const branches = '2.4.3.4 Branch filtering';
const tables = '3.2.3 Table elements';
const specialisation = '2.5.2 Specialization: class attribute';

const nested = (count: number, open: string, inside: string, close: string): string =>
  open.repeat(count) + inside + close.repeat(count);
const excludeCrew = '<val><prop att="audience" val="crew" action="exclude"/></val>';
const good = { 'z.dita': topic('z', 'Zephyrs', '<p>Still here.</p>') };

export const hostile: Cases = {
  'entities that grow beyond all bounds end their topic alone': {
    section: entities,
    files: {
      'a.dita': `<!DOCTYPE topic [<!ENTITY a "${'lol'.repeat(50)}">${Array.from('bcdefgh')
        .map((name, at) => `<!ENTITY ${name} "${`&${'abcdefg'[at]!};`.repeat(10)}">`)
        .join('')}]><topic id="a"><title>Anchors</title><body><p>&h;</p></body></topic>`,
      ...good,
    },
    shows: ['Zephyrs', 'Still here.'],
    hides: ['lollol'],
    problems: ['topic.missing', 'xml.entities'],
  },
  'entities of files are never read': {
    section: entities,
    files: {
      'a.dita':
        '<!DOCTYPE topic [<!ENTITY secret SYSTEM "file:///etc/passwd">]>' +
        '<topic id="a"><title>Anchors</title><body><p>See &secret;</p></body></topic>',
      ...good,
    },
    shows: ['Still here.'],
    hides: ['root:'],
    problems: ['topic.missing', 'xml.entities'],
  },
  'keys that name each other in a circle through scopes are empty': {
    section: scopes,
    files: {
      'book.ditamap': map(
        '<topicgroup keyscope="one"><keydef keys="k" keyref="two.k"/></topicgroup>' +
          '<topicgroup keyscope="two"><keydef keys="k" keyref="one.k"/></topicgroup>' +
          '<topicref href="a.dita"/><topicref href="z.dita"/>',
      ),
      'a.dita': topic('a', 'Anchors', '<p>Before <ph keyref="one.k"/> after.</p>'),
      ...good,
    },
    shows: ['Before', 'after.', 'Still here.'],
  },
  'keys whose words use each other say nothing': {
    section: scopes,
    files: {
      'book.ditamap': map(
        '<keydef keys="a"><topicmeta><keywords><keyword keyref="b"/></keywords></topicmeta>' +
          '</keydef><keydef keys="b"><topicmeta><keywords><keyword keyref="a"/></keywords></topicmeta>' +
          '</keydef><topicref href="a.dita"/><topicref href="z.dita"/>',
      ),
      'a.dita': topic('a', 'Anchors', '<p>Before <ph keyref="a"/> after.</p>'),
      ...good,
    },
    shows: ['Before', 'after.', 'Still here.'],
  },
  'three hundred branches in each other end their map alone': {
    section: branches,
    files: {
      'book.ditamap': map('<mapref href="deep.ditamap"/><topicref href="z.dita"/>'),
      'deep.ditamap': `<map>${nested(
        300,
        '<topicgroup><ditavalref href="crew.ditaval"/>',
        '<topicref href="a.dita"/>',
        '</topicgroup>',
      )}</map>`,
      'crew.ditaval': excludeCrew,
      'a.dita': topic('a', 'Anchors'),
      ...good,
    },
    map: 'book.ditamap',
    shows: ['Still here.'],
    problems: ['xml.too-deep'],
  },
  'a hundred branches in each other are published': {
    section: branches,
    files: {
      'book.ditamap': map(
        `${nested(
          100,
          '<topicgroup><ditavalref href="crew.ditaval"/>',
          '<topicref href="a.dita"/>',
          '</topicgroup>',
        )}<topicref href="z.dita"/>`,
      ),
      'crew.ditaval': excludeCrew,
      'a.dita': topic('a', 'Anchors', '<p audience="crew">Crew.</p><p>All.</p>'),
      ...good,
    },
    shows: ['All.', 'Still here.'],
    hides: ['Crew.'],
  },
  'branches that double with each level come to an end': {
    section: branches,
    files: {
      'book.ditamap': map(
        `<topicref href="z.dita"/>${nested(
          40,
          '<topicgroup><ditavalref href="crew.ditaval"/><ditavalref href="guest.ditaval"/>',
          '<topicref href="a.dita" processing-role="resource-only"/>',
          '</topicgroup>',
        )}`,
      ),
      'crew.ditaval': excludeCrew,
      'guest.ditaval': '<val><prop att="audience" val="guest" action="exclude"/></val>',
      'a.dita': topic('a', 'Anchors'),
      ...good,
    },
    shows: ['Still here.'],
    problems: ['map.too-large'],
  },
  'maps that double with each level come to an end': {
    section: '2.2.3 DITA map elements',
    files: {
      'book.ditamap': map('<topicref href="z.dita"/><mapref href="m0.ditamap"/>'),
      ...Object.fromEntries(
        Array.from({ length: 40 }, (_, at) => [
          `m${at}.ditamap`,
          `<map>${`<mapref href="m${at + 1}.ditamap"/>`.repeat(2)}</map>`,
        ]),
      ),
      'm40.ditamap': '<map/>',
      ...good,
    },
    map: 'book.ditamap',
    shows: ['Still here.'],
    problems: ['map.too-large'],
  },
  'entries that borrow twice as many with each level come to an end': {
    section: '2.4.5.1 Conref overview',
    files: {
      'book.ditamap': `<map id="book"><title>Book</title><topicref href="z.dita"/>${Array.from(
        { length: 40 },
        (_, at) =>
          `<topicgroup id="g${at}"><topicgroup conref="#book/g${at + 1}"/>` +
          `<topicgroup conref="#book/g${at + 1}"/></topicgroup>`,
      ).join('')}<topicgroup id="g40"/></map>`,
      ...good,
    },
    shows: ['Still here.'],
    problems: ['map.too-large'],
  },
  'passages that double with each level come to an end': {
    section: '2.4.5.1 Conref overview',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<p>${Array.from(
          { length: 40 },
          (_, at) =>
            `<ph id="p${at}"><ph conref="#a/p${at + 1}"/><ph conref="#a/p${at + 1}"/></ph>`,
        ).join('')}<ph id="p40">!</ph></p>`,
      ),
      ...good,
    },
    shows: ['Anchors', 'Still here.'],
    problems: ['borrow.large'],
  },
  'a table of two thousand columns does not stop the rest': {
    section: tables,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        `<p>Before.</p><table deliveryTarget="html5"><tgroup cols="2000"><tbody><row>${Array.from(
          { length: 2000 },
          (_, at) => `<entry>${at}</entry>`,
        ).join('')}</row></tbody></tgroup></table>`,
      ),
      ...good,
    },
    shows: ['Anchors', 'Still here.'],
    problems: ['table.too-many-cells'],
  },
  'a table that claims a billion columns does not stop the rest': {
    section: tables,
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<table><tgroup cols="1000000000"><tbody><row><entry>One</entry></row></tbody></tgroup>' +
          '</table>',
      ),
      ...good,
    },
    shows: ['One', 'Still here.'],
  },
  'a class that lies does not change what an element is': {
    section: specialisation,
    files: {
      'a.dita': topic('a', 'Anchors', '<p class="- topic/draft-comment ">Words.</p>'),
      ...good,
    },
    shows: ['Words.', 'Still here.'],
  },
  'a class of unknown elements that names nothing known is reported': {
    section: specialisation,
    files: {
      'a.dita': topic('a', 'Anchors', '<weird class="- nowhere/nothing ">Words.</weird>'),
      ...good,
    },
    shows: ['Still here.'],
    problems: ['grammar.unknown-element'],
  },
  'maps that contain each other are reported': {
    section: '2.2.3 DITA map elements',
    files: {
      'book.ditamap': map('<topicref href="z.dita"/><mapref href="more.ditamap"/>'),
      'more.ditamap': '<map><mapref href="book.ditamap"/></map>',
      ...good,
    },
    map: 'book.ditamap',
    shows: ['Still here.'],
    problems: ['map.cycle'],
  },
  'passages that borrow each other are reported': {
    section: '2.4.5.1 Conref overview',
    files: {
      'a.dita': topic('a', 'Anchors', '<p id="x" conref="b.dita#b/y"/>'),
      'b.dita': topic('b', 'Buoys', '<p id="y" conref="a.dita#a/x"/>'),
      ...good,
    },
    shows: ['Anchors', 'Buoys', 'Still here.'],
    problems: ['borrow.cycle'],
  },
  'a file that is no XML is reported': {
    section: '2.1 DITA markup',
    files: { 'a.dita': '<topic id="a"><title>Anchors</topic>', ...good },
    shows: ['Still here.'],
    problems: ['topic.missing', 'xml.not-well-formed'],
  },
  'addresses that act are no links': {
    section: '3.2.1.12 xref',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p><xref href="javascript:act()" scope="external">Go</xref></p>',
      ),
      ...good,
    },
    shows: ['Go', 'Still here.'],
    hides: ['javascript'],
    problems: ['link.unknown-target'],
  },
};
