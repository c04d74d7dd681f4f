import type { Metadata, Place } from '@ukiyo/core/compose';
import { newsMark, whenOfPlace, wordsHtml, type HtmlContext } from '../topics/index.ts';
import { tag, text, type Html } from '../html/index.ts';

export interface PageParts {
  readonly title: string;
  readonly description: string;
  readonly metadata?: Metadata | undefined;
  readonly main: Html;
  /** The place that it is about. */
  readonly anchor?: string;
  /** Its file, where it has an address of its own. */
  readonly path?: string;
  /** The readers who get the page, as numbers of conditions. */
  readonly for?: readonly number[];
}

export function breadcrumb(place: Place, { pages, words, readers }: HtmlContext): Html {
  const above: Place[] = [];
  for (let at = pages.parentOf.get(place.anchor); at; at = pages.parentOf.get(at.anchor))
    above.unshift(at);
  const home = tag('li', {}, tag('a', { href: 'index.html' }, text(words.home)));
  const link = (one: Place): Html =>
    tag(
      'li',
      { class: readers.classOf(whenOfPlace(one)) },
      tag('a', { href: pages.href(one.anchor) }, wordsHtml(readers.labelOf(one))),
    );
  return tag(
    'nav',
    { class: 'crumbs', 'aria-label': words.contents },
    tag('ol', {}, home, ...above.map(link)),
  );
}

/** What is new or changed, in reading order. */
export function newsList(site: HtmlContext): Html {
  const { pages, words, readers } = site;
  const found = pages.order.filter(({ anchor }) => site.publication.news?.[anchor] !== undefined);
  const link = (place: Place): Html =>
    tag(
      'li',
      { class: readers.classOf(whenOfPlace(place)) },
      tag('a', { href: pages.href(place.anchor) }, wordsHtml(readers.labelOf(place))),
      newsMark(place.anchor, site),
    );
  return found.length === 0
    ? []
    : tag(
        'section',
        { class: 'since' },
        tag('h2', {}, text(words.news)),
        tag('ul', {}, ...found.map(link)),
      );
}

export function placeCards(places: readonly Place[], site: HtmlContext): Html {
  const { pages, readers } = site;
  return tag(
    'ul',
    { class: 'cards' },
    ...places.map((place) => {
      const lead = readers.leadOf(place);
      return tag(
        'li',
        { class: readers.classOf(whenOfPlace(place)) },
        tag('a', { href: pages.href(place.anchor) }, wordsHtml(readers.labelOf(place))),
        newsMark(place.anchor, site),
        ...(lead === '' ? [] : [tag('p', {}, wordsHtml(lead))]),
      );
    }),
  );
}

/**
 * Links to the page before and after, in reading order: where the next is for some readers only,
 * also to those behind it, until one is for all.
 */
export function wayOn(index: number, { pages, words, readers }: HtmlContext): Html {
  const links = (offset: 1 | -1, rel: 'prev' | 'next', word: string): Html => {
    const found: Html[] = [];
    for (let at = index + offset; pages.order[at]; at += offset) {
      const place = pages.order[at]!;
      const whose = readers.classOf(whenOfPlace(place));
      found.push(
        tag(
          'a',
          { href: pages.href(place.anchor), rel, class: whose, hidden: found.length > 0 },
          tag('span', {}, text(word)),
          wordsHtml(readers.labelOf(place)),
        ),
      );
      if (whose === undefined) break;
    }
    return found.length === 0
      ? tag('span', {})
      : found.length === 1
        ? found[0]!
        : tag('div', { class: 'nearest' }, ...found);
  };
  return tag(
    'nav',
    { class: 'way', 'aria-label': `${words.previous}, ${words.following}` },
    links(-1, 'prev', words.previous),
    links(1, 'next', words.following),
  );
}
