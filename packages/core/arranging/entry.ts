import { labelOf, isA, mayContain } from '../grammar/index.ts';
import { withoutHeading } from '../compose/index.ts';
import { namesIn, writeReference, readReference } from '../library/index.ts';
import {
  childElements,
  element,
  isElement,
  nodeAt,
  replaceAt,
  withAttribute,
  type Element,
} from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { accept, fittingName, type Arranged } from './arrange.ts';

/** In what an entry is, with all that it holds. */
export interface Inclusion {
  readonly print: boolean;
  readonly site: boolean;
  readonly contents: boolean;
  /** Whether links are made from and to it by the hierarchy and by relationship tables. */
  readonly links: boolean;
}

/**
 * The values of `deliveryTarget` (DITA 1.3, 3.11.1.2) by which an entry is for one kind of output
 * alone.
 */
const targets = { print: 'print', site: 'site' } as const;

export function inclusionOf({ attributes }: Element): Inclusion {
  const named = (attributes['deliveryTarget'] ?? '').split(/\s+/u).filter((value) => value !== '');
  const isFor = (target: string): boolean => named.length === 0 || named.includes(target);
  return {
    print: isFor(targets.print),
    site: isFor(targets.site),
    contents: attributes['toc'] !== 'no',
    links: attributes['linking'] !== 'none',
  };
}

/**
 * The entry in other outputs; what is in none of them is taken out instead, so one at least stays.
 */
export function withInclusion(
  entry: Element,
  { print, site, contents, links }: Inclusion,
): Element {
  const target = print === site ? undefined : print ? targets.print : targets.site;
  const delivered = withAttribute(entry, 'deliveryTarget', target);
  const listed = withAttribute(delivered, 'toc', contents ? undefined : 'no');
  return withAttribute(listed, 'linking', links ? undefined : 'none');
}

/**
 * Whether the entry and all that it holds are one page of a help site (DITA 1.3, 2.4.5, `chunk`).
 */
export const isOnePage = ({ attributes }: Element): boolean =>
  namesIn(attributes['chunk']).includes('to-content');

/** Whether the entry stands on the page of one above it. */
export function standsOnPageAbove(root: Element, path: Path): boolean {
  const around = path.map((_, depth) => nodeAt(root, path.slice(0, depth)));
  const entry = nodeAt(root, path);
  // The map itself is no page: what stands directly in it has one of its own.
  return (
    isElement(entry) &&
    !isOnePage(entry) &&
    path.length > 1 &&
    around.some((one) => isElement(one) && isOnePage(one))
  );
}

const withName = (names: string | undefined, name: string, on: boolean): string | undefined => {
  const others = namesIn(names).filter((one) => one !== name);
  return [...others, ...(on ? [name] : [])].join(' ') || undefined;
};

export const withOnePage = (entry: Element, on: boolean): Element =>
  withAttribute(entry, 'chunk', withName(entry.attributes['chunk'], 'to-content', on));

/**
 * Whether the entry says that its text goes on where that of the topic above ends, without a
 * heading of its own.
 */
export const isWithoutHeading = ({ attributes }: Element): boolean =>
  namesIn(attributes['outputclass']).includes(withoutHeading);

export const withHeading = (entry: Element, on: boolean): Element =>
  withAttribute(
    entry,
    'outputclass',
    withName(entry.attributes['outputclass'], withoutHeading, !on),
  );

/** What keys begin with that lead into another publication; undefined where the map is taken in. */
export const peerScope = ({ attributes }: Element): string | undefined =>
  attributes['scope'] === 'peer' ? (attributes['keyscope'] ?? '') : undefined;

/**
 * The entry of a map of which nothing is taken in, but to whose publication links may lead (DITA
 * 1.3, 2.4.4.8); or one that is taken in again.
 */
export function withPeerScope(entry: Element, scope: string | undefined): Element {
  const isPeer = scope !== undefined;
  const scoped = withAttribute(entry, 'scope', isPeer ? 'peer' : undefined);
  const named = withAttribute(scoped, 'processing-role', isPeer ? 'resource-only' : undefined);
  return withAttribute(named, 'keyscope', namesIn(scope).join(' ') || undefined);
}

