import type { IndexEntry, Place } from '@ukiyo/core/compose';
import { listedIn, whenOfPlace, type ReaderWords, type HtmlContext } from '../topics/index.ts';

/** An entry of the contents as the page's script gets it. */
export interface ContentsData {
  readonly h: string;
  readonly t: ReaderWords;
  readonly n?: string;
  /** Its anchor, where its number depends on the reader. */
  readonly a?: string;
  /** The readers who get it, as numbers of conditions. */
  readonly w?: readonly number[];
  /** Whether it is new or changed. */
  readonly m?: 'new' | 'changed';
  readonly c?: readonly ContentsData[];
}

export function contentsData(places: readonly Place[], site: HtmlContext): ContentsData[] {
  const { pages, readers } = site;
  return listedIn(places, pages).map((place) => {
    const inner = contentsData(place.children, site);
    const whose = readers.numbersOf(whenOfPlace(place));
    const news = site.publication.news?.[place.anchor];
    return {
      h: pages.href(place.anchor)!,
      t: readers.labelOf(place),
      ...(place.number === undefined
        ? {}
        : {
            n: place.number,
            ...(site.publication.open.length === 0 ? {} : { a: place.anchor }),
          }),
      ...(whose.length === 0 ? {} : { w: whose }),
      ...(news === undefined ? {} : { m: news }),
      ...(inner.length === 0 ? {} : { c: inner }),
    };
  });
}

/** A word of the index with where it leads. */
export interface WordData {
  readonly t: string;
  readonly d: number;
  readonly h: readonly (readonly [
    href: string,
    title: ReaderWords,
    conditions?: readonly number[],
  ])[];
  readonly s?: string;
}

export function wordsData({ publication, pages, words, readers }: HtmlContext): WordData[] {
  const placeOf = (anchor: string): string => {
    const own = anchor.split('--')[0]!;
    return publication.targets[anchor]?.place ?? publication.targets[own]?.place ?? own;
  };
  const titleOf = (anchor: string): ReaderWords => {
    const place = placeOf(anchor);
    return readers.titleAt(place) ?? publication.targets[place]?.title ?? place;
  };
  const hrefOf = (anchor: string): string | undefined => {
    const page = pages.href(anchor);
    if (page !== undefined) return page;
    const file = pages.href(placeOf(anchor));
    return file === undefined ? undefined : `${file.split('#')[0]}#${anchor}`;
  };
  const flatten = (entries: readonly IndexEntry[], depth: number): WordData[] =>
    entries.flatMap((entry) => {
      const sees = [
        ...(entry.see.length > 0 ? [`${words.see} ${entry.see.join('; ')}`] : []),
        ...(entry.seeAlso.length > 0 ? [`${words.seeAlso} ${entry.seeAlso.join('; ')}`] : []),
      ];
      const links = entry.locators.flatMap(({ anchor, when = [] }): WordData['h'] => {
        const href = hrefOf(anchor);
        const whose = readers.numbersOf([...readers.whenIn(anchor), ...when]);
        return href === undefined
          ? []
          : [whose.length === 0 ? [href, titleOf(anchor)] : [href, titleOf(anchor), whose]];
      });
      return [
        { t: entry.term, d: depth, h: links, ...(sees.length === 0 ? {} : { s: sees.join('; ') }) },
        ...flatten(entry.entries, depth + 1),
      ];
    });
  return publication.index.flatMap((group) => flatten(group.entries, 0));
}
