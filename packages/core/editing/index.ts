/**
 * Topics in the editor.
 * In: an element tree; out: a ProseMirror document whose schema is made from the grammar, and back,
 * without loss: what the schema cannot hold is kept as a closed block at its place.
 */
export {
  attributeFields,
  openElements,
  refusalOf,
  withAttributes,
  type OpenElement,
} from './details.ts';
export {
  borrowAt,
  borrowedAt,
  canBorrow,
  idsAround,
  pathOf,
  replaceElement,
  shareableAt,
  shareFrom,
  type Shareable,
} from './borrowing.ts';
export { elementOfAnswer, wordsOfAnswer, type Answer, type Choice } from './choice.ts';
export { choicesAt } from './choices.ts';
export { newTable, usualTable, type TableShape } from './starters.ts';
export {
  changeTableAt,
  gridOfNode,
  hasColumns,
  measuresOf,
  setColumnWidths,
} from './table-editing.ts';
export { structureGuard, unguarded } from './guard.ts';
export { editingKeys } from './keys.ts';
export {
  addImage,
  alternativeAt,
  canAddImage,
  imageFrom,
  imageMapAt,
  withAlternative,
  withImageMap,
  withWidth,
} from './images.ts';
export { answeredVariable, canUseVariable, variableAnswer, type VariableKind } from './keyed.ts';
export { canLink, linkAttributes, linkTo } from './linking.ts';
export { mediaAt, withMedia } from './media.ts';
export { noteAt, rewordNote } from './notes.ts';
export {
  dropPlaces,
  moveElementDown,
  moveElementIn,
  moveElementOut,
  moveElementTo,
  moveElementUp,
  removeElement,
} from './moving.ts';
export { headOf } from './head.ts';
export { fromEditor, type Locate } from './from-editor.ts';
export { editableNames, nodeName, special } from './names.ts';
export { editorSchema } from './schema.ts';
export { blockFrom, toEditor } from './to-editor.ts';
export {
  applySteps,
  changesStructure,
  documentFrom,
  stepTo,
  wordsOfStep,
  type AppliedSteps,
} from './steps.ts';
export {
  hasUnacknowledged,
  liveEditing,
  receiveSteps,
  unacknowledged,
  unacknowledgedWords,
  versionOf,
  type Received,
} from './live.ts';
export {
  findMatches,
  searchedLines,
  patternOf,
  placesOf,
  replaceFound,
  type Find,
  type Found,
  type Query,
} from './searching.ts';
export { phraseDocument, phraseOf } from './phrase.ts';
export { pasteBlocks, type Pasted } from './pasting.ts';
export { toggleValue, valuesOfVarying, varyingAt, varyingsAt, type Varying } from './varying.ts';
