import { row, type ElementDefinition } from '../definition.ts';

const mention = (name: string, label: string, help: string): ElementDefinition =>
  row(name, label, '(@keyWording)*', { help, base: 'keyword', attributes: 'keyref' });
const frame = 'frame expanse scale spectitle';
const syntaxPart = (name: string, label: string, help: string): ElementDefinition =>
  row(name, label, '(#text | text)*', {
    help,
    base: 'keyword',
    attributes: 'keyref importance=optional|required|default',
  });
const syntax = 'kwd | var | oper | delim | sep | repsep | groupseq | groupchoice | groupcomp';
const group = (name: string, label: string, help: string): ElementDefinition =>
  row(name, label, `title?, (${syntax} | fragref | synnote | synnoteref)*`, {
    help,
    base: 'figgroup',
    attributes: 'importance=optional|required|default',
  });

/**
 * The XML mention and markup domains, equations, MathML and SVG, and syntax diagrams of the
 * programming domain (DITA 1.3, part 3).
 */
export const technicalElements: readonly ElementDefinition[] = [
  mention('markupname', 'Markup name', 'The name of something in a markup language.'),
  mention('xmlelement', 'XML element', 'The name of an XML element.'),
  mention('xmlatt', 'XML attribute', 'The name of an XML attribute.'),
  mention('textentity', 'Text entity', 'The name of a text entity.'),
  mention('parameterentity', 'Parameter entity', 'The name of a parameter entity.'),
  mention('numcharref', 'Character reference', 'A numeric character reference.'),
  mention('xmlnsname', 'Namespace', 'The name of an XML namespace.'),
  mention('xmlpi', 'Processing instruction', 'The name of an XML processing instruction.'),

  row('equation-inline', 'Equation in a line', '(@inline)*', {
    help: 'An equation within a line of text.',
    base: 'ph',
    attributes: 'keyref',
  }),
  row('equation-block', 'Equation', '(@inline | equation-number)*', {
    help: 'An equation on a line of its own.',
    base: 'div',
  }),
  row('equation-number', 'Equation number', '(#text | ph | text)*', {
    help: 'The number of an equation.',
    base: 'ph',
  }),
  row('equation-figure', 'Figure with equations', 'title?, desc?, (figgroup | @figureContent)*', {
    help: 'Equations with a title.',
    base: 'fig',
    attributes: frame,
  }),
  row('mathml', 'MathML', 'data*, mathmlref?', { help: 'A formula in MathML.', base: 'foreign' }),
  row('mathmlref', 'MathML from a file', 'empty', {
    help: 'A formula kept in a file of its own.',
    base: 'xref',
    attributes: 'href keyref format scope',
  }),
  row('svg-container', 'SVG drawing', 'data*, svgref?', {
    help: 'A drawing in SVG.',
    base: 'foreign',
  }),
  row('svgref', 'SVG from a file', 'empty', {
    help: 'A drawing kept in a file of its own.',
    base: 'xref',
    attributes: 'href keyref format scope',
  }),

  row(
    'syntaxdiagram',
    'Syntax diagram',
    `title?, (${syntax} | fragment | fragref | synblk | synnote | synnoteref)*`,
    { help: 'How a command or statement is written.', base: 'fig', attributes: frame },
  ),
  row(
    'synblk',
    'Syntax block',
    `title?, (${syntax} | fragment | fragref | synnote | synnoteref)*`,
    {
      help: 'A block of a syntax diagram.',
      base: 'figgroup',
    },
  ),
  group('groupseq', 'Sequence', 'Parts that are written one after the other.'),
  group('groupchoice', 'Choice', 'Parts of which one is written.'),
  group('groupcomp', 'Composite', 'Parts that are written without a space between.'),
  row('fragment', 'Fragment', `title?, (${syntax} | fragref | synnote | synnoteref)*`, {
    help: 'A named part of a syntax diagram.',
    base: 'figgroup',
  }),
  row('fragref', 'Fragment reference', '(#text | text)*', {
    help: 'Names a fragment that belongs here.',
    base: 'xref',
    attributes: 'href keyref importance=optional|required|default',
  }),
  syntaxPart('kwd', 'Syntax keyword', 'A word that is written as shown.'),
  syntaxPart('var', 'Variable', 'A word that the reader replaces.'),
  syntaxPart('oper', 'Operator', 'An operator.'),
  syntaxPart('delim', 'Delimiter', 'A sign that encloses or separates parts.'),
  syntaxPart('sep', 'Separator', 'A sign between parts.'),
  syntaxPart('repsep', 'Repeat separator', 'A sign between repeated parts.'),
  row('synnote', 'Syntax note', '(@inline)*', {
    help: 'A note on a part of the syntax.',
    base: 'fn',
    attributes: 'callout',
  }),
  row('synnoteref', 'Note reference', 'empty', {
    help: 'Leads to a syntax note.',
    base: 'xref',
    attributes: 'href',
  }),
];
