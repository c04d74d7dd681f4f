import {
  colourOf,
  iconImage,
  noteColour,
  noteKinds,
  readLength,
  readRule,
  roles,
  rootRole,
  said,
  shippedPlans,
  shippedSheets,
  toPoints,
  valuesOf,
  wordsOf,
  type NoteMark,
  type PagePlan,
  type StyleSheet,
  type Values,
} from '@ukiyo/core/styles';
import { printPlan, type PrintPlan, type Told } from './plan.ts';

/** What a manual is printed with. */
export interface PrintDesign {
  readonly sheet: StyleSheet;
  readonly plan: PagePlan;
}
export const usualDesign: PrintDesign = {
  sheet: shippedSheets['workshop']!,
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

/**
 * What the page template needs to know of a design. Images of marks and fields come by their path.
 * @param told what fields of the plan say
 */
export function designData(
  { sheet, plan }: PrintDesign,
  locale: string,
  isRightToLeft: boolean,
  told: Told,
  imageOf: (asset: string) => string | undefined,
): { data: DesignData; images: Map<string, Uint8Array> } {
  const rootSize = toPoints(said(valuesOf(sheet, rootRole, 'print'), 'size') ?? '10pt');
  const styles = Object.fromEntries(
    [...new Set([...roles.map(({ id }) => id), ...Object.keys(sheet.styles)])].map((id) => [
      id,
      printStyle(sheet, valuesOf(sheet, id, 'print'), rootSize, locale),
    ]),
  );
  const images = new Map<string, Uint8Array>();
  const marks: Record<string, PrintMark> = {};
  for (const kind of noteKinds) {
    const mark = sheet.marks[kind];
    if (!mark || mark.place === 'none') continue;
    const path = mark.icon.startsWith('asset:')
      ? imageOf(mark.icon.slice('asset:'.length))
      : `/marks/${kind}.svg`;
    const drawn = iconImage(mark.icon, noteColour(sheet, kind, 'print'));
    if (drawn !== undefined) images.set(`/marks/${kind}.svg`, new TextEncoder().encode(drawn));
    if (path !== undefined && (drawn !== undefined || mark.icon.startsWith('asset:')))
      marks[kind] = {
        src: path,
        size: round(toPoints(mark.size)),
        place: mark.place,
        meets: mark.meets,
      };
  }
  return {
    data: {
      styles,
      marks,
      plan: printPlan(plan, isRightToLeft, told, imageOf),
      colours: sheet.colours,
    },
    images,
  };
}

function printStyle(
  sheet: StyleSheet,
  values: Values,
  rootSize: number,
  locale: string,
): PrintStyle {
  const size = typeof values.size === 'string' ? readLength(values.size) : undefined;
  const em =
    size === undefined
      ? rootSize
      : size.unit === 'em'
        ? size.value * rootSize
        : toPoints(said(values, 'size')!);
  const points = (name: keyof Values): number | undefined =>
    typeof values[name] === 'string' ? round(toPoints(values[name], em)) : undefined;
  const colour = (value: unknown): string | undefined =>
    typeof value === 'string' ? colourOf(sheet, value) : undefined;
  const rule = (value: unknown): { pt: number; fill: string } | undefined => {
    const read = typeof value === 'string' ? readRule(value) : undefined;
    const fill = read && colourOf(sheet, read.colour);
    return read && fill !== undefined ? { pt: round(toPoints(read.width, em)), fill } : undefined;
  };
  const rules = {
    top: rule(values.ruleAbove),
    bottom: rule(values.ruleBelow),
    start: rule(values.ruleStart),
    end: rule(values.ruleEnd),
  };
  const columns: Readonly<Record<string, PrintStyle['column']>> = {
    'in the margin column': 'margin',
    'over both': 'both',
  };
  const begins: Readonly<Record<string, PrintStyle['begins']>> = {
    'on a new page': 'page',
    'on a right page': 'odd',
  };
  return without({
    font:
      values.font === undefined ? undefined : sheet.fonts[values.font as keyof StyleSheet['fonts']],
    size:
      size === undefined ? undefined : size.unit === 'em' ? { em: size.value } : { pt: round(em) },
    weight: weights[said(values, 'weight') ?? ''],
    slant: values.slant === undefined ? undefined : values.slant === 'italic' ? 'italic' : 'normal',
    fill: colour(values.colour),
    case:
      values.case === undefined || values.case === 'as written' ? undefined : said(values, 'case')!,
    tracking:
      typeof values.spacing !== 'string'
        ? undefined
        : readLength(values.spacing)?.unit === 'em'
          ? { em: readLength(values.spacing)!.value }
          : { pt: round(toPoints(values.spacing)) },
    figures:
      values.figures === undefined
        ? undefined
        : values.figures === 'old style'
          ? 'old-style'
          : 'lining',
    tabular: values.figures === undefined ? undefined : values.figures === 'lining in columns',
    line: values.line === undefined || values.line === 'none' ? undefined : said(values, 'line')!,
    align: said(values, 'align'),
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
    rules: Object.values(rules).some((one) => one !== undefined) ? without(rules) : undefined,
    ground: colour(values.background),
    padding: points('padding'),
    corner: points('corner'),
    prefix: wordsOf(values.prefix, locale) || undefined,
    suffix: wordsOf(values.suffix, locale) || undefined,
    mark: said(values, 'mark'),
    numbers: said(values, 'numbers'),
    column: columns[said(values, 'column') ?? ''],
    columns:
      typeof values.columns === 'number' && values.columns > 1
        ? Math.round(values.columns)
        : undefined,
    keepNext: values.keepNext === true ? true : undefined,
    keepTogether: values.keepTogether === true ? true : undefined,
    begins: begins[said(values, 'breakBefore') ?? ''],
  });
}

/** The object without what is undefined in it. */
type Present<Shape> = { -readonly [Name in keyof Shape]?: Exclude<Shape[Name], undefined> };
const without = <Shape extends object>(shape: Shape): Present<Shape> =>
  Object.fromEntries(
    Object.entries(shape).filter(([, value]) => value !== undefined),
  ) as Present<Shape>;
