import type { Place, ResolvedElement } from '@ukiyo/core/compose';
import { anchorsLedTo, relatedLinks } from '../blocks/index.ts';
import { isEmpty, tag, text, type Html } from '../html/index.ts';
import { topicRenderer } from './content.ts';
import { classOf, ownOf, type HtmlContext } from './context.ts';
import { upFrom, type Pages } from './pages.ts';
import type { RelatedHtml } from './memory.ts';
import { formsOf, whenOfPlace, wordsHtml, type Form, type ReaderWords } from './readers.ts';

/** Whether a place stands on the page of another. */
export const isOn = (one: Place, page: Place, pages: Pages): boolean =>
  one !== page && pages.href(one.anchor)?.split('#')[0] === pages.href(page.anchor);

/** A place and all that stand on its page, in reading order. */
export const withJoined = (place: Place, page: Place, pages: Pages): Place[] => [
  place,
  ...place.children
    .filter((one) => isOn(one, page, pages))
    .flatMap((one) => withJoined(one, page, pages)),
];

/** Says that something is new or changed, where that is compared. */
export function newsMark(anchor: string, { publication, words }: HtmlContext): Html {
  const news = publication.news?.[anchor];
  return news === undefined
    ? []
    : tag('span', { class: 'news' }, text(news === 'new' ? words.isNew : words.isChanged));
}

/** The links that a topic on a page has itself, and for whom; for everybody without a class. */
interface OwnLinks {
  readonly content: ResolvedElement;
  readonly related: RelatedHtml;
  readonly whose: string | undefined;
}

/** A link that the map gives a topic, and for whom it is; for all readers without a class. */
interface MapLink {
  readonly group: string;
  readonly link: Html;
  readonly whose: Set<string | undefined>;
}

/** What a link to a place says that has no words of its own. */
function linkTextAt(anchor: string, { publication, readers }: HtmlContext): ReaderWords {
  const { linkText, title } = publication.targets[anchor]!;
  return linkText ?? readers.titleAt(anchor) ?? title;
}

/** Where the places of a page lead because of where they stand, each target once. */
function mapLinksOf(
  together: readonly Place[],
  known: ReadonlySet<string>,
  site: HtmlContext,
): readonly MapLink[] {
  const { pages, words, readers } = site;
  const links = new Map<string, MapLink>();
  for (const place of together) {
    // What stands on this page for some only leads on for those.
    const ofPlace = place === together[0] ? [] : whenOfPlace(place);
    for (const related of place.related) {
      const { group = words.related, when = [] } = related;
      const isInside = 'anchor' in related;
      const href = isInside ? pages.href(related.anchor) : related.href;
      if (href === undefined || (isInside && known.has(related.anchor))) continue;
      const title = isInside ? linkTextAt(related.anchor, site) : related.text;
      const found = links.get(href) ?? {
        group,
        link: tag('a', { href }, wordsHtml(title)),
        whose: new Set(),
      };
      const inside = isInside ? readers.whenAt(related.anchor) : [];
      links.set(href, {
        ...found,
        whose: found.whose.add(readers.classOf([...ofPlace, ...when, ...inside])),
      });
    }
  }
  return [...links.values()];
}

/** What the topics of a page lead to: first by their own links, then by where they stand. */
function relatedOf(together: readonly Place[], own: readonly OwnLinks[], site: HtmlContext): Html {
  const { publication, words } = site;
  const list = (title: string, items: Html, whose?: string): Html =>
    isEmpty(items)
      ? []
      : tag(
          'section',
          { class: classOf('related', whose) },
          tag('h2', {}, text(title)),
          tag('ul', {}, items),
        );
  const ofAll = own.filter(({ whose }) => whose === undefined);
  // Their own links and those of the map lead to each target once, and none to this page.
  const known = new Set([
    ...together.map(({ anchor }) => anchor),
    ...ofAll.flatMap(({ content }) => [...anchorsLedTo(relatedLinks(content), publication.links)]),
  ]);
  const links = mapLinksOf(together, known, site);
  const itemsOf = (group: string): Html =>
    links
      .filter((one) => one.group === group)
      .flatMap(({ link, whose }) =>
        (whose.has(undefined) ? [undefined] : [...whose]).map((one) =>
          tag('li', { class: one }, link),
        ),
      );
  const groups = [...new Set(links.map(({ group }) => group))];
  return [
    list(words.related, [ofAll.map(({ related }) => related.items), itemsOf(words.related)]),
    groups.filter((group) => group !== words.related).map((group) => list(group, itemsOf(group))),
    ofAll.map(({ related }) => related.lists),
    own
      .filter(({ whose }) => whose !== undefined)
      .map(({ related, whose }) => [
        list(words.related, related.items, whose),
        isEmpty(related.lists) ? [] : tag('div', { class: whose }, related.lists),
      ]),
  ];
}

