import { map, topic, type Cases } from '../case.ts';

const abbreviated = '3.3.5.1 abbreviated-form';
const entries = '3.3.5 Glossary elements';

const entry = (body: string): string =>
  `<glossentry id="abs"><glossterm>Anchor brake system</glossterm>${body}</glossentry>`;
const whole = entry(
  '<glossBody><glossSurfaceForm>Anchor brake system (ABS)</glossSurfaceForm>' +
    '<glossAlt><glossAcronym>ABS</glossAcronym></glossAlt></glossBody>',
);
const files = (body: string, glossentry = whole, more = ''): Record<string, string> => ({
  'book.ditamap': map(`<keydef keys="abs" href="abs.dita"/><topicref href="a.dita"/>${more}`),
  'abs.dita': glossentry,
  'a.dita': topic('a', 'Anchors', body),
});
const form = '<abbreviated-form keyref="abs"/>';

export const glossary: Cases = {
  'a short form is said in full where it is met first': {
    section: abbreviated,
    files: files(`<p>Test the ${form}.</p><p>Then set the ${form}.</p>`),
    shows: ['Test the Anchor brake system (ABS).', 'Then set the ABS.'],
  },
  'the term stands in for a surface form that is not given': {
    section: abbreviated,
    files: files(
      `<p>Test the ${form}.</p><p>Then set the ${form}.</p>`,
      entry('<glossBody><glossAlt><glossAcronym>ABS</glossAcronym></glossAlt></glossBody>'),
    ),
    shows: ['Test the Anchor brake system.', 'Then set the ABS.'],
  },
  'the term stands in for an acronym that is not given': {
    section: abbreviated,
    files: files(`<p>Test the ${form}.</p><p>Then set the ${form}.</p>`, entry('')),
    shows: ['Test the Anchor brake system.', 'Then set the Anchor brake system.'],
  },
  'an abbreviation is a short form too': {
    section: abbreviated,
    files: files(
      `<p>Test the ${form}.</p><p>Then set the ${form}.</p>`,
      entry(
        '<glossBody><glossAlt><glossAbbreviation>anch. br.</glossAbbreviation></glossAlt>' +
          '</glossBody>',
      ),
    ),
    shows: ['Test the Anchor brake system.', 'Then set the anch. br..'],
  },
  'a prohibited acronym is not used': {
    section: abbreviated,
    files: files(
      `<p>Test the ${form}.</p><p>Then set the ${form}.</p>`,
      entry(
        '<glossBody><glossAlt><glossAcronym>OLD</glossAcronym><glossStatus value="prohibited"/>' +
          '</glossAlt><glossAlt><glossAcronym>ABS</glossAcronym></glossAlt></glossBody>',
      ),
    ),
    shows: ['Test the Anchor brake system.', 'Then set the ABS.'],
    hides: ['OLD'],
  },
  'a form for other readers is not used': {
    section: '2.4.3.3 Filtering and flagging logic',
    files: files(
      `<p>Test the ${form}.</p>`,
      entry(
        '<glossBody><glossSurfaceForm>Anchor <ph audience="crew">crew</ph> brake' +
          '</glossSurfaceForm></glossBody>',
      ),
    ),
    filter: '<val><prop att="audience" val="crew" action="exclude"/></val>',
    shows: ['Test the Anchor brake.'],
  },
  'a short form leads to its entry where that is published': {
    section: abbreviated,
    files: files(`<p>Test the ${form}.</p>`, whole, '<topicref href="abs.dita"/>'),
    site: {
      links: [
        // On the page of the glossary.
        'Anchor brake system → Anchor brake system',
        'Anchor brake system (ABS) → Anchor brake system',
      ],
    },
  },
  'a short form in a title is short': {
    section: abbreviated,
    files: {
      ...files(`<p>Test the ${form}.</p>`),
      'a.dita': topic('a', 'Using the <abbreviated-form keyref="abs"/>', `<p>The ${form}.</p>`),
    },
    contents: ['Using the ABS'],
  },
  'a short form whose key is not defined is reported': {
    section: abbreviated,
    files: {
      'book.ditamap': map('<topicref href="a.dita"/>'),
      'a.dita': topic('a', 'Anchors', `<p>Test the ${form}.</p>`),
    },
    shows: ['Test the'],
    problems: ['key.undefined'],
  },
  'each topic of a site says a short form in full': {
    section: abbreviated,
    files: {
      ...files(`<p>Test the ${form}.</p>`, whole, '<topicref href="b.dita"/>'),
      'b.dita': topic('b', 'Buoys', `<p>Set the ${form}.</p>`),
    },
    site: { shows: ['Test the Anchor brake system (ABS).', 'Set the Anchor brake system (ABS).'] },
    print: { shows: ['Test the Anchor brake system (ABS).', 'Set the ABS.'] },
  },
  'an entry shows its other forms with what they are': {
    section: entries,
    files: {
      'book.ditamap': map('<topicref href="abs.dita"/>'),
      'abs.dita': entry(
        '<glossdef>It stops the chain.</glossdef><glossBody><glossAlt>' +
          '<glossAcronym>ABS</glossAcronym></glossAlt><glossAlt>' +
          '<glossAbbreviation>anch. br.</glossAbbreviation></glossAlt><glossAlt>' +
          '<glossShortForm>brake</glossShortForm></glossAlt><glossAlt>' +
          '<glossSynonym>chain stopper</glossSynonym></glossAlt></glossBody>',
      ),
    },
    shows: [
      'Anchor brake system',
      'It stops the chain.',
      'Acronym: ABS',
      'Abbreviation: anch. br.',
      'Short form: brake',
      'Synonym: chain stopper',
    ],
  },
  'an entry shows how its term is used, and where': {
    section: entries,
    files: {
      'book.ditamap': map('<topicref href="abs.dita"/>'),
      'abs.dita': entry(
        '<glossBody><glossUsage>Not in headings.</glossUsage>' +
          '<glossScopeNote>Deck gear only.</glossScopeNote></glossBody>',
      ),
    },
    shows: ['Not in headings.', 'Deck gear only.'],
  },
};
