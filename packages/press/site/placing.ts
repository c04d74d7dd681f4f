import type { Place } from '@ukiyo/core/compose';
import { topicRenderer } from './content.ts';
import type { SiteContext } from './context.ts';
import { join, raw, tag, text, type Html } from './html.ts';
import { contextScriptFile, helpFile } from './files.ts';
import {
  breadcrumb,
  newsList,
  newsMark,
  placeCards,
  relatedLinks,
  wayOn,
  type PageParts,
} from './page.ts';
import type { Pages } from './pages.ts';
import { formsOf, saidHtml, whenOfPlace, type Form } from './readers.ts';

/**
 * What is said at a place, with all that stand on its page, where it leads by where it stands, and
 * its footnotes.
 * @param level of its heading
 */
export function articleOf(
  place: Place,
  site: SiteContext,
  level = 1,
): { readonly article: Html; readonly related: Html; readonly footnotes: Html } {
  const { pages, words, readers } = site;
  const renderer = topicRenderer(site);
  const deeper = (one: number): number => Math.min(6, one + 1);
  const numbered = ({ anchor, number }: Place, title: Html): Html =>
    join([
      ...(number === undefined
        ? []
        : [tag('span', { class: 'number' }, readers.number(anchor, number)), raw(' ')]),
      title,
    ]);
  const heading = (one: Place): Html =>
    join([numbered(one, saidHtml(readers.labelOf(one))), newsMark(one.anchor, site)]);
  const joined = (above: Place, at: number): Html =>
    join(
      above.children
        .filter((one) => isOn(one, place, pages))
        .map((one) =>
          tag(
            'section',
            {
              class: ['joined', readers.classOf(whenOfPlace(one))].filter(Boolean).join(' '),
              id: one.anchor,
            },
            one.hasHeading ? tag(`h${at}`, {}, heading(one)) : raw(''),
            body(one, at),
          ),
        ),
    );
  const topic = ({ content }: Form, at: number): Html =>
    content ? renderer.render(content, deeper(at)) : raw('');
  const body = (one: Place, at: number): Html => {
    const forms = formsOf(one);
    const topics =
      forms.length === 1
        ? topic(one, at)
        : join(
            forms.map(({ form, when }) =>
              tag(
                'div',
                {
                  class: readers.classOf(when),
                  id: form.anchor === one.anchor ? undefined : form.anchor,
                },
                topic(form, at),
              ),
            ),
          );
    return join([topics, joined(one, deeper(at))]);
  };
  const article = tag(
    'article',
    { class: site.publication.news?.[place.anchor] === 'new' ? 'new' : undefined },
    tag(`h${level}`, {}, heading(place)),
    body(place, level),
  );
  const { footnotes } = renderer;
  const notes = tag(
    'ol',
    {},
    ...footnotes.map((note, at) => tag('li', { id: `fn-${at + 1}` }, note)),
  );
  const list = site.isSite
    ? tag('section', { class: 'footnotes', 'aria-label': words.footnotes }, notes)
    : tag('div', { class: 'footnotes' }, notes);
  return {
    article,
    related: relatedLinks(withJoined(place, place, pages), site),
    footnotes: footnotes.length === 0 ? raw('') : list,
  };
}

/** The page of a place, with all that stand on it. @param index of the page, in reading order */
export function placePage(place: Place, index: number, site: SiteContext): PageParts {
  const { pages, words, readers } = site;
  const together = withJoined(place, place, pages);
  const children = together.flatMap((one) =>
    one.children.filter((child) => child.inContents && !isOn(child, place, pages)),
  );
  const { article, related, footnotes } = articleOf(place, site);
  const main = join([
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
  ]);
  return {
    title: place.label,
    description: place.shortDescription,
    main,
    anchor: place.anchor,
    path: pages.href(place.anchor)!,
    for: readers.numbersOf(whenOfPlace(place)),
  };
}

/** Whether a place stands on the page of another. */
const isOn = (one: Place, page: Place, pages: Pages): boolean =>
  one !== page && pages.href(one.anchor)?.split('#')[0] === pages.href(page.anchor);

/** A place and all that stand on its page, in reading order. */
const withJoined = (place: Place, page: Place, pages: Pages): Place[] => [
  place,
  ...place.children
    .filter((one) => isOn(one, page, pages))
    .flatMap((one) => withJoined(one, page, pages)),
];

/**
 * A topic at the head of the home page; readers whom it is not for get what would stand there
 * without it.
 */
function openingWith(start: Place, otherwise: readonly Html[], site: SiteContext): readonly Html[] {
  const { article, footnotes } = articleOf({ ...start, children: [] }, site);
  const whose = whenOfPlace(start);
  if (whose.length === 0) return [article, footnotes];
  const { readers } = site;
  return [
    tag('div', { class: readers.classOf(whose) }, article, footnotes),
    tag('div', { 'data-unless': readers.numbersOf(whose).join(' '), hidden: true }, ...otherwise),
  ];
}

export function homePage(site: SiteContext): PageParts {
  const { facts, places } = site.publication;
  const top = places.filter((place) => place.inContents && site.pages.order.includes(place));
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

export function contentsPage({ publication, pages, words, readers }: SiteContext): PageParts {
  const list = (places: readonly Place[]): Html =>
    tag(
      'ul',
      {},
      ...places
        .filter((place) => place.inContents && pages.href(place.anchor) !== undefined)
        .map((place) =>
          tag(
            'li',
            {},
            tag(
              'a',
              { href: pages.href(place.anchor), class: readers.classOf(whenOfPlace(place)) },
              saidHtml(readers.labelOf(place)),
            ),
            ...(place.children.some((child) => child.inContents) ? [list(place.children)] : []),
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
 * Where applications lead that know only the id of what they want; an id that nobody knows is
 * looked for.
 */
export function helpPage(site: SiteContext): PageParts {
  const { main, ...rest } = missingPage(site);
  return { ...rest, main: join([main, tag('script', { src: contextScriptFile })]), path: helpFile };
}

/** Shown where an address leads nowhere; its script looks for the words of that address. */
export function missingPage({ words }: SiteContext): PageParts {
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
