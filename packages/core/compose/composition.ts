import type { Facet, Lens } from '../facets/index.ts';
import type { Library, ReadyFact } from '../library/index.ts';
import type { HouseRule } from '../rules/index.ts';
import type { Numbering } from '../styles/index.ts';
import type { PeerEdition } from './peers.ts';
import type { PublicationFacts } from './publication.ts';

/** What is composed, and for whom. */
export interface Composition {
  readonly library: Library;
  readonly map: string;
  readonly lens?: Lens;
  /**
   * Facets left to the readers: content that varies by them is kept, with its audience.
   */
  readonly open?: readonly string[];
  readonly facets?: readonly Facet[];
  /** The team's own rules, against which every text is checked. */
  readonly rules?: readonly HouseRule[];
  /**
   * The values of facts with which a topic may be released; others are reported and published.
   */
  readonly ready?: readonly ReadyFact[];
  /** Texts of keys; they override the definitions of the map. */
  readonly variables?: Readonly<Record<string, string>>;
  /** Facts that override those of the map. */
  readonly facts?: Partial<PublicationFacts>;
  /** `en` by default. */
  readonly locale?: string;
  /**
   * The language of topics without `xml:lang`; where it is absent, theirs is not checked.
   */
  readonly sourceLocale?: string;
  /** How headings, figures and tables are numbered. */
  readonly numbering?: Numbering;
  /** Values of `deliveryTarget` that this output answers to; content for others is dropped. */
  readonly deliveryTargets?: readonly string[];
  /**
   * The editions of another map to which links may lead, the preferred one first; without any, that
   * map is composed as this one is.
   */
  readonly peerEditions?: (map: string) => readonly PeerEdition[];
}
