import { allPlaces } from '@ukiyo/core/compose';
import type { HtmlContext } from '../topics/index.ts';
import { inScript } from './searching.ts';

/** What each context-help id opens. */
export interface ContextTarget {
  readonly page: string;
  readonly title: string;
}

/** The ids by which applications open topics, in reading order (DITA 1.3, `resourceid`). */
export function contextTargets({
  publication,
  pages,
}: HtmlContext): Readonly<Record<string, ContextTarget>> {
  const entries = allPlaces(publication.places).flatMap(({ anchor, label, contextIds }) => {
    const page = pages.href(anchor);
    return page === undefined ? [] : contextIds.map((id) => [id, { page, title: label }] as const);
  });
  return Object.fromEntries(entries);
}

/**
 * The script for applications, with the ids in it: it needs nothing but its own address.
 * `contextHelp.address(id)` gives the page, `contextHelp.open(id)` opens it; the page
 * `help.html?id=…` of the site goes there by itself.
 */
export function contextScript(targets: Readonly<Record<string, ContextTarget>>): string {
  const pages = Object.fromEntries(Object.entries(targets).map(([id, { page }]) => [id, page]));
  return `(function () {
  var base = document.currentScript.src.replace(/[^/]*$/, '');
  var pages = ${inScript(JSON.stringify(pages, null, 1))};
  var known = function (id) { return Object.prototype.hasOwnProperty.call(pages, id); };
  var address = function (id) {
    return base + (known(id) ? pages[id] : 'help.html?id=' + encodeURIComponent(id));
  };
  window.contextHelp = {
    has: known,
    address: address,
    open: function (id, target) {
      return window.open(address(id), target || 'context-help', 'noopener');
    }
  };
  var here = location.href.split(/[?#]/)[0];
  var query = new URLSearchParams(location.search);
  if (here === base + 'help.html' && known(query.get('id'))) {
    var page = pages[query.get('id')].split('#');
    query.delete('id');
    var rest = query.toString();
    location.replace(base + page[0] + (rest ? '?' + rest : '') + (page[1] ? '#' + page[1] : ''));
  }
})();
`;
}
