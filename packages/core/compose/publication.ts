import type { MarkLook, OpenFacet, When } from '../facets/index.ts';
import type { Element, Node } from '../markup/index.ts';
import type { Path, Problem } from '../problems/index.ts';
import type { Numbering } from '../styles/index.ts';
import type { Metadata } from './metadata.ts';

/** The source from which something in a publication came, through borrowing. */
export interface Origin {
  readonly item: string;
  readonly path: Path;
}

/** An element as the reader gets it. */
export interface ResolvedElement extends Element {
  readonly origin: Origin;
  /** Unique in the publication; set on what links, the index or a list can lead to. */
  readonly anchor?: string;
  /** Key into `Publication.links`. */
  readonly link?: string;
  /** How it looks, where the lens marks it; words before and after it stand in the content. */
  readonly marked?: MarkLook;
  /** Who gets it, as far as readers decide: all of this must hold for them. */
  readonly when?: readonly When[];
  /** What is said where a term is met first, in place of its content. */
  readonly firstForm?: readonly Node[];
  /** Before or after it stood something earlier that is gone. */
  readonly gone?: 'before' | 'after';
}

export type PlaceRole =
  | 'part'
  | 'chapter'
  | 'appendix'
  | 'preface'
  | 'notices'
  | 'frontmatter'
  | 'backmatter'
  | 'section'
  | 'glossaryentry'
  | 'toc'
  | 'figurelist'
  | 'tablelist'
  | 'glossarylist'
  | 'indexlist';

/** An alternate that some readers get in the place of a topic. */
export interface AlternateContent extends Pick<
  Place,
  'anchor' | 'title' | 'label' | 'navigationTitle' | 'searchTitle' | 'shortDescription' | 'origin'
> {
  readonly content: ResolvedElement;
}

/** One heading of the publication, with its content and the places below it. */
export interface Place {
  readonly anchor: string;
  readonly role: PlaceRole;
  /** 1 for chapters and whatever stands beside them; parts are 0. */
  readonly level: number;
  readonly number?: string;
  readonly title: readonly Node[];
  /** The title for contents and navigation, on one line. */
  readonly label: string;
  /**
   * What it is called in contents and navigation, where that is not its title: by the map, where
   * it locks its title, else by the topic (DITA 1.3, `locktitle` and `navtitle`).
   */
  readonly navigationTitle?: readonly Node[];
  /** What it is called among search results, where that is not its title (`searchtitle`). */
  readonly searchTitle?: readonly Node[];
  /** What links to it say that have no words of their own, where that is not its title. */
  readonly linkText?: readonly Node[];
  readonly inContents: boolean;
  /** Whether links are made from it and to it by where it stands. */
  readonly isLinked: boolean;
  /** False where the search is not to find it. */
  readonly isSearched?: false;
  /**
   * Whether it stands on the page of the place above it, in outputs that have pages of their own
   * for each.
   */
  readonly isChunked: boolean;
  /** Without a heading its text goes on where that of the place above ends. */
  readonly hasHeading: boolean;
  /** Whether its topic is nested in that of the place above. */
  readonly isNested: boolean;
  /** The entry of the map that puts it there. */
  readonly entry: Origin;
  readonly shortDescription: string;
  /** What topic and map say of it besides its text. */
  readonly metadata?: Metadata;
  /** Ids by which applications open it. */
  readonly contextIds: readonly string[];
  /** Who gets it, as far as readers decide; whether its topic is for them stands in that. */
  readonly when?: readonly When[];
  /** What those get in its place who have chosen so. */
  readonly others?: readonly AlternateContent[];
  /** Who gets the topic rather than one of the others. */
  readonly otherwise?: When;
  /** The topic with its title and body; absent for a heading without a topic and for lists. */
  readonly content?: ResolvedElement;
  readonly origin: Origin;
  readonly related: readonly Related[];
  readonly children: readonly Place[];
}

/** Where a place leads because of where it stands: to another place, or out of the publication. */
export type Related = (
  { readonly anchor: string } | { readonly href: string; readonly text: string }
) & {
  /** A heading for all that is called so; the usual one without it. */
  readonly group?: string;
  /** Who is led there, as far as readers decide. */
  readonly when?: readonly When[];
};