/** Changes one entry, unless that makes the map less valid. */
export function changeEntry(
  root: Element,
  path: Path,
  change: (entry: Element) => Element,
): Arranged | undefined {
  const entry = nodeAt(root, path);
  return isElement(entry) ? accept(root, replaceAt(root, path, [change(entry)]), path) : undefined;
}

/** What an entry could be where it stands: chapter, part, appendix …, with what it is now. */
export function rolesAt(
  root: Element,
  path: Path,
): { readonly name: string; readonly label: string }[] {
  const parent = nodeAt(root, path.slice(0, -1));
  const entry = nodeAt(root, path);
  if (!isElement(parent) || !isElement(entry)) return [];
  const roles = [
    'topicref',
    'topichead',
    'topicgroup',
    'part',
    'chapter',
    'appendix',
    'preface',
    'notices',
    'dedication',
    'colophon',
    'mapref',
    'glossref',
  ];
  const isMap = entry.name === 'mapref' || entry.attributes['format'] === 'ditamap';
  return roles
    .filter(
      (name) =>
        name === entry.name ||
        (mayContain(parent.name, name) &&
          (name !== 'mapref') === !isMap &&
          (name !== 'topichead' || entry.attributes['href'] === undefined)),
    )
    .filter(
      (name) =>
        name === entry.name || changeEntry(root, path, (one) => ({ ...one, name })) !== undefined,
    )
    .map((name) => ({ name, label: labelOf(name) }));
}

/** The lenses that part the entry, by id. */
export const branchLenses = (entry: Element): string[] =>
  childElements(entry)
    .filter(({ name }) => name === 'ditavalref')
    .flatMap(({ attributes }) => {
      const reference = readReference(attributes['href'] ?? '', '');
      return reference.kind === 'lens' ? [reference.id] : [];
    });

/**
 * The entry seen through these lenses: once for each, the results named after the lens where there
 * are several (DITA 1.3, 2.4.3.4).
 */
export function withBranchLenses(entry: Element, lenses: readonly string[]): Element {
  const others = entry.children.filter((child) => !isElement(child) || child.name !== 'ditavalref');
  const meta = others.findIndex((child) => isElement(child) && isA(child.name, 'topicmeta'));
  const filters = lenses.map((lens) =>
    element(
      'ditavalref',
      { href: writeReference({ kind: 'lens', id: lens }), format: 'ditaval' },
      lenses.length > 1
        ? [element('ditavalmeta', {}, [element('dvrResourceSuffix', {}, [`-${lens}`])])]
        : [],
    ),
  );
  return { ...entry, children: others.toSpliced(meta + 1, 0, ...filters) };
}

/**
 * A branch that becomes a map of its own, and the map with that one taken in at its place.
 * @param id of the new map
 */
export function cutOut(
  root: Element,
  path: Path,
  id: string,
  title: string,
): { readonly root: Element; readonly branch: Element } | undefined {
  const entry = nodeAt(root, path);
  const parent = nodeAt(root, path.slice(0, -1));
  if (!isElement(entry) || !isElement(parent)) return undefined;
  const plain = fittingName(entry, element('map'));
  if (!plain) return undefined;
  const name =
    ['mapref', 'chapter', 'topicref'].find((one) => mayContain(parent.name, one)) ?? 'mapref';
  const taken =
    name === 'mapref'
      ? element('mapref', { href: `map:${id}`, format: 'ditamap' })
      : element(name, { href: `map:${id}`, format: 'ditamap' });
  const arranged = accept(root, replaceAt(root, path, [taken]), path);
  return (
    arranged && {
      root: arranged.root,
      branch: element('map', { id }, [element('title', {}, [title]), plain]),
    }
  );
}

/** A map of topics, in their order. */
export const mapElement = (id: string, title: string, hrefs: readonly string[]): Element =>
  element('map', { id }, [
    element('title', {}, [title]),
    ...hrefs.map((href) =>
      href.startsWith('map:')
        ? element('mapref', { href, format: 'ditamap' })
        : element('topicref', { href }),
    ),
  ]);
