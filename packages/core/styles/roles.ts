/** What a style is for: each role of a manual or site has one of this name in every style sheet. */
export interface StyleRole {
  readonly id: string;
  readonly label: string;
  readonly group: RoleGroup;
  readonly family: 'block' | 'inline';
}
export const roleGroups = [
  'Text',
  'Headings',
  'Lists',
  'Steps',
  'Notes',
  'Tables',
  'Figures',
  'Code',
  'In the line',
  'Front',
  'Contents',
  'Index',
  'Page',
] as const;
type RoleGroup = (typeof roleGroups)[number];

const of =
  (group: RoleGroup, family: StyleRole['family'] = 'block') =>
  (id: string, label: string): StyleRole => ({ id, label, group, family });
const [text, heading, list, steps, note, table, figure, code, line, front, contents, index, page] =
  [
    of('Text'),
    of('Headings'),
    of('Lists'),
    of('Steps'),
    of('Notes'),
    of('Tables'),
    of('Figures'),
    of('Code'),
    of('In the line', 'inline'),
    of('Front'),
    of('Contents'),
    of('Index'),
    of('Page'),
  ];

/** The types of note that have a style of their own (DITA 1.3, note: `type`), gravest first. */
export const noteKinds = [
  'danger',
  'warning',
  'caution',
  'notice',
  'attention',
  'important',
  'restriction',
  'trouble',
  'remember',
  'tip',
  'fastpath',
  'note',
] as const;
export type NoteKind = (typeof noteKinds)[number];

/** Every other style is based on this one. */
export const rootRole = 'text';

export const styleRoles: readonly StyleRole[] = [
  text(rootRole, 'All text'),
  text('paragraph', 'Paragraph'),
  text('lead', 'Short description'),
  text('label', 'Name of a part'),
  text('quote', 'Quotation'),
  text('lines', 'Lines as written'),
  text('footnote', 'Footnote'),
  heading('heading-1', 'Chapter'),
  heading('heading-1-number', 'Number of a chapter'),
  heading('heading-2', 'Section'),
  heading('heading-3', 'Section within'),
  heading('heading-4', 'Section further within'),
  heading('block-heading', 'Heading inside a topic'),
  list('bullet-list', 'List with marks'),
  list('bullet-list-2', 'List within a list'),
  list('numbered-list', 'List with numbers'),
  list('numbered-list-2', 'Numbers within numbers'),
  list('simple-list', 'List without marks'),
  list('term-list', 'List of terms'),
  list('term-name', 'Term of such a list'),
  list('list-mark', 'Mark or number of a list'),
  steps('steps', 'Steps'),
  steps('substeps', 'Steps within a step'),
  steps('step-number', 'Number of a step'),
  note('note', 'All notes'),
  note('note-label', 'Name of a note'),
  ...noteKinds
    .filter((kind) => kind !== 'note')
    .map((kind) => note(`note-${kind}`, `${kind[0]!.toUpperCase()}${kind.slice(1)}`)),
  table('table', 'Table'),
  table('table-title', 'Title of a table'),
  table('table-head', 'Head of a table'),
  table('table-cell', 'Cell'),
  table('table-band', 'Every other row'),
  figure('figure', 'Figure'),
  figure('figure-title', 'Title of a figure'),
  figure('caption-number', 'Number of a title'),
  code('code-block', 'Block of code'),
  code('code', 'Code in the line'),
  line('bold', 'Bold'),
  line('italic', 'Italic'),
  line('control', 'Control'),
  line('quoted', 'Quoted words'),
  line('link', 'Link'),
  line('expandable', 'Words that readers open'),
  line('meaning', 'Meaning of a term'),
  front('cover-series', 'Series on the cover'),
  front('cover-title', 'Title on the cover'),
  front('cover-subtitle', 'Subtitle on the cover'),
  front('cover-facts', 'Facts on the cover'),
  contents('contents-1', 'Chapter in the contents'),
  contents('contents-2', 'Section in the contents'),
  contents('contents-3', 'Section within, in the contents'),
  contents('contents-page', 'Page number in the contents'),
  index('index-letter', 'Letter of the index'),
  index('index-entry', 'Entry of the index'),
  page('running-head', 'Head of the page'),
  page('running-foot', 'Foot of the page'),
  page('page-number', 'Page number'),
];
const byId = new Map(styleRoles.map((role) => [role.id, role]));
export const roleOf = (id: string): StyleRole | undefined => byId.get(id);
