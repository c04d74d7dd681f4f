import { row, type ElementDefinition } from '../definition.ts';

const reference =
  'href keyref keys keyscope format scope type query copy-to navtitle locktitle ' +
  'collection-type processing-role print search toc chunk linking cascade';

const subjects =
  'subjectdef | subjectHead | hasInstance | hasKind | hasNarrower | hasPart | hasRelated';
const within = `topicmeta?, (${subjects} | topicref | data | data-about)*`;

const subject = (name: string, label: string, help: string, content = within): ElementDefinition =>
  row(name, label, content, { help, base: 'topicref', attributes: reference });

/**
 * Subject schemes: the lists of values from which attributes take theirs (DITA 1.3, 3.5 “Subject
 * scheme elements”). They are kept as they are; facets are made from them.
 */
export const schemeElements: readonly ElementDefinition[] = [
  row(
    'subjectScheme',
    'Subject scheme',
    `title?, topicmeta?, (${subjects} | enumerationdef | relatedSubjects | schemeref | ` +
      'subjectRelTable | reltable | topicref | anchor | navref | data | data-about)*',
    {
      help: 'Lists of subjects, and the attributes that take their values from them.',
      base: 'map',
      attributes: `${reference} title anchorref`,
    },
  ),
  subject('subjectdef', 'Subject', 'A subject, and those that are narrower.'),
  subject(
    'subjectHead',
    'Subject heading',
    'A heading above subjects.',
    `subjectHeadMeta?, ${within}`,
  ),
  row('subjectHeadMeta', 'Metadata of a heading', 'navtitle?, shortdesc?', {
    help: 'The title of a subject heading.',
    base: 'topicmeta',
  }),
  subject(
    'schemeref',
    'Scheme reference',
    'Another scheme that this one extends.',
    'topicmeta?, data*',
  ),
  subject('hasInstance', 'Instances', 'Subjects that are instances of the one around.'),
  subject('hasKind', 'Kinds', 'Subjects that are kinds of the one around.'),
  subject('hasNarrower', 'Narrower', 'Subjects that are narrower than the one around.'),
  subject('hasPart', 'Parts', 'Subjects that are parts of the one around.'),
  subject('hasRelated', 'Related', 'Subjects that are related to the one around.'),
  subject('relatedSubjects', 'Related subjects', 'Subjects that are related to each other.'),
  subject(
    'enumerationdef',
    'Enumeration',
    'Binds an attribute to a list of subjects.',
    'elementdef?, attributedef, subjectdef*, defaultSubject?, (data | data-about)*',
  ),
  row('elementdef', 'Element of an enumeration', 'data*', {
    help: 'The only element for which the enumeration holds.',
    base: 'data',
    attributes: 'name',
  }),
  row('attributedef', 'Attribute of an enumeration', 'data*', {
    help: 'The attribute that takes its values from the list.',
    base: 'data',
    attributes: 'name',
  }),
  subject('defaultSubject', 'Default subject', 'The value of what has none.', 'topicmeta?, data*'),
  row(
    'subjectRelTable',
    'Subject relationships',
    'title?, topicmeta?, subjectRelHeader?, subjectRel+',
    {
      help: 'Subjects that belong together.',
      base: 'reltable',
      attributes: reference,
    },
  ),
  row('subjectRelHeader', 'Heads of relationships', 'subjectRole+', {
    help: 'The roles of subjects.',
    base: 'relrow',
  }),
  row('subjectRel', 'Relationship', 'subjectRole+', {
    help: 'Subjects of one relationship.',
    base: 'relrow',
  }),
  row('subjectRole', 'Role', `(${subjects} | topicref)*`, {
    help: 'The subjects of one role.',
    base: 'relcell',
    attributes: reference,
  }),
];
