/**
 * What several outputs share: files of images, words of links, styles, search, text.
 */
export { asMet } from './terms-met.ts';
export { withDrawings } from './drawings.ts';
export { assetFileName, isImage, textOfFile, type AssetFile, type AssetSource } from './assets.ts';
export { linkWords, peerName, peerTitle } from './links.ts';
export { qrImage } from './qr.ts';
export { millimetres, pixels, wantedSize, type WantedSize } from './sizes.ts';
export { appliedStyles, noteName, usualSheet, type AppliedStyles } from './styles.ts';
export {
  searchFields,
  searchIn,
  searchOptions,
  searchWords,
  stemmer,
  type SearchDocument,
  type Synonyms,
} from './terms.ts';
export { dayOf, directionOf, printable } from './text.ts';
export { partLanguageOf, type PartLanguage } from './language.ts';
