import type { Place, Publication } from '@ukiyo/core/compose';
import type { Problem } from '@ukiyo/core/problems';
import { lookRules, ownRules } from '@ukiyo/core/styles';
import { wordsFor } from '@ukiyo/core/words';
import type { AssetSource } from '../shared/assets.ts';
import type { SiteContext } from '../site/context.ts';
import { join, raw, tag, text, type Html } from '../site/html.ts';
import { sheetRules, usualSite, type SiteOptions } from '../site/index.ts';
import { assetsShown } from '../site/media.ts';
import { directionOf } from '../site/page.ts';
import { layOutOnePage } from '../site/pages.ts';
import { articleOf } from '../site/placing.ts';
import { readersOf } from '../site/readers.ts';
import { siteRuntime } from '../site/runtime.ts';

const dataAddress = (mediaType: string, bytes: Uint8Array): string =>
  `data:${mediaType};base64,${Buffer.from(bytes).toString('base64')}`;

/**
 * Publication → one HTML file that needs nothing beside it: images, faces and styles are in it; no
 * script. Problems: `image.unreadable` (the image is left out).
 */
export function onePage(
  publication: Publication,
  source: AssetSource,
  options: SiteOptions = {},
): { readonly html: string; readonly problems: readonly Problem[] } {
  const { sheet, look } = usualSite(options);
  const { facts, locale } = publication;
  const words = wordsFor(locale);
  const { shown, problems } = assetsShown(publication.assets, source);
  const inside = new Map(
    [...shown].map(([id, asset]) => [
      id,
      { ...asset, href: dataAddress(asset.mediaType, source(id)!.bytes) },
    ]),
  );
  const pages = layOutOnePage(publication);
  const site: SiteContext = {
    publication,
    pages,
    assets: { find: (id) => inside.get(id) },
    words,
    sheet,
    look,
    isSite: false,
    address: '',
    readers: readersOf(publication),
  };

  const contents = (places: readonly Place[]): Html =>
    tag(
      'ul',
      {},
      ...places
        .filter((place) => place.inContents && pages.href(place.anchor) !== undefined)
        .map((place) =>
          tag(
            'li',
            {},
            tag('a', { href: pages.href(place.anchor) }, text(place.label)),
            ...(place.children.some((child) => child.inContents) ? [contents(place.children)] : []),
          ),
        ),
    );
  let footnotes = 0;
  /** Footnotes are counted through the page. */
  const renumbered = (html: Html, first: number): Html =>
    raw(
      html.replace(
        /((?:href="#|id=")fn(?:-mark)?-)(\d+)(")/gu,
        (_all, before: string, number: string, after: string) =>
          `${before}${Number(number) + first}${after}`,
      ),
    );
  const sections = (places: readonly Place[], level: number): Html =>
    join(
      places.map((place) => {
        if (!pages.order.includes(place)) return sections(place.children, level);
        const made = articleOf({ ...place, children: [] }, site, Math.min(6, level));
        const first = footnotes;
        footnotes += made.footnotes.match(/<li id="fn-/gu)?.length ?? 0;
        return tag(
          'section',
          { id: place.anchor },
          renumbered(join([made.article, made.footnotes]), first),
          sections(place.children, level + 1),
        );
      }),
    );
  const body = tag(
    'body',
    { class: 'one-page' },
    tag(
      'main',
      { id: 'content' },
      tag('h1', {}, text(facts.title)),
      ...(facts.subtitle === '' ? [] : [tag('p', { class: 'subtitle' }, text(facts.subtitle))]),
      ...(facts.description === '' ? [] : [tag('p', { class: 'lead' }, text(facts.description))]),
      tag(
        'nav',
        { 'aria-label': words.contents },
        tag('h2', {}, text(words.contents)),
        contents(publication.places),
      ),
      sections(publication.places, 2),
      tag(
        'footer',
        { class: 'rights' },
        text(
          [look.footer, facts.rights, facts.edition, facts.bookNumber]
            .filter((part) => part !== '')
            .join(' · '),
        ),
      ),
    ),
  );
  const head = tag(
    'head',
    {},
    tag('meta', { charset: 'utf-8' }),
    tag('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
    tag('title', {}, text(facts.title)),
    ...(facts.description === ''
      ? []
      : [tag('meta', { name: 'description', content: facts.description })]),
    tag(
      'style',
      {},
      raw(
        rulesInside(
          `${styles()}\n${lookRules(look)}\n${sheetRules(sheet, locale)}\n` +
            `${ownRules(look) ?? ''}\n.one-page main { max-width: calc(var(--reading) + 96px); ` +
            'margin: 0 auto; }',
        ),
      ),
    ),
  );
  return {
    html:
      '<!doctype html>\n' +
      `${tag('html', { lang: locale, dir: directionOf(locale) }, head, body)}\n`,
    problems,
  };
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
