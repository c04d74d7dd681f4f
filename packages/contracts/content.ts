import { useManners } from '@ukiyo/core/library';
import { limits as textLimits } from '@ukiyo/core/markup';
import { z } from 'zod';

/** A language of content, as in `de` or `pt-BR` (BCP 47). */
export const Locale = z
  .string()
  .regex(/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/u, 'A locale is written as en or en-GB.');

export const Severity = z.enum(['error', 'warning', 'info']);

const Path = z.array(z.number().int()).readonly();
const at = { path: Path, element: z.string() };
/** `Fix` of core, as it travels. */
const Fix = z.object({
  label: z.string(),
  edit: z.discriminatedUnion('kind', [
    z.object({ ...at, kind: z.literal('attribute'), name: z.string() }),
    z.object({ ...at, kind: z.literal('remove') }),
    z.object({ ...at, kind: z.literal('unwrap') }),
    z.object({ ...at, kind: z.literal('insert'), index: z.number().int(), name: z.string() }),
    z.object({ ...at, kind: z.literal('words'), from: z.string(), to: z.string() }),
    z.object({
      ...at,
      kind: z.literal('value'),
      facet: z.string(),
      from: z.string(),
      to: z.string().exactOptional(),
    }),
  ]),
});

/** `Problem` of core, as it travels. */
export const Problem = z.object({
  code: z.string(),
  severity: Severity,
  message: z.string(),
  where: z.object({
    item: z.string().exactOptional(),
    path: Path.exactOptional(),
    attribute: z.string().exactOptional(),
    line: z.number().exactOptional(),
    column: z.number().exactOptional(),
  }),
  fix: Fix.exactOptional(),
});

export const ProblemCounts = z.object({ error: z.number(), warning: z.number(), info: z.number() });

export const ItemId = z
  .string()
  .min(1)
  .max(200)
  .regex(/^[\p{L}_][\p{L}\p{N}._-]*$/u);
export const Folder = z
  .string()
  .max(400)
  .regex(
    /^(?!\/)(?!.*\/\/)(?!.*(^|\/)\.\.?(\/|$))[^\\\0]*(?<!\/)$/u,
    'A folder is written as one/two, without dots.',
  );

export const ItemKind = z.enum(['topic', 'map']);
export type ItemKind = z.infer<typeof ItemKind>;

export const ItemSummary = z.object({
  id: z.string(),
  kind: ItemKind,
  /** The root element: task, concept, map … */
  type: z.string(),
  folder: z.string(),
  name: z.string(),
  title: z.string(),
  shortDescription: z.string(),
  version: z.number().int(),
  wordCount: z.number().int(),
  problems: ProblemCounts,
  /** The attributes by which all of it varies. */
  conditions: z.record(z.string(), z.string()),
  /** The facts that the team agreed on, as it says them. */
  facts: z.record(z.string(), z.string()),
  /** The topic for which it stands in. */
  alternateOf: z.string().nullable(),
  updatedAt: z.string(),
  updatedBy: z.string(),
});
export type ItemSummary = z.infer<typeof ItemSummary>;

export const Item = ItemSummary.extend({ text: z.string() });
export type Item = z.infer<typeof Item>;

/** An item as lists show it. */
export const ListedItem = ItemSummary.extend({
  /** How many topics are alternates of this one. */
  alternates: z.number().int(),
});
export type ListedItem = z.infer<typeof ListedItem>;

export const ItemQuery = z.object({
  /** Words of the text, or a part of the title or ID. */
  search: z.string().trim().max(200).default(''),
  /** Words of which each occurs in the title, the ID or the short description; closest first. */
  title: z.string().trim().max(200).default(''),
  folder: z.string().max(400).exactOptional(),
  kind: ItemKind.exactOptional(),
  type: z.string().max(60).exactOptional(),
  /** Only the alternates of this topic. */
  alternatesOf: ItemId.exactOptional(),
  /** `false` leaves out the topics that are alternates of others. */
  alternates: z.stringbool().default(true),
  /** The ID of a lens: what it drops as a whole is left out. */
  lens: z.string().max(200).exactOptional(),
  offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});
export type ItemQuery = z.infer<typeof ItemQuery>;

export const ItemPage = z.object({ total: z.number().int(), items: z.array(ListedItem) });
export type ItemPage = z.infer<typeof ItemPage>;

/** The items of which summaries are asked for at once. */
export const SummaryRequest = z.object({ ids: z.array(ItemId).max(2_000) });

export const FolderCount = z.object({
  folder: z.string(),
  count: z.number().int(),
  /** The root elements of what is in the folder. */
  types: z.array(z.string()),
});
export type FolderCount = z.infer<typeof FolderCount>;

