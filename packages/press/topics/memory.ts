import type { ResolvedElement } from '@ukiyo/core/compose';
import type { StyleSheet } from '@ukiyo/core/styles';
import type { TopicAnswers, SiteParts } from './questions.ts';
import type { Html } from '../html/index.ts';

/** The links of a topic itself. */
export interface RelatedHtml {
  /** Items of the list of related topics. */
  readonly items: Html;
  /** Lists with an order and a title of their own. */
  readonly lists: Html;
}

/**
 * A topic as it was rendered, serialised, with the answers that it got about the site around it: it
 * is rendered again when one of them is another.
 */
export interface KeptTopic {
  readonly html: Html;
  readonly footnotes: readonly Html[];
  readonly related: RelatedHtml;
  readonly answers: TopicAnswers;
}

/** By the content of a topic, then by how it stands on its page. */
export type KeptTopics = WeakMap<ResolvedElement, Map<string, KeptTopic>>;

/** What decides how topics look, other than themselves and what they ask. */
interface Kind extends Pick<SiteParts, 'publication' | 'readers'> {
  readonly sheet: StyleSheet;
  readonly isSite: boolean;
  readonly traced?: string;
}

/**
 * Remembers the topics of sites between builds, so that after a change only what changed is made
 * again.
 */
export interface SiteMemory {
  topicsOf(site: Kind): KeptTopics;
}

/**
 * Of so many sites that differ in more than their topics: in style sheet, language, or in whom they
 * are for.
 */
const mostSites = 8;

export function siteMemory(): SiteMemory {
  const sites = new Map<string, KeptTopics>();
  return {
    topicsOf({ publication, sheet, isSite, traced, readers }) {
      const basis = JSON.stringify([
        publication.locale,
        sheet,
        isSite,
        traced,
        readers.conditions,
        publication.open.length > 0,
      ]);
      const topics: KeptTopics = sites.get(basis) ?? new WeakMap();
      // The one that was needed last is the last to go.
      sites.delete(basis);
      sites.set(basis, topics);
      for (const oldest of [...sites.keys()].slice(0, -mostSites)) sites.delete(oldest);
      return topics;
    },
  };
}
