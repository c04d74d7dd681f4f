import type { ResolvedElement } from '@ukiyo/core/compose';
import { isA } from '@ukiyo/core/grammar';
import { childElements } from '@ukiyo/core/markup';
import { aroundTopics, isStillSo, listening, type Around } from './around.ts';
import { blocksOf } from './blocks.ts';
import { pageContext, type SiteContext } from './context.ts';
import { join, raw, type Html } from './html.ts';
import type { KeptTopic, KeptTopics } from './memory.ts';

/** Renders the topics of one page. */
export interface TopicRenderer {
  /** @param level of the headings in the topic, 2 to 6 */
  render(content: ResolvedElement, level: number): Html;
  /** Of all topics rendered so far, in order. */
  readonly footnotes: readonly Html[];
}

/** How a topic stands on its page. */
interface Standing {
  readonly level: number;
  readonly notesBefore: number;
}

export function topicRenderer(site: SiteContext): TopicRenderer {
  const around = aroundTopics(site);
  const footnotes: Html[] = [];
  return {
    footnotes,
    render(content, level) {
      const standing = { level, notesBefore: footnotes.length };
      const made = site.kept
        ? keptTopic(site.kept, content, standing, site, around)
        : makeTopic(content, standing, site, around);
      footnotes.push(...made.footnotes);
      return made.html;
    },
  };
}

function keptTopic(
  kept: KeptTopics,
  content: ResolvedElement,
  standing: Standing,
  site: SiteContext,
  around: Around,
): Omit<KeptTopic, 'heard'> {
  const own = kept.get(content) ?? new Map<string, KeptTopic>();
  kept.set(content, own);
  const key = `${standing.level} ${standing.notesBefore}`;
  const known = own.get(key);
  if (known && isStillSo(known.heard, around)) return known;
  const ear = listening(around);
  const made = makeTopic(content, standing, site, ear.around);
  own.set(key, { ...made, heard: ear.heard });
  return made;
}

function makeTopic(
  content: ResolvedElement,
  standing: Standing,
  site: SiteContext,
  around: Around,
): Omit<KeptTopic, 'heard'> {
  const context = pageContext(site, around, standing);
  const { blocks, block } = blocksOf(context);
  const html = context.worn.within(content, () =>
    join(
      childElements(content).map((part) =>
        part.name === 'title' || part.name === 'glossterm'
          ? raw('')
          : isA(part.name, 'body') || part.name === 'abstract'
            ? blocks(part.children, 0)
            : block(part, 0),
      ),
    ),
  );
  return { html, footnotes: context.footnotes };
}
