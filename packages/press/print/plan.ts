import {
  coverGrid,
  pageGeometry,
  toMillimetres,
  toPoints,
  type CoverPart,
  type PageField,
  type PagePlan,
  type RunningLine,
  type Slots,
} from '@ukiyo/core/styles';

/** What fields of a page plan say in one publication. */
export interface FieldValues {
  readonly variables: Readonly<Record<string, string>>;
  readonly date: string;
  /** `#rrggbb` of a named colour. */
  colour(name: string): string | undefined;
}

const round = (value: number): number => Math.round(value * 1000) / 1000;

/** Where text and margin column stand on one kind of page, in millimetres from its left edge. */
interface PageSide {
  readonly text: number;
  readonly column: number;
}

export interface PrintPlan {
  readonly width: number;
  readonly height: number;
  readonly top: number;
  readonly bottom: number;
  /** Left edge of the text on odd and even pages. */
  readonly odd: PageSide;
  readonly even: PageSide;
  readonly textWidth: number;
  /** Margins without the margin column. */
  readonly inner: number;
  readonly outer: number;
  readonly columnWidth: number;
  readonly columnGap: number;
  /** Between the lines of the baseline grid, in points; 0 where there is none. */
  readonly baseline: number;
  readonly columns: number;
  readonly gutter: number;
  readonly heads: PrintLines;
  readonly feet: PrintLines;
  readonly headRule: boolean;
  readonly front: string;
  readonly body: string;
  readonly begins: 'odd' | 'page' | 'here';
  readonly blank: string;
  readonly cover: PagePlan['cover'];
  readonly back: PagePlan['back'];
  readonly coverParts: {
    readonly front: readonly PrintCoverPart[];
    readonly back: readonly PrintCoverPart[];
  };
  readonly titlePage: boolean;
  readonly bookmarks: number;
  /**
   * Over the edge of the sheet, in millimetres: grounds run so far, and the marks of the edge stand
   * beyond.
   */
  readonly bleed: number;
  /** From the edge of the cut sheet to that of the printed one, in millimetres. */
  readonly slug: number;
  readonly contentsDepth: number;
  readonly indexColumns: number;
  readonly watermark: string;
}
/** A head or foot; without one of their own, pages that begin a chapter have that of the others. */
interface PrintLines {
  readonly odd: PrintSlots;
  readonly even: PrintSlots;
  readonly opening?: PrintSlots;
}
/**
 * A field as the page template fills it: words are there already where they are the same on every
 * page.
 */
interface PrintField {
  readonly field: string;
  readonly words?: string;
  readonly src?: string;
  readonly height?: number;
}
type PrintSlots = Readonly<Record<'start' | 'middle' | 'end', readonly PrintField[]>>;

/** Something on a cover, in millimetres from the upper left corner of the page. */
interface PrintCoverPart {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** `#rrggbb` of a ground. */
  readonly fill?: string;
  readonly field?: PrintField;
  /** `#rrggbb` of its letters, where it is not that of the style. */
  readonly letters?: string;
  readonly style: string;
  readonly stands: CoverPart['stands'];
}

const paper = '#ffffff';
/** Beyond the bleed, in millimetres: room for the marks at which the sheet is cut. */
const roomForMarks = 8;

/**
 * Between the edge of the sheet that is cut and that of the sheet that is printed, in millimetres.
 */
export function aroundSheet({ trim }: PagePlan): {
  readonly bleed: number;
  readonly slug: number;
} {
  const bleed = toMillimetres(trim.bleed);
  return { bleed, slug: bleed + (trim.marks ? roomForMarks : 0) };
}

type ImageOf = (asset: string) => string | undefined;

/** A field with what it says, where that is the same on every page. */
function filled(field: PageField, values: FieldValues, imageOf: ImageOf): PrintField {
  if (field.field === 'variable')
    return { field: 'text', words: values.variables[field.key] ?? '' };
  if (field.field === 'date') return { field: 'text', words: values.date };
  if (field.field !== 'image') return field;
  const isAsset = field.image.startsWith('asset:');
  const src = isAsset ? imageOf(field.image.slice('asset:'.length)) : undefined;
  const height = toMillimetres(field.height);
  return src === undefined || height <= 0
    ? { field: 'text', words: '' }
    : { field: 'image', src, height };
}

