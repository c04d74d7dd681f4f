import type { Place, ResolvedElement } from '@ukiyo/core/compose';
import { anchorsLedTo, relatedLinks } from '../blocks/index.ts';
import { isEmpty, tag, text, type Html } from '../html/index.ts';
import { topicRenderer } from './content.ts';
import { classOf, ownOf, type HtmlContext } from './context.ts';
import { upFrom, type Pages } from './pages.ts';
import type { RelatedHtml } from './memory.ts';
import { formsOf, whenOfPlace, wordsHtml, type Form } from './readers.ts';

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

/** What the topics of a page lead to: first by their own links, then by where they stand. */
function relatedOf(
  together: readonly Place[],
  own: readonly OwnLinks[],
  { publication, pages, words, readers }: HtmlContext,
): Html {
  const list = (items: Html, whose?: string): Html =>
    isEmpty(items)
      ? []
      : tag(
          'section',
          { class: classOf('related', whose) },
          tag('h2', {}, text(words.related)),
          tag('ul', {}, items),
        );
  const ofAll = own.filter(({ whose }) => whose === undefined);
  // Neither what stands here nor what the topics lead to themselves is led to once more.
  const known = new Set([
    ...together.map(({ anchor }) => anchor),
    ...ofAll.flatMap(({ content }) => [...anchorsLedTo(relatedLinks(content), publication.links)]),
  ]);
  const leads = new Map<string, Set<string | undefined>>();
  for (const place of together) {
    // What stands on this page for some only leads on for those.
    const ofPlace = place === together[0] ? [] : whenOfPlace(place);
    for (const { anchor, when = [] } of place.related) {
      if (known.has(anchor) || pages.href(anchor) === undefined) continue;
      leads.set(
        anchor,
        (leads.get(anchor) ?? new Set()).add(
          readers.classOf([...ofPlace, ...when, ...readers.whenAt(anchor)]),
        ),
      );
    }
  }
  const links = [...leads].flatMap(([anchor, whose]) => {
    const link = tag(
      'a',
      { href: pages.href(anchor) },
      wordsHtml(readers.titleAt(anchor) ?? publication.targets[anchor]!.title),
    );
    return (whose.has(undefined) ? [undefined] : [...whose]).map((one) =>
      tag('li', { class: one }, link),
    );
  });
  return [
    list([ofAll.map(({ related }) => related.items), links]),
    ofAll.map(({ related }) => related.lists),
    own
      .filter(({ whose }) => whose !== undefined)
      .map(({ related, whose }) => [
        list(related.items, whose),
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
