import { problemKinds, usualStops } from '@ukiyo/core/problems';
import { letterLooks, pigments, type FacetValue as FacetValueOfCore } from '@ukiyo/core/facets';
import { z } from 'zod';
import { Locale, Problem } from './content.ts';

const Colour = z.string().regex(/^#[\da-f]{6}$/iu, 'A colour is written as #rrggbb.');
/** An image of the library. */
const FlagImage = z
  .string()
  .regex(/^asset:.+$/u)
  .max(200);
/** `MarkLook` of core, as it travels. */
export const MarkLook = z.object({
  color: Colour.exactOptional(),
  background: Colour.exactOptional(),
  bar: z.boolean().exactOptional(),
  letters: z.array(z.enum(letterLooks)).max(letterLooks.length).readonly().exactOptional(),
  start: z.string().trim().min(1).max(200).exactOptional(),
  end: z.string().trim().min(1).max(200).exactOptional(),
  startImage: FlagImage.exactOptional(),
  endImage: FlagImage.exactOptional(),
});
export const LensRule = z.object({
  facet: z.string().exactOptional(),
  value: z.string().exactOptional(),
  action: z.enum(['keep', 'drop', 'mark']),
  look: MarkLook.exactOptional(),
});
/** The colours of what several rules mark in different ones. */
const ClashLook = MarkLook.pick({ color: true, background: true });
/** `through`: lenses that stand behind this one. */
export const Lens = z.object({
  id: z.string(),
  name: z.string(),
  rules: z.array(LensRule),
  clash: ClashLook.exactOptional(),
  through: z.array(z.string()),
});
export type Lens = z.infer<typeof Lens>;
export const LensName = z.object({ name: z.string().trim().min(1).max(200) });
export const LensChange = LensName.extend({
  through: z.array(z.string().max(200)).max(20),
}).partial();
export type LensChange = z.infer<typeof LensChange>;
/** One decision of a lens; without an action the value follows what is more general again. */
export const LensDecision = z.object({
  facet: z.string().max(100).exactOptional(),
  value: z.string().max(100).exactOptional(),
  action: z.enum(['keep', 'drop', 'mark']).exactOptional(),
  look: MarkLook.exactOptional(),
});
export type LensDecision = z.infer<typeof LensDecision>;
/** A DITAVAL document that becomes a lens. */
export const DitavalText = z.object({
  name: z.string().trim().min(1).max(200),
  text: z.string().max(250_000, 'A DITAVAL file has at most 250,000 characters.'),
});
export const TakenLens = z.object({ lens: Lens, problems: z.array(Problem) });

/**
 * Names stand in attributes side by side: no space, and no bracket of a group (DITA 1.3, 2.4.3.2).
 */
const ValueName = z
  .string()
  .max(100)
  .regex(/^[^\s()<>&"']+$/u, 'A name has no spaces, brackets or quotation marks.');
const Label = z.string().trim().min(1).max(200);
/** `FacetValue` of core, as it travels. */
export const FacetValue: z.ZodType<FacetValueOfCore> = z.object({
  name: ValueName,
  label: Label,
  letters: z
    .string()
    .regex(/^\S{1,3}$/u, 'One to three characters.')
    .exactOptional(),
  pigment: z.enum(pigments).exactOptional(),
  description: z.string().max(1000).exactOptional(),
  retired: z.boolean().exactOptional(),
  get values() {
    return z.array(FacetValue).max(1000).readonly().exactOptional();
  },
});
/** `Facet` of core, as it travels. */
export const Facet = z.object({
  name: ValueName,
  label: Label,
  values: z.array(FacetValue).max(1000),
});
export type Facet = z.infer<typeof Facet>;

/**
 * The facets of a project. `version` is the one that was changed: the answer is a conflict when
 * another was saved since.
 */
export const FacetList = z.object({
  version: z.number().int().min(0),
  facets: z.array(Facet).max(100),
});
export type FacetList = z.infer<typeof FacetList>;

/** A value that is to have another name, or to be that other value, everywhere. */
export const ValueRename = z.object({
  version: z.number().int().min(0),
  facet: ValueName,
  from: z.string().max(100),
  to: ValueName,
});
/** How often each value is set, and in how many topics and maps. */
export const ValueUse = z.object({
  facet: z.string(),
  value: z.string(),
  count: z.number().int(),
  items: z.number().int(),
});
export type ValueUse = z.infer<typeof ValueUse>;

export const Output = z.enum(['print', 'site', 'page', 'epub', 'markdown', 'dita', 'bundle']);
export type Output = z.infer<typeof Output>;
/** What each output is called, and the files of an impression that one opens and takes away. */
export const outputs: Readonly<
  Record<Output, { readonly label: string; readonly opens: string; readonly file: string }>
> = {
  print: { label: 'Printed manual (PDF)', opens: 'manual.pdf', file: 'manual.pdf' },
  site: { label: 'Help site', opens: 'site/index.html', file: 'site.zip' },
  page: { label: 'One page (HTML)', opens: 'page.html', file: 'page.html' },
  epub: { label: 'E-book (EPUB)', opens: 'book.epub', file: 'book.epub' },
  markdown: { label: 'Markdown folder', opens: 'markdown/index.md', file: 'markdown.zip' },
  dita: { label: 'DITA package', opens: 'dita.zip', file: 'dita.zip' },
  bundle: { label: 'Bundle of editions', opens: 'bundle/index.html', file: 'bundle.zip' },
};

const Fact = z.string().trim().min(1).max(300).exactOptional();
/** What an edition says of itself instead of what its map says. */
export const EditionFacts = z.object({
  title: Fact,
  subtitle: Fact,
  bookNumber: Fact,
  edition: Fact,
  date: z.iso.date('A date is written as 2026-03-09.').exactOptional(),
  rights: Fact,
});
export type EditionFacts = z.infer<typeof EditionFacts>;

/** What the readers of a site may set themselves, as `ReaderChoice` of press. */
export const ReaderChoice = z.object({
  facet: z.string().min(1).max(100),
  /** Instead of that of the facet, where it is not empty. */
  label: z.string().trim().max(100).default(''),
  pick: z.enum(['one', 'many']).default('one'),
  /** Values that are set before a reader says otherwise; none means all. */
  preset: z.array(z.string().max(100)).max(100).default([]),
});
export type ReaderChoice = z.infer<typeof ReaderChoice>;

export const EditionFields = z.object({
  name: z.string().trim().min(1).max(200),
  output: Output,
  /** Empty for a bundle, which has none of its own. */
  map: z.string().max(200),
  lens: z.string().max(200).nullable(),
  variables: z.record(z.string().max(100), z.string().max(2000)).default({}),
  facts: EditionFacts.default({}),
  locale: Locale.default('en'),
  sheet: z.string().max(60).default('workshop'),
  plan: z.string().max(60).default('a4-margin'),
  look: z.string().max(60).default('harbour'),
  /** Of sites: in this order. */
  choices: z.array(ReaderChoice).max(20).default([]),
  /** Of its files, where each page is one. */
  naming: z.enum(['ids', 'titles', 'numbers']).default('ids'),
  /** Of its files: all in one, or those of each chapter in one of their own. */
  folders: z.enum(['one', 'chapters']).default('one'),
  /** Of bundles: the editions in it, in this order. */
  holds: z.array(z.uuid()).max(50).default([]),
  /**
   * The topic that is the home page of a site; empty where that is made of its title and first
   * level.
   */
  start: z.string().max(200).default(''),
  /** Further languages in which a site is made, beside its own. */
  locales: z.array(Locale).max(20, 'At most twenty further locales.').default([]),
  /**
   * At which time of the day it is built by itself, as the clock of the server shows it; empty for
   * never.
   */
  nightly: z
    .string()
    .regex(/^(([01]\d|2[0-3]):[0-5]\d)?$/u, 'A time is written as 02:30.')
    .default(''),
  /** Linked sources are read again before it is built. */
  readsSources: z.boolean().default(false),
  /** Problems of these kinds keep what was built from being signed off. */
  stops: z.array(z.enum(problemKinds)).default([...usualStops]),
  /**
   * So many impressions are kept; older ones go when another has been built, but never one that is
   * signed off.
   */
  keeps: z.number().int().min(1).max(500).default(20),
  /**
   * An impression: what was not in it, or otherwise, has bars beside it in print, and is said to be
   * new or changed on a site.
   */
  since: z.uuid().nullable().default(null),
  /**
   * Where its readers find it, from the web or from where another edition stands: other
   * publications lead there.
   */
  address: z
    .string()
    .trim()
    .max(500)
    .regex(
      /^(https?:\/\/[^\s"'<>]+|[^\s:"'<>]*)$/iu,
      'An address begins with https:// or says the way from beside this site, as ../help/ does.',
    )
    .default(''),
});
/**
 * What is published: map, lens, variables, styles, page plan, locale and kind of output; or, in a
 * bundle, which editions.
 */
export const EditionInput = EditionFields.refine(
  ({ output, map }) => output === 'bundle' || map !== '',
  { path: ['map'], message: 'An edition needs a map.' },
);
export type EditionInput = z.infer<typeof EditionInput>;

export const Edition = EditionFields.extend({ id: z.uuid() });
export type Edition = z.infer<typeof Edition>;
/** Whether it is made of a map; a bundle is made of other editions. */
export const isPublication = ({ output }: Pick<Edition, 'output'>): boolean => output !== 'bundle';

export const impressionStates = [
  'queued',
  'running',
  'done',
  'failed',
  'cancelled',
  'interrupted',
] as const;
export const ImpressionState = z.enum(impressionStates);
export type ImpressionState = z.infer<typeof ImpressionState>;

/** In another language than that of the edition. */
export const BuildInput = z.object({ locale: Locale.nullable().default(null) });

/** What a build is doing: a step in words, and n of m where it counts. */
export const Progress = z.object({ step: z.string(), done: z.number(), total: z.number() });
export type Progress = z.infer<typeof Progress>;

export const impressionNote = z.string().trim().min(1).max(4000);
export const ImpressionNote = z.object({
  person: z.string(),
  at: z.string(),
  text: impressionNote,
});
/** Why something that is wrong may go out, by `problemKey` of core. */
export const Waiver = z.object({
  problem: z.string().max(10_000),
  reason: z.string().trim().min(1).max(2000),
});
export type Waiver = z.infer<typeof Waiver>;
export const Seal = z.object({ person: z.string(), at: z.string(), waived: z.array(Waiver) });
export type Seal = z.infer<typeof Seal>;

/** Bytes of what is downloaded; words of what readers read. */
export const Figures = z.object({
  pages: z.number(),
  topics: z.number(),
  words: z.number().default(0),
  bytes: z.number(),
  milliseconds: z.number(),
});
export type Figures = z.infer<typeof Figures>;

export const Impression = z.object({
  id: z.uuid(),
  edition: z.uuid(),
  editionName: z.string(),
  output: Output,
  number: z.number().int(),
  state: ImpressionState,
  progress: Progress,
  problems: z.array(Problem),
  figures: Figures,
  /** The name that people gave it; empty without one. */
  name: z.string(),
  notes: z.array(ImpressionNote),
  /** Set where it is the one that ships. */
  seal: Seal.nullable(),
  /** What kept it from being signed off when it was built. */
  stops: z.array(z.enum(problemKinds)),
  /** The impression from whose inputs it was built again. */
  again: z.uuid().nullable(),
  /** The language in which it was asked for; null for that of its edition. */
  locale: z.string().nullable().default(null),
  /** SHA-256 of what was built; empty before. */
  fingerprint: z.string(),
  person: z.string(),
  createdAt: z.string(),
  finishedAt: z.string().nullable(),
});
export type Impression = z.infer<typeof Impression>;

export const ImpressionName = z.object({ name: z.string().trim().max(200) });
export const NewNote = z.object({ text: impressionNote });
export const SignOff = z.object({ waived: z.array(Waiver).max(5000) });

/** What is otherwise in one of two impressions, page by page. */
export const PageChange = z.object({
  anchor: z.string(),
  title: z.string(),
  how: z.enum(['added', 'removed', 'changed']),
  /** Words that both have, that only the earlier or only the later one has. */
  parts: z.array(z.object({ kind: z.enum(['same', 'gone', 'new']), text: z.string() })),
});
export type PageChange = z.infer<typeof PageChange>;
export const ImpressionComparison = z.object({
  earlier: z.number().int(),
  later: z.number().int(),
  pages: z.array(PageChange),
});
export type ImpressionComparison = z.infer<typeof ImpressionComparison>;

/** One message of the event stream. */
export const LiveEvent = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('impression'),
    id: z.uuid(),
    state: ImpressionState,
    progress: Progress,
  }),
  z.object({ kind: z.literal('impression-gone'), id: z.uuid() }),
  /** A topic or map is new, or has another text. */
  z.object({
    kind: z.literal('item'),
    id: z.string(),
    version: z.number().int(),
    isMap: z.boolean(),
  }),
  z.object({ kind: z.literal('item-gone'), id: z.string() }),
  /** So many are new or other that they are not told one by one. */
  z.object({ kind: z.literal('many-items') }),
  /** Images are new, changed or gone. */
  z.object({ kind: z.literal('assets') }),
]);
export type LiveEvent = z.infer<typeof LiveEvent>;

/** How a topic appears in an edition. */
export const Appearance = z.object({
  how: z.enum(['shown', 'lends', 'dropped']),
  number: z.string().exactOptional(),
  detail: z.string(),
  places: z.number().int(),
  alternate: z.string().exactOptional(),
});
/** Topics by editions: what appears where. */
export const Appearances = z.object({
  /** Every topic that is no alternate of another, by title. */
  topics: z.array(z.object({ id: z.string(), title: z.string() })),
  editions: z.array(
    z.object({ id: z.uuid(), name: z.string(), cells: z.record(z.string(), Appearance) }),
  ),
});
export type Appearances = z.infer<typeof Appearances>;
const EntryPlace = z.object({ item: z.string(), path: z.array(z.number().int()).readonly() });
/**
 * The headings of an edition as they are numbered; `entry` is the entry of a map that puts it
 * there.
 */
export const Contents = z.object({
  places: z.array(
    z.object({
      number: z.string().exactOptional(),
      label: z.string(),
      level: z.number().int(),
      inContents: z.boolean(),
      /** The topic that stands there: an alternate where one stands in. */
      item: z.string().exactOptional(),
      entry: EntryPlace,
    }),
  ),
  /** Entries that the edition does not have, with the rule by which. */
  dropped: z.array(z.object({ entry: EntryPlace, detail: z.string() })),
});
export type Contents = z.infer<typeof Contents>;
/** Which element: a topic, and the path of the element in its text, as `1.0.2`. */
export const ElementAt = z.object({
  item: z.string().min(1).max(200),
  path: z
    .string()
    .max(1000)
    .regex(/^(\d+(\.\d+)*)?$/u)
    .transform((text) => (text === '' ? [] : text.split('.').map(Number))),
});
/** What each edition makes of one element, and by which rule. */
export const ElementUses = z.array(
  z.object({
    id: z.uuid(),
    edition: z.string(),
    how: z.enum(['shown', 'dropped', 'absent']),
    detail: z.string(),
    places: z.array(z.string()).readonly(),
  }),
);
export type ElementUses = z.infer<typeof ElementUses>;
/** What was found for every reader of an edition. */
export const ReaderCheck = z.object({ problems: z.array(Problem), milliseconds: z.number() });
export type ReaderCheck = z.infer<typeof ReaderCheck>;

const CopyPlace = z.object({
  item: z.string().max(200),
  path: z.array(z.number().int().min(0)).max(200).readonly(),
  words: z.string().max(200_000),
});
/** Blocks, or whole topics, that say nearly the same. */
export const CopyGroup = z.object({
  name: z.string(),
  same: z.boolean(),
  saves: z.number().int(),
  copies: z.array(CopyPlace),
});
export type CopyGroup = z.infer<typeof CopyGroup>;
/** The groups that would save most, and how many there are. */
export const CopyReport = z.object({ groups: z.array(CopyGroup), total: z.number().int() });
export type CopyReport = z.infer<typeof CopyReport>;
/** Copies that become one passage of a new topic; `kept` says whose wording it has. */
export const CopySharing = z.object({
  title: z.string().trim().min(1).max(300),
  copies: z.array(CopyPlace).min(2).max(500),
  kept: z.number().int().min(0),
});
export type CopySharing = z.infer<typeof CopySharing>;
/** How many copies borrow the passage now; copies that were changed in the meantime do not. */
export const CopiesShared = z.object({ lender: z.string(), shared: z.number().int() });
export type CopiesShared = z.infer<typeof CopiesShared>;