/** The content of a place. */
interface Article {
  readonly article: Html;
  /** Links to other topics: its own, and those that the map gives it. */
  readonly related: Html;
  /** The list of its footnotes; nothing where there are none. */
  readonly footnotes: Html;
  readonly footnoteCount: number;
}

function articleAttributes({ anchor, content }: Place, { publication }: HtmlContext) {
  const { classes, others } = ownOf(content?.attributes ?? {}, publication.locale);
  const news = publication.news?.[anchor] === 'new' ? 'new' : undefined;
  return { class: classOf(news, ...classes), ...others };
}

/**
 * The content of a place, with that of all places on its page, the links that the map gives them,
 * and footnotes.
 * @param level of its heading
 * @param notesBefore footnotes that stand on the page already
 */
export function articleOf(place: Place, site: HtmlContext, level = 1, notesBefore = 0): Article {
  const { pages, words, readers } = site;
  const renderer = topicRenderer(site, upFrom(pages.href(place.anchor) ?? ''), notesBefore);
  const deeper = (one: number): number => Math.min(6, one + 1);
  const numbered = ({ anchor, number }: Place, title: Html): Html => [
    ...(number === undefined
      ? []
      : [tag('span', { class: 'number' }, readers.number(anchor, number)), text(' ')]),
    title,
  ];
  const heading = (one: Place): Html => [
    numbered(one, wordsHtml(readers.headingOf(one))),
    newsMark(one.anchor, site),
  ];
  const joined = (above: Place, at: number): Html =>
    above.children
      .filter((one) => isOn(one, place, pages))
      .map((one) =>
        tag(
          'section',
          {
            class: classOf('joined', readers.classOf(whenOfPlace(one))),
            id: one.anchor,
            ...ownOf(one.content?.attributes ?? {}, site.publication.locale).others,
          },
          one.hasHeading ? tag(`h${at}`, {}, heading(one)) : [],
          body(one, at),
        ),
      );
  const own: OwnLinks[] = [];
  const topic = ({ content }: Form, at: number, whose: string | undefined): Html => {
    if (!content) return [];
    const { html, related } = renderer.render(content, deeper(at));
    own.push({ content, related, whose });
    return html;
  };
  const body = (one: Place, at: number): Html => {
    const forms = formsOf(one);
    // Those who do not get the page as a whole need no condition in it.
    const ofPlace = one === place ? [] : whenOfPlace(one);
    const topics =
      forms.length === 1
        ? topic(one, at, readers.classOf(ofPlace))
        : forms.map(({ form, when }) =>
            tag(
              'div',
              {
                class: readers.classOf(when),
                id: form.anchor === one.anchor ? undefined : form.anchor,
              },
              topic(form, at, readers.classOf([...ofPlace, ...when])),
            ),
          );
    return [topics, joined(one, deeper(at))];
  };
  const article = tag(
    'article',
    articleAttributes(place, site),
    tag(`h${level}`, {}, heading(place)),
    body(place, level),
  );
  const { footnotes } = renderer;
  const notes = tag(
    'ol',
    {},
    ...footnotes.map((note, at) => tag('li', { id: `fn-${notesBefore + at + 1}` }, note)),
  );
  const list = site.isSite
    ? tag('section', { class: 'footnotes', 'aria-label': words.footnotes }, notes)
    : tag('div', { class: 'footnotes' }, notes);
  return {
    article,
    related: relatedOf(withJoined(place, place, pages), own, site),
    footnotes: footnotes.length === 0 ? [] : list,
    footnoteCount: footnotes.length,
  };
}
