import { pigments, type FacetValue as FacetValueOfCore } from '@ukiyo/core/facets';
import { z } from 'zod';
import { Locale, Problem } from './content.ts';

export const LensRule = z.object({ facet: z.string().exactOptional(), value: z.string().exactOptional(), action: z.enum(['keep', 'drop', 'mark']) });
export const Lens = z.object({ id: z.string(), name: z.string(), rules: z.array(LensRule) });
export type Lens = z.infer<typeof Lens>;
export const LensName = z.object({ name: z.string().trim().min(1).max(200) });
/** One decision of a lens; without an action the value follows what is more general again. */
export const LensDecision = z.object({ facet: z.string().max(100).exactOptional(), value: z.string().max(100).exactOptional(), action: z.enum(['keep', 'drop', 'mark']).exactOptional() });
export type LensDecision = z.infer<typeof LensDecision>;
/** A DITAVAL document that becomes a lens. */
export const DitavalText = z.object({ name: z.string().trim().min(1).max(200), text: z.string().max(2_000_000) });
export const TakenLens = z.object({ lens: Lens, problems: z.array(Problem) });

/** Names stand in attributes side by side: no space, and no bracket of a group (DITA 1.3, 2.4.3.2). */
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
export const Facet = z.object({ name: ValueName, label: Label, values: z.array(FacetValue).max(1000) });
export type Facet = z.infer<typeof Facet>;

/** The facets of a project. `version` is the one that was changed: the answer is a conflict when another was saved since. */
export const FacetList = z.object({ version: z.number().int().min(0), facets: z.array(Facet).max(100) });
export type FacetList = z.infer<typeof FacetList>;

/** A value that is to have another name, or to be that other value, everywhere. */
export const ValueRename = z.object({ version: z.number().int().min(0), facet: ValueName, from: z.string().max(100), to: ValueName });
/** How often each value is set, and in how many topics and maps. */
export const ValueUse = z.object({ facet: z.string(), value: z.string(), count: z.number().int(), items: z.number().int() });
export type ValueUse = z.infer<typeof ValueUse>;

export const Output = z.enum(['print', 'site']);
export type Output = z.infer<typeof Output>;

/** What is published: map, lens, variables, locale and kind of output. */
export const EditionInput = z.object({
  name: z.string().trim().min(1).max(200),
  output: Output,
  map: z.string().min(1).max(200),
  lens: z.string().max(200).nullable(),
  variables: z.record(z.string().max(100), z.string().max(2000)).default({}),
  locale: Locale.default('en'),
});
export type EditionInput = z.infer<typeof EditionInput>;

export const Edition = EditionInput.extend({ id: z.uuid() });
export type Edition = z.infer<typeof Edition>;

export const impressionStates = ['queued', 'running', 'done', 'failed', 'cancelled', 'interrupted'] as const;
export const ImpressionState = z.enum(impressionStates);
export type ImpressionState = z.infer<typeof ImpressionState>;

/** What a build is doing: a step in words, and n of m where it counts. */
export const Progress = z.object({ step: z.string(), done: z.number(), total: z.number() });
export type Progress = z.infer<typeof Progress>;

export const Impression = z.object({
  id: z.uuid(),
  edition: z.uuid(),
  editionName: z.string(),
  output: Output,
  number: z.number().int(),
  state: ImpressionState,
  progress: Progress,
  problems: z.array(Problem),
  /** Pages, words, bytes, milliseconds. */
  figures: z.object({ pages: z.number(), topics: z.number(), bytes: z.number(), milliseconds: z.number() }),
  person: z.string(),
  createdAt: z.string(),
  finishedAt: z.string().nullable(),
});
export type Impression = z.infer<typeof Impression>;

/** One message of the event stream. */
export const LiveEvent = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('impression'), id: z.uuid(), state: ImpressionState, progress: Progress }),
  z.object({ kind: z.literal('item'), id: z.string(), version: z.number().int() }),
]);
export type LiveEvent = z.infer<typeof LiveEvent>;