export type TargetKind =
  'topic' | 'figure' | 'table' | 'example' | 'section' | 'step' | 'item' | 'footnote' | 'element';

/** What a link, a list or the index can lead to. */
export interface Target {
  readonly anchor: string;
  /** The place on whose page it stands. */
  readonly place: string;
  readonly kind: TargetKind;
  readonly number?: string;
  readonly title: string;
  /** What links to it say, where that is not its title. */
  readonly linkText?: string;
  /** How it begins, where it has no title. */
  readonly opening?: string;
}

export type ResolvedLink =
  | {
      readonly kind: 'target';
      readonly anchor: string;
      /** Shown when the link has no words of its own. */ readonly text: string;
    }
  | { readonly kind: 'external'; readonly href: string }
  /** A file of the library that goes out with the publication. */
  | { readonly kind: 'file'; readonly asset: string; readonly text: string }
  | PeerLink
  | { readonly kind: 'broken'; readonly text: string };

/** A link into another publication. */
export interface PeerLink {
  readonly kind: 'peer';
  /** Title of what it leads to, and its number there. */
  readonly text: string;
  readonly number?: string;
  /**
   * Title of the other publication, and the number under which it is issued; empty where it has
   * none.
   */
  readonly publication: string;
  readonly bookNumber: string;
  /** Where its readers find it; absent where it is only on paper. */
  readonly href?: string;
}

export interface Listed {
  readonly anchor: string;
  readonly number: string;
  readonly title: readonly Node[];
}

export interface IndexLocator {
  readonly anchor: string;
  /** Who finds it, where that is not everybody who gets what it leads to. */
  readonly when?: readonly When[];
  /** Where a range ends. */
  readonly until?: string;
}

export interface IndexEntry {
  readonly term: string;
  readonly locators: readonly IndexLocator[];
  readonly see: readonly string[];
  readonly seeAlso: readonly string[];
  readonly entries: readonly IndexEntry[];
}

export interface IndexGroup {
  readonly letter: string;
  readonly entries: readonly IndexEntry[];
}

export interface GlossaryEntry {
  readonly anchor: string;
  readonly term: string;
  readonly content: ResolvedElement;
}

/** Why something is as it is: the trail from what was written to what is published. */
export interface Reason {
  readonly kind: 'dropped' | 'borrowed' | 'replaced' | 'alternate';
  readonly origin: Origin;
  readonly detail: string;
  /** Where what is borrowed has its home. */
  readonly from?: Origin;
}

export interface PublicationFacts {
  readonly title: string;
  readonly subtitle: string;
  readonly series: string;
  readonly authors: readonly string[];
  readonly rights: string;
  readonly bookNumber: string;
  readonly edition: string;
  /** The last on which it was made or changed, as it is written. */
  readonly date: string;
  readonly description: string;
  readonly keywords: readonly string[];
}

/**
 * The one resolved document from which every output is made. Plain data; a renderer looks nothing
 * up elsewhere.
 */
export interface Publication {
  readonly facts: PublicationFacts;
  readonly locale: string;
  /** The text of each key of the map that has one. */
  readonly variables: Readonly<Record<string, string>>;
  readonly places: readonly Place[];
  readonly figures: readonly Listed[];
  readonly tables: readonly Listed[];
  readonly index: readonly IndexGroup[];
  readonly glossary: readonly GlossaryEntry[];
  readonly targets: Readonly<Record<string, Target>>;
  readonly links: Readonly<Record<string, ResolvedLink>>;
  /** Ids of the images and other files that it shows. */
  readonly assets: readonly string[];
  /** Drawings in SVG that stand in texts, by the ids under which these show them as files. */
  readonly drawings: Readonly<Record<string, Element>>;
  /** On which its readers decide themselves. */
  readonly open: readonly OpenFacet[];
  readonly numbering: Numbering;
  /**
   * What is new or otherwise since an earlier publication, by anchor; absent where it is compared
   * with none.
   */
  readonly news?: Readonly<Record<string, 'new' | 'changed'>>;
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
}

/** Every place in reading order. */
export function allPlaces(places: readonly Place[]): Place[] {
  return places.flatMap((place) => [place, ...allPlaces(place.children)]);
}
