/**
 * One tree for everything that is not print.
 * In: element names, attributes and words; out: nodes of hast, and those as HTML or XML. Renderers
 * build and change the tree; nothing edits what was serialised.
 */
export {
  elementsIn,
  isEmpty,
  join,
  htmlNodes,
  raw,
  seenFrom,
  tag,
  text,
  withHtmlAttribute,
  withOwn,
  type Html,
  type OwnAttributes,
} from './tree.ts';
export { serializeHtml, serializePage, serializeXml } from './serialize.ts';
