import type { Place } from '@ukiyo/core/compose';
import { tag, text, type Html } from '../html/index.ts';
import { topicRenderer } from './content.ts';
import { classOf, type HtmlContext } from './context.ts';
import { upFrom, type Pages } from './pages.ts';
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

/** Links that the map gives the places of one page, except to each other. */
function relatedLinks(
  together: readonly Place[],
  { publication, pages, words, readers }: HtmlContext,
): Html {
  const here = new Set(together.map(({ anchor }) => anchor));
  const leads = new Map<string, Set<string | undefined>>();
  for (const place of together) {
    // What stands on this page for some only leads on for those.
    const own = place === together[0] ? [] : whenOfPlace(place);
    for (const { anchor, when = [] } of place.related) {
      if (here.has(anchor) || pages.href(anchor) === undefined) continue;
      leads.set(
        anchor,
        (leads.get(anchor) ?? new Set()).add(
          readers.classOf([...own, ...when, ...readers.whenAt(anchor)]),
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
  return links.length === 0
    ? []
    : tag(
        'section',
        { class: 'related' },
        tag('h2', {}, text(words.related)),
        tag('ul', {}, links),
      );
}

/** The content of a place. */
interface Article {
  readonly article: Html;
  /** Links that the map gives it. */
  readonly related: Html;
  /** The list of its footnotes; nothing where there are none. */
  readonly footnotes: Html;
  readonly footnoteCount: number;
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
    numbered(one, wordsHtml(readers.labelOf(one))),
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
          },
          one.hasHeading ? tag(`h${at}`, {}, heading(one)) : [],
          body(one, at),
        ),
      );
  const topic = ({ content }: Form, at: number): Html =>
    content ? renderer.render(content, deeper(at)) : [];
  const body = (one: Place, at: number): Html => {
    const forms = formsOf(one);
    const topics =
      forms.length === 1
        ? topic(one, at)
        : forms.map(({ form, when }) =>
            tag(
              'div',
              {
                class: readers.classOf(when),
                id: form.anchor === one.anchor ? undefined : form.anchor,
              },
              topic(form, at),
            ),
          );
    return [topics, joined(one, deeper(at))];
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
    ...footnotes.map((note, at) => tag('li', { id: `fn-${notesBefore + at + 1}` }, note)),
  );
  const list = site.isSite
    ? tag('section', { class: 'footnotes', 'aria-label': words.footnotes }, notes)
    : tag('div', { class: 'footnotes' }, notes);
  return {
    article,
    related: relatedLinks(withJoined(place, place, pages), site),
    footnotes: footnotes.length === 0 ? [] : list,
    footnoteCount: footnotes.length,
  };
}
