import { usualNumbering } from './numbering.ts';
import { noSlots, plainPlan, type PagePlan } from './plan.ts';
import type { Style, StyleSheet } from './sheet.ts';

const printed = (print: Style['print'], screen?: Style['screen']): Style => ({
  ...(print ? { print } : {}),
  ...(screen ? { screen } : {}),
});
const both = (all: Style['all'], print?: Style['print'], screen?: Style['screen']): Style => ({
  ...(all ? { all } : {}),
  ...printed(print, screen),
});

/**
 * Marks in a wide margin, blue headings of a sans face, steps with hanging numbers: for work with a
 * tool in the other hand.
 */
const workshop: StyleSheet = {
  name: 'Workshop',
  about:
    'Marks in the margin, clear headings, steps with hanging numbers: for installing and mending.',
  fonts: { reading: 'Source Serif 4', finding: 'Source Sans 3', code: 'Source Code Pro' },
  colours: {
    ink: '#1f2431',
    quiet: '#5f6575',
    accent: '#12305f',
    danger: '#b93a25',
    caution: '#8a5a00',
    hair: '#c9c3b4',
    tint: '#f6f4ee',
  },
  styles: {
    text: both(
      { font: 'reading', colour: 'ink', lineHeight: 1.34 },
      { size: '9.6pt', figures: 'old style', align: 'both', hyphenate: true },
      { size: '12.75pt', lineHeight: 1.6, align: 'start', figures: 'lining' },
    ),
    paragraph: printed({ above: '5.2pt', below: '5.2pt' }, { above: '0.75em', below: '0.75em' }),
    lead: both(
      { slant: 'italic', colour: 'quiet' },
      {
        size: '10.6pt',
        lineHeight: 1.3,
        align: 'start',
        above: '3mm',
        below: '4mm',
        keepNext: true,
      },
      { size: '14pt', lineHeight: 1.5, below: '1.3em' },
    ),
    label: both(
      { font: 'finding', weight: 'semibold', colour: 'quiet' },
      {
        size: '9pt',
        above: '12pt',
        below: '4pt',
        align: 'start',
        figures: 'lining',
        keepNext: true,
      },
    ),
    quote: both(
      { slant: 'italic', ruleStart: '0.8pt hair' },
      { padding: '4mm', above: '8pt', below: '8pt' },
    ),
    lines: printed({ align: 'start', above: '7pt', below: '8pt' }),
    footnote: printed({ size: '8pt', lineHeight: 1.25 }),
    'heading-1': both(
      { font: 'reading' },
      {
        size: '25pt',
        lineHeight: 1.12,
        align: 'start',
        hyphenate: false,
        above: '0pt',
        below: '11mm',
        figures: 'lining',
      },
      { size: '25pt', lineHeight: 1.15 },
    ),
    'heading-1-number': both(
      { font: 'reading', colour: 'accent', figures: 'lining' },
      { size: '44pt', lineHeight: 1, below: '5mm' },
    ),
    'heading-2': both(
      { font: 'finding', weight: 'semibold', colour: 'accent' },
      {
        size: '13.5pt',
        lineHeight: 1.2,
        align: 'start',
        hyphenate: false,
        figures: 'lining',
        above: '26pt',
        below: '8pt',
        keepNext: true,
      },
      { size: '14.5pt' },
    ),
    'heading-3': both(
      { font: 'finding', weight: 'semibold', colour: 'accent' },
      {
        size: '11.5pt',
        lineHeight: 1.2,
        align: 'start',
        hyphenate: false,
        figures: 'lining',
        above: '22pt',
        below: '6pt',
        keepNext: true,
      },
      { size: '12.6pt' },
    ),
    'heading-4': { base: 'heading-3', print: { size: '10.4pt', above: '18pt' } },
    'block-heading': both(
      { font: 'finding', weight: 'semibold' },
      {
        size: '10.8pt',
        lineHeight: 1.25,
        align: 'start',
        figures: 'lining',
        above: '17pt',
        below: '5pt',
        keepNext: true,
      },
    ),
    'bullet-list': both(
      { mark: '•' },
      { above: '6pt', below: '7pt', between: '4.5pt', tab: '3mm' },
    ),
    'bullet-list-2': {
      base: 'bullet-list',
      all: { mark: '–' },
      print: { above: '3pt', below: '3pt' },
    },
    'numbered-list': both(
      { numbers: '1.' },
      { above: '6pt', below: '7pt', between: '4.5pt', tab: '3mm' },
    ),
    'numbered-list-2': {
      base: 'numbered-list',
      all: { numbers: 'a.' },
      print: { above: '3pt', below: '3pt' },
    },
    'simple-list': printed({ align: 'start', above: '6pt', below: '7pt', between: '3.5pt' }),
    'list-mark': both({ font: 'finding', weight: 'semibold', colour: 'accent', figures: 'lining' }),
    steps: both({ numbers: '1' }, { above: '7pt', below: '8pt', between: '7pt', tab: '3mm' }),
    substeps: both({ numbers: 'a' }, { above: '4pt', below: '4pt', between: '4pt', tab: '3mm' }),
    'step-number': both({
      font: 'finding',
      weight: 'semibold',
      colour: 'accent',
      figures: 'lining',
    }),
    'term-list': printed({ above: '7pt', below: '8pt', indentStart: '6.5mm' }),
    'term-name': both(
      { font: 'finding', weight: 'semibold' },
      { size: '9.2pt', above: '6pt', below: '2pt' },
    ),
    note: both(
      { ruleAbove: '0.6pt accent', ruleBelow: '0.6pt accent' },
      { padding: '2.1mm', above: '11pt', below: '11pt', align: 'start', keepTogether: true },
    ),
    'note-label': both({ font: 'finding', weight: 'bold' }, { size: '9pt' }),
    'note-danger': both({ ruleAbove: '0.6pt danger', ruleBelow: '0.6pt danger' }),
    'note-warning': both({ ruleAbove: '0.6pt danger', ruleBelow: '0.6pt danger' }),
    'note-caution': both({ ruleAbove: '0.6pt caution', ruleBelow: '0.6pt caution' }),
    'note-notice': both({ ruleAbove: '0.6pt caution', ruleBelow: '0.6pt caution' }),
    'note-attention': both({ ruleAbove: '0.6pt caution', ruleBelow: '0.6pt caution' }),
    'note-important': both({ ruleAbove: '0.6pt caution', ruleBelow: '0.6pt caution' }),
    'note-restriction': both({ ruleAbove: '0.6pt caution', ruleBelow: '0.6pt caution' }),
    table: both(
      { font: 'finding', ruleAbove: '0.9pt ink', ruleBelow: '0.9pt ink' },
      {
        size: '8.5pt',
        lineHeight: 1.25,
        align: 'start',
        figures: 'lining in columns',
        above: '11pt',
        below: '12pt',
      },
      { size: '11.4pt' },
    ),
    'table-title': both(
      { font: 'finding' },
      { size: '8.4pt', align: 'start', figures: 'lining', below: '5pt' },
    ),
    'table-head': both({ weight: 'semibold', ruleBelow: '0.6pt ink' }),
    'table-cell': both({ ruleAbove: '0.35pt hair' }, { padding: '1.3mm' }),
    figure: printed({ above: '11pt', below: '12pt', keepTogether: true }),
    'figure-title': both(
      { font: 'finding' },
      { size: '8.4pt', align: 'start', figures: 'lining', above: '6pt' },
    ),
    'caption-number': both({ weight: 'semibold', colour: 'accent' }),
    'code-block': both(
      { font: 'code', background: 'tint', corner: '1mm' },
      {
        size: '8.2pt',
        lineHeight: 1.35,
        align: 'start',
        hyphenate: false,
        figures: 'lining',
        padding: '2.8mm',
        above: '8pt',
        below: '9pt',
      },
    ),
    code: both({ font: 'code', figures: 'lining' }, { size: '0.86em' }),
    bold: both({ weight: 'bold' }),
    italic: both({ slant: 'italic' }),
    control: both({ font: 'finding', weight: 'semibold', figures: 'lining' }, { size: '0.95em' }),
    link: both({ colour: 'accent' }),
    'cover-series': printed({ font: 'finding', size: '12pt', weight: 'semibold' }),
    'cover-title': printed({
      hyphenate: false,
      align: 'start',
      font: 'reading',
      size: '32pt',
      lineHeight: 1.12,
      figures: 'lining',
    }),
    'cover-subtitle': printed({
      font: 'reading',
      size: '15pt',
      slant: 'italic',
      colour: 'quiet',
      above: '5mm',
    }),
    'cover-facts': printed({
      font: 'finding',
      size: '9.5pt',
      colour: 'quiet',
      figures: 'lining',
      lineHeight: 1.45,
    }),
    'contents-1': printed({
      font: 'finding',
      size: '9.6pt',
      weight: 'semibold',
      figures: 'lining',
      align: 'start',
      above: '10pt',
      below: '4pt',
      keepNext: true,
    }),
    'contents-2': printed({ align: 'start', above: '3.5pt', below: '3.5pt', figures: 'lining' }),
    'contents-3': { base: 'contents-2', print: { size: '8.8pt', indentStart: '10mm' } },
    'contents-page': printed({ font: 'finding', size: '8.8pt', figures: 'lining in columns' }),
    'index-letter': printed({
      font: 'reading',
      size: '13pt',
      colour: 'accent',
      above: '11pt',
      below: '3pt',
    }),
    'index-entry': printed({
      font: 'finding',
      size: '8.6pt',
      lineHeight: 1.25,
      align: 'start',
      figures: 'lining',
      firstLine: '-4mm',
    }),
    'running-head': printed({
      font: 'finding',
      size: '8pt',
      colour: 'quiet',
      figures: 'lining',
      ruleBelow: '0.35pt hair',
    }),
    'running-foot': printed({ font: 'finding', size: '8.2pt', colour: 'quiet', figures: 'lining' }),
    'page-number': printed({ weight: 'semibold', colour: 'ink' }),
  },
  marks: {
    danger: { icon: 'hazard', size: '8mm', place: 'margin column', meets: 'top' },
    warning: { icon: 'triangle', size: '8mm', place: 'margin column', meets: 'top' },
    caution: { icon: 'triangle', size: '7mm', place: 'margin column', meets: 'top' },
    notice: { icon: 'square', size: '6.5mm', place: 'margin column', meets: 'top' },
    attention: { icon: 'square', size: '6.5mm', place: 'margin column', meets: 'top' },
    important: { icon: 'square', size: '6.5mm', place: 'margin column', meets: 'top' },
    restriction: { icon: 'square', size: '6.5mm', place: 'margin column', meets: 'top' },
    trouble: { icon: 'wrench', size: '6.5mm', place: 'margin column', meets: 'top' },
    tip: { icon: 'tick', size: '6mm', place: 'margin column', meets: 'top' },
    fastpath: { icon: 'tick', size: '6mm', place: 'margin column', meets: 'top' },
    remember: { icon: 'circle', size: '6mm', place: 'margin column', meets: 'top' },
    note: { icon: 'circle', size: '6mm', place: 'margin column', meets: 'top' },
  },
  numbering: usualNumbering,
};

