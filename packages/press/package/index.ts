/**
 * A library, or all that an edition is made of, → the files of a DITA package.
 */
export { ditaFiles, lensPath, packagePath, type PackagedAsset, type PackagedItem } from './dita.ts';
export { editionPackage, type EditionSources } from './edition.ts';
