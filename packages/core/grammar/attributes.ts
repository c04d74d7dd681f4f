/** How the value of an attribute is read, checked and offered. */
export type AttributeKind =
  | 'id'
  | 'text'
  | 'token'
  | 'tokens'
  | 'choice'
  | 'reference'
  | 'key'
  | 'number'
  | 'length'
  | 'language'
  | 'facet';

export interface AttributeDefinition {
  readonly name: string;
  readonly label: string;
  readonly kind: AttributeKind;
  readonly help: string;
  /** For `choice`: the only values. */
  readonly values?: readonly string[];
  readonly required?: boolean;
}

const attribute = (
  name: string,
  label: string,
  kind: AttributeKind,
  help: string,
): AttributeDefinition => ({ name, label, kind, help });

/** @param values all that there are, with spaces between */
const choice = (
  name: string,
  label: string,
  help: string,
  values: string,
): AttributeDefinition => ({
  ...attribute(name, label, 'choice', help),
  values: values.split(' '),
});

/**
 * Attributes by which content varies (DITA 1.3, 2.4.3.1). `country` and `release` are
 * specialisations of `props`.
 */
export const profilingAttributes = [
  'audience',
  'platform',
  'product',
  'otherprops',
  'props',
  'deliveryTarget',
  'country',
  'release',
] as const;

const facets = profilingAttributes.map((name) =>
  attribute(
    name,
    name === 'deliveryTarget' ? 'Delivery target' : name[0]!.toUpperCase() + name.slice(1),
    'facet',
    'Facet values for which this content is meant.',
  ),
);

/** Attributes that every element may have (DITA 1.3, universal attribute group). */
export const universalAttributes: readonly AttributeDefinition[] = [
  attribute('id', 'Id', 'id', 'The name by which links and borrowed passages find this element.'),
  attribute('conref', 'Borrowed from', 'reference', 'The element whose content is shown here.'),
  attribute('conrefend', 'Borrowed up to', 'reference', 'The last element of a borrowed run.'),
  choice(
    'conaction',
    'Push',
    'Put this content into another topic instead of taking it.',
    'mark pushafter pushbefore pushreplace -dita-use-conref-target',
  ),
  attribute(
    'conkeyref',
    'Borrowed by key',
    'key',
    'The key, and element, whose content is shown here.',
  ),
  ...facets,
  attribute('rev', 'Revision', 'text', 'The revision in which this changed.'),
  choice(
    'importance',
    'Importance',
    'How much this matters to the reader.',
    'default deprecated high low normal obsolete optional recommended required urgent',
  ),
  choice(
    'status',
    'Status',
    'What happened to this since the last issue.',
    'new changed deleted unchanged',
  ),
  attribute('base', 'Base', 'text', 'For specialised attributes.'),
  choice('translate', 'Translate', 'Whether this is to be translated.', 'yes no'),
  attribute('xml:lang', 'Language', 'language', 'The language of this content.'),
  choice('dir', 'Direction', 'The direction of writing.', 'ltr rtl lro rlo'),
  attribute('outputclass', 'Style', 'tokens', 'The named style in which this is shown.'),
  choice('xml:space', 'White space', 'Whether white space is kept.', 'preserve default'),
  attribute(
    'class',
    'Class',
    'text',
    'The specialisation of the element, as a processor writes it.',
  ),
  attribute('xtrf', 'Origin', 'text', 'Where a processor found this.'),
  attribute('xtrc', 'Origin count', 'text', 'Which of its kind a processor found.'),
];

