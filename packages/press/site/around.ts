import { isDeepStrictEqual } from 'node:util';
import { allPlaces, type Publication, type ResolvedLink, type Target } from '@ukiyo/core/compose';
import type { ShownAsset, SiteAssets } from './media.ts';
import type { Pages } from './pages.ts';
import type { Readers, Said } from './readers.ts';

/** What a site is made of. */
export interface SiteParts {
  readonly publication: Publication;
  readonly pages: Pages;
  readonly assets: SiteAssets;
  readonly readers: Readers;
}

/**
 * What a topic can ask of the site around it. All that its text says of anything else comes from
 * here.
 */
export interface Around {
  link(key: string): ResolvedLink | undefined;
  target(anchor: string): Target | undefined;
  /** Its address, relative to the site's folder. */
  href(anchor: string): string | undefined;
  asset(id: string): ShownAsset | undefined;
  /** What an entry of the glossary says, where it says the same to every reader. */
  meaning(anchor: string): string | undefined;
  /** What a topic is called, where that depends on the reader. */
  title(anchor: string): Said | undefined;
  /** Who gets it, as numbers of conditions. */
  whose(anchor: string): readonly number[];
}

const known = new WeakMap<SiteParts, Around>();

export function aroundTopics(site: SiteParts): Around {
  const found = known.get(site) ?? makeAround(site);
  known.set(site, found);
  return found;
}

function makeAround({ publication, pages, assets, readers }: SiteParts): Around {
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
export type Heard = readonly (readonly [question: keyof Around, about: string, answer: unknown])[];

/** The same, and everything that is asked of it. */
export function listening(around: Around): { readonly around: Around; readonly heard: Heard } {
  const heard: [keyof Around, string, unknown][] = [];
  const asked = new Set<string>();
  const listen =
    <Answer>(question: keyof Around, ask: (about: string) => Answer) =>
    (about: string): Answer => {
      const answer = ask(about);
      const key = `${question} ${about}`;
      if (!asked.has(key)) heard.push([question, about, answer]);
      asked.add(key);
      return answer;
    };
  const { link, target, href, asset, meaning, title, whose } = around;
  return {
    heard,
    around: {
      link: listen('link', link),
      target: listen('target', target),
      href: listen('href', href),
      asset: listen('asset', asset),
      meaning: listen('meaning', meaning),
      title: listen('title', title),
      whose: listen('whose', whose),
    },
  };
}

/** Whether all that was heard would be said again. */
export const isStillSo = (heard: Heard, around: Around): boolean =>
  heard.every(([question, about, answer]) => isDeepStrictEqual(around[question](about), answer));
