import type { ResolvedElement } from '@ukiyo/core/compose';
import { isA } from '@ukiyo/core/grammar';
import { childElements } from '@ukiyo/core/markup';
import { blocksOf } from './blocks.ts';
import { pageContext, type SiteContext } from './context.ts';
import { join, raw, type Html } from './html.ts';

/** Renders the topics of one page. */
export interface TopicRenderer {
  /** @param level of the headings in the topic, 2 to 6 */
  render(content: ResolvedElement, level: number): Html;
  /** Of all topics rendered so far, in order. */
  readonly footnotes: readonly Html[];
}

export function topicRenderer(site: SiteContext): TopicRenderer {
  const context = pageContext(site);
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
