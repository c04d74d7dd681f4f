import { map, topic, type Cases } from '../case.ts';

const enumerations = '2.2.3.5 Subject scheme maps: binding controlled values to an attribute';
const hierarchy = '2.4.3.3 Filtering and flagging logic: hierarchies of values';

const subject = (key: string, inner = ''): string =>
  `<subjectdef keys="${key}">${inner}</subjectdef>`;
const scheme = (subjects: string, more = ''): string =>
  `<subjectScheme><title>Values</title>${subjects}<enumerationdef>${more}` +
  '<attributedef name="audience"/><subjectdef keyref="people"/></enumerationdef></subjectScheme>';
const people = subject(
  'people',
  subject('crew', subject('deckhand') + subject('cook')) + subject('guest'),
);
const body =
  '<p audience="deckhand">For deckhands.</p><p audience="cook">For cooks.</p>' +
  '<p audience="guest">For guests.</p>';
const exclude = (value: string): string =>
  `<val><prop att="audience" val="${value}" action="exclude"/></val>`;
const files = (text: string): Record<string, string> => ({
  'book.ditamap': map(
    '<mapref href="values.ditamap" type="subjectScheme" processing-role="resource-only"/>' +
      '<topicref href="a.dita"/>',
  ),
  'values.ditamap': text,
  'a.dita': topic('a', 'Anchors', body),
});

export const schemes: Cases = {
  'a scheme shows nothing, and a map that refers to it is whole': {
    section: enumerations,
    files: files(scheme(people)),
    map: 'book.ditamap',
    contents: ['Anchors'],
    hides: ['Values'],
  },
  'excluding a subject excludes those that are narrower': {
    section: hierarchy,
    files: files(scheme(people)),
    map: 'book.ditamap',
    filter: exclude('crew'),
    shows: ['For guests.'],
    hides: ['For deckhands.', 'For cooks.'],
  },
  'excluding a narrower subject keeps the others': {
    section: hierarchy,
    files: files(scheme(people)),
    map: 'book.ditamap',
    filter: exclude('cook'),
    shows: ['For deckhands.', 'For guests.'],
    hides: ['For cooks.'],
  },
  'a rule for a narrower subject goes before that for a wider one': {
    section: hierarchy,
    files: files(scheme(people)),
    map: 'book.ditamap',
    filter:
      '<val><prop att="audience" val="crew" action="exclude"/>' +
      '<prop att="audience" val="cook" action="include"/></val>',
    shows: ['For cooks.', 'For guests.'],
    hides: ['For deckhands.'],
  },
  'narrower subjects may be held by elements that say how': {
    section: hierarchy,
    files: files(
      scheme(
        subject(
          'people',
          subject(
            'crew',
            `<hasNarrower>${subject('deckhand')}</hasNarrower><hasInstance>` +
              `${subject('cook')}</hasInstance>`,
          ) + subject('guest'),
        ),
      ),
    ),
    map: 'book.ditamap',
    filter: exclude('crew'),
    shows: ['For guests.'],
    hides: ['For deckhands.', 'For cooks.'],
  },
  'an enumeration for one element binds no attribute of others': {
    section: enumerations,
    files: files(scheme(people, '<elementdef name="note"/>')),
    map: 'book.ditamap',
    shows: ['For deckhands.', 'For guests.'],
  },
  'values that a scheme does not have are reported': {
    section: enumerations,
    files: {
      ...files(scheme(people)),
      'a.dita': topic('a', 'Anchors', '<p audience="pilot">For pilots.</p>'),
    },
    map: 'book.ditamap',
    shows: ['For pilots.'],
    problems: ['facet.unknown-value'],
  },
  'a scheme extends another one, and adds to its subjects': {
    section: '3.5.1.10 schemeref',
    files: {
      ...files(
        '<subjectScheme><title>More</title><schemeref href="base.ditamap" ' +
          'format="ditamap"/><subjectdef keyref="crew"><subjectdef keys="pilot"/></subjectdef>' +
          '<enumerationdef><attributedef name="audience"/><subjectdef keyref="people"/>' +
          '</enumerationdef></subjectScheme>',
      ),
      'base.ditamap': `<subjectScheme><title>Base</title>${people}</subjectScheme>`,
      'a.dita': topic('a', 'Anchors', `${body}<p audience="pilot">For pilots.</p>`),
    },
    map: 'book.ditamap',
    filter: exclude('crew'),
    shows: ['For guests.'],
    hides: ['For deckhands.', 'For cooks.', 'For pilots.'],
  },
  'a subject can be named where another one holds it': {
    section: '3.5.1.13 subjectdef',
    files: files(
      scheme(
        subject('people', '<subjectdef keyref="crew"/>' + subject('guest')) +
          subject('crew', subject('deckhand') + subject('cook')),
      ),
    ),
    map: 'book.ditamap',
    filter: exclude('crew'),
    shows: ['For guests.'],
    hides: ['For deckhands.', 'For cooks.'],
  },
  'schemes that extend each other, and subjects below themselves, come to an end': {
    section: '3.5.1.10 schemeref',
    files: {
      ...files(
        '<subjectScheme><schemeref href="base.ditamap" format="ditamap"/>' +
          '<enumerationdef><attributedef name="audience"/><subjectdef keyref="people"/>' +
          '</enumerationdef></subjectScheme>',
      ),
      'base.ditamap':
        '<subjectScheme><schemeref href="values.ditamap" format="ditamap"/>' +
        subject(
          'people',
          subject('crew', '<subjectdef keyref="people"/>' + subject('cook')) +
            subject('deckhand') +
            subject('guest'),
        ) +
        '</subjectScheme>',
    },
    map: 'book.ditamap',
    filter: exclude('crew'),
    shows: ['For deckhands.', 'For guests.'],
    hides: ['For cooks.'],
  },
  'subjects that double with each level come to an end': {
    section: '3.5.1.13 subjectdef',
    files: {
      'book.ditamap': map(
        '<mapref href="values.ditamap" type="subjectScheme" processing-role="resource-only"/>' +
          '<topicref href="a.dita"/>',
      ),
      'values.ditamap':
        '<subjectScheme>' +
        Array.from({ length: 18 }, (_, level) =>
          ['a', 'b']
            .map((side) =>
              subject(
                `${side}${level}`,
                `<subjectdef keyref="a${level + 1}"/><subjectdef keyref="b${level + 1}"/>`,
              ),
            )
            .join(''),
        ).join('') +
        '<enumerationdef><attributedef name="audience"/><subjectdef keyref="a0"/>' +
        '</enumerationdef></subjectScheme>',
      'a.dita': topic('a', 'Anchors', '<p>Text</p>'),
    },
    map: 'book.ditamap',
    shows: ['Text'],
    problems: ['scheme.too-large'],
  },
};
