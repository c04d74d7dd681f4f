import { wordsFor } from '@ukiyo/core/words';
import { serializePage, tag, text } from '../html/index.ts';
import { directionOf } from '../shared/index.ts';

/** One of several publications that go out together. */
export interface BundleEntry {
  readonly label: string;
  /** What kind of file it is. */
  readonly detail: string;
  /** Relative to the page. */
  readonly href: string;
}

/** The page that leads to what is in a bundle. */
export function bundleIndex(
  title: string,
  entries: readonly BundleEntry[],
  locale: string,
): string {
  const head = tag(
    'head',
    {},
    tag('meta', { charset: 'utf-8' }),
    tag('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
    tag('title', {}, text(title)),
  );
  const list = tag(
    'ul',
    {},
    ...entries.map(({ label, detail, href }) =>
      tag('li', {}, tag('a', { href: encodeURI(href) }, text(label)), text(` · ${detail}`)),
    ),
  );
  const body = tag(
    'body',
    {},
    tag(
      'main',
      {},
      tag('h1', {}, text(title)),
      tag('nav', { 'aria-label': wordsFor(locale).contents }, list),
    ),
  );
  return serializePage(tag('html', { lang: locale, dir: directionOf(locale) }, head, body));
}
