import { row, type ElementDefinition } from '../definition.ts';

const phrase = (name: string, label: string, help: string, base = 'ph'): ElementDefinition =>
  row(name, label, '(@inline)*', { help: help, base, attributes: 'keyref' });
const keyword = (name: string, label: string, help: string): ElementDefinition =>
  row(name, label, '(@keyWording)*', { help: help, base: 'keyword', attributes: 'keyref' });
const link = 'href keyref format scope type';

/**
 * What stands in a line of text (base and the highlight, user interface, software and programming
 * domains).
 */
export const inlineElements: readonly ElementDefinition[] = [
  row('ph', 'Phrase', '(@inline)*', {
    help: 'Words that vary, or that a variable gives.',
    attributes: 'keyref',
  }),
  row('keyword', 'Keyword', '(@keyWording)*', {
    help: 'A name; often given by a variable.',
    attributes: 'keyref',
  }),
  row('term', 'Term', '(@keyWording | @phrase)*', {
    help: 'A term that the glossary explains.',
    attributes: 'keyref href format scope type',
  }),
  row('abbreviated-form', 'Short form of a term', 'empty', {
    help: 'The short or first form of a glossary term, whichever fits.',
    base: 'term',
    attributes: 'keyref!',
  }),
  row('xref', 'Cross-reference', '(@titleInline | desc)*', {
    help: 'A link to a topic, a part of one, or an address.',
    attributes: link,
  }),
  phrase('uicontrol', 'Control', 'A button, field or menu that the reader uses.'),
  row('menucascade', 'Menu path', '(uicontrol | text | data)+', {
    help: 'Menus chosen one after the other.',
    base: 'ph',
    attributes: 'keyref',
  }),
  keyword('wintitle', 'Window title', 'The title of a window or screen.'),
  keyword('shortcut', 'Shortcut', 'The key that chooses a control.'),
  phrase('userinput', 'Input', 'What the reader types.'),
  phrase('systemoutput', 'Output', 'What the system shows.'),
  phrase('msgph', 'Message', 'The words of a message.'),
  keyword('msgnum', 'Message number', 'The number of a message.'),
  phrase('filepath', 'File path', 'A file or folder.'),
  keyword('cmdname', 'Command', 'The name of a command.'),
  keyword('varname', 'Variable name', 'Something the reader replaces.'),
  keyword('apiname', 'Interface name', 'A name of a programming interface.'),
  phrase('codeph', 'Code phrase', 'A piece of program text in a line.'),
  keyword('option', 'Option', 'An option of a command.'),
  keyword('parmname', 'Parameter', 'The name of a parameter.'),
  phrase('synph', 'Syntax phrase', 'A piece of a syntax.'),
  phrase('b', 'Bold', 'Bold, where no other element says why.'),
  phrase('i', 'Italic', 'Italic, where no other element says why.'),
  phrase('u', 'Underlined', 'Underlined, where no other element says why.'),
  phrase('tt', 'Fixed width', 'Fixed width, where no other element says why.'),
  phrase('sup', 'Superscript', 'Raised text.'),
  phrase('sub', 'Subscript', 'Lowered text.'),
  phrase('line-through', 'Struck through', 'Text struck through.'),
  phrase('overline', 'Overlined', 'Text with a line above.'),
  row('q', 'Quotation', '(@inline)*', 'Words of somebody else, in a line.'),
  row('cite', 'Cited title', '(@inline)*', {
    help: 'The title of a book or article.',
    attributes: 'keyref',
  }),
  row('tm', 'Trademark', '(#text | text)*', {
    help: 'A word with its trademark sign.',
    attributes: 'trademark tmowner tmtype! tmclass',
  }),
  row('state', 'State', 'empty', { help: 'A state and its value.', attributes: 'name! value!' }),
  row('text', 'Text', '(#text | text)*', 'Plain words that can be borrowed.'),
  row('fn', 'Footnote', '(@noteFlow)*', {
    help: 'Words at the foot of the page.',
    attributes: 'callout',
  }),
  row(
    'indexterm',
    'Index entry',
    '(#text | ph | keyword | term | text | b | i | sup | sub | codeph | option | parmname | ' +
      'apiname | cmdname | indexterm | index-see | index-see-also | index-sort-as)*',
    {
      help: 'An entry of the index that leads here; entries inside it are its sub-entries.',
      attributes: 'start end keyref',
    },
  ),
  row('index-see', 'See', '(#text | ph | keyword | term | text | indexterm)*', {
    help: 'Leads from this entry to another instead.',
    attributes: 'keyref',
  }),
  row('index-see-also', 'See also', '(#text | ph | keyword | term | text | indexterm)*', {
    help: 'Leads from this entry to another as well.',
    attributes: 'keyref',
  }),
  row(
    'index-sort-as',
    'Sort as',
    '(#text | keyword | text)*',
    'The words by which the entry is put in order.',
  ),
  row('draft-comment', 'Comment for the team', '(@flow)*', {
    help: 'Words for the team; never published.',
    attributes: 'author time disposition',
  }),
  row('required-cleanup', 'To be put right', '(@flow)*', {
    help: 'Content that came in and has no place yet; never published.',
    attributes: 'remap',
  }),
  row(
    'data',
    'Data',
    '(#text | data | image | object | ph | keyword | term | xref | text | foreign | title)*',
    {
      help: 'A value for processors; not shown.',
      attributes: 'name value datatype href format scope type keyref',
    },
  ),
  row('data-about', 'Data about something', '(data | data-about)*', {
    help: 'A value about something else; not shown.',
    attributes: 'href format scope type',
  }),
  row(
    'foreign',
    'Foreign content',
    '(#text | object | image | data | data-about | desc)*',
    'Content in another vocabulary.',
  ),
  row('unknown', 'Unknown content', '#text*', 'Content whose vocabulary is not named.'),
  row('sort-as', 'Sort key', '(#text | keyword | text)*', {
    help: 'The words by which this is sorted; not shown.',
    base: 'data',
    attributes: 'name value',
  }),
  row('boolean', 'Yes or no', 'empty', {
    help: 'A value that is yes or no.',
    attributes: 'state!',
  }),
  row('indextermref', 'Index entry reference', 'empty', {
    help: 'An index entry that a key gives.',
    attributes: 'keyref',
  }),
];
