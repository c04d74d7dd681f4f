import { isDeepStrictEqual } from 'node:util';
import { allPlaces, type Publication, type ResolvedLink, type Target } from '@ukiyo/core/compose';
import type { ShownAsset, SiteAssets } from './media.ts';
import type { Pages } from './pages.ts';
import type { SiteReaders, ReaderWords } from './readers.ts';

/** What a site is made of. */
export interface SiteParts {
  readonly publication: Publication;
  readonly pages: Pages;
  readonly assets: SiteAssets;
  readonly readers: SiteReaders;
}

/**
 * What a topic can ask of the site around it. All that its text says of anything else comes from
 * here.
 */
export interface TopicQuestions {
  link(key: string): ResolvedLink | undefined;
  target(anchor: string): Target | undefined;
  /** Its address, relative to the site's folder. */
  href(anchor: string): string | undefined;
  asset(id: string): ShownAsset | undefined;
  /** What an entry of the glossary says, where it says the same to every reader. */
  meaning(anchor: string): string | undefined;
  /** What a topic is called, where that depends on the reader. */
  title(anchor: string): ReaderWords | undefined;
  /** The readers who get it, as numbers of conditions. */
  whose(anchor: string): readonly number[];
}

const known = new WeakMap<SiteParts, TopicQuestions>();

export function topicQuestions(site: SiteParts): TopicQuestions {
  const found = known.get(site) ?? makeQuestions(site);
  known.set(site, found);
  return found;
}

function makeQuestions({ publication, pages, assets, readers }: SiteParts): TopicQuestions {
  const meanings = new Map(
    allPlaces(publication.places).flatMap(({ anchor, content, others, shortDescription }) =>
      content?.name === 'glossentry' && !others ? [[anchor, shortDescription] as const] : [],
    ),
  );
  return {
    link: (key) => publication.links[key],
    target: (anchor) => publication.targets[anchor],
    href: pages.href,
    asset: assets.find,
    meaning: (anchor) => meanings.get(anchor),
    title: readers.titleAt,
    whose: (anchor) => readers.numbersOf(readers.whenAt(anchor)),
  };
}

/** What was asked, and what the answer was. */
export type TopicAnswers = readonly (readonly [
  question: keyof TopicQuestions,
  about: string,
  answer: unknown,
])[];

/** The same questions, with a record of what is asked and answered. */
export function recording(questions: TopicQuestions): {
  readonly questions: TopicQuestions;
  readonly answers: TopicAnswers;
} {
  const answers: [keyof TopicQuestions, string, unknown][] = [];
  const asked = new Set<string>();
  const record =
    <Answer>(question: keyof TopicQuestions, ask: (about: string) => Answer) =>
    (about: string): Answer => {
      const answer = ask(about);
      const key = `${question} ${about}`;
      if (!asked.has(key)) answers.push([question, about, answer]);
      asked.add(key);
      return answer;
    };
  const { link, target, href, asset, meaning, title, whose } = questions;
  return {
    answers,
    questions: {
      link: record('link', link),
      target: record('target', target),
      href: record('href', href),
      asset: record('asset', asset),
      meaning: record('meaning', meaning),
      title: record('title', title),
      whose: record('whose', whose),
    },
  };
}

/** Whether every question would be answered as before. */
export const hasSameAnswers = (answers: TopicAnswers, questions: TopicQuestions): boolean =>
  answers.every(([question, about, answer]) =>
    isDeepStrictEqual(questions[question](about), answer),
  );
