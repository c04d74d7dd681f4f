/** Drawings in SVG that come from outside: without anything that could act or fetch. */
export { cleanSvg, sizeOfSvg, usableSize } from './clean.ts';
export { isSafeAttribute, safeStyles } from './css.ts';
