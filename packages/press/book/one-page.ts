import type { Place, Publication } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import { lookRules, ownRules } from '@ukiyo/core/styles';
import { wordsFor } from '@ukiyo/core/words';
import { serializePage, tag, text, type Html } from '../html/index.ts';
import { directionOf, withDrawings, type AssetSource } from '../shared/index.ts';
import {
  listedIn,
  articleOf,
  assetsShown,
  layOutOnePage,
  siteReaders,
  type HtmlContext,
} from '../topics/index.ts';
import { sheetRules, siteRuntime, usualSite, type SiteOptions } from '../site/index.ts';

const dataAddress = (mediaType: string, bytes: Uint8Array): string =>
  `data:${mediaType};base64,${Buffer.from(bytes).toString('base64')}`;

/**
 * Publication → one HTML file that needs nothing beside it: images, faces and styles are in it; no
 * script.
 * @returns problems `image.unreadable` (the image is left out)
 */
export function onePage(
  publication: Publication,
  library: AssetSource,
  options: SiteOptions = {},
): { readonly html: string; readonly problems: readonly Problem[] } {
  const { locale } = publication;
  const source = withDrawings(publication, library);
  const { shown, problems } = assetsShown(publication.assets, source);
  const inside = new Map(
    [...shown].map(([id, asset]) => [
      id,
      { ...asset, href: dataAddress(asset.mediaType, source(id)!.bytes) },
    ]),
  );
  const site: HtmlContext = {
    publication,
    pages: layOutOnePage(publication),
    assets: { find: (id) => inside.get(id) },
    words: wordsFor(locale),
    ...usualSite(options),
    isSite: false,
    address: '',
    readers: siteReaders(publication),
  };
  const page = tag(
    'html',
    { lang: locale, dir: directionOf(locale) },
    headOf(site),
    tag('body', { class: 'one-page' }, tag('main', { id: 'content' }, ...contentOf(site))),
  );
  return { html: serializePage(page), problems };
}

function contentOf(site: HtmlContext): readonly Html[] {
  const { publication, words, look } = site;
  const { facts, places } = publication;
  const rights = [look.footer, facts.rights, facts.edition, facts.bookNumber];
  return [
    tag('h1', {}, text(facts.title)),
    ...(facts.subtitle === '' ? [] : [tag('p', { class: 'subtitle' }, text(facts.subtitle))]),
    ...(facts.description === '' ? [] : [tag('p', { class: 'lead' }, text(facts.description))]),
    tag(
      'nav',
      { 'aria-label': words.contents },
      tag('h2', {}, text(words.contents)),
      contents(places, site),
    ),
    sections(places, site, { level: 2, notesBefore: 0 }).html,
    tag('footer', { class: 'rights' }, text(rights.filter((part) => part !== '').join(' · '))),
  ];
}

function contents(places: readonly Place[], site: HtmlContext): Html {
  const { pages } = site;
  return tag(
    'ul',
    {},
    ...listedIn(places, pages).map((place) =>
      tag(
        'li',
        {},
        tag('a', { href: pages.href(place.anchor) }, text(place.label)),
        listedIn(place.children, pages).length > 0 ? contents(place.children, site) : [],
      ),
    ),
  );
}

/**
 * Places with all that is below them; footnotes are counted through the page.
 * @param at the level of their headings, and how many footnotes there are before them
 */
function sections(
  places: readonly Place[],
  site: HtmlContext,
  { level, notesBefore }: { readonly level: number; readonly notesBefore: number },
): { readonly html: Html; readonly footnotes: number } {
  let footnotes = notesBefore;
  const html = places.map((place): Html => {
    const isOwn = site.pages.order.includes(place);
    const made = isOwn
      ? articleOf({ ...place, children: [] }, site, Math.min(6, level), footnotes)
      : undefined;
    footnotes += made?.footnoteCount ?? 0;
    const below = sections(place.children, site, {
      level: isOwn ? level + 1 : level,
      notesBefore: footnotes,
    });
    ({ footnotes } = below);
    return made
      ? tag('section', { id: place.anchor }, made.article, made.related, made.footnotes, below.html)
      : below.html;
  });
  return { html, footnotes };
}

function headOf({ publication, sheet, look }: HtmlContext): Html {
  const { facts, locale } = publication;
  const rules = [
    styles(),
    lookRules(look),
    sheetRules(sheet, locale),
    ownRules(look) ?? '',
    '.one-page main { max-width: calc(var(--reading) + 96px); margin: 0 auto; }',
  ];
  return tag(
    'head',
    {},
    tag('meta', { charset: 'utf-8' }),
    tag('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
    tag('title', {}, text(facts.title)),
    facts.description === ''
      ? []
      : tag('meta', { name: 'description', content: facts.description }),
    tag('style', {}, text(rulesInside(rules.join('\n')))),
  );
}

/** Rules that cannot end the element in which they stand (CSS Syntax Level 3, 4.3.7). */
const rulesInside = (css: string): string => css.replaceAll('<', '\\3c ');

/** The styles of every site, with the faces in them. */
function styles(): string {
  const runtime = siteRuntime();
  const css = Buffer.from(runtime.get('style.css')!).toString('utf8');
  return css.replace(
    /url\('(fonts\/[^']+)'\)/gu,
    (_all, path: string) => `url('${dataAddress('font/woff2', runtime.get(path)!)}')`,
  );
}
