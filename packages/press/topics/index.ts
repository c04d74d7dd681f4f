/**
 * The topics of a publication as trees of HTML, for every output that is made of it.
 * In: a composed publication and a style sheet; out: nodes of hast. A topic asks everything that is
 * not in it of what is around it (`questions.ts`), so that what it comes to can be kept.
 */
export { articleOf, isOn, newsMark, withJoined } from './article.ts';
export { topicRenderer } from './content.ts';
export { type Sibling, type HtmlContext } from './context.ts';
export { assetsShown } from './media.ts';
export { siteMemory, type SiteMemory } from './memory.ts';
export { layOutOnePage, layOutPages, listedIn, siteAddress, upFrom, type Filing } from './pages.ts';
export {
  formsOf,
  readersData,
  siteReaders,
  whenOfPlace,
  wordsHtml,
  type ReaderChoice,
  type SiteReaders,
  type ReadersData,
  type ReaderWords,
} from './readers.ts';
