import { z } from 'zod';

/**
 * What a page of a site, shown in a frame of the workshop, tells it. The page runs in an origin of
 * its own, so this is all that passes between them, and it is read as anything from outside.
 */
export const FrameReport = z.discriminatedUnion('kind', [
  /** The page has loaded and takes orders. `page` is its path in the site. */
  z.object({ kind: z.literal('ready'), page: z.string().max(1000) }),
  /** The page has heard that it is to be loaded again, and does so. */
  z.object({ kind: z.literal('reloading') }),
  /** The reader has clicked on an element of the topic. */
  z.object({ kind: z.literal('go'), path: z.array(z.number().int().min(0)).max(200) }),
]);
export type FrameReport = z.infer<typeof FrameReport>;

/** What the workshop tells such a page; `press/site/client/proofed.ts` obeys. */
export type FrameOrder =
  /** Further rules of style, in place of those of that name before. */
  | { readonly kind: 'rules'; readonly name: string; readonly css: string }
  /** The page as it is being written; what is around its content stays. */
  | { readonly kind: 'content'; readonly html: string }
  /** Where the caret is. */
  | { readonly kind: 'mark'; readonly at: readonly number[] | undefined }
  | { readonly kind: 'reload' };