/**
 * A sheet that says some styles of another otherwise: what it says of a style replaces what that
 * one says of it.
 */
const restyled = (
  sheet: StyleSheet,
  change: Omit<Partial<StyleSheet>, 'styles'> & {
    readonly styles: Readonly<Record<string, Style>>;
  },
): StyleSheet => ({
  ...sheet,
  ...change,
  styles: { ...sheet.styles, ...change.styles },
});
const markEach = (
  sheet: StyleSheet,
  change: Partial<NonNullable<StyleSheet['marks']['note']>>,
): StyleSheet['marks'] =>
  Object.fromEntries(
    Object.entries(sheet.marks).map(([kind, mark]) => [kind, { ...mark, ...change }]),
  );

/** One face, small capitals, much white: for reading in a chair. */
const handbook = restyled(workshop, {
  name: 'Quiet handbook',
  about:
    'One reading face, small capitals, no rules and hardly a colour: for reading at a desk ' +
    'or on a boat.',
  colours: {
    ink: '#26241f',
    quiet: '#6b655a',
    accent: '#2f4f3e',
    danger: '#9c3620',
    caution: '#7d5b12',
    hair: '#cfc8b8',
    tint: '#f5f2ea',
  },
  styles: {
    text: both(
      { font: 'reading', colour: 'ink', lineHeight: 1.4 },
      { size: '9.2pt', figures: 'old style', align: 'both', hyphenate: true },
      { size: '12.75pt', lineHeight: 1.65, align: 'start', figures: 'old style' },
    ),
    paragraph: printed({ above: '4.4pt', below: '4.4pt' }, { above: '0.75em', below: '0.75em' }),
    lead: both(
      { slant: 'italic', colour: 'quiet' },
      {
        size: '9.8pt',
        lineHeight: 1.35,
        align: 'start',
        above: '2mm',
        below: '3.5mm',
        keepNext: true,
      },
      { size: '13.5pt', lineHeight: 1.5, below: '1.3em' },
    ),
    label: both(
      { font: 'reading', case: 'small capitals', colour: 'quiet', spacing: '0.04em' },
      { size: '9.4pt', above: '11pt', below: '3pt', align: 'start', keepNext: true },
    ),
    'heading-1': both(
      { font: 'reading' },
      {
        size: '20pt',
        lineHeight: 1.15,
        align: 'start',
        hyphenate: false,
        above: '0pt',
        below: '9mm',
        figures: 'old style',
      },
      { size: '24pt', lineHeight: 1.15 },
    ),
    'heading-1-number': both(
      { font: 'reading', colour: 'quiet', figures: 'old style', slant: 'italic' },
      { size: '15pt', lineHeight: 1, below: '3mm' },
    ),
    'heading-2': both(
      { font: 'reading', colour: 'accent', slant: 'italic' },
      {
        size: '13pt',
        lineHeight: 1.2,
        align: 'start',
        hyphenate: false,
        above: '22pt',
        below: '6pt',
        keepNext: true,
      },
      { size: '16pt' },
    ),
    'heading-3': both(
      { font: 'reading', colour: 'accent', case: 'small capitals', spacing: '0.04em' },
      {
        size: '10pt',
        lineHeight: 1.2,
        align: 'start',
        hyphenate: false,
        above: '17pt',
        below: '4pt',
        keepNext: true,
      },
      { size: '13pt' },
    ),
    'block-heading': both(
      { font: 'reading', weight: 'semibold' },
      {
        size: '9.6pt',
        lineHeight: 1.25,
        align: 'start',
        above: '13pt',
        below: '3pt',
        keepNext: true,
      },
    ),
    note: both(
      { ruleStart: '1.2pt hair', ruleAbove: 'none', ruleBelow: 'none' },
      { padding: '2.2mm', above: '9pt', below: '9pt', align: 'start', keepTogether: true },
    ),
    'note-label': both(
      { font: 'reading', case: 'small capitals', weight: 'semibold', spacing: '0.04em' },
      { size: '9.4pt' },
    ),
    'note-danger': both({ ruleStart: '1.2pt danger', ruleAbove: 'none', ruleBelow: 'none' }),
    'note-warning': both({ ruleStart: '1.2pt danger', ruleAbove: 'none', ruleBelow: 'none' }),
    'note-caution': both({ ruleStart: '1.2pt caution', ruleAbove: 'none', ruleBelow: 'none' }),
    'note-notice': both({ ruleStart: '1.2pt caution', ruleAbove: 'none', ruleBelow: 'none' }),
    'note-attention': both({ ruleStart: '1.2pt caution', ruleAbove: 'none', ruleBelow: 'none' }),
    'note-important': both({ ruleStart: '1.2pt caution', ruleAbove: 'none', ruleBelow: 'none' }),
    'note-restriction': both({ ruleStart: '1.2pt caution', ruleAbove: 'none', ruleBelow: 'none' }),
    table: both(
      { font: 'reading', ruleAbove: '0.5pt ink', ruleBelow: '0.5pt ink' },
      {
        size: '8.4pt',
        lineHeight: 1.3,
        align: 'start',
        figures: 'lining in columns',
        above: '10pt',
        below: '10pt',
      },
      { size: '11.6pt' },
    ),
    'table-head': both({ slant: 'italic', weight: 'regular', ruleBelow: '0.5pt ink' }),
    'table-cell': both({ ruleAbove: 'none' }, { padding: '1mm' }),
    'table-title': both(
      { font: 'reading', slant: 'italic' },
      { size: '8.6pt', align: 'start', below: '4pt' },
    ),
    'figure-title': both(
      { font: 'reading', slant: 'italic' },
      { size: '8.6pt', align: 'start', above: '5pt' },
    ),
    'list-mark': both({ font: 'reading', colour: 'quiet' }),
    'step-number': both({ font: 'reading', colour: 'accent', figures: 'old style' }),
    control: both({ font: 'reading', weight: 'semibold' }),
    'term-name': both({ font: 'reading', weight: 'semibold' }, { above: '5pt', below: '2pt' }),
    'cover-title': printed({
      hyphenate: false,
      align: 'start',
      font: 'reading',
      size: '25pt',
      lineHeight: 1.15,
    }),
    'cover-subtitle': printed({
      font: 'reading',
      size: '12pt',
      slant: 'italic',
      colour: 'quiet',
      above: '4mm',
    }),
    'cover-series': printed({
      font: 'reading',
      size: '10pt',
      case: 'small capitals',
      spacing: '0.06em',
    }),
    'cover-facts': printed({ font: 'reading', size: '8.6pt', colour: 'quiet', lineHeight: 1.45 }),
    'contents-1': printed({
      font: 'reading',
      size: '9.4pt',
      align: 'start',
      above: '7pt',
      below: '2pt',
      keepNext: true,
    }),
    'contents-2': printed({
      size: '8.8pt',
      align: 'start',
      above: '2pt',
      below: '2pt',
      colour: 'quiet',
    }),
    'contents-page': printed({ font: 'reading', size: '8.8pt', figures: 'lining in columns' }),
    'index-letter': printed({
      font: 'reading',
      size: '11pt',
      slant: 'italic',
      colour: 'accent',
      above: '9pt',
      below: '2pt',
    }),
    'index-entry': printed({
      font: 'reading',
      size: '8.2pt',
      lineHeight: 1.3,
      align: 'start',
      firstLine: '-4mm',
    }),
    'running-head': printed({ font: 'reading', size: '8pt', colour: 'quiet', slant: 'italic' }),
    'running-foot': printed({ font: 'reading', size: '8.4pt', colour: 'quiet' }),
    'page-number': printed({ colour: 'ink', figures: 'old style' }),
  },
  marks: markEach(workshop, { place: 'before the text', size: '4.4mm', meets: 'baseline' }),
  numbering: { ...usualNumbering, depth: 2, captions: 'throughout' },
});

