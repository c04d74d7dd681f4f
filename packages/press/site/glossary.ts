import type { ResolvedElement } from '@ukiyo/core/compose';
import { formsOf, topicRenderer, wordsHtml, type HtmlContext } from '../topics/index.ts';
import { isEmpty, tag, text, type Html } from '../html/index.ts';
import { glossaryFile } from './files.ts';
import type { PageParts } from './page.ts';

/** All terms with what they mean, one after the other. */
export function glossaryPage(site: HtmlContext): PageParts {
  const { publication, pages, words, readers } = site;
  const renderer = topicRenderer(site);
  const meaningOf = (content: ResolvedElement): Html => {
    const { html, related } = renderer.render(content, 2);
    return [html, isEmpty(related.items) ? [] : tag('ul', {}, related.items), related.lists];
  };
  const places = new Map(pages.shown.map((place) => [place.anchor, place]));
  const entries = publication.glossary.flatMap(({ anchor, term: word }) => {
    const outer = readers.whenAt(anchor);
    const place = places.get(anchor);
    const forms = place ? formsOf(place) : [];
    const href = pages.href(anchor);
    const said = wordsHtml(readers.titleAt(anchor) ?? word);
    const term = tag(
      'dt',
      { class: readers.classOf(outer) },
      href === undefined ? said : tag('a', { href }, said),
    );
    return [
      term,
      ...forms.flatMap(({ form, when }) =>
        form.content
          ? [tag('dd', { class: readers.classOf([...outer, ...when]) }, meaningOf(form.content))]
          : [],
      ),
    ];
  });
  return {
    title: words.glossary,
    description: '',
    path: glossaryFile,
    main: tag(
      'article',
      { class: 'all-terms' },
      tag('h1', {}, text(words.glossary)),
      tag('dl', {}, ...entries),
    ),
  };
}
