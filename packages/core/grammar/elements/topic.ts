import { row, type ElementDefinition } from '../definition.ts';

const topicAttributes = { attributes: '' };

/** Topics of every kind and what stands directly in them. */
export const topicElements: readonly ElementDefinition[] = [
  row('dita', 'Document', '(@topics)+', 'Several topics kept in one file.'),
  row(
    'topic',
    'Topic',
    'title, titlealts?, (shortdesc | abstract)?, prolog?, body?, related-links?, (@topics)*',
    { help: 'A titled piece of content of no special kind.', ...topicAttributes },
  ),
  row(
    'concept',
    'Concept',
    'title, titlealts?, (shortdesc | abstract)?, prolog?, conbody?, related-links?, (@topics)*',
    { help: 'Explains what something is or why it is so.', base: 'topic' },
  ),
  row(
    'task',
    'Task',
    'title, titlealts?, (shortdesc | abstract)?, prolog?, taskbody?, related-links?, (@topics)*',
    { help: 'Tells how to do one thing, step by step.', base: 'topic' },
  ),
  row(
    'reference',
    'Reference',
    'title, titlealts?, (shortdesc | abstract)?, prolog?, refbody?, related-links?, (@topics)*',
    { help: 'Facts to look up.', base: 'topic' },
  ),
  row(
    'troubleshooting',
    'Troubleshooting',
    'title, titlealts?, (shortdesc | abstract)?, prolog?, troublebody?, related-links?, (@topics)*',
    { help: 'A fault, its causes and what puts it right.', base: 'topic' },
  ),
  row('glossentry', 'Glossary entry', 'glossterm, glossdef?, prolog?, glossBody?, related-links?', {
    help: 'One term with its definition.',
    base: 'concept',
  }),
  row('glossgroup', 'Glossary group', 'title, prolog?, (glossentry | glossgroup)*', {
    help: 'Several glossary entries together.',
    base: 'concept',
  }),
  row('title', 'Title', '(@titleInline)*', 'What this is called.'),
  row('titlealts', 'Other titles', 'navtitle?, searchtitle?', 'Titles for navigation and search.'),
  row('navtitle', 'Short title', '(@titleInline)*', 'The title in contents and navigation.'),
  row('searchtitle', 'Search title', '(@titleInline)*', 'The title among search results.'),
  row('shortdesc', 'Short description', '(@shortText)*', {
    help:
      'One or two sentences that say what the topic gives; also shown in search results and ' +
      'link previews.',
    base: 'p',
  }),
  row(
    'abstract',
    'Abstract',
    '(shortdesc | @flow)*',
    'A longer opening that holds the short description.',
  ),
  row('body', 'Body', '(section | example | bodydiv | @bodyContent)*', 'The content of the topic.'),
  row(
    'bodydiv',
    'Group of sections',
    '(section | example | bodydiv | @bodyContent)*',
    'Holds parts of the body together.',
  ),
  row('conbody', 'Concept body', '(@bodyContent)*, (section | example | conbodydiv)*', {
    help: 'The content of the concept.',
    base: 'body',
  }),
  row('conbodydiv', 'Group of sections', '(section | example | conbodydiv)*', {
    help: 'Holds parts of the concept together.',
    base: 'bodydiv',
  }),
  row('section', 'Section', 'title?, (@sectionFlow)*', {
    help: 'A titled part of the topic.',
    attributes: 'spectitle',
  }),
  row(
    'sectiondiv',
    'Part of a section',
    '(sectiondiv | @flow)*',
    'Holds parts of a section together.',
  ),
  row('example', 'Example', 'title?, (@sectionFlow)*', {
    help: 'Something shown rather than told.',
    attributes: 'spectitle',
  }),
  row('div', 'Group', '(@flow)*', 'Holds blocks together.'),
  row('related-links', 'Related links', '(link | linklist | linkpool)*', {
    help: 'Links that stand after the topic.',
    attributes: 'format scope type',
  }),
  row('link', 'Link', 'linktext?, desc?', {
    help: 'One related link.',
    attributes: 'href keyref format scope type',
  }),
  row('linktext', 'Link text', '(@titleInline)*', 'The words of the link.'),
  row('linklist', 'List of links', 'title?, desc?, (linklist | link)*, linkinfo?', {
    help: 'Links in a chosen order.',
    attributes: 'format scope type collection-type spectitle',
  }),
  row('linkpool', 'Pool of links', '(linkpool | link)*', {
    help: 'Links in any order.',
    attributes: 'format scope type collection-type',
  }),
  row('linkinfo', 'Link note', '(@inline)*', 'Words after a list of links.'),
  row('desc', 'Description', '(@shortText)*', 'Describes a figure, table, link or object.'),

  row(
    'refbody',
    'Reference body',
    '(section | refsyn | example | table | simpletable | properties | refbodydiv | @bodyContent)*',
    { help: 'The content of the reference.', base: 'body' },
  ),
  row(
    'refbodydiv',
    'Group of sections',
    '(section | refsyn | example | table | simpletable | properties | refbodydiv)*',
    { help: 'Holds parts of the reference together.', base: 'bodydiv' },
  ),
  row('refsyn', 'Syntax', 'title?, (@sectionFlow)*', {
    help: 'How the thing is written or called.',
    base: 'section',
    attributes: 'spectitle',
  }),
  row('properties', 'Properties', 'prophead?, property+', {
    help: 'Names, values and meanings.',
    base: 'simpletable',
    attributes: 'relcolwidth keycol spectitle frame expanse scale',
  }),
  row('prophead', 'Properties head', 'proptypehd?, propvaluehd?, propdeschd?', {
    help: 'Heads of the columns.',
    base: 'sthead',
  }),
  row('proptypehd', 'Type head', '(@flow)*', {
    help: 'Heads the column of names.',
    base: 'stentry',
  }),
  row('propvaluehd', 'Value head', '(@flow)*', {
    help: 'Heads the column of values.',
    base: 'stentry',
  }),
  row('propdeschd', 'Meaning head', '(@flow)*', {
    help: 'Heads the column of meanings.',
    base: 'stentry',
  }),
  row('property', 'Property', 'proptype?, propvalue?, propdesc?', {
    help: 'One property.',
    base: 'strow',
  }),
  row('proptype', 'Type', '(@flow)*', {
    help: 'The name or type of the property.',
    base: 'stentry',
  }),
  row('propvalue', 'Value', '(@flow)*', { help: 'The value of the property.', base: 'stentry' }),
  row('propdesc', 'Meaning', '(@flow)*', { help: 'What the property means.', base: 'stentry' }),

  row('troublebody', 'Troubleshooting body', 'condition?, (troubleSolution | section | example)*', {
    help: 'The content of the troubleshooting topic.',
    base: 'body',
  }),
  row('condition', 'Condition', 'title?, (@sectionFlow)*', {
    help: 'What the reader sees when the fault is there.',
    base: 'section',
  }),
  row('troubleSolution', 'Solution', 'cause*, remedy*', {
    help: 'A cause and what puts it right.',
    base: 'bodydiv',
  }),
  row('cause', 'Cause', 'title?, (@sectionFlow)*', {
    help: 'Why the fault happens.',
    base: 'section',
  }),
  row(
    'remedy',
    'Remedy',
    'title?, responsibleParty?, (steps | steps-unordered | steps-informal)?',
    { help: 'What puts it right.', base: 'section' },
  ),
  row('responsibleParty', 'Who', '(@flow)*', { help: 'Who does the remedy.', base: 'p' }),

  row('glossterm', 'Term', '(@titleInline)*', { help: 'The term that is defined.', base: 'title' }),
  row('glossdef', 'Definition', '(@flow)*', { help: 'What the term means.', base: 'abstract' }),
  row(
    'glossBody',
    'More on the term',
    'glossPartOfSpeech?, glossStatus?, glossProperty*, glossSurfaceForm?, glossUsage?, ' +
      'glossScopeNote?, glossSymbol*, note*, glossAlt*',
    { help: 'Usage, status and other forms of the term.', base: 'conbody' },
  ),
  row('glossPartOfSpeech', 'Part of speech', 'empty', {
    help: 'Noun, verb and so on.',
    base: 'data',
    attributes: 'value',
  }),
  row('glossStatus', 'Status', 'empty', {
    help: 'Preferred, obsolete and so on.',
    base: 'data',
    attributes: 'value',
  }),
  row('glossProperty', 'Property', '#text*', {
    help: 'Another fact about the term.',
    base: 'data',
    attributes: 'name value',
  }),
  row('glossSurfaceForm', 'First form', '(@wording)*', {
    help: 'The form in which the term is first shown.',
    base: 'p',
  }),
  row('glossUsage', 'Usage', '(@noteFlow)*', { help: 'How to use the term.', base: 'note' }),
  row('glossScopeNote', 'Scope', '(@noteFlow)*', { help: 'Where the term applies.', base: 'note' }),
  row('glossSymbol', 'Symbol', 'alt?, longdescref?', {
    help: 'An image for the term.',
    base: 'image',
    attributes: 'href keyref alt format scope height width',
  }),
  row(
    'glossAlt',
    'Other form',
    '(glossAbbreviation | glossAcronym | glossShortForm | glossSynonym)?, glossStatus?, ' +
      'glossProperty*, glossUsage?, note*, glossAlternateFor*',
    { help: 'Another form of the term.', base: 'section' },
  ),
  row('glossAbbreviation', 'Abbreviation', '(@titleInline)*', {
    help: 'A shortened form.',
    base: 'title',
  }),
  row('glossAcronym', 'Acronym', '(@titleInline)*', {
    help: 'A form made of first letters.',
    base: 'title',
  }),
  row('glossShortForm', 'Short form', '(@titleInline)*', {
    help: 'A shorter wording.',
    base: 'title',
  }),
  row('glossSynonym', 'Synonym', '(@titleInline)*', {
    help: 'Another word for the same.',
    base: 'title',
  }),
  row('glossAlternateFor', 'Form of', 'empty', {
    help: 'The form that this one stands for.',
    base: 'xref',
    attributes: 'href keyref format scope',
  }),
];
