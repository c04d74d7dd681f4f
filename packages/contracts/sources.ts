import { z } from 'zod';
import { Problem } from './content.ts';

/**
 * The name of a folder beside which everything else is hidden: no separators, nothing that leads
 * up.
 */
export const SourceFolder = z
  .string()
  .max(200)
  .regex(/^[^./\\\0][^/\\\0]*$/u, 'The name of one folder.');

/** How a file and its topic stand, as `FileState` of intake. */
export const SourceFileState = z.enum([
  'same',
  'new',
  'changed',
  'both',
  'removed',
  'gone',
  'refused',
]);
export type SourceFileState = z.infer<typeof SourceFileState>;

export const SourceFile = z.object({
  path: z.string(),
  state: SourceFileState,
  item: z.string().exactOptional(),
  title: z.string().exactOptional(),
});
export type SourceFile = z.infer<typeof SourceFile>;

/** A folder outside that is, or can be, a linked source. */
export const SourceSummary = z.object({
  folder: z.string(),
  isLinked: z.boolean(),
  /** False when the folder is not there any more. */
  isThere: z.boolean(),
  /** When its files were last taken; null before. */
  readAt: z.iso.datetime().nullable(),
  /** Those of its files that are topics here. */
  files: z.array(z.object({ path: z.string(), item: z.string() })),
});
export type SourceSummary = z.infer<typeof SourceSummary>;

/** What reading it now would do. */
export const SourceState = SourceSummary.extend({
  plan: z.array(SourceFile),
  problems: z.array(Problem),
});
export type SourceState = z.infer<typeof SourceState>;

/** For files that were changed outside and here: which of them holds. */
export const SourceOrder = z.object({
  decisions: z.record(z.string().max(2000), z.enum(['outside', 'here'])).default({}),
});
export type SourceOrder = z.infer<typeof SourceOrder>;

/** What was done, with how everything stands since. */
export const SourceReading = SourceState.extend({
  added: z.number().int(),
  changed: z.number().int(),
});
export type SourceReading = z.infer<typeof SourceReading>;
