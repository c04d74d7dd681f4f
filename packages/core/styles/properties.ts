import { readLength } from './length.ts';

/**
 * What a property can be given: text for choices, lengths, colours and rules; an object says words
 * by language.
 */
export type Value = string | number | boolean | Readonly<Record<string, string>>;

type PropertyKind = 'choice' | 'length' | 'number' | 'colour' | 'rule' | 'switch' | 'words';

interface Definition {
  readonly label: string;
  readonly group: PropertyGroup;
  readonly kind: PropertyKind;
  readonly choices?: readonly string[];
  /** Smallest and largest number, or length in its own unit. */
  readonly between?: readonly [number, number];
  /** Only blocks have it, or only words in the line. */
  readonly of?: 'blocks' | 'lines';
  /** Nothing on a screen answers to it. */
  readonly printOnly?: true;
}

export const propertyGroups = ['Letters', 'Lines', 'Space', 'Frame', 'Words', 'Page'] as const;
type PropertyGroup = (typeof propertyGroups)[number];

const block = { of: 'blocks' } as const;
const paper = { ...block, printOnly: true } as const;

/** Every property that a style can set, in the order in which it is shown. */
export const properties = {
  font: {
    label: 'Typeface',
    group: 'Letters',
    kind: 'choice',
    choices: ['reading', 'finding', 'code'],
  },
  size: { label: 'Size', group: 'Letters', kind: 'length', between: [0.1, 200] },
  weight: {
    label: 'Weight',
    group: 'Letters',
    kind: 'choice',
    choices: ['regular', 'semibold', 'bold'],
  },
  slant: { label: 'Slant', group: 'Letters', kind: 'choice', choices: ['upright', 'italic'] },
  colour: { label: 'Colour', group: 'Letters', kind: 'colour' },
  case: {
    label: 'Case',
    group: 'Letters',
    kind: 'choice',
    choices: ['as written', 'capitals', 'small capitals'],
  },
  spacing: { label: 'Between letters', group: 'Letters', kind: 'length', between: [-10, 50] },
  figures: {
    label: 'Figures',
    group: 'Letters',
    kind: 'choice',
    choices: ['old style', 'lining', 'lining in columns'],
  },
  line: {
    label: 'Underlined or struck',
    group: 'Letters',
    kind: 'choice',
    choices: ['none', 'under', 'through'],
  },
  align: {
    label: 'Alignment',
    group: 'Lines',
    kind: 'choice',
    choices: ['start', 'centre', 'end', 'both'],
    ...block,
  },
  lineHeight: { label: 'Line height', group: 'Lines', kind: 'number', between: [0.8, 4], ...block },
  hyphenate: { label: 'Hyphenation', group: 'Lines', kind: 'switch', ...block },
  firstLine: {
    label: 'First line',
    group: 'Lines',
    kind: 'length',
    between: [-200, 200],
    ...block,
  },
  above: { label: 'Space above', group: 'Space', kind: 'length', between: [0, 400], ...block },
  below: { label: 'Space below', group: 'Space', kind: 'length', between: [0, 400], ...block },
  indentStart: {
    label: 'Indent at the start',
    group: 'Space',
    kind: 'length',
    between: [-200, 400],
    ...block,
  },
  indentEnd: {
    label: 'Indent at the end',
    group: 'Space',
    kind: 'length',
    between: [-200, 400],
    ...block,
  },
  between: { label: 'Between items', group: 'Space', kind: 'length', between: [0, 200], ...block },
  tab: { label: 'From mark to text', group: 'Space', kind: 'length', between: [0, 200], ...block },
  ruleAbove: { label: 'Rule above', group: 'Frame', kind: 'rule', ...block },
  ruleBelow: { label: 'Rule below', group: 'Frame', kind: 'rule', ...block },
  ruleStart: { label: 'Rule at the start', group: 'Frame', kind: 'rule', ...block },
  ruleEnd: { label: 'Rule at the end', group: 'Frame', kind: 'rule', ...block },
  background: { label: 'Background', group: 'Frame', kind: 'colour' },
  padding: {
    label: 'From frame to text',
    group: 'Frame',
    kind: 'length',
    between: [0, 100],
    ...block,
  },
  corner: { label: 'Round corners', group: 'Frame', kind: 'length', between: [0, 50], ...block },
  prefix: { label: 'Text before', group: 'Words', kind: 'words' },
  suffix: { label: 'Text after', group: 'Words', kind: 'words' },
  mark: {
    label: 'Mark of a list',
    group: 'Words',
    kind: 'choice',
    choices: ['•', '–', '▪', '▸', '○', 'none'],
    ...block,
  },
  numbers: {
    label: 'Numbers',
    group: 'Words',
    kind: 'choice',
    choices: ['1', '1.', '1)', 'a', 'a.', 'a)', 'A', 'i', 'I', '01'],
    ...block,
  },
  column: {
    label: 'Stands',
    group: 'Page',
    kind: 'choice',
    choices: ['in the text', 'in the margin column', 'over both'],
    ...paper,
  },
  stands: {
    label: 'Words stand',
    group: 'Page',
    kind: 'choice',
    choices: ['in the line', 'in brackets', 'as a footnote', 'nowhere'],
    of: 'lines',
    printOnly: true,
  },
  columns: { label: 'Columns', group: 'Page', kind: 'number', between: [1, 6], ...paper },
  keepNext: { label: 'Stays with the next', group: 'Page', kind: 'switch', ...paper },
  keepTogether: { label: 'Stays in one piece', group: 'Page', kind: 'switch', ...paper },
  breakBefore: {
    label: 'Begins',
    group: 'Page',
    kind: 'choice',
    choices: ['where it comes', 'on a new page', 'on a right page'],
    ...paper,
  },
} as const satisfies Readonly<Record<string, Definition>>;

