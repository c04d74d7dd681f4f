/**
 * Publication → files.
 * In: a `Publication` and the bytes of the images it names; out: a PDF or the files of a help site,
 * with the problems found on the way. A renderer looks nothing up: all it needs stands in the
 * publication.
 */
export {
  createPrintEngine,
  layoutOf,
  printPublication,
  proofPublication,
  proofTopic,
  proofWhole,
  specimen,
  usualDesign,
  type ProofPages,
  type ProofWhole,
  type PrintDesign,
  type PrintEngine,
  type PrintResult,
} from './print/index.ts';
export { siteAddress, siteMemory, type SiteMemory } from './topics/index.ts';
export {
  languagesPage,
  languagesScript,
  siteFiles,
  type SiteOptions,
  type SiteResult,
} from './site/index.ts';
export { epub, onePage, type EpubOptions } from './book/index.ts';
export { bundleIndex, markdownFiles, type BundleEntry } from './plain/index.ts';
export {
  ditaFiles,
  editionPackage,
  lensPath,
  packagePath,
  type EditionSources,
  type PackagedAsset,
  type PackagedItem,
} from './package/index.ts';
export type { AssetFile, AssetSource } from './shared/index.ts';
