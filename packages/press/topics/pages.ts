import { allPlaces, type Place, type Publication } from '@ukiyo/core/compose';

/** Which place stands on which page of the site: a page of its own, or that of the place above. */
export interface Pages {
  /** Places that have a page, in reading order. */
  readonly order: readonly Place[];
  /** Places that stand on a page, their own or another's, in reading order. */
  readonly shown: readonly Place[];
  /**
   * Address of a place or anything in it, relative to the site's folder; undefined when it is not
   * there.
   */
  href(anchor: string): string | undefined;
  readonly parentOf: ReadonlyMap<string, Place>;
}

const lists = new Set(['toc', 'figurelist', 'tablelist', 'indexlist', 'glossarylist']);
/** Files and folders of the site itself. */
const reserved = ['index', 'words', 'contents', '404', 'glossary', 'help', 'assets', 'fonts'];

/**
 * After what files are called: the id of a topic, which stays when its title is another, its title,
 * or its number and title.
 */
type Naming = 'ids' | 'titles' | 'numbers';

/** Whether all pages stand in one folder, or those of each chapter in one of their own. */
type Folders = 'one' | 'chapters';

/** Where pages are kept, and what they are called. */
export interface Filing {
  readonly naming?: Naming;
  readonly folders?: Folders;
}

const laidOut = new WeakMap<Publication, Map<string, Pages>>();
/**
 * Where something stands in the help site of a publication, relative to the site's folder;
 * undefined when it is not there.
 */
export function siteAddress(
  publication: Publication,
  anchor: string,
  filing: Filing = {},
): string | undefined {
  const known = laidOut.get(publication) ?? new Map<string, Pages>();
  laidOut.set(publication, known);
  const key = `${filing.naming} ${filing.folders}`;
  const pages = known.get(key) ?? layOutPages(publication, filing);
  known.set(key, pages);
  return pages.href(anchor);
}

/** A file name of plain letters, digits and hyphens; anything else becomes its code. */
function fileNameOf(anchor: string): string {
  const plain = anchor.replace(/[^A-Za-z0-9-]/gu, (character) =>
    character === '_' || character === '.'
      ? '-'
      : `x${character.codePointAt(0)?.toString(16) ?? ''}`,
  );
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
  numbers: ({ anchor, number = '', label }) =>
    [plainly(number), plainly(label) || fileNameOf(anchor)].filter((part) => part !== '').join('-'),
};

/** Every name is there once, also where letters of both cases are the same. */
export function layOutPages(
  publication: Publication,
  { naming = 'ids', folders = 'one' }: Filing = {},
  ending = 'html',
): Pages {
  const shown = allPlaces(publication.places).filter((place) => !lists.has(place.role));
  const used = new Set(reserved);
  const files = new Map<string, string>();
  /** The file of the page on which a place stands. */
  const joined = new Map<string, string>();
  const parentOf = new Map<string, Place>();
  for (const place of allPlaces(publication.places))
    for (const child of place.children) parentOf.set(child.anchor, place);
  const order = shown.filter(({ isChunked }) => !isChunked);
  const once = (base: string): string => {
    let name = base;
    for (let count = 2; used.has(name); count += 1) name = `${base}-${count}`;
    used.add(name);
    return name;
  };
  const hasPages = (place: Place): boolean =>
    place.children.some((child) => (!child.isChunked && !lists.has(child.role)) || hasPages(child));
  const chapterOf = (place: Place): Place => {
    const above = parentOf.get(place.anchor);
    return above ? chapterOf(above) : place;
  };
  const folderOf = new Map<Place, string>();
  for (const place of order) {
    const chapter = chapterOf(place);
    if (folders === 'one' || !hasPages(chapter)) {
      files.set(place.anchor, `${once(named[naming](place))}.${ending}`);
      continue;
    }
    const folder = folderOf.get(chapter) ?? once(named[naming](chapter));
    folderOf.set(chapter, folder);
    files.set(
      place.anchor,
      `${once(`${folder}/${place === chapter ? 'index' : named[naming](place)}`)}.${ending}`,
    );
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

/** From a page to the site's folder: empty where it stands in it. */
export const upFrom = (path: string): string => '../'.repeat(path.split('/').length - 1);

/** All places on one page, one after the other. */
export function layOutOnePage(publication: Publication): Pages {
  const order = allPlaces(publication.places).filter((place) => !lists.has(place.role));
  const shown = new Set(order.map(({ anchor }) => anchor));
  const parentOf = new Map(
    order.flatMap((place) => place.children.map((child): [string, Place] => [child.anchor, place])),
  );
  return {
    order,
    shown: order,
    parentOf,
    href: (anchor) =>
      shown.has(publication.targets[anchor]?.place ?? anchor) ? `#${anchor}` : undefined,
  };
}

/**
 * The places at one level of the contents: children of a place that is not listed move up (DITA
 * 1.3, `toc`).
 */
export const listedIn = (places: readonly Place[], pages: Pages): readonly Place[] =>
  places.flatMap((place) => {
    if (!place.inContents) return listedIn(place.children, pages);
    return pages.href(place.anchor) === undefined ? [] : [place];
  });
