import { map, topic, type Cases } from '../case.ts';

const addressing = '2.4.1.2 URI-based addressing';
const identifiers = '2.1.3.2 id attribute';

/** Two topics in one file, each with a paragraph and a section of the same ids. */
const nested =
  '<topic id="c"><title>Chains</title><body><p id="u">Outer words.</p>' +
  '<section id="s"><title>Outer part</title></section></body><topic id="inner">' +
  '<title>Links</title><body><p id="u">Inner words.</p>' +
  '<section id="s"><title>Inner part</title></section></body></topic></topic>';
const using = (body: string): Record<string, string> => ({
  'book.ditamap': map('<topicref href="a.dita"/><topicref href="c.dita"/>'),
  'a.dita': topic('a', 'Anchors', body),
  'c.dita': nested,
});

export const addresses: Cases = {
  'ids of elements need to be unique in their topic alone': {
    section: identifiers,
    files: { 'c.dita': nested },
    shows: ['Outer words.', 'Inner words.'],
  },
  'an id that is twice in one topic is reported': {
    section: identifiers,
    files: { 'a.dita': topic('a', 'Anchors', '<p id="u">One.</p><p id="u">Two.</p>') },
    shows: ['One.', 'Two.'],
    problems: ['grammar.duplicate-id'],
  },
  'an element is borrowed from the topic that is named': {
    section: addressing,
    files: using('<p conref="c.dita#inner/u"/><p conref="c.dita#c/u"/>'),
    shows: ['Anchors', 'Inner words.', 'Outer words.'],
  },
  'a link leads into the topic that is named': {
    section: addressing,
    files: using('<p><xref href="c.dita#inner/s"/> <xref href="c.dita#c/s"/></p>'),
    site: { links: ['Inner part → Links # c--inner--s', 'Outer part → Chains # c--s'] },
  },
  'a link leads to a nested topic': {
    section: addressing,
    files: using('<p><xref href="c.dita#inner"/></p>'),
    site: { links: ['Links → Links'] },
  },
  'a link within a file names its topic': {
    section: addressing,
    files: {
      'c.dita': nested.replace('Outer words.', 'See <xref href="#inner/s"/>.'),
    },
    site: { links: ['Inner part → Links # c--inner--s'] },
  },
  'a dot is the topic in which a link stands': {
    section: '2.4.1.2 URI-based addressing, same-topic fragment identifier',
    files: {
      'a.dita': topic(
        'a',
        'Anchors',
        '<p>See <xref href="#./s"/>.</p><section id="s"><title>Own part</title></section>',
      ),
    },
    site: { links: ['Own part → Anchors # a--s'] },
  },
  'topics of one file without a topic around them are addressed by their ids': {
    section: '3.2.1.7 dita',
    files: {
      'book.ditamap': map('<topicref href="a.dita"/><topicref href="all.dita#two"/>'),
      'a.dita': topic('a', 'Anchors', '<p conref="all.dita#two/u"/>'),
      'all.dita':
        '<dita><topic id="one"><title>One</title><body><p id="u">First words.</p></body></topic>' +
        '<topic id="two"><title>Two</title><body><p id="u">Second words.</p></body></topic></dita>',
    },
    shows: ['Anchors', 'Second words.', 'Two', 'Second words.'],
    hides: ['First words.'],
  },
  'a part that is not there is reported': {
    section: addressing,
    files: using('<p><xref href="c.dita#inner/gone">Gone</xref></p>'),
    shows: ['Gone'],
    problems: ['link.unknown-element'],
  },
};
