import {
  coverGrid,
  fontFaces,
  lookColours,
  lookLayouts,
  noSlots,
  noteKinds,
  numberForms,
  pageFields,
  pageNumberings,
  papers,
  plainPlan,
  propertyNames,
  readLength,
  type LookColour,
  type OwnNumbering,
  type PagePlan as PlanOfCore,
  type PlainField,
  type SiteLook as LookOfCore,
  type StyleSheet as SheetOfCore,
} from '@ukiyo/core/styles';
import { z } from 'zod';
import { Locale, Problem } from './content.ts';

const Words = z.string().max(200);
const Length = Words.refine(
  (text) => readLength(text) !== undefined,
  'A length is written as 9pt, 4mm or 0.8em.',
);
const Value = z.union([Words, z.number(), z.boolean(), z.record(Locale, Words)]);
const Values = z.partialRecord(z.enum(propertyNames), Value);
/** The id of a style, and of a sheet or plan. */
export const StyleId = z
  .string()
  .regex(/^[a-z][a-z0-9-]{0,59}$/u, 'An id has small letters, digits and hyphens.');
const Hex = z.string().regex(/^#[\da-f]{6}$/iu, 'A colour is written as #rrggbb.');
const Name = z.string().trim().min(1).max(100);
const ElementName = z.string().min(1).max(60);

const Style = z.object({
  base: StyleId.exactOptional(),
  all: Values.exactOptional(),
  print: Values.exactOptional(),
  screen: Values.exactOptional(),
  label: Name.exactOptional(),
  family: z.enum(['block', 'inline']).exactOptional(),
  appliesTo: z
    .object({
      element: ElementName.exactOptional(),
      within: ElementName.exactOptional(),
      outputclass: z.string().trim().min(1).max(60).exactOptional(),
    })
    .exactOptional(),
});
const NoteMark = z.object({
  icon: z.string().max(200),
  size: Length,
  place: z.enum(['margin column', 'before the text', 'above', 'none']),
  meets: z.enum(['top', 'baseline']),
  words: z.record(Locale, Words).exactOptional(),
});
const Face = z.enum(fontFaces);
const Form = z.enum(numberForms);
const Sign = z.enum(['.', '-', '–']);

const Numbers = z.object({
  parts: Form,
  chapters: Form,
  appendices: Form,
  sections: Form,
  depth: z.number().int().min(0).max(6),
  sign: Sign,
  chaptersByPart: z.boolean(),
  captions: z.enum(['by chapter', 'throughout']),
  captionForm: Form,
  captionSign: Sign,
});

/** `StyleSheet` of core, as it travels, is stored, and is taken from another project. */
export const StyleSheet: z.ZodType<SheetOfCore> = z.object({
  name: Name,
  about: z.string().max(500),
  fonts: z.object({ reading: Face, finding: Face, code: Face }),
  colours: z.record(
    z
      .string()
      .regex(
        /^[a-z][a-z0-9-]{0,29}$/u,
        'The name of a colour has small letters, digits and hyphens.',
      ),
    Hex,
  ),
  styles: z.record(StyleId, Style),
  marks: z.partialRecord(z.enum(noteKinds), NoteMark),
  numbering: Numbers.extend({
    // What could not be said in earlier versions is as it was then.
    examples: z.boolean().default(false),
    byLanguage: z
      .record(
        Locale,
        Numbers.extend({ examples: z.boolean() }).partial() as z.ZodType<OwnNumbering>,
      )
      .default({}),
  }),
});
export type StyleSheet = SheetOfCore;

const plainFields = Object.keys(pageFields).filter(
  (field) => !['text', 'variable', 'image'].includes(field),
) as PlainField[];
const Field = z.union([
  z.object({ field: z.enum(plainFields) }),
  z.object({ field: z.literal('text'), words: Words }),
  z.object({ field: z.literal('variable'), key: z.string().max(100) }),
  z.object({ field: z.literal('image'), image: z.string().max(200), height: Length }),
]);
const onGrid = z.number().int().min(0).max(coverGrid);
const CoverPart = z.object({
  shows: z.union([Field, z.object({ field: z.literal('ground'), colour: z.string().max(30) })]),
  column: onGrid,
  row: onGrid,
  columns: onGrid.min(1),
  rows: onGrid.min(1),
  style: StyleId,
  stands: z.enum(['start', 'centre', 'end']),
  colour: z.string().max(30),
});
const Slots = z.object({
  start: z.array(Field).max(8),
  middle: z.array(Field).max(8),
  end: z.array(Field).max(8),
});
const RunningLine = z.object({
  right: Slots,
  left: Slots,
  opening: Slots.nullable().default(null),
});
const Numbering = z.enum(pageNumberings);

/** `PagePlan` of core, as it travels and is stored. */
export const PagePlan: z.ZodType<PlanOfCore> = z.object({
  name: Name,
  about: z.string().max(500),
  paper: z.union([
    z.enum(Object.keys(papers) as (keyof typeof papers)[]),
    z.object({ width: Length, height: Length }),
  ]),
  lies: z.enum(['upright', 'on its side']),
  mirrored: z.boolean(),
  margins: z.object({ top: Length, bottom: Length, inner: Length, outer: Length }),
  marginColumn: z
    .object({ width: Length, gap: Length, side: z.enum(['outer', 'inner']) })
    .nullable(),
  columns: z.number().int().min(1).max(4),
  columnGap: Length,
  // What could not be said in earlier versions is as it was then.
  baseline: Length.nullable().default(plainPlan.baseline),
  head: RunningLine,
  foot: RunningLine,
  headRule: z.boolean(),
  numbering: z.object({ front: Numbering, body: Numbering }),
  chaptersBegin: z.enum(['on a right page', 'on a new page', 'where they come']),
  blankWords: Words,
  cover: z.enum(['none', 'plain', 'band', 'own']),
  back: z.enum(['none', 'own']).default(plainPlan.back),
  coverParts: z
    .object({ front: z.array(CoverPart).max(40), back: z.array(CoverPart).max(40) })
    .default({ front: [], back: [] }),
  titlePage: z.boolean().default(plainPlan.titlePage),
  trim: z.object({ bleed: Length, marks: z.boolean() }).default(plainPlan.trim),
  file: z
    .object({
      standard: z.enum(['accessible', 'for the archive']),
      opens: z.enum(['as the reader likes', 'with bookmarks', 'two pages side by side']),
      bookmarks: z.number().int().min(0).max(6),
    })
    .default(plainPlan.file),
  contentsDepth: z.number().int().min(1).max(6),
  indexColumns: z.number().int().min(1).max(4),
  watermark: z.string().max(40),
});
export type PagePlan = PlanOfCore;

const EarlierSheet = z.looseObject({
  styles: z.record(z.string(), z.looseObject({ wornBy: z.unknown().optional() })),
});
/**
 * A style sheet from where it was kept, or from a file; earlier versions called what a style
 * applies to `wornBy`.
 */
export function readStyleSheet(content: unknown) {
  const earlier = EarlierSheet.safeParse(content).data;
  if (!earlier) return StyleSheet.safeParse(content);
  const styles = Object.entries(earlier.styles).map(([id, { wornBy, ...style }]) => [
    id,
    wornBy === undefined ? style : { appliesTo: wornBy, ...style },
  ]);
  return StyleSheet.safeParse({ ...earlier, styles: Object.fromEntries(styles) as unknown });
}

const EarlierPlan = z.looseObject({ headOnOpenings: z.literal(false), head: z.looseObject({}) });
/**
 * A page plan from where it was kept, or from a file; earlier versions said only whether chapters
 * begin with the head of other pages or without any.
 */
export function readPagePlan(content: unknown) {
  const earlier = EarlierPlan.safeParse(content).data;
  return PagePlan.safeParse(
    earlier ? { ...earlier, head: { opening: noSlots, ...earlier.head } } : content,
  );
}

/**
 * Style sheets and page plans are kept alike. Version 0 is as it ships; the answer is a conflict
 * when another was saved since.
 */
const kept = { id: StyleId, version: z.number().int().min(0), ships: z.boolean() };
export const KeptSheet = z.object({ ...kept, content: StyleSheet });
export type KeptSheet = z.infer<typeof KeptSheet>;
export const KeptPlan = z.object({ ...kept, content: PagePlan });
export type KeptPlan = z.infer<typeof KeptPlan>;
/** `SiteLook` of core, as it travels and is stored. */
const LookColourSet = z.object(
  Object.fromEntries(Object.keys(lookColours).map((name) => [name, Hex])) as Record<
    LookColour,
    typeof Hex
  >,
);
const pixels = (least: number, most: number) => z.number().int().min(least).max(most);
export const SiteLook: z.ZodType<LookOfCore> = z.object({
  name: Name,
  about: z.string().max(500),
  layout: z.enum(lookLayouts),
  colours: z.object({ day: LookColourSet, night: LookColourSet }),
  logo: z.object({ asset: z.string().min(1).max(200), height: pixels(12, 200) }).nullable(),
  favicon: z.string().min(1).max(200).nullable(),
  caption: z.string().max(200),
  links: z
    .array(
      z.object({
        label: z.string().trim().min(1).max(100),
        href: z
          .string()
          .regex(
            /^(https?:\/\/|mailto:)[^\s"'<>]+$/iu,
            'An address begins with https:// or mailto:.',
          )
          .max(500),
      }),
    )
    .max(12),
  footer: z.string().max(1000),
  feedback: z.union([z.literal(''), z.email(), z.url({ protocol: /^https?$/u })]),
  reading: z.number().int().min(40).max(110),
  tablet: pixels(400, 2000),
  phone: pixels(240, 1200),
  css: z.string().max(100_000),
});
export type SiteLook = LookOfCore;
export const KeptLook = z.object({ ...kept, content: SiteLook });
export type KeptLook = z.infer<typeof KeptLook>;
export const LookChange = z.object({ version: z.number().int().min(0), content: SiteLook });

export const Designs = z.object({
  sheets: z.array(KeptSheet),
  plans: z.array(KeptPlan),
  looks: z.array(KeptLook),
});
export type Designs = z.infer<typeof Designs>;
export const DesignKind = z.enum(['sheets', 'plans', 'looks']);
export type DesignKind = z.infer<typeof DesignKind>;
export const SheetChange = z.object({ version: z.number().int().min(0), content: StyleSheet });
export const PlanChange = z.object({ version: z.number().int().min(0), content: PagePlan });

const ShapeId = z.string().max(40);
/** As many of them are named; what is not named is sent again. */
export const mostShapes = 20_000;
/** Shapes that the asker has from earlier answers. */
const Shapes = z.array(ShapeId).max(mostShapes);

/** What a specimen is set with: styles and a plan that need not be saved. */
export const SpecimenOrder = z.object({
  sheet: StyleSheet,
  plan: PagePlan,
  locale: Locale,
  has: Shapes.exactOptional(),
});
export type SpecimenOrder = z.infer<typeof SpecimenOrder>;

/** A page, in millimetres. */
const Sheet = z.object({ width: z.number(), height: z.number() });
/**
 * Where the elements of a topic begin: the page, 1 for the first, how far down, in points, and what
 * they say.
 */
const Places = z.array(
  z.object({
    path: z.array(z.number().int()),
    page: z.number().int(),
    y: z.number(),
    says: z.string(),
  }),
);

/** Pages as an edition gives them, drawn by the page engine itself. */
export const Proof = z.object({
  /**
   * What is on each page, in the order in which it is painted; `at` is a matrix that moves it to
   * its place, in points.
   */
  pages: z.array(Sheet.extend({ pieces: z.array(z.object({ shape: ShapeId, at: z.string() })) })),
  /** SVG by shape, of those that the asker does not have. */
  shapes: z.record(ShapeId, z.string()),
  places: Places,
  /** Whether it stands where the last layout of the whole has it; else it begins a page. */
  placed: z.boolean(),
  problems: z.array(Problem),
  /** What it took: all of it, and of that the page engine. */
  milliseconds: z.number(),
  engineMilliseconds: z.number(),
});
export type Proof = z.infer<typeof Proof>;
/** A topic as it is on the page of its writer, which need not be saved. */
export const ProofOrder = z.object({
  item: z.string().min(1).max(200),
  text: z.string().max(2_000_000).exactOptional(),
  has: Shapes.exactOptional(),
});
export type ProofOrder = z.infer<typeof ProofOrder>;

/** The page of a help site on which a topic stands, as it is being written. */
export const SiteProof = z.object({
  /** Its file below the site; null where the site does not have the topic. */
  path: z.string().nullable(),
  html: z.string(),
  /** Another one where what depends on readers is another: then the page is loaded anew. */
  conditions: z.string(),
});
export type SiteProof = z.infer<typeof SiteProof>;

/** A whole manual to turn the pages of; its file is asked for by its number. */
export const WholeProof = z.object({
  /** Empty where it cannot be set. */
  sheets: z.array(Sheet),
  /** The pages on which the topic stands, from 1. */
  first: z.number().int(),
  last: z.number().int(),
  places: Places,
  /**
   * What is printed on each page as its number, as far as something that can be led to is on it.
   */
  shown: z.array(z.string()),
  problems: z.array(Problem),
  milliseconds: z.number(),
});
export type WholeProof = z.infer<typeof WholeProof>;
export const WholeProofOrder = z.object({ item: z.string().min(1).max(200).exactOptional() });
export type WholeProofOrder = z.infer<typeof WholeProofOrder>;

/** How often something is there, and in which items. */
const Uses = z.object({ count: z.number().int(), items: z.record(z.string(), z.number().int()) });
/**
 * Where the styles of a sheet are used in the library, and looks that content asks for and none of
 * them gives.
 */
export const StyleUses = z.object({
  uses: z.record(StyleId, Uses),
  unstyled: z.array(
    Uses.extend({
      outputclass: z.string(),
      element: z.string(),
      /** The style from which one for it would best begin. */ base: StyleId,
    }),
  ),
});
export type StyleUses = z.infer<typeof StyleUses>;
