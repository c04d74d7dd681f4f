import { z } from 'zod';
import { EditionFields } from './publishing.ts';
import { KeptLook, KeptPlan, KeptSheet } from './styles.ts';

/**
 * What is published of a library and how it looks, in a package of it: maps, home pages and lenses
 * by their paths in the package, held editions by name. An impression since which changes are told
 * is of one project, and is not in it.
 */
export const PackagedPublishing = z.object({
  editions: z
    .array(
      EditionFields.omit({ since: true }).extend({
        holds: z.array(z.string().max(200)).max(50).default([]),
      }),
    )
    .default([]),
  sheets: z.array(KeptSheet.pick({ id: true, content: true })).default([]),
  plans: z.array(KeptPlan.pick({ id: true, content: true })).default([]),
  looks: z.array(KeptLook.pick({ id: true, content: true })).default([]),
});
export type PackagedPublishing = z.infer<typeof PackagedPublishing>;
