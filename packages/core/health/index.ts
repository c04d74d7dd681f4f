/**
 * Reports on a whole library.
 * In: the trees of its topics; out: groups of near copies that could be shared.
 */
export { CopyIndex, type Copy, type CopyGroup } from './copies.ts';
