import type { Lens } from '../facets/index.ts';
import { readReference, type Reference } from '../library/index.ts';
import type { Numbering } from '../styles/index.ts';
import { lookUpKey, type KeyScope } from './keys.ts';
import {
  allPlaces,
  type Origin,
  type Place,
  type Publication,
  type PublicationFacts,
} from './publication.ts';

/**
 * A map of which nothing is taken in, but to whose publication links may lead (DITA 1.3, 2.4.4.8
 * “Cross-deliverable addressing and linking”).
 */
export interface PeerMap {
  readonly map: string;
  /** What stands before its keys. */
  readonly names: readonly string[];
  readonly origin: Origin;
}

/** A key of another publication, as a link names it: `scope.key/element`. */
export interface PeerKey {
  readonly kind: 'peer';
  readonly scope: string;
  readonly key: string;
  readonly element?: string;
}

/** How another publication is published. */
export interface PeerEdition {
  readonly lens?: Lens;
  readonly variables?: Readonly<Record<string, string>>;
  readonly facts?: Partial<PublicationFacts>;
  readonly locale?: string;
  readonly numbering?: Numbering;
  /** Values of `deliveryTarget` that its output answers to. */
  readonly deliveryTargets?: readonly string[];
  /** Address of a place in it for its readers; undefined where it has none. */
  readonly address?: (publication: Publication, anchor: string) => string | undefined;
}

/** Another publication, composed when it is first asked. */
export interface Peer extends PeerMap {
  readonly edition: PeerEdition;
  composed(): { readonly publication: Publication; readonly scope: KeyScope };
}

/** Reads `scope.key/element` where the scope is that of another publication. */
export function readPeerKey(keyref: string, peers: readonly PeerMap[]): PeerKey | undefined {
  const [name = '', element] = keyref.split('/', 2);
  const peer = peers.find(({ names }) => names.some((scope) => name.startsWith(`${scope}.`)));
  const scope = peer?.names.find((one) => name.startsWith(`${one}.`));
  return scope === undefined
    ? undefined
    : {
        kind: 'peer',
        scope,
        key: name.slice(scope.length + 1),
        ...(element === undefined ? {} : { element }),
      };
}

/**
 * Where each item stands in a publication, also under the id of the item for which it stands in.
 */
function placesOf(peer: Peer, bases: ReadonlyMap<string, string>): ReadonlyMap<string, Place[]> {
  const { publication } = peer.composed();
  const places = new Map<string, Place[]>();
  for (const place of allPlaces(publication.places)) {
    if (place.content)
      for (const id of [place.origin.item, bases.get(place.origin.item)])
        if (id !== undefined) places.set(id, [...(places.get(id) ?? []), place]);
  }
  return places;
}

/** @param id of the topic in its text; parts of the topic are named without it */
const anchorOfPart = (anchor: string, element: string, id: string | undefined): string =>
  [anchor, ...element.split('/').filter((step) => step !== id)].join('--');

/** Another publication, and where in it; nowhere, where it lacks what is asked for. */
export interface PeerTarget {
  readonly peer: Peer;
  readonly anchor?: string;
}

/**
 * Finds what a link leads to in other publications, the first that has it.
 * @returns the publication alone where it is named by its scope and lacks what is asked for;
 * nothing where no publication has it
 */
export function peerTargets(
  peers: readonly Peer[],
  bases: ReadonlyMap<string, string>,
): (reference: Reference | PeerKey) => PeerTarget | undefined {
  const known = new Map<Peer, ReadonlyMap<string, readonly Place[]>>();
  const inside = (peer: Peer, id: string, element: string | undefined): PeerTarget | undefined => {
    const places = known.get(peer) ?? placesOf(peer, bases);
    known.set(peer, places);
    const anchors = (places.get(id) ?? []).map(({ anchor, content }) =>
      element === undefined || element === content?.attributes['id']
        ? anchor
        : anchorOfPart(anchor, element, content?.attributes['id']),
    );
    const anchor = anchors.find((one) => peer.composed().publication.targets[one]);
    return anchor === undefined ? undefined : { peer, anchor };
  };
  return (reference) => {
    if (reference.kind === 'item')
      return firstFound(peers, (peer) => inside(peer, reference.id, reference.element));
    if (reference.kind !== 'peer') return undefined;
    const named = peers.filter(({ names }) => names.includes(reference.scope));
    const found = firstFound(named, (peer) => {
      const definition = lookUpKey(peer.composed().scope, reference.key);
      const target =
        definition?.href === undefined
          ? undefined
          : readReference(definition.href, definition.origin.item);
      return target?.kind === 'item'
        ? inside(peer, target.id, reference.element ?? target.element)
        : undefined;
    });
    return found ?? (named[0] && { peer: named[0] });
  };
}

/** Stops at the first, so that no publication is composed for nothing. */
function firstFound<Found>(
  peers: readonly Peer[],
  find: (peer: Peer) => Found | undefined,
): Found | undefined {
  for (const peer of peers) {
    const found = find(peer);
    if (found !== undefined) return found;
  }
  return undefined;
}
