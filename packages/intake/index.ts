/**
 * Outside formats → topics, maps, images and lenses of a library.
 * In: files as bytes; out: what would be written, with problems, before anything is. One folder a
 * format.
 */
export { decodeXml } from './package/decode.ts';
export { readFolder } from './package/folder.ts';
export {
  publishingFile,
  readPackage,
  type ImportedAsset,
  type ImportedItem,
  type PackageContent,
} from './package/package.ts';
export type { PackageFiles } from './package/files.ts';
export { unpackZip, zipLimits } from './package/zip.ts';
export { mediaTypeOf } from './package/media.ts';
export { readSourceFolder, sourceLimits } from './sources/folder.ts';
export {
  changedTwice,
  planReading,
  textHash,
  type FileState,
  type LinkedFile,
  type PlannedFile,
  type SourceDifference,
  type ReadingInput,
} from './sources/plan.ts';
