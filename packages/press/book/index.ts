/**
 * Publication → one file to read: an e-book (EPUB 3.3), or one HTML page with everything in it.
 */
export { epub, type EpubOptions } from './epub.ts';
export { onePage } from './one-page.ts';