/** A sans face, tight lines, banded tables: to look things up in. */
const reference = restyled(workshop, {
  name: 'Dense reference',
  about:
    'A finding face throughout, tight lines, side headings, banded tables: to look things up in.',
  fonts: { reading: 'Source Sans 3', finding: 'Source Sans 3', code: 'Source Code Pro' },
  colours: {
    ink: '#1c2128',
    quiet: '#59636f',
    accent: '#1d5552',
    danger: '#b3261e',
    caution: '#7a5600',
    hair: '#ccd0d4',
    tint: '#f3f4f2',
  },
  styles: {
    text: both(
      { font: 'reading', colour: 'ink', lineHeight: 1.3, figures: 'lining' },
      { size: '9pt', align: 'start', hyphenate: false },
      { size: '12pt', lineHeight: 1.55 },
    ),
    paragraph: printed({ above: '4pt', below: '4pt' }, { above: '0.6em', below: '0.6em' }),
    lead: both(
      { colour: 'quiet' },
      {
        size: '9.6pt',
        lineHeight: 1.3,
        align: 'start',
        above: '1.5mm',
        below: '3mm',
        keepNext: true,
      },
      { size: '13pt', below: '1.2em' },
    ),
    'heading-1': both(
      { font: 'reading', weight: 'bold' },
      {
        size: '21pt',
        lineHeight: 1.1,
        align: 'start',
        hyphenate: false,
        above: '0pt',
        below: '7mm',
      },
      { size: '24pt', lineHeight: 1.15 },
    ),
    'heading-1-number': both(
      { font: 'reading', weight: 'regular', colour: 'accent' },
      { size: '21pt', lineHeight: 1, below: '2mm' },
    ),
    'heading-2': both(
      { font: 'reading', weight: 'bold', colour: 'accent' },
      {
        size: '12pt',
        lineHeight: 1.2,
        align: 'start',
        hyphenate: false,
        above: '18pt',
        below: '5pt',
        keepNext: true,
        ruleAbove: '0.8pt accent',
        padding: '1mm',
      },
      { size: '14pt' },
    ),
    'heading-3': both(
      { font: 'reading', weight: 'bold' },
      {
        size: '9.6pt',
        lineHeight: 1.2,
        align: 'start',
        hyphenate: false,
        above: '14pt',
        below: '3pt',
        keepNext: true,
      },
      { size: '12.4pt' },
    ),
    'block-heading': both(
      { font: 'reading', weight: 'semibold', colour: 'quiet' },
      {
        size: '8.8pt',
        lineHeight: 1.25,
        align: 'start',
        above: '9pt',
        below: '3pt',
        keepNext: true,
        column: 'in the margin column',
      },
    ),
    table: both(
      { font: 'reading', ruleAbove: '0.6pt ink', ruleBelow: '0.6pt ink' },
      {
        size: '8pt',
        lineHeight: 1.22,
        align: 'start',
        figures: 'lining in columns',
        above: '8pt',
        below: '9pt',
      },
      { size: '11pt' },
    ),
    'table-cell': both({ ruleAbove: 'none' }, { padding: '1mm' }),
    'table-band': both({ background: 'tint' }),
    'cover-title': printed({
      hyphenate: false,
      align: 'start',
      font: 'reading',
      weight: 'bold',
      size: '30pt',
      lineHeight: 1.08,
    }),
    'cover-subtitle': printed({ font: 'reading', size: '14pt', colour: 'quiet', above: '4mm' }),
    'contents-2': printed({ align: 'start', size: '8.8pt', above: '2pt', below: '2pt' }),
    'index-letter': printed({
      font: 'reading',
      weight: 'bold',
      size: '10pt',
      colour: 'accent',
      above: '8pt',
      below: '2pt',
    }),
  },
  marks: markEach(workshop, { place: 'margin column', size: '5mm', meets: 'baseline' }),
});

