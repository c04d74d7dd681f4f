import { usualSheet } from '../shared/index.ts';
import {
  colourOf,
  iconImage,
  noteColour,
  noteKinds,
  readLength,
  readRule,
  styleRoles,
  rootRole,
  propertyText,
  shippedPlans,
  toPoints,
  valuesOf,
  wordsByLanguage,
  type NoteMark,
  type PagePlan,
  type StyleSheet,
  type Values,
} from '@ukiyo/core/styles';
import { printPlan, type PrintPlan, type FieldValues } from './plan.ts';

/** What a manual is printed with. */
export interface PrintDesign {
  readonly sheet: StyleSheet;
  readonly plan: PagePlan;
}
export const usualDesign: PrintDesign = {
  sheet: usualSheet,
  plan: shippedPlans['a4-margin']!,
};

type Measure = { readonly pt: number } | { readonly em: number };

/**
 * One style as the page template takes it; lengths in points, absent where the style says nothing.
 */
export interface PrintStyle {
  readonly font?: string;
  readonly size?: Measure;
  readonly weight?: number;
  readonly slant?: string;
  readonly fill?: string;
  readonly case?: string;
  readonly tracking?: Measure;
  readonly figures?: string;
  readonly tabular?: boolean;
  readonly line?: string;
  readonly align?: string;
  /** Between the lines. */
  readonly leading?: Measure;
  /** On a page with a baseline grid: stands beside it, with lines as high as its own letters. */
  readonly ownLines?: boolean;
  readonly hyphenate?: boolean;
  readonly firstLine?: number;
  readonly above?: number;
  readonly below?: number;
  readonly start?: number;
  readonly end?: number;
  readonly between?: number;
  readonly tab?: number;
  readonly rules?: Readonly<
    Partial<
      Record<'top' | 'bottom' | 'start' | 'end', { readonly pt: number; readonly fill: string }>
    >
  >;
  readonly ground?: string;
  readonly padding?: number;
  readonly corner?: number;
  readonly prefix?: string;
  readonly suffix?: string;
  readonly mark?: string;
  readonly numbers?: string;
  readonly column?: 'margin' | 'both';
  readonly columns?: number;
  readonly keepNext?: boolean;
  readonly keepTogether?: boolean;
  readonly begins?: 'page' | 'odd';
}

interface PrintMark {
  readonly src: string;
  readonly size: number;
  readonly place: NoteMark['place'];
  readonly meets: NoteMark['meets'];
}

export interface DesignData {
  readonly styles: Readonly<Record<string, PrintStyle>>;
  readonly marks: Readonly<Record<string, PrintMark>>;
  readonly plan: PrintPlan;
  readonly colours: Readonly<Record<string, string>>;
}

const weights: Readonly<Record<string, number>> = { regular: 400, semibold: 600, bold: 700 };
const round = (value: number): number => Math.round(value * 1000) / 1000;

/** What a design depends on besides itself. */
interface DesignContext {
  readonly locale: string;
  readonly isRtl: boolean;
  /** What fields of the plan say. */
  readonly values: FieldValues;
}
type ImageOf = (asset: string) => string | undefined;

/**
 * What the page template needs to know of a design. Images of marks and fields come by their path.
 */
export function designData(
  { sheet, plan }: PrintDesign,
  { locale, isRtl, values }: DesignContext,
  imageOf: ImageOf,
): { data: DesignData; images: Map<string, Uint8Array> } {
  const rootSize = toPoints(propertyText(valuesOf(sheet, rootRole, 'print'), 'size') ?? '10pt');
  const ids = new Set([...styleRoles.map(({ id }) => id), ...Object.keys(sheet.styles)]);
  const styles = Object.fromEntries(
    [...ids].map((id) => [id, printStyle(sheet, valuesOf(sheet, id, 'print'), rootSize, locale)]),
  );
  const { marks, images } = noteMarks(sheet, imageOf);
  return {
    data: { styles, marks, plan: printPlan(plan, isRtl, values, imageOf), colours: sheet.colours },
    images,
  };
}

/** The signs of notes, with the images of those that are drawn here. */
function noteMarks(
  sheet: StyleSheet,
  imageOf: ImageOf,
): { marks: Record<string, PrintMark>; images: Map<string, Uint8Array> } {
  const images = new Map<string, Uint8Array>();
  const marks: Record<string, PrintMark> = {};
  for (const kind of noteKinds) {
    const mark = sheet.marks[kind];
    if (!mark || mark.place === 'none') continue;
    const { icon, place, meets } = mark;
    const isAsset = icon.startsWith('asset:');
    const src = isAsset ? imageOf(icon.slice('asset:'.length)) : `/marks/${kind}.svg`;
    const drawn = iconImage(icon, noteColour(sheet, kind, 'print'));
    if (drawn !== undefined) images.set(`/marks/${kind}.svg`, new TextEncoder().encode(drawn));
    if (src !== undefined && (drawn !== undefined || isAsset))
      marks[kind] = { src, size: round(toPoints(mark.size)), place, meets };
  }
  return { marks, images };
}

