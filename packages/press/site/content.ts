import type { Publication, ResolvedElement } from '@ukiyo/core/compose';
import { isA } from '@ukiyo/core/grammar';
import { childElements } from '@ukiyo/core/markup';
import type { StyleSheet } from '@ukiyo/core/styles';
import type { Words } from '@ukiyo/core/words';
import { blocksOf } from './blocks.ts';
import { pageContext } from './context.ts';
import { join, raw, type Html } from './html.ts';
import type { SiteAssets } from './media.ts';
import type { Pages } from './pages.ts';

/** Renders the topics of one page. */
export interface TopicRenderer {
  /** @param level of the headings in the topic, 2 to 6 */
  render(content: ResolvedElement, level: number): Html;
  /** Of all topics rendered so far, in order. */
  readonly footnotes: readonly Html[];
}

export function topicRenderer(publication: Publication, pages: Pages, assets: SiteAssets, words: Words, sheet: StyleSheet): TopicRenderer {
  const context = pageContext(publication, pages, assets, words, sheet);
  const { blocks, block } = blocksOf(context);
  return {
    footnotes: context.footnotes,
    render(content, level) {
      context.headingTag = `h${level}`;
      return context.worn.within(content, () =>
        join(
          childElements(content).map((part) =>
            part.name === 'title' || part.name === 'glossterm' ? raw('') : isA(part.name, 'body') || part.name === 'abstract' ? blocks(part.children, 0) : block(part, 0),
          ),
        ),
      );
    },
  };
}
