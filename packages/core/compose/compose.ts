import type { LibraryItem } from '../library/index.ts';
import { element } from '../markup/index.ts';
import { problem } from '../problems/index.ts';
import { usualNumbering } from '../styles/index.ts';
import { collectPublication } from './collect.ts';
import type { Composition } from './composition.ts';
import { composeContext } from './context.ts';
import { expandMap } from './expand/map.ts';
import { readPublicationFacts } from './facts.ts';
import { keyScope, type KeyScope } from './keys.ts';
import { linkPlaces } from './link.ts';
import { ComposeMemory } from './memory.ts';
import { numberPlaces } from './number.ts';
import type { Peer, PeerEdition, PeerMap } from './peers.ts';
import { placeTopics } from './place.ts';
import type { Publication } from './publication.ts';
import { gatherPushes } from './pushing.ts';
import { resolveMap } from './resolve/map.ts';

/**
 * Composes a map and everything it reaches into the one resolved document from which all outputs
 * are made. Pure: the same input gives the same result. A topic that cannot be read or found is
 * left out and reported; nothing else is affected.
 * @param memory gives back work of earlier compositions of the same library
 * @returns the publication with problems `map.*`, `topic.missing`, `fact.*`, `locale.*`,
 * `borrow.*`, `key.*`, `image.missing`, `link.*`, `index.*` and those of validation
 */
export function compose(
  input: Composition,
  memory: ComposeMemory = new ComposeMemory(),
): Publication {
  const peers = (maps: readonly PeerMap[]): Peer[] =>
    maps.flatMap((peer) => peersOf(peer, input, memory));
  return composeMap(input, memory, peers).publication;
}

/** A publication, and the keys by which other publications link to it. */
interface Composed {
  readonly publication: Publication;
  readonly scope: KeyScope;
}

function composeMap(
  input: Composition,
  memory: ComposeMemory,
  peersOfMaps: (maps: readonly PeerMap[]) => readonly Peer[],
): Composed {
  const { library } = input;
  const map = library.item(input.map);
  if (!map?.root || map.kind !== 'map') return withoutMap(input, map);
  const context = composeContext(input, memory);
  const expanded = expandMap(map, context);
  const pushed = gatherPushes(expanded, context);
  const resolved = resolveMap(expanded, pushed, context);
  const placed = placeTopics(resolved, context);
  const numbered = numberPlaces(placed, context.numbering);
  const { relations, scope } = expanded;
  const peers = (): readonly Peer[] => peersOfMaps(expanded.peers);
  const linked = linkPlaces(numbered, { library, locale: context.locale, relations, peers });
  const passed = { expanded, resolved, linked };
  return { publication: collectPublication(passed, input, context), scope };
}

/**
 * The publications of another map: its editions, or else one composed as this one is. Their links
 * to their own peers stay open, so that composing ends.
 */
function peersOf(peer: PeerMap, input: Composition, memory: ComposeMemory): Peer[] {
  const named = input.peerEditions?.(peer.map) ?? [];
  const { library, facets, rules } = input;
  const agreed = { library, ...(facets ? { facets } : {}), ...(rules ? { rules } : {}) };
  const { facts: _ofThisOne, ...alike } = input;
  return (named.length > 0 ? named : [alike]).map((edition: PeerEdition): Peer => {
    const { address: _ofReaders, ...settings } = edition;
    let known: Composed | undefined;
    return {
      ...peer,
      edition,
      composed: () =>
        (known ??= composeMap({ ...settings, ...agreed, map: peer.map }, memory, () => [])),
    };
  });
}

function withoutMap(
  { map: id, locale = 'en' }: Composition,
  map: LibraryItem | undefined,
): Composed {
  const missing = problem(
    'error',
    'map.missing-map',
    `The map “${id}” ${map ? 'cannot be read' : 'is not in the library'}.`,
    { item: id },
  );
  const publication: Publication = {
    facts: readPublicationFacts(element('map')),
    locale,
    variables: {},
    places: [],
    figures: [],
    tables: [],
    index: [],
    glossary: [],
    targets: {},
    links: {},
    assets: [],
    drawings: {},
    open: [],
    numbering: usualNumbering,
    problems: [...(map?.problems ?? []), missing],
    why: [],
  };
  return { publication, scope: keyScope([]) };
}
