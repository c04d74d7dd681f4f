/**
 * Content of web pages, word processors and spreadsheets as content of topics.
 * In: a tree with the names of HTML, as a browser has read it; out: blocks of the content model,
 * and what was left out. Local formatting is dropped; structure and links are kept.
 */
export { contentOfHtml, type HtmlContent } from './content.ts';