export type PropertyName = keyof typeof properties;
export type Values = Readonly<Partial<Record<PropertyName, Value>>>;
/**
 * What is said of a property that is one word or number; nothing where words are said by language.
 */
export function propertyText(values: Values, name: PropertyName): string | undefined {
  const value = values[name];
  return value === undefined || typeof value === 'object' ? undefined : String(value);
}
export const propertyNames = Object.keys(properties) as PropertyName[];
export const propertyDefinition = (name: PropertyName): Definition => properties[name];

/** `0.6pt ink` or `0.6pt #c9c3b4`: how thick and in which colour; `none`. */
export function readRule(
  text: string,
): { readonly width: string; readonly colour: string } | undefined {
  const [width = '', colour = ''] = text.trim().split(/\s+/u);
  return readLength(width) && colour !== '' ? { width, colour } : undefined;
}

const isColour = (text: string, colours: Readonly<Record<string, string>>): boolean =>
  /^#[\da-f]{6}$/iu.test(text) || colours[text] !== undefined || text === 'none';

/**
 * What is wrong with a value, in words; undefined where it can be used.
 * @param colours the named colours of the sheet
 */
export function faultOf(
  name: PropertyName,
  value: Value,
  colours: Readonly<Record<string, string>>,
): string | undefined {
  const { kind, choices, between, label } = propertyDefinition(name);
  const outside = (number: number): boolean =>
    between !== undefined && (number < between[0] || number > between[1]);
  const range = between ? `${between[0]} to ${between[1]}` : '';
  if (kind === 'switch') return typeof value === 'boolean' ? undefined : `${label} is on or off.`;
  if (kind === 'number')
    return typeof value !== 'number' || outside(value)
      ? `${label} is a number from ${range}.`
      : undefined;
  if (kind === 'words')
    return typeof value === 'object' ? undefined : `${label} is said by language.`;
  if (typeof value !== 'string') return `${label} is written as text.`;
  if (kind === 'choice')
    return choices?.includes(value)
      ? undefined
      : `${label} is one of: ${(choices ?? []).join(', ')}.`;
  if (kind === 'colour')
    return isColour(value, colours)
      ? undefined
      : `“${value}” is no colour of this style sheet, and not written as #rrggbb.`;
  if (kind === 'rule') {
    const rule = readRule(value);
    return value === 'none' || (rule && isColour(rule.colour, colours))
      ? undefined
      : `${label} is “none”, or says how thick and in which colour, as “0.6pt ink”.`;
  }
  const length = readLength(value);
  return !length || outside(length.value)
    ? `${label} is a length such as 9pt, 4mm or 0.8em.`
    : undefined;
}
