/**
 * Publication → a folder of Markdown; several publications → the page that leads to them.
 */
export { bundleIndex, type BundleEntry } from './bundle.ts';
export { markdownFiles } from './markdown.ts';
