import type { Lens, When } from '../../facets/index.ts';
import { contextIdsIn } from '../../library/index.ts';
import {
  childNamed,
  findOutermost,
  lineOf,
  type Attributes,
  type Element,
  type Node,
} from '../../markup/index.ts';
import type { ChosenAlternate } from '../alternates.ts';
import type { Branch } from '../branches.ts';
import type { KeyScope } from '../keys.ts';
import type { Origin, PlaceRole } from '../publication.ts';
import { metadataIn } from '../metadata.ts';
import type { Cascading, PagePlace } from './entry.ts';

/** What the maps say around an entry. */
export interface NodeContext extends PagePlace {
  readonly role: PlaceRole;
  readonly scope: KeyScope;
  readonly origin: Origin;
  /** The attributes of the entry and of all around it that decide who gets it, outermost first. */
  readonly conditions: readonly Attributes[];
  /** Through which its content is seen: that of the branch. */
  readonly lens: Lens | undefined;
  /** The branches in which it stands, outermost first. */
  readonly branches: readonly Branch[];
}

/** An entry of the expanded map, before its topic is read. */
export interface MapNode extends NodeContext {
  /** The item shown here, and the nested topic in it where one is named. */
  readonly item?: string;
  /** What the map names: another item where an alternate stands in for it. */
  readonly base?: string;
  /** Who gets it rather than one of the others, where readers decide; and what those get. */
  readonly when?: When;
  readonly others: ChosenAlternate['others'];
  readonly element?: string;
  /** Where an entry leads that shows nothing of the library. */
  readonly address?: string;
  /** The name of the file that it becomes, where that is not the one it is read from. */
  readonly copyTo?: string;
  /** Index entries of the map that lead to it. */
  readonly indexTerms: readonly Element[];
  /** The map's own title for the place. */
  readonly title?: readonly Node[];
  /**
   * Whether that goes before the titles of its topic in contents and navigation (DITA 1.3,
   * `locktitle`).
   */
  readonly isTitleLocked: boolean;
  /** The map's own title for it among search results. */
  readonly searchTitle?: readonly Node[];
  /** The text of links to it that say none themselves. */
  readonly linkText?: readonly Node[];
  /** What the map says of its topic, and whether that goes before what the topic says. */
  readonly metadata: readonly Element[];
  readonly isMetadataFirst: boolean;
  /** Ids by which applications open it, as the map says. */
  readonly contextIds: readonly string[];
  readonly inContents: boolean;
  /** Whether the search finds it. */
  readonly isSearched: boolean;
  /** Whether links are made from it and to it. */
  readonly isLinked: boolean;
  /** Whether its direct children are linked to each other (DITA 1.3, `collection-type`). */
  readonly isFamily: boolean;
  readonly children: readonly MapNode[];
}

/** An entry that is still being made: cheaper than a copy for each part that is found. */
export type NewNode = { -readonly [Key in keyof MapNode]: MapNode[Key] };

/** Every entry in reading order. */
export const allNodes = (nodes: readonly MapNode[]): MapNode[] =>
  nodes.flatMap((node) => [node, ...allNodes(node.children)]);

/** The entry as it says itself, without a topic. */
export function nodeOf(
  { attributes, children: inside }: Element,
  context: NodeContext,
  { toc, search, linking, metadata = [] }: Cascading,
  children: readonly MapNode[],
): NewNode {
  const meta = childNamed({ name: '', attributes, children: inside }, 'topicmeta');
  const { navtitle } = attributes;
  const node: NewNode = {
    role: context.role,
    scope: context.scope,
    origin: context.origin,
    conditions: context.conditions,
    lens: context.lens,
    branches: context.branches,
    isChunked: context.isChunked,
    chunksNested: context.chunksNested,
    hasHeading: context.hasHeading,
    metadata: meta ? [...metadataIn(meta), ...metadata] : metadata,
    isMetadataFirst: meta?.attributes['lockmeta'] !== 'no',
    contextIds: meta ? contextIdsIn(meta.children) : [],
    indexTerms: meta ? findOutermost(meta, ({ name }) => name === 'indexterm') : [],
    inContents: toc !== 'no',
    isSearched: search !== 'no',
    isLinked: linking !== 'none',
    isFamily: attributes['collection-type'] === 'family',
    others: [],
    isTitleLocked: attributes['locktitle'] === 'yes',
    children,
  };
  if (navtitle !== undefined) node.title = [navtitle];
  if (attributes['copy-to'] !== undefined) node.copyTo = attributes['copy-to'];
  return meta ? Object.assign(node, wordsIn(meta)) : node;
}

/** The titles that a map gives a place. */
function wordsIn(meta: Element): Pick<MapNode, 'title' | 'searchTitle' | 'linkText'> {
  const [title, searchTitle, linkText] = ['navtitle', 'searchtitle', 'linktext'].map(
    (name) => childNamed(meta, name)?.children,
  );
  return {
    ...(title ? { title } : {}),
    ...(searchTitle ? { searchTitle } : {}),
    ...(linkText ? { linkText } : {}),
  };
}

export const hasWords = (title: readonly Node[] | undefined): boolean =>
  title !== undefined && lineOf({ name: 'title', attributes: {}, children: title }) !== '';
