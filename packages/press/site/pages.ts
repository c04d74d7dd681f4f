import { allPlaces, type Place, type Publication } from '@ukiyo/core/compose';

/** Which place stands on which page of the site: a page of its own, or that of the place above. */
export interface Pages {
  /** Places that have a page, in reading order. */
  readonly order: readonly Place[];
  /** Places that stand on a page, their own or another's, in reading order. */
  readonly shown: readonly Place[];
  /** Address of a place or anything in it, relative to the site's folder; undefined when it is not there. */
  href(anchor: string): string | undefined;
  readonly parentOf: ReadonlyMap<string, Place>;
}

const lists = new Set(['toc', 'figurelist', 'tablelist', 'indexlist', 'glossarylist']);
/** Files of the site itself. */
const reserved = ['index', 'words', 'contents', '404', 'glossary', 'help'];

/** After what files are called: the id of a topic, which stays when its title is another, its title, or its number and title. */
export type Naming = 'ids' | 'titles' | 'numbers';

interface Files {
  readonly ending?: string;
  readonly naming?: Naming | undefined;
}

const laidOut = new WeakMap<Publication, Map<Naming, Pages>>();
/** Where something stands in the help site of a publication, relative to the site's folder; undefined when it is not there. */
export function siteAddress(publication: Publication, anchor: string, naming: Naming = 'ids'): string | undefined {
  const known = laidOut.get(publication) ?? new Map<Naming, Pages>();
  laidOut.set(publication, known);
  const pages = known.get(naming) ?? layOutPages(publication, { naming });
  known.set(naming, pages);
  return pages.href(anchor);
}

/** A file name of plain letters, digits and hyphens; anything else becomes its code. */
function fileNameOf(anchor: string): string {
  const plain = anchor.replace(/[^A-Za-z0-9-]/gu, (character) => (character === '_' || character === '.' ? '-' : `x${character.codePointAt(0)?.toString(16) ?? ''}`));
  return plain.slice(0, 80).toLowerCase();
}

/** Words in plain letters; nothing is left of those of other scripts. */
const plainly = (words: string): string =>
  words
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9]+/gu, '-')
    .replace(/^-|-$/gu, '')
    .slice(0, 80)
    .replace(/-$/u, '')
    .toLowerCase();

const named: Readonly<Record<Naming, (place: Place) => string>> = {
  ids: ({ anchor }) => fileNameOf(anchor),
  titles: ({ anchor, label }) => plainly(label) || fileNameOf(anchor),
  numbers: ({ anchor, number = '', label }) => [plainly(number), plainly(label) || fileNameOf(anchor)].filter((part) => part !== '').join('-'),
};

export function layOutPages(publication: Publication, { ending = 'html', naming = 'ids' }: Files = {}): Pages {
  const shown = allPlaces(publication.places).filter((place) => !lists.has(place.role));
  const used = new Set(reserved);
  const files = new Map<string, string>();
  /** The file of the page on which a place stands. */
  const joined = new Map<string, string>();
  const parentOf = new Map<string, Place>();
  for (const place of allPlaces(publication.places)) for (const child of place.children) parentOf.set(child.anchor, place);
  const order = shown.filter(({ joins }) => !joins);
  for (const place of order) {
    const base = named[naming](place);
    let name = base;
    for (let count = 2; used.has(name); count += 1) name = `${base}-${count}`;
    used.add(name);
    files.set(place.anchor, `${name}.${ending}`);
  }
  for (const place of shown) {
    const page = files.get(place.anchor) ?? joined.get(parentOf.get(place.anchor)?.anchor ?? '');
    if (page !== undefined) joined.set(place.anchor, page);
  }
  return {
    order,
    shown: shown.filter(({ anchor }) => joined.has(anchor)),
    parentOf,
    href(anchor) {
      const own = files.get(anchor);
      if (own !== undefined) return own;
      const page = joined.get(publication.targets[anchor]?.place ?? anchor);
      return page === undefined ? undefined : `${page}#${anchor}`;
    },
  };
}

/** All places on one page, one after the other. */
export function layOutOnePage(publication: Publication): Pages {
  const order = allPlaces(publication.places).filter((place) => !lists.has(place.role));
  const shown = new Set(order.map(({ anchor }) => anchor));
  const parentOf = new Map(order.flatMap((place) => place.children.map((child): [string, Place] => [child.anchor, place])));
  return {
    order,
    shown: order,
    parentOf,
    href: (anchor) => (shown.has(publication.targets[anchor]?.place ?? anchor) ? `#${anchor}` : undefined),
  };
}
