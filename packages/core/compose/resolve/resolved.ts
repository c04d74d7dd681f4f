import type { Facet, Lens, OpenFacet, When } from '../../facets/index.ts';
import type { Library, Reference } from '../../library/index.ts';
import type { Element, Node } from '../../markup/index.ts';
import type { Path, Problem } from '../../problems/index.ts';
import type { HouseRule } from '../../rules/index.ts';
import type { Choose } from '../alternates.ts';
import type { KeyScope } from '../keys.ts';
import type { PeerKey, PeerMap } from '../peers.ts';
import type { Pushes } from '../pushing.ts';
import type { Origin, Reason, ResolvedElement, TargetKind } from '../publication.ts';

/** Something in a topic that links, lists or the index can lead to, before it has its number. */
export interface Landmark {
  readonly anchor: string;
  readonly kind: TargetKind;
  readonly title: readonly Node[];
  /** How it begins, where it has no title. */
  readonly opening?: string;
  /** Of a step or an item: its ordinal in its list. */
  readonly number?: string;
}

/** A link whose target is looked for when all places are known. */
export interface PendingLink {
  /** `ANCHOR~N`, with the anchor of the topic in which it stands. */
  readonly key: string;
  readonly reference: Reference | PeerKey;
  /** Whether it says enough without a target. */
  readonly isOptional?: true;
  /** The key that names the target, where a key does. */
  readonly byKey?: string;
  readonly origin: Origin;
}

/** An index entry with the anchor to which it leads. */
export interface AnchoredTerm {
  readonly anchor: string;
  readonly term: ResolvedElement;
}

/** What a topic is called in navigation, and among search results. */
export interface OtherTitles {
  readonly navigationTitle?: readonly Node[];
  readonly searchTitle?: readonly Node[];
}

/**
 * A topic as these readers get it at its place: filtered, with borrowed passages and variables
 * filled in; links and numbers are still open.
 */
export interface ResolvedTopic {
  readonly content: ResolvedElement;
  /** What it is called elsewhere, where that is not its title (DITA 1.3, `titlealts`). */
  readonly otherTitles: OtherTitles;
  /** What is known of it besides its text, as elements. */
  readonly metadata: readonly Element[];
  /** The lens drops the whole topic. */
  readonly dropped: boolean;
  readonly anchor: string;
  /** By id in the source; of several elements with one id the first. */
  readonly anchors: ReadonlyMap<string, string>;
  readonly landmarks: readonly Landmark[];
  readonly links: readonly PendingLink[];
  readonly indexTerms: readonly AnchoredTerm[];
  /** Ids by which applications open it (DITA 1.3, `resourceid`). */
  readonly contextIds: readonly string[];
  /** Ids of the files that it shows. */
  readonly assets: ReadonlySet<string>;
  /** Drawings that stand in it, by the ids of files that they become. */
  readonly drawings: ReadonlyMap<string, Element>;
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
  /** Other items that were read, with their trees: while these are the same, so is this. */
  readonly read: ReadonlyMap<string, Element | undefined>;
  /** Files that were looked for, and whether they were there. */
  readonly lookedFor: ReadonlyMap<string, boolean>;
  readonly nested: readonly ResolvedTopic[];
}

/** What a topic is resolved with. */
export interface ResolutionContext {
  readonly library: Library;
  readonly lens: Lens | undefined;
  readonly facets: readonly Facet[];
  /** On which readers decide themselves, without what the lens drops. */
  readonly open: readonly OpenFacet[];
  readonly rules: readonly HouseRule[];
  readonly scope: KeyScope;
  /** Texts that an edition sets for keys; they go before every definition. */
  readonly variables: Readonly<Record<string, string>>;
  /** Chooses among topics and images and their alternates. */
  readonly choose: Choose;
  /** Other publications to which keys may lead. */
  readonly peers: readonly PeerMap[];
  /** What other topics put in. */
  readonly pushes: Pushes;
}

/** Where in the sources the walk is, and how it came there. */
export interface Cursor {
  readonly item: string;
  readonly path: Path;
  /** `item/path` of every passage that is being borrowed around here, outermost first. */
  readonly borrowing: readonly string[];
  /** Keys whose texts are being filled in around here. */
  readonly keys: readonly string[];
  /** Inside an index entry or the prolog: index entries here are gathered by what holds them. */
  readonly isGathered?: boolean;
  /** Inside a title, which is read in contents as well. */
  readonly isTitle?: boolean;
}

export const childCursor = (cursor: Cursor, index: number): Cursor => ({
  ...cursor,
  path: [...cursor.path, index],
});

export const originOf = ({ item, path }: Cursor): Origin => ({ item, path });

/** The element, restricted to the readers for whom `when` holds. */
export const withAudience = (element: ResolvedElement, when: When | undefined): ResolvedElement =>
  when ? { ...element, when: [...(element.when ?? []), when] } : element;
