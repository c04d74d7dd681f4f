import { facetValuesOf, type Lens } from '../../facets/index.ts';
import { basesOf, isA } from '../../grammar/index.ts';
import { namesIn, type LibraryItem, type Reference } from '../../library/index.ts';
import { childNamed, isElement, type Attributes, type Element } from '../../markup/index.ts';
import type { Path } from '../../problems/index.ts';
import { scopesIn, type Branch } from '../branches.ts';
import { keyScope, type KeyScope } from '../keys.ts';
import { inheritedMetadata, metadataIn } from '../metadata.ts';
import type { Origin, PlaceRole } from '../publication.ts';

/** A topic reference where it stands. */
export interface Entry {
  readonly element: Element;
  readonly path: Path;
  readonly origin: Origin;
  readonly reference: Reference | undefined;
}

/** What holds around an element of a map. */
export interface MapContext {
  readonly item: LibraryItem;
  readonly role: PlaceRole;
  readonly scope: KeyScope;
  /** The maps that are being read, outermost first. */
  readonly maps: readonly string[];
  /** How deep the map lies among the maps. */
  readonly depth: number;
  /** `item/path` of every passage that is being borrowed around here, outermost first. */
  readonly borrowing: readonly string[];
  readonly conditions: readonly Attributes[];
  readonly lens: Lens | undefined;
  readonly branches: readonly Branch[];
  /** Whether all that is read here stands on one page. */
  readonly isOnePage: boolean;
  /** What entries inherit from those around them, unless they say it themselves. */
  readonly cascading: Cascading;
}

/** Attributes that hold for all entries below as well (DITA 1.3, 2.4.4.5 “Cascading”). */
const cascadingNames = ['toc', 'processing-role', 'print', 'search', 'linking'] as const;
export interface Cascading extends Readonly<
  Partial<Record<(typeof cascadingNames)[number], string>>
> {
  /** What is said of all topics below. */
  readonly metadata?: readonly Element[];
}

/** Where none of them is said, which is usual, it is the same object as around it. */
export function cascadingAt(entry: Element, around: Cascading): Cascading {
  const { name: element, attributes } = entry;
  const own: Readonly<Record<string, string | undefined>> =
    element === 'keydef' ? { 'processing-role': 'resource-only', ...attributes } : attributes;
  const said = cascadingNames.filter((name) => own[name] !== undefined);
  const meta = childNamed(entry, 'topicmeta', 'bookmeta');
  const metadata = meta ? inheritedMetadata(metadataIn(meta)) : [];
  if (said.length === 0 && metadata.length === 0) return around;
  return {
    ...around,
    ...Object.fromEntries(said.map((name) => [name, own[name]])),
    ...(metadata.length === 0 ? {} : { metadata: [...metadata, ...(around.metadata ?? [])] }),
  };
}

export const lists: Readonly<Record<string, PlaceRole>> = {
  toc: 'toc',
  figurelist: 'figurelist',
  tablelist: 'tablelist',
  indexlist: 'indexlist',
  glossarylist: 'glossarylist',
};
const roles: Readonly<Record<string, PlaceRole>> = {
  ...lists,
  part: 'part',
  chapter: 'chapter',
  appendix: 'appendix',
  preface: 'preface',
  notices: 'notices',
  frontmatter: 'frontmatter',
  backmatter: 'backmatter',
  glossref: 'glossaryentry',
};

/** Elements that hold others and have no heading of their own. */
export const isTransparent = ({ name }: Element): boolean => transparent.has(name);
const transparent = new Set([
  'frontmatter',
  'backmatter',
  'booklists',
  'appendices',
  'topicgroup',
  'topicset',
  'anchorref',
]);

/** The role of the entries inside a transparent element. */
export function roleInside({ name }: Element, inherited: PlaceRole): PlaceRole {
  if (name === 'frontmatter') return 'preface';
  return name === 'backmatter' ? 'backmatter' : inherited;
}

export function placeRoleOf({ name }: Element, inherited: PlaceRole): PlaceRole {
  for (const base of basesOf(name)) {
    const role = roles[base];
    if (role) return role;
  }
  if (['topicref', 'topichead', 'mapref', 'topicsetref', 'navref'].includes(name)) return inherited;
  return inherited === 'chapter' ? 'preface' : inherited;
}

/** Whether it stands for something at its place in the map. */
export const isEntry = ({ name }: Element): boolean =>
  (isA(name, 'topicref') && name !== 'ditavalref') || name === 'navref';

export const namesMap = ({ name, attributes }: Element): boolean =>
  name === 'mapref' ||
  name === 'navref' ||
  attributes['format'] === 'ditamap' ||
  (attributes['href']?.startsWith('map:') ?? false);

/** Names of the scope of keys that an element opens. */
export const scopeNamesOf = ({ attributes }: Element): readonly string[] =>
  namesIn(attributes['keyscope']);

/**
 * The scope of keys in which an element stands: one of its own, or the one around it.
 * @param more names of its own scope that are said elsewhere
 */
export function scopeOf(
  element: Element,
  { scope, branches }: Pick<MapContext, 'scope' | 'branches'>,
  more: readonly string[] = [],
): KeyScope {
  const names = [...new Set([...scopeNamesOf(element), ...more])];
  const branch = branches.at(-1);
  const scoped = branch !== undefined && isParted(element) ? scopesIn(branch, names) : names;
  return scoped.length > 0 ? keyScope(scoped, scope) : scope;
}

/** Whether branch filters stand directly in it. */
export const isParted = ({ children }: Element): boolean =>
  children.some((child) => isElement(child) && child.name === 'ditavalref');

const chunkingOf = ({ attributes }: Element): readonly string[] => namesIn(attributes['chunk']);

/** Whether all that stands below an element goes on its page. */
export const chunksBelow = (element: Element): boolean =>
  chunkingOf(element).includes('to-content');

/** The `outputclass` of an entry whose text goes on in that of the place above. */
export const withoutHeading = 'without-heading';

/** On whose page an entry stands (DITA 1.3, 2.4.5, `chunk`). */
export interface PagePlace {
  /** Whether it stands on the page of the place above it. */
  readonly isChunked: boolean;
  /** Whether the topics nested in its topic stand on its page. */
  readonly chunksNested: boolean;
  /** Without a heading its text goes on where that of the place above ends. */
  readonly hasHeading: boolean;
}

/** On whose page an entry and the topics nested in its topic stand (DITA 1.3, 2.4.5, `chunk`). */
export function pagePlaceOf(element: Element, isOnOuterPage: boolean): PagePlace {
  const chunking = chunkingOf(element);
  const isPage = chunking.includes('to-content');
  const isChunked = isOnOuterPage && !isPage;
  return {
    isChunked,
    chunksNested: isOnOuterPage || isPage || chunking.includes('by-document'),
    hasHeading: !(isChunked && namesIn(element.attributes['outputclass']).includes(withoutHeading)),
  };
}

/** Where an element has none, which is usual, they are the same as around it. */
export const conditionsInside = (
  around: readonly Attributes[],
  { attributes }: Element,
): readonly Attributes[] => (facetValuesOf(attributes).size > 0 ? [...around, attributes] : around);
