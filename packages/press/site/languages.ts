import { serializePage, tag, text } from '../html/index.ts';

/** What a language calls itself. */
export const languageName = (locale: string): string =>
  new Intl.DisplayNames(locale, { type: 'language' }).of(locale) ?? locale;

/**
 * The first page of a site in several languages: it leads into that of the reader, and names all
 * for who has no script.
 */
export function languagesPage(title: string, locales: readonly string[]): string {
  const head = tag(
    'head',
    {},
    tag('meta', { charset: 'utf-8' }),
    tag('meta', { name: 'viewport', content: 'width=device-width, initial-scale=1' }),
    tag('title', {}, text(title)),
    tag('script', { src: 'languages.js', defer: true }),
  );
  const list = tag(
    'ul',
    {},
    ...locales.map((locale) =>
      tag(
        'li',
        {},
        tag(
          'a',
          { href: `${locale}/index.html`, hreflang: locale, lang: locale },
          text(languageName(locale)),
        ),
      ),
    ),
  );
  const body = tag('body', {}, tag('main', {}, tag('h1', {}, text(title)), list));
  return serializePage(tag('html', { lang: locales[0] }, head, body));
}

/**
 * Leads to the language that the reader's browser asks for, with what stands in the address; to the
 * first where it asks for none of them.
 */
export const languagesScript = `(function () {
  var links = Array.prototype.slice.call(document.querySelectorAll('a[hreflang]'));
  var wanted = (navigator.languages || [navigator.language]).map(function (one) {
  return one.toLowerCase();
});
  var fits = function (link, one) {
  var own = link.hreflang.toLowerCase();
  return own === one || one.indexOf(own + '-') === 0;
};
  for (var at = 0; at < wanted.length; at += 1) {
    var found = links.filter(function (link) { return fits(link, wanted[at]); })[0];
    if (found) break;
  }
  location.replace((found || links[0]).getAttribute('href') + location.search + location.hash);
})();
`;
