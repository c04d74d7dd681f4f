import type { ResolvedElement } from '@ukiyo/core/compose';
import { relatedLinks, topicBlocks } from '../blocks/index.ts';
import { topicQuestions, hasSameAnswers, recording, type TopicQuestions } from './questions.ts';
import { renderingOf } from './blocks.ts';
import { pageContext, type HtmlContext } from './context.ts';
import { isEmpty, raw, seenFrom, serializeHtml, type Html } from '../html/index.ts';
import type { KeptTopic, KeptTopics, RelatedHtml } from './memory.ts';
import { relatedHtml } from './related.ts';

/** Renders the topics of one page. */
export interface TopicRenderer {
  /** @param level of the headings in the topic, 2 to 6 */
  render(content: ResolvedElement, level: number): RenderedTopic;
  /** Of all topics rendered so far, in order. */
  readonly footnotes: readonly Html[];
}

/** A topic, and its links to others. */
interface RenderedTopic {
  readonly html: Html;
  readonly related: RelatedHtml;
}

/** Where a topic is on its page. */
interface PagePosition {
  readonly level: number;
  readonly notesBefore: number;
  readonly up: string;
}

/**
 * @param up the way from the page to the site's folder, as `../`
 * @param notesBefore footnotes that stand on the page already
 */
export function topicRenderer(site: HtmlContext, up = '', notesBefore = 0): TopicRenderer {
  const questions = topicQuestions(site);
  const footnotes: Html[] = [];
  return {
    footnotes,
    render(content, level) {
      const position = { level, notesBefore: notesBefore + footnotes.length, up };
      const made = site.kept
        ? keptTopic(site.kept, content, { site, questions, position })
        : makeTopic(content, { site, questions, position });
      footnotes.push(...made.footnotes);
      return made;
    },
  };
}

/** What a topic is rendered in. */
interface TopicPlace {
  readonly site: HtmlContext;
  readonly questions: TopicQuestions;
  readonly position: PagePosition;
}

function keptTopic(
  kept: KeptTopics,
  content: ResolvedElement,
  { site, questions, position }: TopicPlace,
): Omit<KeptTopic, 'answers'> {
  const own = kept.get(content) ?? new Map<string, KeptTopic>();
  kept.set(content, own);
  const key = `${position.level} ${position.notesBefore} ${position.up}`;
  const known = own.get(key);
  if (known && hasSameAnswers(known.answers, questions)) return known;
  const recorder = recording(questions);
  const { html, footnotes, related } = makeTopic(content, {
    site,
    questions: recorder.questions,
    position,
  });
  const serialized = (part: Html): Html =>
    isEmpty(part) ? [] : raw(serializeHtml(seenFrom(part, position.up)));
  const made = {
    html: serialized(html),
    footnotes: footnotes.map(serialized),
    related: { items: serialized(related.items), lists: serialized(related.lists) },
    answers: recorder.answers,
  };
  own.set(key, made);
  return made;
}

function makeTopic(
  content: ResolvedElement,
  { site, questions, position }: TopicPlace,
): Omit<KeptTopic, 'answers'> {
  const rendering = renderingOf(pageContext(site, questions, { ...position, content }));
  const blocks = topicBlocks(content, rendering.normalizing);
  const { html, related } = rendering.styles.within(content, () => ({
    html: rendering.blocks(blocks),
    related: relatedHtml(rendering, relatedLinks(content)),
  }));
  return { html, related, footnotes: rendering.footnotes };
}
