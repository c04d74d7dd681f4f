import { row, type ElementDefinition } from '../definition.ts';

const reference =
  'href keyref keys keyscope format scope type query copy-to navtitle locktitle ' +
  'collection-type processing-role print search toc chunk linking cascade';
const place = (
  name: string,
  label: string,
  help: string,
  content = 'topicmeta?, (@topicrefs)*',
): ElementDefinition =>
  row(name, label, content, help, { base: 'topicref', attributes: reference });
const list = (name: string, label: string, help: string): ElementDefinition =>
  place(name, label, help);

const meta =
  'navtitle?, linktext?, searchtitle?, shortdesc?, author*, source?, publisher?, copyright*, ' +
  'critdates?, permissions?, metadata*, (@metadata)*, resourceid*, ux-window*';

/** Maps, with the parts of a book, relationship tables and branch filtering. */
export const mapElements: readonly ElementDefinition[] = [
  row(
    'map',
    'Map',
    'title?, topicmeta?, (@topicrefs | anchor | navref | reltable)*',
    'The topics of a publication, in order.',
    { attributes: `${reference} title anchorref` },
  ),
  row(
    'bookmap',
    'Book map',
    '(title | booktitle)?, bookmeta?, frontmatter?, chapter*, part*, (appendices | ' +
      'appendix*), backmatter?, (reltable | keydef | topicgroup | data)*',
    'The parts and chapters of a book, in order.',
    { base: 'map', attributes: `${reference} title anchorref` },
  ),
  row(
    'booktitle',
    'Book title',
    'booklibrary?, mainbooktitle, booktitlealt*',
    'The title of the book.',
    { base: 'title' },
  ),
  row('booklibrary', 'Series title', '(@titleInline)*', 'The series to which the book belongs.', {
    base: 'ph',
  }),
  row('mainbooktitle', 'Main title', '(@titleInline)*', 'The title on the cover.', { base: 'ph' }),
  row('booktitlealt', 'Subtitle', '(@titleInline)*', 'A second title on the cover.', {
    base: 'ph',
  }),
  row(
    'bookmeta',
    'Facts about the book',
    'linktext?, searchtitle?, shortdesc?, (author | authorinformation | source | ' +
      'publisherinformation | critdates | permissions | bookid | bookchangehistory | ' +
      'bookrights | copyright | resourceid | @metadata)*',
    'Numbers, dates and rights of the book.',
    { base: 'topicmeta' },
  ),
  row(
    'authorinformation',
    'Author',
    '(personinfo | organizationinfo | #text)*',
    'Who wrote the book.',
    { base: 'author' },
  ),
  row('personinfo', 'Person', '#text*', 'A person.', { base: 'data' }),
  row('organizationinfo', 'Organisation', '#text*', 'An organisation.', { base: 'data' }),
  row(
    'publisherinformation',
    'Publisher',
    '(organization | person | printlocation | published | #text)*',
    'Who publishes the book.',
    { base: 'publisher' },
  ),
  row('organization', 'Organisation', '#text*', 'An organisation.', { base: 'data' }),
  row('person', 'Person', '#text*', 'A person.', { base: 'data' }),
  row('printlocation', 'Place', '#text*', 'Where the book is printed.', { base: 'data' }),
  row(
    'published',
    'Publication',
    '(organization | person | started | completed | data)*',
    'When and by whom it was published.',
    { base: 'data' },
  ),
  row('started', 'Started', '(year | month | day)*', 'When it began.', { base: 'data' }),
  row('completed', 'Completed', '(year | month | day)*', 'When it was done.', { base: 'data' }),
  row('year', 'Year', '#text*', 'A year.', { base: 'ph' }),
  row('month', 'Month', '#text*', 'A month.', { base: 'ph' }),
  row('day', 'Day', '#text*', 'A day.', { base: 'ph' }),
  row(
    'bookid',
    'Numbers of the book',
    '(bookpartno | edition | isbn | booknumber | volume | maintainer)*',
    'Part number, edition and so on.',
    { base: 'data' },
  ),
  row('bookpartno', 'Part number', '#text*', 'The part number.', { base: 'data' }),
  row('edition', 'Edition', '#text*', 'Which edition of the book this is.', { base: 'data' }),
  row('isbn', 'ISBN', '#text*', 'The standard book number.', { base: 'data' }),
  row('booknumber', 'Book number', '#text*', 'The number under which the book is ordered.', {
    base: 'data',
  }),
  row('volume', 'Volume', '#text*', 'The volume.', { base: 'data' }),
  row('maintainer', 'Maintainer', '(organization | person | #text)*', 'Who looks after the book.', {
    base: 'data',
  }),
  row(
    'bookchangehistory',
    'History of the book',
    '(reviewed | edited | tested | approved | data)*',
    'What was done to the book.',
    { base: 'data' },
  ),
  row(
    'reviewed',
    'Reviewed',
    '(organization | person | started | completed | data)*',
    'A review.',
    { base: 'data' },
  ),
  row('edited', 'Edited', '(organization | person | started | completed | data)*', 'An edit.', {
    base: 'data',
  }),
  row('tested', 'Tested', '(organization | person | started | completed | data)*', 'A test.', {
    base: 'data',
  }),
  row(
    'approved',
    'Approved',
    '(organization | person | started | completed | data)*',
    'An approval.',
    { base: 'data' },
  ),
  row(
    'bookrights',
    'Rights',
    'copyrfirst?, copyrlast?, bookowner, bookrestriction?',
    'Who holds the rights.',
    { base: 'data' },
  ),
  row('copyrfirst', 'First year', 'year', 'The first year of the rights.', { base: 'data' }),
  row('copyrlast', 'Last year', 'year', 'The last year of the rights.', { base: 'data' }),
  row('bookowner', 'Owner', '(organization | person)*', 'Who owns the rights.', { base: 'data' }),
  row('bookrestriction', 'Restriction', 'empty', 'Who may have the book.', {
    base: 'data',
    attributes: 'value',
  }),
  row(
    'frontmatter',
    'Front matter',
    '(@frontmatter | @bookTopicrefs)*',
    'What stands before the first chapter.',
    { base: 'topicref', attributes: reference },
  ),
  row(
    'backmatter',
    'Back matter',
    '(@frontmatter | @bookTopicrefs)*',
    'What stands after the last chapter.',
    { base: 'topicref', attributes: reference },
  ),
  row('booklists', 'Lists', '(@booklists)*', 'Contents, figures, tables, index and other lists.', {
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
  row(
    'anchorref',
    'Anchor reference',
    'topicmeta?, (@topicrefs)*',
    'Where another map hangs topics in.',
    { base: 'topicref', attributes: reference },
  ),
  row('anchor', 'Anchor', 'empty', 'Where other maps may hang topics in.'),
  row('navref', 'Navigation reference', 'empty', 'Another map, taken in when shown.', {
    attributes: 'href keyref format',
  }),
  row(
    'topicmeta',
    'Facts about the place',
    `${meta}, (linktext | shortdesc | data | data-about | foreign)*`,
    'Facts about the topic at this place, or about the map.',
  ),
  row('ditavalref', 'Branch filter', 'ditavalmeta?', 'A lens that holds only for this branch.', {
    base: 'topicref',
    attributes: reference,
  }),
  row(
    'ditavalmeta',
    'Branch names',
    'navtitle?, dvrResourcePrefix?, dvrResourceSuffix?, dvrKeyscopePrefix?, dvrKeyscopeSuffix?',
    'How the results of a filtered branch are named.',
    {
      base: 'topicmeta',
    },
  ),
  row('dvrResourcePrefix', 'Name prefix', '#text*', 'Put before the names of results.', {
    base: 'data',
    attributes: 'name value',
  }),
  row('dvrResourceSuffix', 'Name suffix', '#text*', 'Put after the names of results.', {
    base: 'data',
    attributes: 'name value',
  }),
  row('dvrKeyscopePrefix', 'Key scope prefix', '#text*', 'Put before key scopes.', {
    base: 'data',
    attributes: 'name value',
  }),
  row('dvrKeyscopeSuffix', 'Key scope suffix', '#text*', 'Put after key scopes.', {
    base: 'data',
    attributes: 'name value',
  }),
  row(
    'reltable',
    'Relationship table',
    'title?, topicmeta?, relheader?, relrow+',
    'Topics that lead to each other.',
    { attributes: reference },
  ),
  row('relheader', 'Relationship head', 'relcolspec+', 'Heads of the columns.'),
  row('relcolspec', 'Relationship column', 'title?, topicmeta?, (@topicrefs)*', 'One column.', {
    attributes: reference,
  }),
  row('relrow', 'Relationship row', 'relcell*', 'Topics of one row lead to each other.'),
  row('relcell', 'Relationship cell', '(@topicrefs)*', 'Topics in one cell.', {
    attributes: reference,
  }),
];
