import type { Place } from '@ukiyo/core/compose';
import { ownRules } from '@ukiyo/core/styles';
import type { Words } from '@ukiyo/core/words';
import type { SiteContext } from './context.ts';
import { join, raw, tag, text, type Html } from './html.ts';
import { glossaryFile } from './files.ts';
import { languageName } from './languages.ts';
import { standingAt, upFrom } from './pages.ts';
import { saidHtml, whenOfPlace } from './readers.ts';

export interface PageParts {
  readonly title: string;
  readonly description: string;
  readonly main: Html;
  /** The place that it is about. */
  readonly anchor?: string;
  /** Its file, where it has an address of its own. */
  readonly path?: string;
  /** Who gets the page, as numbers of conditions. */
  readonly for?: readonly number[];
}

/**
 * Makes whole pages of one site: head, bar, contents, the given content, and the way on. What every
 * page has is written once.
 */
export function pageFrame(site: SiteContext, hasChoices: boolean): (parts: PageParts) => string {
  const { publication, words, look, address } = site;
  const { facts, locale } = publication;
  const direction = directionOf(locale);
  const sheetLink = (href: string, media?: string): Html =>
    tag('link', { rel: 'stylesheet', href, media });
  const icon = look.favicon === null ? undefined : site.assets.find(look.favicon);
  const styles = join([
    sheetLink('style.css'),
    sheetLink('look.css'),
    sheetLink('tablet.css', `(max-width: ${look.tablet}px)`),
    sheetLink('phone.css', `(max-width: ${look.phone}px)`),
    sheetLink('sheet.css'),
    ...(look.css !== '' && ownRules(look) !== undefined ? [sheetLink('own.css')] : []),
    ...(icon ? [tag('link', { rel: 'icon', href: icon.href, type: icon.mediaType })] : []),
    // Before anything is drawn, so that nobody sees for a moment what is for others.
    ...(hasChoices
      ? [
          tag('script', { src: 'readers-data.js' }),
          tag('script', { src: 'readers.js' }),
          tag('script', { src: 'counted-data.js', defer: true }),
        ]
      : []),
    tag('script', { src: 'contents-data.js', defer: true }),
    tag('script', { src: 'site.js', defer: true }),
  ]);
  const skip = tag('a', { class: 'skip', href: '#content' }, text(words.skip));
  const bar = siteBar(site);
  const languages = languageChoice(site);
  const chapters = look.layout === 'chapters along the top' ? [chapterBar(site)] : [];
  const side = sidePanel(site);
  const edge = tag('div', {
    id: 'edge',
    role: 'separator',
    tabindex: 0,
    'aria-orientation': 'vertical',
    'aria-label': words.width,
    'aria-valuemin': 200,
    'aria-valuemax': 520,
    'aria-valuenow': 300,
  });
  const feedback =
    look.feedback === ''
      ? []
      : [
          tag(
            'p',
            { class: 'feedback' },
            tag(
              'a',
              {
                href: look.feedback.includes('@') ? `mailto:${look.feedback}` : look.feedback,
                id: 'feedback',
              },
              text(words.feedback),
            ),
          ),
        ];
  const about = [look.footer, facts.rights, facts.edition, facts.bookNumber]
    .filter((part) => part !== '')
    .join(' · ');
  const rights = tag('footer', { class: 'rights' }, text(about));
  const messages = {
    class: look.layout === 'tiles first' ? 'tiles' : undefined,
    'data-copy': words.copy,
    'data-copied': words.copied,
    'data-found': words.found,
    'data-none': words.nothingFound,
    'data-clear': words.clearHits,
    'data-narrow': words.narrow,
    'data-more': words.more,
    'data-here': words.onThisPage,
    'data-open-all': words.openAll,
    'data-close-all': words.closeAll,
    'data-enlarge': words.enlarge,
    'data-close': words.close,
    'data-new': words.isNew,
    'data-changed': words.isChanged,
  };
  const choices = hasChoices ? [readerChoices(words)] : [];
  const notForYou = hasChoices
    ? [
        tag(
          'p',
          { id: 'not-for-you', role: 'status', hidden: true },
          text(words.notForYou),
          raw(' '),
          tag('button', { type: 'button', id: 'show-all' }, text(words.everything)),
        ),
      ]
    : [];
  return ({ title, description, main, path, anchor, for: whose = [] }) => {
    const head = tag(
      'head',
      {},
      tag('meta', { charset: 'utf-8' }),
      tag('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
      tag('title', {}, text(title === facts.title ? title : `${title} · ${facts.title}`)),
      ...(description === '' ? [] : [tag('meta', { name: 'description', content: description })]),
      ...(path !== undefined && isWebAddress(address)
        ? [tag('link', { rel: 'canonical', href: addressOf(address, path) })]
        : []),
      ...(isWebAddress(address) ? languages.links(anchor) : []),
      styles,
    );
    const frame = tag(
      'div',
      { class: look.layout === 'tiles first' ? 'frame folded' : 'frame' },
      side,
      edge,
      tag('main', { id: 'content' }, ...notForYou, main, ...feedback, rights),
    );
    const body = tag(
      'body',
      {
        ...messages,
        'data-for': whose.join(' ') || undefined,
        'data-root': upFrom(path ?? '') || undefined,
      },
      skip,
      bar(languages.choice(anchor)),
      ...choices,
      ...chapters,
      frame,
    );
    return standingAt(
      path ?? '',
      `<!doctype html>\n${tag('html', { lang: locale, dir: direction }, head, body)}\n`,
    );
  };
}

/** In which direction a language is written. */
export const directionOf = (locale: string): 'rtl' | 'ltr' =>
  ['ar', 'he', 'fa', 'ur'].includes(new Intl.Locale(locale).language) ? 'rtl' : 'ltr';

export const isWebAddress = (address: string): boolean => /^https?:/iu.test(address);
/** Where a page of the site is found on the web. */
export const addressOf = (address: string, path: string): string =>
  `${address.replace(/\/$/u, '')}/${path === 'index.html' ? '' : path}`;

/** Filled by the reader's browser: without its script there is nothing to choose. */
const readerChoices = (words: Words): Html =>
  tag(
    'details',
    { id: 'readers', 'data-all': words.all, hidden: true },
    tag('summary', {}, text(`${words.readers}: `), tag('span', { id: 'readers-now' })),
    tag('div', { id: 'readers-choices' }),
  );

/** The way to the same topic in other languages. */
function languageChoice({ publication, words, siblings = [], pages, address }: SiteContext): {
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

function siteBar({
  publication,
  words,
  look,
  assets,
}: SiteContext): (languages: readonly Html[]) => Html {
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
function chapterBar({ publication, pages, words, readers }: SiteContext): Html {
  const top = publication.places.filter(
    (place) => place.inContents && pages.href(place.anchor) !== undefined,
  );
  const link = (place: Place): Html =>
    tag(
      'li',
      { class: readers.classOf(whenOfPlace(place)) },
      tag('a', { href: pages.href(place.anchor) }, saidHtml(readers.labelOf(place))),
    );
  return tag(
    'nav',
    { id: 'chapters', 'aria-label': words.chapters },
    tag('ul', {}, ...top.map(link)),
  );
}

function sidePanel({ words, publication }: SiteContext): Html {
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

export function breadcrumb(place: Place, { pages, words, readers }: SiteContext): Html {
  const above: Place[] = [];
  for (let at = pages.parentOf.get(place.anchor); at; at = pages.parentOf.get(at.anchor))
    above.unshift(at);
  const home = tag('li', {}, tag('a', { href: 'index.html' }, text(words.home)));
  const link = (one: Place): Html =>
    tag(
      'li',
      { class: readers.classOf(whenOfPlace(one)) },
      tag('a', { href: pages.href(one.anchor) }, saidHtml(readers.labelOf(one))),
    );
  return tag(
    'nav',
    { class: 'crumbs', 'aria-label': words.contents },
    tag('ol', {}, home, ...above.map(link)),
  );
}

/** Says that something is new or changed, where that is compared. */
export function newsMark(anchor: string, { publication, words }: SiteContext): Html {
  const news = publication.news?.[anchor];
  return news === undefined
    ? raw('')
    : tag('span', { class: 'news' }, text(news === 'new' ? words.isNew : words.isChanged));
}

/** What is new or changed, in reading order. */
export function newsList(site: SiteContext): Html {
  const { pages, words, readers } = site;
  const found = pages.order.filter(({ anchor }) => site.publication.news?.[anchor] !== undefined);
  const link = (place: Place): Html =>
    tag(
      'li',
      { class: readers.classOf(whenOfPlace(place)) },
      tag('a', { href: pages.href(place.anchor) }, saidHtml(readers.labelOf(place))),
      newsMark(place.anchor, site),
    );
  return found.length === 0
    ? raw('')
    : tag(
        'section',
        { class: 'since' },
        tag('h2', {}, text(words.news)),
        tag('ul', {}, ...found.map(link)),
      );
}

export function placeCards(places: readonly Place[], site: SiteContext): Html {
  const { pages, readers } = site;
  return tag(
    'ul',
    { class: 'cards' },
    ...places.map((place) => {
      const lead = readers.leadOf(place);
      return tag(
        'li',
        { class: readers.classOf(whenOfPlace(place)) },
        tag('a', { href: pages.href(place.anchor) }, saidHtml(readers.labelOf(place))),
        newsMark(place.anchor, site),
        ...(lead === '' ? [] : [tag('p', {}, saidHtml(lead))]),
      );
    }),
  );
}

/**
 * Links to the page before and after, in reading order: where the next is for some readers only,
 * also to those behind it, until one is for all.
 */
export function wayOn(index: number, { pages, words, readers }: SiteContext): Html {
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
          saidHtml(readers.labelOf(place)),
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

/** Where the places of one page lead by where they stand; not to each other. */
export function relatedLinks(
  together: readonly Place[],
  { publication, pages, words, readers }: SiteContext,
): Html {
  const here = new Set(together.map(({ anchor }) => anchor));
  const leads = new Map<string, Set<string | undefined>>();
  for (const place of together) {
    // What stands on this page for some only leads on for those.
    const around = place === together[0] ? [] : whenOfPlace(place);
    for (const { anchor, when = [] } of place.related) {
      if (here.has(anchor) || pages.href(anchor) === undefined) continue;
      leads.set(
        anchor,
        (leads.get(anchor) ?? new Set()).add(
          readers.classOf([...around, ...when, ...readers.whenAt(anchor)]),
        ),
      );
    }
  }
  const links = [...leads].flatMap(([anchor, whose]) => {
    const link = tag(
      'a',
      { href: pages.href(anchor) },
      saidHtml(readers.titleAt(anchor) ?? publication.targets[anchor]!.title),
    );
    return (whose.has(undefined) ? [undefined] : [...whose]).map((one) =>
      tag('li', { class: one }, link),
    );
  });
  return links.length === 0
    ? raw('')
    : tag(
        'section',
        { class: 'related' },
        tag('h2', {}, text(words.related)),
        tag('ul', {}, join(links)),
      );
}
