import { problem, type Problem } from '../problems/index.ts';
import { toMillimetres, toPoints, type Length } from './length.ts';

/** Millimetres, upright: ISO 216 for the A and B series, ANSI/ASME Y14.1 for Letter and Legal. */
export const papers = {
  A3: [297, 420],
  A4: [210, 297],
  A5: [148, 210],
  A6: [105, 148],
  B4: [250, 353],
  B5: [176, 250],
  B6: [125, 176],
  Letter: [215.9, 279.4],
  Legal: [215.9, 355.6],
} as const satisfies Readonly<Record<string, readonly [number, number]>>;
export type Paper = keyof typeof papers;

/** What a head, a foot or a place on a cover can be filled with. */
export const pageFields = {
  title: 'Title',
  subtitle: 'Subtitle',
  series: 'Series',
  chapter: 'Chapter',
  'chapter-number': 'Number of the chapter',
  section: 'Section',
  page: 'Page number',
  pages: 'Number of pages',
  number: 'Number of the book',
  edition: 'Edition',
  authors: 'Authors',
  date: 'Date',
  rights: 'Rights',
  variable: 'Variable',
  image: 'Image',
  text: 'Words of your own',
} as const;
/** Fields that say by themselves what they show. */
export type PlainField = Exclude<keyof typeof pageFields, 'text' | 'variable' | 'image'>;
/** Images are of the library, as `asset:ID`. */
export type PageField =
  | { readonly field: PlainField }
  | { readonly field: 'text'; readonly words: string }
  | { readonly field: 'variable'; readonly key: string }
  | { readonly field: 'image'; readonly image: string; readonly height: Length };

/** The three slots of a head or foot, in reading direction. */
export interface Slots {
  readonly start: readonly PageField[];
  readonly middle: readonly PageField[];
  readonly end: readonly PageField[];
}
export const noSlots: Slots = { start: [], middle: [], end: [] };

/**
 * A head or foot of right and left pages, and of those that begin a chapter: null where these are
 * like the others.
 */
export interface RunningLine {
  readonly right: Slots;
  readonly left: Slots;
  readonly opening: Slots | null;
}

export const pageNumberings = ['1', 'i', 'I', 'A', 'a', 'chapter-page'] as const;
export type PageNumbering = (typeof pageNumberings)[number];

export interface MarginColumn {
  readonly width: Length;
  readonly gap: Length;
  /** Outer and inner are right and left where pages are not mirrored. */
  readonly side: 'outer' | 'inner';
}

export interface PagePlan {
  readonly name: string;
  readonly about: string;
  readonly paper: Paper | { readonly width: Length; readonly height: Length };
  readonly lies: 'upright' | 'on its side';
  /** Left and right pages mirror each other. */
  readonly mirrored: boolean;
  /** Inner and outer are left and right where pages are not mirrored. */
  readonly margins: {
    readonly top: Length;
    readonly bottom: Length;
    readonly inner: Length;
    readonly outer: Length;
  };
  readonly marginColumn: MarginColumn | null;
  readonly columns: number;
  readonly columnGap: Length;
  /**
   * Lines of text stand on a grid of this step from the first line of each page; null where they
   * stand as they come.
   */
  readonly baseline: Length | null;
  readonly head: RunningLine;
  readonly foot: RunningLine;
  /** Whether a rule stands under the head. */
  readonly headRule: boolean;
  readonly numbering: { readonly front: PageNumbering; readonly body: PageNumbering };
  readonly chaptersBegin: 'on a right page' | 'on a new page' | 'where they come';
  /** Stands on pages that are left blank. */
  readonly blankWords: string;
  readonly cover: 'none' | 'plain' | 'band' | 'own';
  readonly back: 'none' | 'own';
  /**
   * What stands on covers of the plan’s own, on a grid; what comes later lies over what comes
   * before.
   */
  readonly coverParts: {
    readonly front: readonly CoverPart[];
    readonly back: readonly CoverPart[];
  };
  /** A page with the title inside, and the rights on its back. */
  readonly titlePage: boolean;
  readonly contentsDepth: number;
  readonly indexColumns: number;
  readonly watermark: string;
  /**
   * How far grounds run over the edge at which the sheet is cut, and whether marks show where that
   * is.
   */
  readonly trim: { readonly bleed: Length; readonly marks: boolean };
  readonly file: {
    /** PDF/UA-1 (ISO 14289-1), or PDF/A-2a (ISO 19005-2). */
    readonly standard: 'accessible' | 'for the archive';
    readonly opens: 'as the reader likes' | 'with bookmarks' | 'two pages side by side';
    /** How many levels of headings are bookmarks. */
    readonly bookmarks: number;
  };
}

/** A cover is divided into this many columns, and as many rows. */
export const coverGrid = 12;

/**
 * Something on a cover: a field in a style, or a ground in a named colour. Columns and rows are
 * counted from 0.
 */
export interface CoverPart {
  readonly shows: PageField | { readonly field: 'ground'; readonly colour: string };
  readonly column: number;
  readonly row: number;
  readonly columns: number;
  readonly rows: number;
  readonly style: string;
  readonly stands: 'start' | 'centre' | 'end';
  /** Of its letters: a named colour, `paper`, or that of its style where it is empty. */
  readonly colour: string;
}

/** What a plan says that was made before these could be said. */
export const plainPlan = {
  baseline: null,
  back: 'none',
  coverParts: { front: [], back: [] },
  titlePage: false,
  trim: { bleed: '0mm', marks: false },
  file: { standard: 'accessible', opens: 'as the reader likes', bookmarks: 4 },
} as const satisfies Partial<PagePlan>;

