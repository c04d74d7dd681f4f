import MiniSearch from 'minisearch';
import { searchOptions, stemmer, searchWords, type SearchDocument } from '../../shared/terms.ts';

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

const data = window.siteData?.['search'] as { locale: string; index: Parameters<typeof MiniSearch.loadJS>[0] } | undefined;

if (data) {
  const options = searchOptions(data.locale);
  const engine = MiniSearch.loadJS<SearchDocument>(data.index, options);
  const stem = stemmer(data.locale);
  window.siteSearch = {
    find(query) {
      const all = engine.search(query);
      const hits = all.length > 0 ? all : engine.search(query, { combineWith: 'OR' });
      return hits.slice(0, 60).map((hit) => ({ href: String(hit.id), title: String(hit['title']), lead: String(hit['lead']) }));
    },
    matcher(query) {
      const wanted = searchWords(query, data.locale).map(stem);
      return (word) => {
        const root = stem(word.toLocaleLowerCase(data.locale));
        return wanted.some((one) => root === one || (one.length > 2 && root.startsWith(one)));
      };
    },
  };
}