export const shippedSheets: Readonly<Record<string, StyleSheet>> = {
  workshop,
  handbook,
  reference,
};

const marginManual: PagePlan = {
  name: 'A4 with margin column',
  about: 'Mirrored pages with a wide outer column for marks.',
  paper: 'A4',
  lies: 'upright',
  mirrored: true,
  margins: { top: '30mm', bottom: '26mm', inner: '24mm', outer: '20mm' },
  marginColumn: { width: '32mm', gap: '6mm', side: 'outer' },
  columns: 1,
  columnGap: '7mm',
  head: {
    right: { ...noSlots, end: [{ field: 'chapter-number' }, { field: 'chapter' }] },
    left: { ...noSlots, start: [{ field: 'title' }] },
    opening: noSlots,
  },
  foot: {
    right: {
      ...noSlots,
      start: [{ field: 'number' }, { field: 'edition' }],
      end: [{ field: 'page' }],
    },
    left: {
      ...noSlots,
      start: [{ field: 'page' }],
      end: [{ field: 'number' }, { field: 'edition' }],
    },
    opening: null,
  },
  headRule: true,
  numbering: { front: 'i', body: '1' },
  chaptersBegin: 'on a right page',
  blankWords: '',
  cover: 'band',
  contentsDepth: 2,
  indexColumns: 2,
  watermark: '',
  ...plainPlan,
};
const letterManual: PagePlan = {
  ...marginManual,
  name: 'Letter with margin column',
  about: 'The same for US Letter: a little wider, a little lower.',
  paper: 'Letter',
  margins: { top: '27mm', bottom: '24mm', inner: '24mm', outer: '19mm' },
  marginColumn: { width: '34mm', gap: '6mm', side: 'outer' },
  numbering: { front: 'i', body: 'chapter-page' },
};
const pocket: PagePlan = {
  ...marginManual,
  name: 'A5 pocket',
  about: 'A small mirrored page without a margin column.',
  paper: 'A5',
  margins: { top: '19mm', bottom: '19mm', inner: '18mm', outer: '15mm' },
  marginColumn: null,
  head: {
    right: { ...noSlots, end: [{ field: 'section' }] },
    left: { ...noSlots, start: [{ field: 'chapter' }] },
    opening: noSlots,
  },
  foot: {
    right: { ...noSlots, end: [{ field: 'page' }] },
    left: { ...noSlots, start: [{ field: 'page' }] },
    opening: null,
  },
  headRule: false,
  chaptersBegin: 'on a new page',
  cover: 'plain',
  contentsDepth: 2,
};

export const shippedPlans: Readonly<Record<string, PagePlan>> = {
  'a4-margin': marginManual,
  'letter-margin': letterManual,
  'a5-pocket': pocket,
};
