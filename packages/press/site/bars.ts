import type { Place } from '@ukiyo/core/compose';
import type { Words } from '@ukiyo/core/words';
import { tag, text, type Html } from '../html/index.ts';
import { addressOf } from './addresses.ts';
import { listedIn, whenOfPlace, wordsHtml, type HtmlContext } from '../topics/index.ts';
import { glossaryFile } from './files.ts';
import { languageName } from './languages.ts';

/** Filled by the reader's browser: without its script there is nothing to choose. */
export const readerChoices = (words: Words): Html =>
  tag(
    'details',
    { id: 'readers', 'data-all': words.all, hidden: true },
    tag('summary', {}, text(`${words.readers}: `), tag('span', { id: 'readers-now' })),
    tag('div', { id: 'readers-choices' }),
  );

/** The way to the same topic in other languages. */
export function languageChoice({
  publication,
  words,
  siblings = [],
  pages,
  address,
}: HtmlContext): {
  choice(anchor: string | undefined): readonly Html[];
  links(anchor: string | undefined): readonly Html[];
} {
  const onWeb = (locale: string, path: string): Html =>
    tag('link', {
      rel: 'alternate',
      hreflang: locale,
      href: new URL(path, addressOf(address, 'x')).href,
    });
  return {
    choice(anchor) {
      if (siblings.length === 0) return [];
      const links = siblings.map((one) =>
        tag(
          'li',
          {},
          tag(
            'a',
            {
              href: one.address(anchor),
              hreflang: one.locale,
              lang: one.locale,
              class: 'language',
            },
            text(languageName(one.locale)),
          ),
        ),
      );
      return [
        tag(
          'details',
          { class: 'languages' },
          tag('summary', { 'aria-label': words.language }, text(languageName(publication.locale))),
          tag('ul', {}, ...links),
        ),
      ];
    },
    links(anchor) {
      if (siblings.length === 0) return [];
      const own = (anchor === undefined ? undefined : pages.href(anchor)) ?? 'index.html';
      return [
        onWeb(publication.locale, own),
        ...siblings.map((one) => onWeb(one.locale, one.address(anchor))),
      ];
    },
  };
}

export function siteBar({
  publication,
  words,
  look,
  assets,
}: HtmlContext): (languages: readonly Html[]) => Html {
  const logo = look.logo ? assets.find(look.logo.asset) : undefined;
  return (languages) =>
    tag(
      'header',
      { class: 'bar' },
      tag(
        'button',
        {
          type: 'button',
          id: 'menu',
          class: 'menu',
          'aria-expanded': 'false',
          'aria-controls': 'side',
          'aria-label': words.menu,
        },
        text('☰'),
      ),
      tag(
        'a',
        { class: 'name', href: 'index.html' },
        ...(logo
          ? [tag('img', { class: 'logo', src: logo.href, alt: '', height: look.logo!.height })]
          : []),
        text(publication.facts.title),
      ),
      ...(look.caption === '' ? [] : [tag('span', { class: 'caption' }, text(look.caption))]),
      ...(look.links.length === 0
        ? []
        : [
            tag(
              'nav',
              { class: 'links', 'aria-label': words.related },
              ...look.links.map(({ label, href }) =>
                tag('a', { href, rel: 'noopener' }, text(label)),
              ),
            ),
          ]),
      tag(
        'div',
        { class: 'search', role: 'search' },
        tag('input', {
          type: 'search',
          id: 'search',
          placeholder: words.search,
          'aria-label': words.search,
          autocomplete: 'off',
        }),
        tag('div', { id: 'results', hidden: true }),
      ),
      ...languages,
    );
}

/** The first level of the contents, along the top. */
export function chapterBar({ publication, pages, words, readers }: HtmlContext): Html {
  const top = listedIn(publication.places, pages);
  const link = (place: Place): Html =>
    tag(
      'li',
      { class: readers.classOf(whenOfPlace(place)) },
      tag('a', { href: pages.href(place.anchor) }, wordsHtml(readers.labelOf(place))),
    );
  return tag(
    'nav',
    { id: 'chapters', 'aria-label': words.chapters },
    tag('ul', {}, ...top.map(link)),
  );
}

export function sidePanel({ words, publication }: HtmlContext): Html {
  const tab = (panel: string, label: string, on: boolean): Html =>
    tag(
      'button',
      {
        type: 'button',
        role: 'tab',
        id: `tab-${panel}`,
        'data-panel': panel,
        'aria-selected': String(on),
        'aria-controls': panel,
      },
      text(label),
    );
  return tag(
    'nav',
    { id: 'side', 'aria-label': words.menu },
    tag(
      'div',
      { class: 'side-head' },
      tag(
        'div',
        { class: 'tabs', role: 'tablist', 'aria-label': words.menu },
        tab('contents', words.contents, true),
        tab('words', words.index, false),
      ),
      ...(publication.glossary.length === 0
        ? []
        : [tag('a', { class: 'to-terms', href: glossaryFile }, text(words.glossary))]),
    ),
    tag(
      'div',
      { id: 'contents', role: 'tabpanel', 'aria-labelledby': 'tab-contents' },
      tag('p', {}, tag('a', { href: 'contents.html' }, text(words.contents))),
    ),
    tag('div', { id: 'words', role: 'tabpanel', 'aria-labelledby': 'tab-words', hidden: true }),
  );
}