const startsOn: Readonly<Record<string, PrintStyle['begins']>> = {
  'on a new page': 'page',
  'on a right page': 'odd',
};
const columnNames: Readonly<Record<string, PrintStyle['column']>> = {
  'in the margin column': 'margin',
  'over both': 'both',
};

/** @param rootSize of running text, in points */
function printStyle(
  sheet: StyleSheet,
  values: Values,
  rootSize: number,
  locale: string,
): PrintStyle {
  const size = typeof values.size === 'string' ? readLength(values.size) : undefined;
  const own =
    size?.unit === 'em' ? size.value * rootSize : toPoints(propertyText(values, 'size') ?? '');
  const em = size === undefined ? rootSize : own;
  const points = (name: keyof Values): number | undefined =>
    typeof values[name] === 'string' ? round(toPoints(values[name], em)) : undefined;
  const { columns } = values;
  return without({
    ...letters(sheet, values),
    size:
      size === undefined ? undefined : size.unit === 'em' ? { em: size.value } : { pt: round(em) },
    align: propertyText(values, 'align'),
    leading:
      typeof values.lineHeight === 'number' ? { em: round(values.lineHeight - 1) } : undefined,
    hyphenate: typeof values.hyphenate === 'boolean' ? values.hyphenate : undefined,
    firstLine: points('firstLine'),
    above: points('above'),
    below: points('below'),
    start: points('indentStart'),
    end: points('indentEnd'),
    between: points('between'),
    tab: points('tab'),
    rules: rulesOf(sheet, values, em),
    ground: colourIn(sheet, values.background),
    padding: points('padding'),
    corner: points('corner'),
    prefix: wordsByLanguage(values.prefix, locale) || undefined,
    suffix: wordsByLanguage(values.suffix, locale) || undefined,
    mark: propertyText(values, 'mark'),
    numbers: propertyText(values, 'numbers'),
    column: columnNames[propertyText(values, 'column') ?? ''],
    columns: typeof columns === 'number' && columns > 1 ? Math.round(columns) : undefined,
    keepNext: values.keepNext === true ? true : undefined,
    keepTogether: values.keepTogether === true ? true : undefined,
    begins: startsOn[propertyText(values, 'breakBefore') ?? ''],
  });
}

const colourIn = (sheet: StyleSheet, value: unknown): string | undefined =>
  typeof value === 'string' ? colourOf(sheet, value) : undefined;

/** What a style says of letters, but for their size. */
function letters(sheet: StyleSheet, values: Values) {
  const { font, slant, figures } = values;
  const spacing = typeof values.spacing === 'string' ? readLength(values.spacing) : undefined;
  return {
    font: font === undefined ? undefined : sheet.fonts[font as keyof StyleSheet['fonts']],
    weight: weights[propertyText(values, 'weight') ?? ''],
    slant: slant === undefined ? undefined : slant === 'italic' ? 'italic' : 'normal',
    fill: colourIn(sheet, values.colour),
    case: values.case === 'as written' ? undefined : propertyText(values, 'case'),
    tracking:
      typeof values.spacing !== 'string'
        ? undefined
        : spacing?.unit === 'em'
          ? { em: spacing.value }
          : { pt: round(toPoints(values.spacing)) },
    figures: figures === undefined ? undefined : figures === 'old style' ? 'old-style' : 'lining',
    tabular: figures === undefined ? undefined : figures === 'lining in columns',
    line: values.line === 'none' ? undefined : propertyText(values, 'line'),
  } as const;
}

/** The rules around a style; undefined where it has none. @param em its size, in points */
function rulesOf(sheet: StyleSheet, values: Values, em: number): PrintStyle['rules'] | undefined {
  const rule = (value: unknown): { pt: number; fill: string } | undefined => {
    const read = typeof value === 'string' ? readRule(value) : undefined;
    const fill = read && colourOf(sheet, read.colour);
    return read && fill !== undefined ? { pt: round(toPoints(read.width, em)), fill } : undefined;
  };
  const rules = without({
    top: rule(values.ruleAbove),
    bottom: rule(values.ruleBelow),
    start: rule(values.ruleStart),
    end: rule(values.ruleEnd),
  });
  return Object.keys(rules).length > 0 ? rules : undefined;
}

/** The object without what is undefined in it. */
type Present<Shape> = { -readonly [Name in keyof Shape]?: Exclude<Shape[Name], undefined> };
const without = <Shape extends object>(shape: Shape): Present<Shape> =>
  Object.fromEntries(
    Object.entries(shape).filter(([, value]) => value !== undefined),
  ) as Present<Shape>;
