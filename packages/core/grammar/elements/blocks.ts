import { row, type ElementDefinition } from '../definition.ts';

const image =
  'href keyref alt format scope height width scale scalefit align placement longdescref';
const table = 'frame colsep rowsep pgwide orient rowheader expanse scale';
const cell =
  'colname namest nameend spanname morerows colsep rowsep align valign char charoff rotate ' +
  'headers scope=row|col|rowgroup|colgroup';

/** Paragraphs, lists, figures and tables: what stands in the body of any topic. */
export const blockElements: readonly ElementDefinition[] = [
  row('p', 'Paragraph', '(@flow)*', 'One thought in a few sentences.'),
  row('ul', 'Bullet list', 'li+', { help: 'Items in no order.', attributes: 'compact spectitle' }),
  row('ol', 'Numbered list', 'li+', { help: 'Items in order.', attributes: 'compact spectitle' }),
  row('li', 'Item', '(@flow | itemgroup)*', 'One item of a list.'),
  row('sl', 'Simple list', 'sli+', {
    help: 'Short items without marks.',
    attributes: 'compact spectitle',
  }),
  row('sli', 'Simple item', '(@inline)*', { help: 'One item of a simple list.', base: 'li' }),
  row('dl', 'Definition list', 'dlhead?, dlentry+', {
    help: 'Terms beside what they mean.',
    attributes: 'compact spectitle',
  }),
  row('dlhead', 'List head', 'dthd?, ddhd?', 'Heads of the list.'),
  row('dthd', 'Term head', '(@titleInline)*', 'Heads the terms.'),
  row('ddhd', 'Definition head', '(@titleInline)*', 'Heads the definitions.'),
  row('dlentry', 'Definition', 'dt+, dd+', 'Terms with their definitions.'),
  row('dt', 'Term', '(@inline)*', { help: 'The term.', attributes: 'keyref' }),
  row('dd', 'Meaning', '(@flow)*', 'What the term means.'),
  row('parml', 'Parameter list', 'plentry+', {
    help: 'Parameters beside what they mean.',
    base: 'dl',
    attributes: 'compact spectitle',
  }),
  row('plentry', 'Parameter', 'pt+, pd+', {
    help: 'Parameters with their meanings.',
    base: 'dlentry',
  }),
  row('pt', 'Parameter name', '(@inline)*', {
    help: 'The name of the parameter.',
    base: 'dt',
    attributes: 'keyref',
  }),
  row('pd', 'Parameter meaning', '(@flow)*', { help: 'What the parameter does.', base: 'dd' }),
  row('note', 'Note', '(@noteFlow)*', {
    help: 'Something to heed; its type says how much.',
    attributes:
      'type=note|tip|fastpath|restriction|important|remember|attention|caution|notice|danger|' +
      'warning|trouble|other ' +
      'othertype spectitle',
  }),
  row('lq', 'Long quotation', '(@flow | longquoteref)*', {
    help: 'Words of somebody else, set apart.',
    attributes: 'href keyref format scope type reftitle',
  }),
  row('longquoteref', 'Source of the quotation', 'empty', {
    help: 'Where the quotation is from.',
    attributes: 'href keyref format scope type',
  }),
  row('pre', 'Preformatted text', '(@codeInline)*', {
    help: 'Text whose spaces and line ends stay.',
    verbatim: true,
    attributes: 'frame expanse scale spectitle',
  }),
  row('codeblock', 'Code', '(@codeInline | coderef)*', {
    help: 'Lines of program text.',
    base: 'pre',
    verbatim: true,
    attributes: 'frame expanse scale spectitle',
  }),
  row('coderef', 'Code from a file', 'empty', {
    help: 'Program text kept in a file of its own.',
    attributes: 'href format scope keyref',
  }),
  row('screen', 'Screen text', '(@codeInline)*', {
    help: 'What a text display shows.',
    base: 'pre',
    verbatim: true,
    attributes: 'frame expanse scale spectitle',
  }),
  row('msgblock', 'Message text', '(@codeInline)*', {
    help: 'A message of several lines.',
    base: 'pre',
    verbatim: true,
    attributes: 'frame expanse scale spectitle',
  }),
  row('lines', 'Lines', '(@inline)*', {
    help: 'Text whose line ends stay, such as an address.',
    verbatim: true,
    attributes: 'frame expanse scale spectitle',
  }),
  row('fig', 'Figure', 'title?, desc?, (figgroup | @figureContent)*', {
    help: 'An image or other content with a title.',
    attributes: 'frame expanse scale spectitle',
  }),
  row(
    'figgroup',
    'Part of a figure',
    'title?, (figgroup | image | object | xref | fn | ph | keyword | data)*',
    'Holds parts of a figure together.',
  ),
  row('image', 'Image', 'alt?, longdescref?', {
    help: 'A drawing or photograph.',
    attributes: image,
  }),
  row(
    'alt',
    'Alternative text',
    '(@wording)*',
    'What the image says, for those who cannot see it.',
  ),
  row('longdescref', 'Long description', 'empty', {
    help: 'Where the image is described in full.',
    attributes: 'href keyref format scope type',
  }),
  row('imagemap', 'Image map', 'title?, desc?, image, area*', {
    help: 'An image with areas that lead somewhere.',
    base: 'fig',
    attributes: 'frame expanse scale spectitle',
  }),
  row('area', 'Area', 'shape, coords, xref', {
    help: 'One area of an image map.',
    base: 'figgroup',
  }),
  row('shape', 'Shape', '#text*', { help: 'Rectangle, circle or polygon.', base: 'keyword' }),
  row('coords', 'Coordinates', '#text*', {
    help: 'Where the area lies, in pixels of the image.',
    base: 'ph',
  }),
  row('object', 'Video or sound', 'desc?, longdescref?, param*', {
    help: 'A video, a sound or other embedded content.',
    attributes:
      'archive classid codebase codetype data declare height width name standby tabindex ' +
      'type usemap longdescref',
  }),
  row('param', 'Parameter', 'empty', {
    help: 'A setting of embedded content.',
    attributes: 'name! value valuetype type keyref',
  }),

  row('table', 'Table', 'title?, desc?, tgroup+', {
    help: 'Rows and columns, with joined cells where needed.',
    attributes: table,
  }),
  row('tgroup', 'Table group', 'colspec*, spanspec*, thead?, tbody', {
    help: 'The columns, head and body of a table.',
    attributes: 'cols! colsep rowsep align',
  }),
  row('colspec', 'Column', 'empty', {
    help: 'One column of a table.',
    attributes:
      'colname colnum colwidth colsep rowsep align char charoff ' +
      'rowheader=firstcol|headers|norowheader',
  }),
  row('spanspec', 'Span of columns', 'empty', {
    help: 'A named span of columns.',
    attributes: 'namest! nameend! spanname! colsep rowsep align char charoff',
  }),
  row('thead', 'Table head', 'row+', {
    help: 'Rows that are repeated on each page.',
    attributes: 'valign',
  }),
  row('tbody', 'Table body', 'row+', { help: 'The rows of a table.', attributes: 'valign' }),
  row('row', 'Row', 'entry+', { help: 'One row of a table.', attributes: 'rowsep valign' }),
  row('entry', 'Cell', '(@flow)*', { help: 'One cell of a table.', attributes: cell }),
  row('simpletable', 'Simple table', 'title?, sthead?, strow+', {
    help: 'Rows and columns without joined cells.',
    attributes: 'relcolwidth keycol refcols spectitle frame expanse scale',
  }),
  row('sthead', 'Simple head', 'stentry+', 'Heads of the columns.'),
  row('strow', 'Simple row', 'stentry+', 'One row of a simple table.'),
  row('stentry', 'Simple cell', '(@flow)*', {
    help: 'One cell of a simple table.',
    attributes: 'specentry scope=row|col',
  }),
];