/** Attributes of single elements, by name; a row of the grammar table names those it has. */
const own: readonly AttributeDefinition[] = [
  attribute('href', 'Target', 'reference', 'What is linked to or shown.'),
  attribute('keyref', 'Key', 'key', 'The key that gives the target or the text.'),
  attribute('keys', 'Keys', 'tokens', 'The keys defined here.'),
  attribute('keyscope', 'Key scope', 'tokens', 'The scope that this branch gives to its keys.'),
  attribute('format', 'Format', 'token', 'The kind of file linked to: dita, ditamap, html, pdf …'),
  choice(
    'scope',
    'Scope',
    'Whether the target is in this publication, beside it, or outside.',
    'local peer external -dita-use-conref-target',
  ),
  attribute('type', 'Type', 'token', 'The kind of target or content.'),
  attribute('query', 'Query', 'text', 'A search that gives the target.'),
  attribute('spectitle', 'Own title', 'text', 'A title for the list or table.'),
  choice('compact', 'Compact', 'Whether items stand close together.', 'yes no'),
  attribute('othertype', 'Other type', 'text', 'The type when “other” is chosen.'),
  attribute('alt', 'Alternative text', 'text', 'What the image says, for those who cannot see it.'),
  attribute('height', 'Height', 'length', 'Such as 40mm or 120px.'),
  attribute('width', 'Width', 'length', 'Such as 40mm or 120px.'),
  attribute('scale', 'Scale', 'number', 'Percent of the natural size.'),
  choice('scalefit', 'Fit', 'Scale to the space there is.', 'yes no'),
  choice('align', 'Alignment', 'How it stands across.', 'left right center justify char current'),
  choice('placement', 'Placement', 'In the line or on a line of its own.', 'inline break'),
  attribute(
    'longdescref',
    'Long description',
    'reference',
    'A text that describes the image in full.',
  ),
  choice(
    'expanse',
    'Width taken',
    'Page, column, text line or spread.',
    'page column textline spread',
  ),
  choice('frame', 'Frame', 'Lines around the outside.', 'all bottom none sides top topbot'),
  choice('colsep', 'Column rule', 'A line to the right.', '0 1'),
  choice('rowsep', 'Row rule', 'A line below.', '0 1'),
  choice(
    'rowheader',
    'Row header',
    'Whether the first column heads its rows.',
    'firstcol headers norowheader',
  ),
  choice('pgwide', 'Page wide', 'Across all columns of the page.', '0 1'),
  choice('orient', 'Orientation', 'Upright or turned.', 'port land'),
  attribute('cols', 'Columns', 'number', 'How many columns.'),
  attribute('colname', 'Column name', 'token', 'The column in which the cell stands.'),
  attribute('colnum', 'Column number', 'number', 'The place of the column.'),
  attribute('colwidth', 'Column width', 'text', 'Such as 2* or 30mm.'),
  attribute('namest', 'First column', 'token', 'Where a cell over several columns begins.'),
  attribute('nameend', 'Last column', 'token', 'Where a cell over several columns ends.'),
  attribute('spanname', 'Span', 'token', 'A named span of columns.'),
  attribute('morerows', 'More rows', 'number', 'Over how many further rows the cell goes.'),
  choice('valign', 'Vertical alignment', 'How it stands upright.', 'top middle bottom'),
  attribute('char', 'Alignment character', 'text', 'The character on which numbers line up.'),
  attribute('charoff', 'Alignment offset', 'number', 'Percent from the left.'),
  choice('rotate', 'Turned', 'Whether the cell is turned.', '0 1'),
  attribute('headers', 'Header cells', 'tokens', 'The ids of the cells that head this one.'),
  attribute('relcolwidth', 'Relative widths', 'text', 'Such as 1* 3*.'),
  attribute('keycol', 'Key column', 'number', 'The column that heads its rows.'),
  attribute('refcols', 'Reference columns', 'tokens', 'For specialised tables.'),
  attribute('archive', 'Archive', 'text', 'For embedded objects.'),
  attribute('classid', 'Class id', 'text', 'For embedded objects.'),
  attribute('codebase', 'Base address', 'text', 'For embedded objects.'),
  attribute('codetype', 'Code type', 'text', 'For embedded objects.'),
  attribute('data', 'Data', 'reference', 'The file that is embedded.'),
  choice('declare', 'Declare', 'Only declared, not shown.', 'declare'),
  attribute('standby', 'While loading', 'text', 'Text shown while it loads.'),
  attribute('usemap', 'Image map', 'text', 'For embedded objects.'),
  choice('state', 'State', 'Whether the value is yes or no.', 'yes no'),
  attribute('name', 'Name', 'token', 'The name of this value or part.'),
  attribute('tabindex', 'Tab order', 'number', 'For embedded objects.'),
  attribute('value', 'Value', 'text', 'The value.'),
  choice('valuetype', 'Kind of value', 'How the value is meant.', 'data ref object'),
  attribute('datatype', 'Data type', 'text', 'The type of the value.'),
  attribute('author', 'Author', 'text', 'Who wrote the comment.'),
  choice(
    'disposition',
    'State',
    'What became of the comment.',
    'accepted completed deferred duplicate issue open rejected reopened unassigned',
  ),
  attribute('time', 'Time', 'text', 'When it was written.'),
  attribute('remap', 'Was', 'text', 'What this was before it came here.'),
  attribute('callout', 'Mark', 'text', 'The mark of a footnote.'),
  attribute('start', 'Range begins', 'token', 'The name of an index range that begins here.'),
  attribute('end', 'Range ends', 'token', 'The name of an index range that ends here.'),
  attribute('trademark', 'Trademark', 'text', 'The mark.'),
  attribute('tmowner', 'Owner', 'text', 'Who owns it.'),
  choice('tmtype', 'Kind', 'The kind of mark.', 'tm reg service'),
  attribute('tmclass', 'Class', 'text', 'The class of the mark.'),
  attribute('reftitle', 'Title', 'text', 'The title of what is quoted.'),
  choice(
    'importance',
    'Importance',
    'How much this matters to the reader.',
    'default deprecated high low normal obsolete optional recommended required urgent',
  ),
  choice('shape', 'Shape', 'The shape of an area.', 'rect circle poly default'),
  attribute('specentry', 'Own entry', 'text', 'For specialised tables.'),
  choice('experiencelevel', 'Experience', 'How much the readers know.', 'expert general novice'),
  attribute('job', 'Job', 'text', 'What the readers do.'),
  attribute('otherjob', 'Other job', 'text', 'What the readers do when “other” is chosen.'),
  attribute('date', 'Date', 'text', 'As 2026-11-23.'),
  attribute('modified', 'Changed', 'text', 'As 2026-11-23.'),
  attribute('golive', 'Published', 'text', 'As 2026-11-23.'),
  attribute('expiry', 'Valid to', 'text', 'As 2026-11-23.'),
  attribute('year', 'Year', 'text', 'Four digits.'),
  attribute('content', 'Content', 'text', 'The value.'),
  choice('translate-content', 'Translate value', 'Whether the value is translated.', 'yes no'),
  attribute('version', 'Version', 'text', 'The version.'),
  attribute('release', 'Release', 'text', 'The release.'),
  attribute('modification', 'Modification', 'text', 'The modification.'),
  attribute('view', 'Access', 'text', 'Who may see it.'),
  attribute('appid', 'Id', 'text', 'The id that an application uses.'),
  attribute('appname', 'Application', 'text', 'The application.'),
  attribute('ux-context-string', 'Context', 'text', 'The context of the application.'),
  choice(
    'ux-source-priority',
    'Priority',
    'Which ids count.',
    'topic-and-map topic-only map-only map-takes-priority topic-takes-priority',
  ),
  attribute('copy-to', 'Copy to', 'text', 'The name of the result for a topic used twice.'),
  attribute('navtitle', 'Short title', 'text', 'The title in contents and navigation.'),
  choice('locktitle', 'Lock title', 'Use the short title of the map.', 'yes no'),
  choice('lockmeta', 'Lock metadata', 'Metadata of the map overrides that of the topic.', 'yes no'),
  choice(
    'collection-type',
    'Collection',
    'How the topics below belong together.',
    'unordered sequence choice family',
  ),
  choice(
    'processing-role',
    'Role',
    'Whether the topic is printed or only used.',
    'normal resource-only',
  ),
  choice('print', 'Print', 'Whether it goes into print.', 'yes no printonly'),
  choice('search', 'Search', 'Whether the search finds it.', 'yes no'),
  choice('toc', 'Contents', 'Whether it stands in the contents.', 'yes no'),
  attribute('chunk', 'Chunk', 'tokens', 'How topics are joined into pages.'),
  choice(
    'linking',
    'Linking',
    'Whether links lead to and from it.',
    'targetonly sourceonly normal none',
  ),
  choice('cascade', 'Cascade', 'How metadata flows down.', 'merge nomerge'),
  attribute('title', 'Title', 'text', 'The title.'),
  attribute('anchorref', 'Anchor', 'reference', 'Where the map is hung in.'),
  attribute('xml:base', 'Base', 'text', 'The base address.'),
];

/**
 * Own attributes whose name is also a universal one but whose meaning differs keep the own meaning.
 */
const ownByName = new Map(own.map((definition) => [definition.name, definition]));

/**
 * Reads the attribute notation of a grammar row: names parted by spaces; `!` after a name makes it
 * required, `=a|b|c` gives this element's own choice of values.
 */
export function readAttributes(notation: string): AttributeDefinition[] {
  return notation
    .split(/\s+/u)
    .filter((part) => part !== '')
    .map((part) => {
      const match = /^([\w:-]+)(!)?(?:=(.+))?$/u.exec(part);
      const known = match && ownByName.get(match[1]!);
      if (!match || !known)
        throw new Error(`The grammar names an attribute that is not defined: ${part}`);
      const values = match[3]?.split('|');
      return {
        ...known,
        ...(match[2] === '!' ? { required: true } : {}),
        ...(values === undefined ? {} : { kind: 'choice' as const, values }),
      };
    });
}
