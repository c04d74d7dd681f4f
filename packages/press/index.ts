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
export { asProof } from './site/runtime.ts';
export { siteAddress } from './site/pages.ts';
export { siteMemory, type SiteMemory } from './site/memory.ts';
export { siteFiles, type SiteOptions, type SiteResult } from './site/index.ts';
export { languagesPage, languagesScript } from './site/languages.ts';
export { epub, type EpubOptions } from './book/epub.ts';
export { onePage } from './book/one-page.ts';
export { markdownFiles } from './plain/markdown.ts';
export { bundleIndex, type BundleEntry } from './plain/bundle.ts';
export {
  ditaFiles,
  lensPath,
  packagePath,
  type PackagedAsset,
  type PackagedItem,
} from './package/dita.ts';
export { editionPackage, type EditionSources } from './package/edition.ts';
export type { AssetFile, AssetSource } from './shared/assets.ts';