/**
 * Where text and margin column begin on the pages of one side, in millimetres from the left edge.
 * Where one reads from right to left, the first page lies left of the fold: everything is seen in
 * the mirror.
 */
function sideOf(plan: PagePlan, which: 'right' | 'left', isRightToLeft: boolean): PageSide {
  const { width, text, column } = pageGeometry(plan);
  const [textLeft, columnLeft] = [text[which], column?.[which] ?? 0];
  return isRightToLeft
    ? {
        text: round(width - textLeft - text.width),
        column: round(width - columnLeft - (column?.width ?? 0)),
      }
    : { text: round(textLeft), column: round(columnLeft) };
}

function coverParts(
  plan: PagePlan,
  parts: readonly CoverPart[],
  values: FieldValues,
  imageOf: ImageOf,
): PrintCoverPart[] {
  const { width, height } = pageGeometry(plan);
  return parts.map(({ shows, column, row, columns, rows, style, stands, colour }) => ({
    x: round((column * width) / coverGrid),
    y: round((row * height) / coverGrid),
    width: round((columns * width) / coverGrid),
    height: round((rows * height) / coverGrid),
    style,
    stands,
    ...(shows.field === 'ground'
      ? { fill: values.colour(shows.colour) ?? paper }
      : { field: filled(shows, values, imageOf) }),
    ...(colour === '' ? {} : { letters: values.colour(colour) ?? paper }),
  }));
}

const beginnings: Readonly<Record<PagePlan['chaptersBegin'], PrintPlan['begins']>> = {
  'on a right page': 'odd',
  'on a new page': 'page',
  'where they come': 'here',
};

/** A page plan as the page template takes it. @param values what its fields say */
export function printPlan(
  plan: PagePlan,
  isRightToLeft: boolean,
  values: FieldValues,
  imageOf: ImageOf,
): PrintPlan {
  const { width, height, text, column } = pageGeometry(plan);
  const { margins, mirrored } = plan;
  const fill = (field: PageField): PrintField => filled(field, values, imageOf);
  const slots = ({ start, middle, end }: Slots): PrintSlots => ({
    start: start.map(fill),
    middle: middle.map(fill),
    end: end.map(fill),
  });
  const lines = ({ right, left, opening }: RunningLine): PrintLines => ({
    odd: slots(right),
    even: slots(mirrored ? left : right),
    ...(opening ? { opening: slots(opening) } : {}),
  });
  const parts = (all: readonly CoverPart[]): PrintCoverPart[] =>
    coverParts(plan, all, values, imageOf);
  return {
    width,
    height,
    top: toMillimetres(margins.top),
    bottom: toMillimetres(margins.bottom),
    odd: sideOf(plan, 'right', isRightToLeft),
    even: sideOf(plan, mirrored ? 'left' : 'right', isRightToLeft),
    textWidth: round(text.width),
    inner: toMillimetres(margins.inner),
    outer: toMillimetres(margins.outer),
    columnWidth: round(column?.width ?? 0),
    columnGap: round(column?.gap ?? 0),
    baseline: plan.baseline === null ? 0 : toPoints(plan.baseline),
    columns: plan.columns,
    gutter: toMillimetres(plan.columnGap),
    heads: lines(plan.head),
    feet: lines(plan.foot),
    headRule: plan.headRule,
    front: plan.numbering.front,
    body: plan.numbering.body,
    begins: beginnings[plan.chaptersBegin],
    blank: plan.blankWords,
    cover: plan.cover,
    back: plan.back,
    coverParts: { front: parts(plan.coverParts.front), back: parts(plan.coverParts.back) },
    titlePage: plan.titlePage,
    bookmarks: plan.file.bookmarks,
    ...aroundSheet(plan),
    contentsDepth: plan.contentsDepth,
    indexColumns: plan.indexColumns,
    watermark: plan.watermark,
  };
}
