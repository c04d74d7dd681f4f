/**
 * The content model as data.
 * In: element names and trees; out: what an element is called and for, what may stand in it,
 * whether a tree is valid, what can go at a place, new topics with guidance, and the canonical
 * text. One table (elements/) is the source of all of it.
 */
export {
  profilingAttributes,
  universalAttributes,
  type AttributeDefinition,
  type AttributeKind,
} from './attributes.ts';
export { canonicalLength, normalise, writeCanonical } from './canonical.ts';
export { emptyElement, follows, placeFor, symbolsIn } from './choices.ts';
export { textSymbol, type Expression } from './content.ts';
export { inlineStyleOf, signsAround, type InlineStyle } from './inline-style.ts';
export type { ElementDefinition } from './definition.ts';
export { isKept, keepingSurroundings, withSurroundings } from './kept.ts';
export { generalise, respecialise } from './specialising.ts';
export { classesOf, expandableStyle, isExpandable, stylesOf, withStyles } from './styles.ts';
export {
  attributeOf,
  attributesOf,
  basesOf,
  bodyOf,
  contentKindOf,
  contentOf,
  definitionOf,
  elementDefinitions,
  isA,
  isForeign,
  isInline,
  isMap,
  isPhrase,
  isTopic,
  labelOf,
  allowedIn,
  mayContain,
  topicKinds,
  type ContentKind,
  type TopicKind,
} from './table.ts';
export { guidanceTarget, mapTemplate, topicTemplate } from './templates.ts';
export { isValueAllowed, validate } from './validate.ts';
