import { row, type ElementDefinition } from '../definition.ts';

const reference =
  'href keyref keys keyscope format scope type query copy-to navtitle locktitle ' +
  'collection-type processing-role print search toc chunk linking cascade';
const place = (
  name: string,
  label: string,
  help: string,
  content = 'topicmeta?, (@topicrefs | anchor | navref)*',
): ElementDefinition =>
  row(name, label, content, { help: help, base: 'topicref', attributes: reference });
const list = (name: string, label: string, help: string): ElementDefinition =>
  place(name, label, help);

const meta =
  'navtitle?, linktext?, searchtitle?, shortdesc?, author*, source?, publisher?, copyright*, ' +
  'critdates?, permissions?, metadata*, (@metadata)*, resourceid*, ux-window*';

/** Maps, with the parts of a book, relationship tables and branch filtering. */
export const mapElements: readonly ElementDefinition[] = [
  row('map', 'Map', 'title?, topicmeta?, (@topicrefs | anchor | navref | reltable)*', {
    help: 'The topics of a publication, in order.',
    attributes: `${reference} title anchorref`,
  }),
  row(
    'bookmap',
    'Book map',
    '(title | booktitle)?, bookmeta?, frontmatter?, chapter*, part*, (appendices | ' +
      'appendix*), backmatter?, (reltable | keydef | topicgroup | data)*',
    {
      help: 'The parts and chapters of a book, in order.',
      base: 'map',
      attributes: `${reference} title anchorref`,
    },
  ),
  row('booktitle', 'Book title', 'booklibrary?, mainbooktitle, booktitlealt*', {
    help: 'The title of the book.',
    base: 'title',
  }),
  row('booklibrary', 'Series title', '(@titleInline)*', {
    help: 'The series to which the book belongs.',
    base: 'ph',
  }),
  row('mainbooktitle', 'Main title', '(@titleInline)*', {
    help: 'The title on the cover.',
    base: 'ph',
  }),
  row('booktitlealt', 'Subtitle', '(@titleInline)*', {
    help: 'A second title on the cover.',
    base: 'ph',
  }),
  row(
    'bookmeta',
    'Facts about the book',
    'linktext?, searchtitle?, shortdesc?, (author | authorinformation | source | ' +
      'publisherinformation | critdates | permissions | bookid | bookchangehistory | ' +
      'bookrights | copyright | resourceid | @metadata)*',
    {
      help: 'Numbers, dates and rights of the book.',
      base: 'topicmeta',
      attributes: 'lockmeta',
    },
  ),
  row('authorinformation', 'Author', '(personinfo | organizationinfo | #text)*', {
    help: 'Who wrote the book.',
    base: 'author',
  }),
  row('personinfo', 'Person', '#text*', { help: 'A person.', base: 'data' }),
  row('organizationinfo', 'Organisation', '#text*', { help: 'An organisation.', base: 'data' }),
  row(
    'publisherinformation',
    'Publisher',
    '(organization | person | printlocation | published | #text)*',
    { help: 'Who publishes the book.', base: 'publisher' },
  ),
  row('organization', 'Organisation', '#text*', { help: 'An organisation.', base: 'data' }),
  row('person', 'Person', '#text*', { help: 'A person.', base: 'data' }),
  row('printlocation', 'Place', '#text*', { help: 'Where the book is printed.', base: 'data' }),
  row('published', 'Publication', '(organization | person | started | completed | data)*', {
    help: 'When and by whom it was published.',
    base: 'data',
  }),
  row('started', 'Started', '(year | month | day)*', { help: 'When it began.', base: 'data' }),
  row('completed', 'Completed', '(year | month | day)*', {
    help: 'When it was done.',
    base: 'data',
  }),
  row('year', 'Year', '#text*', { help: 'A year.', base: 'ph' }),
  row('month', 'Month', '#text*', { help: 'A month.', base: 'ph' }),
  row('day', 'Day', '#text*', { help: 'A day.', base: 'ph' }),
  row(
    'bookid',
    'Numbers of the book',
    '(bookpartno | edition | isbn | booknumber | volume | maintainer)*',
    { help: 'Part number, edition and so on.', base: 'data' },
  ),
  row('bookpartno', 'Part number', '#text*', { help: 'The part number.', base: 'data' }),
  row('edition', 'Edition', '#text*', { help: 'Which edition of the book this is.', base: 'data' }),
  row('isbn', 'ISBN', '#text*', { help: 'The standard book number.', base: 'data' }),
  row('booknumber', 'Book number', '#text*', {
    help: 'The number under which the book is ordered.',
    base: 'data',
  }),
  row('volume', 'Volume', '#text*', { help: 'The volume.', base: 'data' }),
  row('maintainer', 'Maintainer', '(organization | person | #text)*', {
    help: 'Who looks after the book.',
    base: 'data',
  }),
  row(
    'bookchangehistory',
    'History of the book',
    '(reviewed | edited | tested | approved | data)*',
    { help: 'What was done to the book.', base: 'data' },
  ),
  row('reviewed', 'Reviewed', '(organization | person | started | completed | data)*', {
    help: 'A review.',
    base: 'data',
  }),
  row('edited', 'Edited', '(organization | person | started | completed | data)*', {
    help: 'An edit.',
    base: 'data',
  }),
  row('tested', 'Tested', '(organization | person | started | completed | data)*', {
    help: 'A test.',
    base: 'data',
  }),
  row('approved', 'Approved', '(organization | person | started | completed | data)*', {
    help: 'An approval.',
    base: 'data',
  }),
  row('bookrights', 'Rights', 'copyrfirst?, copyrlast?, bookowner, bookrestriction?', {
    help: 'Who holds the rights.',
    base: 'data',
  }),
  row('copyrfirst', 'First year', 'year', { help: 'The first year of the rights.', base: 'data' }),
  row('copyrlast', 'Last year', 'year', { help: 'The last year of the rights.', base: 'data' }),
  row('bookowner', 'Owner', '(organization | person)*', {
    help: 'Who owns the rights.',
    base: 'data',
  }),
  row('bookrestriction', 'Restriction', 'empty', {
    help: 'Who may have the book.',
    base: 'data',
    attributes: 'value',
  }),
  row('frontmatter', 'Front matter', '(@frontmatter | @bookTopicrefs)*', {
    help: 'What stands before the first chapter.',
    base: 'topicref',
    attributes: reference,
  }),
  row('backmatter', 'Back matter', '(@frontmatter | @bookTopicrefs)*', {
    help: 'What stands after the last chapter.',
    base: 'topicref',
    attributes: reference,
  }),
  row('booklists', 'Lists', '(@booklists)*', {
    help: 'Contents, figures, tables, index and other lists.',
    base: 'topicref',
    attributes: reference,
  }),
  list('toc', 'Contents', 'The table of contents.'),
  list('figurelist', 'List of figures', 'All figures with titles.'),
  list('tablelist', 'List of tables', 'All tables with titles.'),
  list('indexlist', 'Index', 'All index entries.'),
  list('glossarylist', 'Glossary', 'All glossary entries.'),
  list('abbrevlist', 'Abbreviations', 'All abbreviations.'),
  list('bibliolist', 'Bibliography', 'All sources.'),
  list('booklist', 'Other list', 'A list of another kind.'),
  list('trademarklist', 'Trademarks', 'All trademarks.'),
  place('bookabstract', 'Abstract of the book', 'What the book is about.'),
  place('colophon', 'Colophon', 'How the book was made.'),
  place('dedication', 'Dedication', 'To whom the book is given.'),
  place('draftintro', 'Note on the draft', 'What to know of a draft.'),
  place('notices', 'Notices', 'Legal and safety notices.'),
  place('preface', 'Preface', 'What to know before reading.'),
  place('amendments', 'Amendments', 'What changed since the last edition.'),
  place('part', 'Part', 'Several chapters together.', 'topicmeta?, (chapter | @bookTopicrefs)*'),
  place('chapter', 'Chapter', 'A chapter of the book.', 'topicmeta?, (@bookTopicrefs)*'),
  place('appendices', 'Appendices', 'All appendices together.', 'topicmeta?, appendix*'),
  place('appendix', 'Appendix', 'An appendix of the book.', 'topicmeta?, (@bookTopicrefs)*'),

  place('topicref', 'Topic reference', 'A topic at its place in the map.'),
  place('topichead', 'Heading', 'A heading in the contents that has no topic.'),
  place('topicgroup', 'Group of references', 'Holds references together without a heading.'),
  place('topicset', 'Set of topics', 'Topics that are used together from several maps.'),
  place('topicsetref', 'Reference to a set', 'A set of topics of another map.'),
  place(
    'mapref',
    'Map reference',
    'Another map, taken in at this place.',
    'topicmeta?, ditavalref*, data*',
  ),
  place('keydef', 'Key', 'Gives a name to a target or a text.', 'topicmeta?, (@topicrefs)*'),
  place('glossref', 'Glossary reference', 'A glossary entry of the publication.'),
  row('anchorref', 'Anchor reference', 'topicmeta?, (@topicrefs)*', {
    help: 'Where another map hangs topics in.',
    base: 'topicref',
    attributes: reference,
  }),
  row('anchor', 'Anchor', 'empty', 'Where other maps may hang topics in.'),
  row('navref', 'Navigation reference', 'empty', {
    help: 'Another map, taken in when shown.',
    attributes: 'href keyref format',
  }),
  row(
    'topicmeta',
    'Facts about the place',
    `${meta}, (linktext | shortdesc | data | data-about | foreign)*`,
    {
      help: 'Facts about the topic at this place, or about the map.',
      attributes: 'lockmeta',
    },
  ),
  row('ditavalref', 'Branch filter', 'ditavalmeta?', {
    help: 'A lens that holds only for this branch.',
    base: 'topicref',
    attributes: reference,
  }),
  row(
    'ditavalmeta',
    'Branch names',
    'navtitle?, dvrResourcePrefix?, dvrResourceSuffix?, dvrKeyscopePrefix?, dvrKeyscopeSuffix?',
    { help: 'How the results of a filtered branch are named.', base: 'topicmeta' },
  ),
  row('dvrResourcePrefix', 'Name prefix', '#text*', {
    help: 'Put before the names of results.',
    base: 'data',
    attributes: 'name value',
  }),
  row('dvrResourceSuffix', 'Name suffix', '#text*', {
    help: 'Put after the names of results.',
    base: 'data',
    attributes: 'name value',
  }),
  row('dvrKeyscopePrefix', 'Key scope prefix', '#text*', {
    help: 'Put before key scopes.',
    base: 'data',
    attributes: 'name value',
  }),
  row('dvrKeyscopeSuffix', 'Key scope suffix', '#text*', {
    help: 'Put after key scopes.',
    base: 'data',
    attributes: 'name value',
  }),
  row('reltable', 'Relationship table', 'title?, topicmeta?, relheader?, relrow+', {
    help: 'Topics that lead to each other.',
    attributes: reference,
  }),
  row('relheader', 'Relationship head', 'relcolspec+', 'Heads of the columns.'),
  row('relcolspec', 'Relationship column', 'title?, topicmeta?, (@topicrefs)*', {
    help: 'One column.',
    attributes: reference,
  }),
  row('relrow', 'Relationship row', 'relcell*', 'Topics of one row lead to each other.'),
  row('relcell', 'Relationship cell', '(@topicrefs)*', {
    help: 'Topics in one cell.',
    attributes: reference,
  }),
];
