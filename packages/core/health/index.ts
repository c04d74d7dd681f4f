/**
 * Reports on a whole library.
 * In: the trees of its topics; out: groups of near copies that could be shared.
 */
export { copyIndex, type Copy, type CopyGroup, type CopyIndex } from './copies.ts';
