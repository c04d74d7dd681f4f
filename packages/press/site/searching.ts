import type { Publication } from '@ukiyo/core/compose';
import { readableText } from '@ukiyo/core/library';
import MiniSearch from 'minisearch';
import { printable } from '../shared/text.ts';
import type { Pages } from './pages.ts';
import { searchOptions } from '../shared/terms.ts';

/** The search index of a site, as the script file that a page loads when its reader first searches. */
export function searchIndexScript(publication: Publication, pages: Pages): string {
  const search = new MiniSearch(searchOptions(publication.locale));
  search.addAll(
    pages.order
      .filter((place) => place.content)
      .map((place) => ({ id: pages.file(place.anchor), title: printable(place.label), lead: printable(place.shortDescription), text: printable(readableText(place.content!)) })),
  );
  return dataScript('search', { locale: publication.locale, index: search });
}

/** A script that hands data to the page; `<` never appears in it, so it cannot end the script early when it is put inline. */
export function dataScript(name: string, value: unknown): string {
  return `(window.siteData=window.siteData||{})[${JSON.stringify(name)}]=${JSON.stringify(value)
    .replace(/</gu, '\\u003c')
    .replace(/[\u2028\u2029]/gu, (character) => (character === '\u2028' ? '\\u2028' : '\\u2029'))};\n`;
}