export const NewItem = z.object({
  type: z.enum(['concept', 'task', 'reference', 'troubleshooting', 'glossentry', 'topic', 'map']),
  title: z.string().trim().min(1).max(300),
  folder: Folder.default(''),
  /** The topic of the team that the new one begins as; it gives the kind too. */
  template: ItemId.exactOptional(),
});
export type NewItem = z.infer<typeof NewItem>;

/** `version` is the one that was edited: the answer is a conflict when another was saved since. */
export const SaveItem = z.object({
  text: z.string().max(textLimits.size, 'has more than 4 million characters. Split it.'),
  version: z.number().int().min(1),
  note: z.string().max(500).default(''),
});
export type SaveItem = z.infer<typeof SaveItem>;

export const Conflict = z.object({
  code: z.literal('item.conflict'),
  message: z.string(),
  current: Item,
});
export type Conflict = z.infer<typeof Conflict>;

export const Revision = z.object({
  version: z.number().int(),
  note: z.string(),
  author: z.string(),
  createdAt: z.string(),
  hash: z.string(),
});
export type Revision = z.infer<typeof Revision>;

export const Asset = z.object({
  id: z.string(),
  folder: z.string(),
  name: z.string(),
  mediaType: z.string(),
  size: z.number().int(),
  width: z.number().nullable(),
  height: z.number().nullable(),
  /** The image for which it stands in, and for whom. */
  alternateOf: z.string().nullable(),
  conditions: z.record(z.string(), z.string()),
});
export type Asset = z.infer<typeof Asset>;

/** An image, video or sound in lists, with the alternates that can replace it. */
export const ListedAsset = Asset.extend({
  alternates: z.array(Asset.pick({ id: true, name: true, conditions: true })),
});
export type ListedAsset = z.infer<typeof ListedAsset>;

export const AssetQuery = z.object({
  /** Words of which each occurs in the file name or the ID. */
  name: z.string().trim().max(200).default(''),
  /** Still images only, or only what is played. */
  media: z.enum(['image', 'played']).exactOptional(),
  /** `false` leaves out the alternates of others. */
  alternates: z.stringbool().default(true),
  offset: z.coerce.number().int().min(0).max(1_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});
export type AssetQuery = z.infer<typeof AssetQuery>;

export const AssetPage = z.object({ total: z.number().int(), assets: z.array(ListedAsset) });
export type AssetPage = z.infer<typeof AssetPage>;

export const ImportReport = z.object({
  items: z.number().int(),
  assets: z.number().int(),
  lenses: z.number().int(),
  editions: z.number().int(),
  problems: z.array(Problem),
});
export type ImportReport = z.infer<typeof ImportReport>;

/** What is asked for: a topic, map or image by its id, or a key by its name. */
export const ReachOf = z.object({
  of: z.enum(['item', 'key']).default('item'),
  id: z.string().min(1).max(200),
});
export type ReachOf = z.infer<typeof ReachOf>;
/** One use of it in a topic or map. */
export const UseIn = z.object({
  item: ItemSummary,
  manner: z.enum(useManners),
  part: z.string(),
  count: z.number().int(),
});
export type UseIn = z.infer<typeof UseIn>;
/** The uses of something, and the maps and editions that show it in the end. */
export const Reach = z.object({
  /** The first of them. */ uses: z.array(UseIn),
  total: z.number().int(),
  maps: z.array(ItemSummary),
  editions: z.array(
    z.object({
      id: z.uuid(),
      name: z.string(),
      lens: z.string().nullable(),
      /**
       * As it was last built: the number of that impression, and the version of what is asked for
       * that went into it.
       */
      built: z.object({ number: z.number().int(), version: z.number().int() }).nullable(),
    }),
  ),
});
export type Reach = z.infer<typeof Reach>;
/** Something that is removed, with another one in its place wherever it is used. */
export const Removal = z.object({ by: ItemId.exactOptional() });

const Conditions = z.record(z.string().max(100), z.string().max(2000));
/** For whom an alternate is; it begins as a copy of its base. */
export const NewAlternate = z.object({ conditions: Conditions });
/** A topic that goes on as an alternate of another one, which takes its place everywhere. */
export const StandIn = NewAlternate.extend({ of: ItemId });
/**
 * A topic with its alternates. `basedOn` is the version of the base against which an alternate was
 * last reviewed, where that is known.
 */
export const Alternates = z.object({
  base: ItemSummary,
  alternates: z.array(
    z.object({ item: ItemSummary, isBehind: z.boolean(), basedOn: z.number().int().nullable() }),
  ),
});
export type Alternates = z.infer<typeof Alternates>;
/** An image that stands in for another, or for itself alone. */
export const AssetAlternate = z.object({
  of: z.string().max(200).nullable(),
  conditions: Conditions,
});
