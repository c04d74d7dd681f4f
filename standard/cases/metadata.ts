import { map, topic, type Cases } from '../case.ts';

const reconciling = '2.2.4.4 Reconciling topic and map metadata elements';
const cascading = '2.2.4.3 Cascading of metadata elements';

/** A topic with a prolog. */
const known = (id: string, title: string, prolog: string): string =>
  `<topic id="${id}"><title>${title}</title><prolog>${prolog}</prolog><body><p>Text</p></body>` +
  '</topic>';

/** What is known of topics besides their text, from topics and maps. */
export const metadata: Cases = {
  'what a topic knows of itself is in the head of its page': {
    section: '3.2.4 Metadata elements',
    files: {
      'a.dita': known(
        'a',
        'Mooring',
        '<author>Ada Berg</author><publisher>Brinewell</publisher><copyright>' +
          '<copyryear year="2026"/><copyrholder>Brinewell</copyrholder></copyright>' +
          '<critdates><created date="2026-03-01"/><revised modified="2026-04-02"/></critdates>' +
          '<metadata><audience type="crew"/><category>Quay</category>' +
          '<keywords><keyword>berth</keyword><keyword>rope</keyword></keywords></metadata>',
      ),
    },
    shows: ['Mooring', 'Text'],
    hides: [],
    site: {
      knows: [
        'author: Ada Berg',
        'keywords: berth, rope',
        'dcterms.publisher: Brinewell',
        'dcterms.rights: © 2026 Brinewell',
        'dcterms.created: 2026-03-01',
        'dcterms.modified: 2026-04-02',
        'dcterms.audience: crew',
        'dcterms.subject: Quay',
      ],
    },
  },
  'a search finds a topic by its keywords, and by those of the map': {
    section: reconciling,
    files: {
      'm.ditamap': map(
        '<topicref href="a.dita"><topicmeta><keywords><keyword>berth</keyword></keywords>' +
          '</topicmeta></topicref><topicref href="b.dita"/>',
      ),
      'a.dita': known(
        'a',
        'Mooring',
        '<metadata><keywords><keyword>rope</keyword></keywords></metadata>',
      ),
      'b.dita': topic('b', 'Lights', '<p>Text</p>'),
    },
    site: {
      finds: { rope: ['Mooring'], berth: ['Mooring'] },
      knows: ['keywords: rope, berth'],
    },
  },
  'what a map says of an entry holds for those below, but keywords do not': {
    section: cascading,
    files: {
      'm.ditamap': map(
        '<topicref href="a.dita"><topicmeta><author>Ada Berg</author><keywords>' +
          '<keyword>berth</keyword></keywords></topicmeta><topicref href="b.dita"/></topicref>',
      ),
      'a.dita': topic('a', 'Mooring', '<p>Text</p>'),
      'b.dita': topic('b', 'Ropes', '<p>Text</p>'),
    },
    site: {
      knows: ['author: Ada Berg', 'keywords: berth', 'author: Ada Berg'],
      finds: { berth: ['Mooring'] },
    },
  },
  'what a map says of itself holds for all its topics': {
    section: cascading,
    files: {
      'm.ditamap':
        '<map><title>Book</title><topicmeta><author>Ada Berg</author></topicmeta>' +
        '<topicref href="a.dita"/><topicref href="b.dita"/></map>',
      'a.dita': topic('a', 'Mooring', '<p>Text</p>'),
      'b.dita': known('b', 'Ropes', '<author>Noor Vale</author>'),
    },
    site: {
      knows: ['author: Ada Berg', 'author: Noor Vale, Ada Berg'],
    },
  },
  'of what there is once, the map goes before the topic': {
    section: reconciling,
    files: {
      'm.ditamap': map(
        '<topicref href="a.dita"><topicmeta><publisher>Kisara</publisher></topicmeta></topicref>',
      ),
      'a.dita': known('a', 'Mooring', '<publisher>Brinewell</publisher>'),
    },
    site: { knows: ['dcterms.publisher: Kisara'] },
  },
  'with lockmeta="no" the topic goes before the map': {
    section: '3.2.4.11 topicmeta, lockmeta',
    files: {
      'm.ditamap': map(
        '<topicref href="a.dita"><topicmeta lockmeta="no"><publisher>Kisara</publisher>' +
          '</topicmeta></topicref>',
      ),
      'a.dita': known('a', 'Mooring', '<publisher>Brinewell</publisher>'),
    },
    site: { knows: ['dcterms.publisher: Brinewell'] },
  },
  'metadata for excluded readers is nowhere': {
    section: '2.4.3.1 Conditional processing attributes',
    files: {
      'm.ditamap': map(
        '<topicref href="a.dita"><topicmeta><author>Ada Berg</author><metadata audience="office">' +
          '<category>Secret One</category></metadata></topicmeta></topicref>',
      ),
      'a.dita': known(
        'a',
        'Mooring',
        '<author audience="office">Secret Three</author><metadata audience="office"><keywords>' +
          '<keyword>Secret Two</keyword></keywords></metadata>',
      ),
    },
    filter: '<val><prop att="audience" val="office" action="exclude"/></val>',
    shows: ['Mooring'],
    hides: ['Secret One', 'Secret Two', 'Secret Three'],
    site: { knows: ['author: Ada Berg'] },
  },
  'a keyword by key says what the key says': {
    section: '2.4.2.2 Key references',
    files: {
      'm.ditamap': map(
        '<keydef keys="model"><topicmeta><keywords><keyword>Tern Q</keyword></keywords>' +
          '</topicmeta></keydef><topicref href="a.dita"/>',
      ),
      'a.dita': known(
        'a',
        'Mooring',
        '<metadata><keywords><keyword keyref="model"/></keywords></metadata>',
      ),
    },
    site: { knows: ['keywords: Tern Q'] },
  },
};
