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
   * Facets on which readers decide themselves: what the lens does not drop is kept, and says for
   * whom it is.
   */
  readonly open?: readonly string[];
  readonly facets?: readonly Facet[];
  /** The team's own rules, against which every text is checked. */
  readonly rules?: readonly HouseRule[];
  /**
   * Facts that say whether a topic may go out; one that may not is reported, and published all the
   * same.
   */
  readonly ready?: readonly ReadyFact[];
  /** Texts for keys that go before those of the map. */
  readonly variables?: Readonly<Record<string, string>>;
  /** What the publication says of itself instead of what its map says. */
  readonly facts?: Partial<PublicationFacts>;
  /** `en` by default. */
  readonly locale?: string;
  /**
   * The language of topics that do not say theirs; of these nothing is said where it is not known.
   */
  readonly sourceLocale?: string;
  /** How headings, figures and tables are numbered. */
  readonly numbering?: Numbering;
  /** Values of `deliveryTarget` that this output answers to; content for others is dropped. */
  readonly deliveryTargets?: readonly string[];
  /**
   * How the publications of another map are made, the one that is meant first; where it names none,
   * it is made as this one is.
   */
  readonly peerEditions?: (map: string) => readonly PeerEdition[];
}
