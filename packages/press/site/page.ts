import type { Place, Publication } from '@ukiyo/core/compose';
import type { Words } from '@ukiyo/core/words';
import { join, raw, tag, text, type Html } from './html.ts';
import type { Pages } from './pages.ts';

export interface PageParts {
  readonly title: string;
  readonly description: string;
  readonly main: Html;
}

/** Makes whole pages of one site: head, bar, contents, the given content, and the way on. What every page has is written once. */
export function pageFrame(publication: Publication, words: Words): (parts: PageParts) => string {
  const { facts, locale } = publication;
  const direction = ['ar', 'he', 'fa', 'ur'].includes(new Intl.Locale(locale).language) ? 'rtl' : 'ltr';
  const styles = join([
    tag('link', { rel: 'stylesheet', href: 'style.css' }),
    tag('link', { rel: 'stylesheet', href: 'sheet.css' }),
    tag('script', { src: 'contents-data.js', defer: true }),
    tag('script', { src: 'site.js', defer: true }),
  ]);
  const skip = tag('a', { class: 'skip', href: '#content' }, text(words.skip));
  const bar = siteBar(facts.title, words);
  const side = sidePanel(words);
  const rights = tag('footer', { class: 'rights' }, text([facts.rights, facts.edition, facts.bookNumber].filter((part) => part !== '').join(' · ')));
  const messages = {
    'data-copy': words.copy,
    'data-copied': words.copied,
    'data-found': words.found,
    'data-none': words.nothingFound,
    'data-clear': words.clearHits,
    'data-narrow': words.narrow,
    'data-more': words.more,
  };
  return ({ title, description, main }) => {
    const head = tag(
      'head',
      {},
      tag('meta', { charset: 'utf-8' }),
      tag('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
      tag('title', {}, text(title === facts.title ? title : `${title} · ${facts.title}`)),
      ...(description === '' ? [] : [tag('meta', { name: 'description', content: description })]),
      styles,
    );
    const body = tag('body', messages, skip, bar, tag('div', { class: 'frame' }, side, tag('main', { id: 'content' }, main, rights)));
    return `<!doctype html>\n${tag('html', { lang: locale, dir: direction }, head, body)}\n`;
  };
}

function siteBar(title: string, words: Words): Html {
  return tag(
    'header',
    { class: 'bar' },
    tag('button', { type: 'button', id: 'menu', class: 'menu', 'aria-expanded': 'false', 'aria-controls': 'side', 'aria-label': words.menu }, text('☰')),
    tag('a', { class: 'name', href: 'index.html' }, text(title)),
    tag(
      'div',
      { class: 'search', role: 'search' },
      tag('input', { type: 'search', id: 'search', placeholder: words.search, 'aria-label': words.search, autocomplete: 'off' }),
      tag('div', { id: 'results', hidden: true }),
    ),
  );
}

function sidePanel(words: Words): Html {
  const tab = (panel: string, label: string, on: boolean): Html =>
    tag('button', { type: 'button', role: 'tab', id: `tab-${panel}`, 'data-panel': panel, 'aria-selected': String(on), 'aria-controls': panel }, text(label));
  return tag(
    'aside',
    { id: 'side', 'aria-label': words.menu },
    tag('div', { class: 'tabs', role: 'tablist', 'aria-label': words.menu }, tab('contents', words.contents, true), tab('words', words.index, false)),
    tag('nav', { id: 'contents', role: 'tabpanel', 'aria-labelledby': 'tab-contents' }, tag('p', {}, tag('a', { href: 'contents.html' }, text(words.contents)))),
    tag('div', { id: 'words', role: 'tabpanel', 'aria-labelledby': 'tab-words', hidden: true }),
  );
}

export function breadcrumb(place: Place, pages: Pages, words: Words): Html {
  const above: Place[] = [];
  for (let at = pages.parentOf.get(place.anchor); at; at = pages.parentOf.get(at.anchor)) above.unshift(at);
  const link = (href: string, label: string): Html => tag('li', {}, tag('a', { href }, text(label)));
  return tag('nav', { class: 'crumbs', 'aria-label': words.contents }, tag('ol', {}, link('index.html', words.home), ...above.map((one) => link(pages.href(one.anchor)!, one.label))));
}

export function placeCards(places: readonly Place[], pages: Pages): Html {
  return tag(
    'ul',
    { class: 'cards' },
    ...places.map((place) => tag('li', {}, tag('a', { href: pages.href(place.anchor) }, text(place.label)), ...(place.shortDescription === '' ? [] : [tag('p', {}, text(place.shortDescription))]))),
  );
}

/** Links to the page before and after, in reading order. */
export function wayOn(index: number, pages: Pages, words: Words): Html {
  const link = (place: Place | undefined, rel: 'prev' | 'next', word: string): Html =>
    place ? tag('a', { href: pages.href(place.anchor), rel }, tag('span', {}, text(word)), text(place.label)) : tag('span', {});
  return tag(
    'nav',
    { class: 'way', 'aria-label': `${words.previous}, ${words.following}` },
    link(pages.order[index - 1], 'prev', words.previous),
    link(pages.order[index + 1], 'next', words.following),
  );
}

/** Where the places of one page lead by where they stand; not to each other. */
export function relatedLinks(together: readonly Place[], publication: Publication, pages: Pages, words: Words): Html {
  const here = new Set(together.map(({ anchor }) => anchor));
  const links = [...new Set(together.flatMap(({ related }) => related))].flatMap((anchor) => {
    const href = pages.href(anchor);
    const target = publication.targets[anchor];
    return href === undefined || !target || here.has(anchor) ? [] : [tag('li', {}, tag('a', { href }, text(target.title)))];
  });
  return links.length === 0 ? raw('') : tag('section', { class: 'related' }, tag('h2', {}, text(words.related)), tag('ul', {}, join(links)));
}
