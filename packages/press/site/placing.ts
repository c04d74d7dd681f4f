import type { Place } from '@ukiyo/core/compose';
import {
  listedIn,
  articleOf,
  isOn,
  whenOfPlace,
  withJoined,
  wordsHtml,
  type HtmlContext,
} from '../topics/index.ts';
import { tag, text, type Html } from '../html/index.ts';
import { contextScriptFile, helpFile } from './files.ts';
import { spaced } from './searching.ts';
import { breadcrumb, newsList, placeCards, wayOn, type PageParts } from './page.ts';

/** The page of a place, with all that stand on it. @param index of the page, in reading order */
export function placePage(place: Place, index: number, site: HtmlContext): PageParts {
  const { pages, words, readers } = site;
  const together = withJoined(place, place, pages);
  const children = together.flatMap((one) =>
    listedIn(one.children, pages).filter((child) => !isOn(child, place, pages)),
  );
  const { article, related, footnotes } = articleOf(place, site);
  const main = [
    breadcrumb(place, site),
    article,
    footnotes,
    ...(children.length === 0
      ? []
      : [
          tag(
            'section',
            { class: 'inside' },
            tag('h2', {}, text(words.inThisSection)),
            placeCards(children, site),
          ),
        ]),
    related,
    wayOn(index, site),
  ];
  return {
    title: spaced(readers.searchTitleOf(place)),
    description: place.shortDescription,
    metadata: place.metadata,
    main,
    anchor: place.anchor,
    path: pages.href(place.anchor)!,
    for: readers.numbersOf(whenOfPlace(place)),
  };
}

/**
 * A topic at the head of the home page; readers whom it is not for get what would stand there
 * without it.
 */
function openingWith(start: Place, otherwise: readonly Html[], site: HtmlContext): readonly Html[] {
  const { article, footnotes } = articleOf({ ...start, children: [] }, site);
  const whose = whenOfPlace(start);
  if (whose.length === 0) return [article, footnotes];
  const { readers } = site;
  return [
    tag('div', { class: readers.classOf(whose) }, article, footnotes),
    tag('div', { 'data-unless': readers.numbersOf(whose).join(' '), hidden: true }, ...otherwise),
  ];
}

export function homePage(site: HtmlContext): PageParts {
  const { facts, places } = site.publication;
  const top = listedIn(places, site.pages).filter((place) => site.pages.order.includes(place));
  const { start } = site;
  const titled = [
    tag('h1', {}, text(facts.title)),
    ...(facts.subtitle === '' ? [] : [tag('p', { class: 'subtitle' }, text(facts.subtitle))]),
    ...(facts.description === '' ? [] : [tag('p', { class: 'lead' }, text(facts.description))]),
  ];
  const main = tag(
    'div',
    { class: 'home' },
    ...(start ? openingWith(start, titled, site) : titled),
    placeCards(top, site),
    newsList(site),
  );
  return { title: facts.title, description: facts.description, main, path: 'index.html' };
}

export function contentsPage({ publication, pages, words, readers }: HtmlContext): PageParts {
  const list = (places: readonly Place[]): Html =>
    tag(
      'ul',
      {},
      ...listedIn(places, pages).map((place) =>
        tag(
          'li',
          {},
          tag(
            'a',
            { href: pages.href(place.anchor), class: readers.classOf(whenOfPlace(place)) },
            wordsHtml(readers.labelOf(place)),
          ),
          ...(listedIn(place.children, pages).length > 0 ? [list(place.children)] : []),
        ),
      ),
    );
  return {
    title: words.contents,
    description: '',
    path: 'contents.html',
    main: tag(
      'div',
      { class: 'all-contents' },
      tag('h1', {}, text(words.contents)),
      list(publication.places),
    ),
  };
}

/**
 * Where applications lead that know only the id of what they want; an unknown ID is
 * looked for.
 */
export function helpPage(site: HtmlContext): PageParts {
  const { main, ...rest } = missingPage(site);
  return { ...rest, main: [main, tag('script', { src: contextScriptFile })], path: helpFile };
}

/** Shown where an address leads nowhere; its script looks for the words of that address. */
export function missingPage({ words }: HtmlContext): PageParts {
  return {
    title: words.noSuchPage,
    description: '',
    main: tag(
      'div',
      { class: 'home', id: 'no-such-page' },
      tag('h1', {}, text(words.noSuchPage)),
      tag('p', {}, text(words.noSuchPageHelp)),
      tag('p', {}, tag('a', { href: 'contents.html' }, text(words.contents))),
    ),
  };
}
