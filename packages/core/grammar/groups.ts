/**
 * Named groups of content expressions, after the parameter entities of the OASIS DITA 1.3 modules
 * (base, highlight, user interface, software, programming, utilities and release-management
 * domains).
 */
const phrases =
  'ph | keyword | term | abbreviated-form | xref | uicontrol | menucascade | wintitle | ' +
  'shortcut | userinput | systemoutput | msgph | msgnum | filepath | cmdname | varname | ' +
  'apiname | codeph | option | parmname | synph | b | i | u | tt | sup | sub | line-through ' +
  '| overline | q | cite | tm | state | text | markupname | xmlelement | xmlatt | textentity | ' +
  'parameterentity | numcharref | xmlnsname | xmlpi | equation-inline';

const aside =
  'data | sort-as | foreign | unknown | mathml | svg-container | draft-comment | ' +
  'required-cleanup';
const anywhere = `image | object | fn | indexterm | indextermref | boolean | ${aside}`;
const lists = 'ul | ol | sl | dl | parml';
const tables = 'table | simpletable | choicetable';
const plainBlocks =
  `p | ${lists} | note | hazardstatement | codeblock | pre | screen | msgblock | lines | lq | ` +
  `fig | imagemap | equation-figure | equation-block | syntaxdiagram | ${tables} | div`;

export const groups: Readonly<Record<string, string>> = {
  phrase: phrases,
  /** What may stand in a line of text. */
  inline: `#text | ${phrases} | ${anywhere}`,
  /** Titles and the like: no links, notes or index terms. */
  titleInline: `#text | ${phrases.replace('xref | ', '')} | image | ${aside}`,
  /** Text with marks only. */
  wording:
    '#text | ph | keyword | term | text | tm | b | i | u | tt | sup | sub | line-through | ' +
    'overline | state',
  keyWording: '#text | text | tm | draft-comment',
  codeInline:
    '#text | ph | codeph | parmname | varname | userinput | systemoutput | b | i | u | sup | ' +
    'sub | line-through | xref | text | data | keyword | option | apiname | cmdname | filepath ' +
    '| fn | indexterm',
  block: plainBlocks,
  /** Text or blocks, as in an item or a cell. */
  flow: `#text | ${phrases} | ${anywhere} | ${plainBlocks}`,
  /** The same without a note, for what a note may hold. */
  noteFlow:
    `#text | ${phrases} | ${anywhere} |` +
    ` ${plainBlocks.replace('note | hazardstatement | ', '')}`,
  sectionFlow: `#text | ${phrases} | ${anywhere} | ${plainBlocks} | sectiondiv | properties`,
  figureContent:
    `image | object | p | ${lists} | note | hazardstatement | codeblock | pre | screen | ` +
    `msgblock | lines | lq | simpletable | xref | fn | equation-block | ${aside}`,
  bodyContent: `${plainBlocks} | image | object | ${aside}`,
  shortText: `#text | ${phrases} | image | indexterm | ${aside}`,
  topics: 'topic | concept | task | reference | troubleshooting | glossentry | glossgroup',
  metadata:
    'audience | category | keywords | prodinfo | othermeta | change-historylist | data | ' +
    'sort-as | foreign | unknown',
  topicrefs:
    'topicref | topichead | topicgroup | mapref | keydef | topicset | topicsetref | glossref ' +
    '| anchorref | ditavalref | data | data-about',
  bookTopicrefs:
    'topicref | topichead | topicgroup | mapref | keydef | topicset | topicsetref | glossref ' +
    '| ditavalref',
  frontmatter:
    'bookabstract | booklists | colophon | dedication | draftintro | notices | preface | ' +
    'amendments',
  booklists:
    'toc | figurelist | tablelist | indexlist | glossarylist | abbrevlist | bibliolist | ' +
    'booklist | trademarklist',
};