/** Every field of a plan, wherever it stands. */
export function planFields({ head, foot, coverParts }: PagePlan): PageField[] {
  const slots = [head, foot]
    .flatMap(({ right, left, opening }) => [right, left, opening ?? noSlots])
    .flatMap(({ start, middle, end }) => [...start, ...middle, ...end]);
  const onCovers = [...coverParts.front, ...coverParts.back].flatMap(({ shows }) =>
    shows.field === 'ground' ? [] : [shows],
  );
  return [...slots, ...onCovers];
}

export interface Sheet {
  readonly width: number;
  readonly height: number;
}

/** In millimetres, as it lies. */
export function paperSize({ paper, lies }: Pick<PagePlan, 'paper' | 'lies'>): Sheet {
  const [width, height] =
    typeof paper === 'string'
      ? papers[paper]
      : [toMillimetres(paper.width), toMillimetres(paper.height)];
  return lies === 'upright' ? { width, height } : { width: height, height: width };
}

export interface PageGeometry extends Sheet {
  /** Where the text stands, from the left edge of a right and a left page. */
  readonly text: {
    readonly right: number;
    readonly left: number;
    readonly top: number;
    readonly width: number;
    readonly height: number;
  };
  readonly column:
    | {
        readonly right: number;
        readonly left: number;
        readonly width: number;
        readonly gap: number;
      }
    | undefined;
}

/**
 * Where text and margin column stand, in millimetres from the upper left corner of right (odd) and
 * left pages.
 */
export function pageGeometry(plan: PagePlan): PageGeometry {
  const { width, height } = paperSize(plan);
  const [top, bottom, inner, outer] = [
    plan.margins.top,
    plan.margins.bottom,
    plan.margins.inner,
    plan.margins.outer,
  ].map(toMillimetres) as [number, number, number, number];
  const column = plan.marginColumn && {
    width: toMillimetres(plan.marginColumn.width),
    gap: toMillimetres(plan.marginColumn.gap),
  };
  const taken = column ? column.width + column.gap : 0;
  /** Whether the column stands left of the text on this kind of page. */
  const isLeft = (isRightPage: boolean): boolean =>
    (plan.marginColumn?.side === 'inner') === (isRightPage || !plan.mirrored);
  const marginLeft = (isRightPage: boolean): number =>
    isRightPage || !plan.mirrored ? inner : outer;
  const textLeft = (isRightPage: boolean): number =>
    marginLeft(isRightPage) + (column && isLeft(isRightPage) ? taken : 0);
  const textWidth = width - inner - outer - taken;
  const columnLeft = (isRightPage: boolean): number =>
    isLeft(isRightPage)
      ? marginLeft(isRightPage)
      : textLeft(isRightPage) + textWidth + (column?.gap ?? 0);
  return {
    width,
    height,
    text: {
      right: textLeft(true),
      left: textLeft(false),
      top,
      width: textWidth,
      height: height - top - bottom,
    },
    column: column
      ? { right: columnLeft(true), left: columnLeft(false), width: column.width, gap: column.gap }
      : undefined,
  };
}

/** Narrower or lower than this, in millimetres, no text can be set. */
const leastRoom = 20;

/** Steps of a baseline grid, in points. */
const baselineSteps = { least: 6, most: 48 };

/** More than this, in millimetres, no press asks for. */
const mostBleed = 25;

/**
 * What can be wrong with a page plan. Problems: `plan.no-room`, `plan.margin-column`,
 * `plan.columns`, `plan.baseline`, `plan.bleed`.
 */
export function checkPlan(plan: PagePlan): Problem[] {
  const { text, width, column } = pageGeometry(plan);
  const found: Problem[] = [];
  if (column && column.width + column.gap >= width)
    found.push(
      problem(
        'error',
        'plan.margin-column',
        `The margin column of “${plan.name}” is wider than the page.`,
      ),
    );
  else if (text.width < leastRoom || text.height < leastRoom)
    found.push(
      problem(
        'error',
        'plan.no-room',
        `“${plan.name}” leaves ${Math.round(text.width)} × ${Math.round(text.height)} mm for ` +
          `the text: less than ${leastRoom} mm are no room.`,
      ),
    );
  else if (
    (text.width - (plan.columns - 1) * toMillimetres(plan.columnGap)) / plan.columns <
    leastRoom
  )
    found.push(
      problem(
        'error',
        'plan.columns',
        `The ${plan.columns} columns of “${plan.name}” are narrower than ${leastRoom} mm.`,
      ),
    );
  const step = plan.baseline === null ? baselineSteps.least : toPoints(plan.baseline);
  if (!(step >= baselineSteps.least && step <= baselineSteps.most))
    found.push(
      problem(
        'error',
        'plan.baseline',
        `The lines of “${plan.name}” stand ${plan.baseline} apart; between ` +
          `${baselineSteps.least} and ${baselineSteps.most} pt can be asked for.`,
      ),
    );
  const bleed = toMillimetres(plan.trim.bleed);
  if (bleed < 0 || bleed > mostBleed)
    found.push(
      problem(
        'error',
        'plan.bleed',
        `“${plan.name}” runs ${plan.trim.bleed} over its edges; between 0 and ${mostBleed} ` +
          'mm can be asked for.',
      ),
    );
  return found;
}
