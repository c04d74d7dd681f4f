import MiniSearch, { type SearchResult } from 'minisearch';
import type { SearchedBySome } from '../searching.ts';
import { isForReader, shownWords } from './reader.ts';
import {
  searchIn,
  searchOptions,
  stemmer,
  searchWords,
  waysToSay,
  type SearchDocument,
  type Synonyms,
} from '../../shared/terms.ts';

/** Loaded when a reader first searches: the engine over the index that was built with the site. */
export interface SiteSearch {
  find(query: string): { readonly href: string; readonly title: string; readonly lead: string }[];
  /** Whether a word of the page is a form of a word that was searched for. */
  matcher(query: string): (word: string) => boolean;
}

declare global {
  interface Window {
    siteData?: Record<string, unknown>;
    siteSearch?: SiteSearch;
  }
}

const data = window.siteData?.['search'] as
  | {
      locale: string;
      only?: Readonly<Record<string, SearchedBySome>>;
      synonyms?: Synonyms;
      index: Parameters<typeof MiniSearch.loadJS>[0];
    }
  | undefined;

if (data) {
  const options = searchOptions(data.locale);
  const engine = MiniSearch.loadJS<SearchDocument>(data.index, options);
  const stem = stemmer(data.locale);
  const { only = {}, synonyms = [] } = data;
  /**
   * Whether the reader would find it by what is for him.
   * @param whole by every word of the query, or by one of them
   */
  const isFound = ({ id, terms, queryTerms }: SearchResult, whole: boolean): boolean => {
    const some = only[String(id)];
    if (!some) return true;
    if (!isForReader(some.w)) return false;
    // Words can be called as what every object has.
    const isSeen = (term: string): boolean =>
      !Object.hasOwn(some.terms, term) || some.terms[term]!.some(isForReader);
    const seen = terms.filter(isSeen);
    if (seen.length === terms.length || seen.length === 0) return seen.length > 0;
    const bySeen = (wanted: string): boolean => {
      const matched = terms.filter((term) => term.startsWith(wanted));
      return matched.length === 0 || matched.some(isSeen);
    };
    return whole ? queryTerms.every(bySeen) : queryTerms.some(bySeen);
  };
  window.siteSearch = {
    find(query) {
      return searchIn(engine, query, data.locale, { isFound, synonyms })
        .slice(0, 60)
        .map((hit) => {
          const said = only[String(hit.id)];
          return {
            href: String(hit.id),
            title: said ? shownWords(said.t) : String(hit['title']),
            lead: said ? shownWords(said.l) : String(hit['lead']),
          };
        });
    },
    matcher(query) {
      const wanted = waysToSay(query, data.locale, synonyms).flat(2).map(stem);
      return (word) => {
        const root = stem(searchWords(word, data.locale)[0] ?? word);
        return wanted.some((one) => root === one || (one.length > 2 && root.startsWith(one)));
      };
    },
  };
}
