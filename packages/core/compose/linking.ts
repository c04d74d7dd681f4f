import type { When } from '../facets/index.ts';
import type { Library } from '../library/index.ts';
import { childNamed, lineOf } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { wordsFor } from '../words/index.ts';
import { inCommon, type Branch } from './branches.ts';
import type { Relation } from './expand.ts';
import type { PendingLink, PreparedTopic } from './prepare.ts';
import { peerTargets, type Peer } from './peers.ts';
import type { PeerLink, Place, Related, ResolvedLink, Target } from './publication.ts';

/**
 * The topics of each item, the branches in which each place stands, and what alternates stand in
 * for.
 */
export interface Standing {
  readonly topics: Map<string, PreparedTopic[]>;
  readonly branches: Map<string, readonly Branch[]>;
  readonly bases: ReadonlyMap<string, string>;
}

/** What links are resolved against. */
export interface Linking {
  readonly standing: Standing;
  readonly targets: Readonly<Record<string, Target>>;
  readonly library: Library;
  /** The other publications; composed when the first link asks for them. */
  readonly peers: () => readonly Peer[];
  readonly locale: string;
}

/** Where a topic stands, in the same branch first. */
function nearest(
  id: string,
  around: readonly Branch[],
  { topics, branches, bases }: Standing,
): readonly PreparedTopic[] {
  const near = ({ anchor }: PreparedTopic): number => inCommon(around, branches.get(anchor) ?? []);
  return (topics.get(id) ?? topics.get(bases.get(id) ?? '') ?? []).toSorted(
    (a, b) => near(b) - near(a),
  );
}

/**
 * Links lead to the nearest standing of their target: in the same topic when it is there, else in
 * the same branch, else where it stands first, else in the first other publication that has it.
 */
export function resolveLinks(
  pending: readonly PendingLink[],
  { standing, targets, library, peers, locale }: Linking,
  problems: Problem[],
): Record<string, ResolvedLink> {
  const { branches, bases } = standing;
  const links: Record<string, ResolvedLink> = {};
  const words = wordsFor(locale);
  let findInPeers: ReturnType<typeof peerTargets> | undefined;
  for (const { key, reference, origin } of pending) {
    if (reference.kind === 'external') {
      links[key] = { kind: 'external', href: reference.href };
      continue;
    }
    const place = key.slice(0, key.lastIndexOf('~'));
    const around = branches.get(place) ?? [];
    const candidates = reference.kind === 'item' ? nearest(reference.id, around, standing) : [];
    const here = candidates.find((topic) => topic.anchor === place) ?? candidates[0];
    const anchor =
      here &&
      (reference.kind === 'item' &&
      reference.element !== undefined &&
      reference.element !== here.content.attributes['id']
        ? findAnchor(candidates, reference.element)
        : here.anchor);
    const target = anchor === undefined ? undefined : targets[anchor];
    if (target) {
      const word =
        target.kind === 'figure' ||
        target.kind === 'table' ||
        target.kind === 'example' ||
        target.kind === 'step'
          ? words[target.kind]
          : undefined;
      links[key] = {
        kind: 'target',
        anchor: target.anchor,
        text:
          word && target.number !== undefined
            ? `${word} ${target.number}`
            : target.title || (targets[target.place]?.title ?? ''),
      };
      continue;
    }
    const elsewhere = here ? undefined : (findInPeers ??= peerTargets(peers(), bases))(reference);
    if (elsewhere?.anchor !== undefined) {
      links[key] = peerLink(elsewhere.peer, elsewhere.anchor);
      continue;
    }
    if (reference.kind === 'peer') {
      const { title } = elsewhere?.peer.composed().publication.facts ?? { title: reference.scope };
      links[key] = { kind: 'broken', text: reference.key };
      problems.push(
        problem(
          'error',
          'link.outside-peer',
          `A link leads to “${reference.key}” in “${title}”, which is not in that publication.`,
          origin,
        ),
      );
      continue;
    }
    const known = reference.kind === 'item' ? library.item(reference.id) : undefined;
    const knownTitle = known?.root && childNamed(known.root, 'title', 'glossterm');
    const name = knownTitle
      ? lineOf(knownTitle)
      : reference.kind === 'unknown'
        ? reference.href
        : reference.id;
    links[key] = { kind: 'broken', text: name };
    if (!known)
      problems.push(
        problem(
          'error',
          'link.unknown-target',
          `A link leads to “${name}”, which is not in the library.`,
          origin,
        ),
      );
    else if (!here)
      problems.push(
        problem(
          'error',
          'link.outside-publication',
          `A link leads to “${name}”, which is not in this publication.`,
          origin,
        ),
      );
    else
      problems.push(
        problem(
          'error',
          'link.unknown-element',
          `A link leads to a part of “${name}” that is not there.`,
          origin,
        ),
      );
  }
  return links;
}

function peerLink({ composed, edition }: Peer, anchor: string): PeerLink {
  const { publication } = composed();
  const { title, number } = publication.targets[anchor]!;
  const href = edition.address?.(publication, anchor);
  const { title: name, bookNumber } = publication.facts;
  return {
    kind: 'peer',
    text: title,
    publication: name,
    bookNumber,
    ...(number === undefined ? {} : { number }),
    ...(href === undefined ? {} : { href }),
  };
}

function findAnchor(topics: readonly PreparedTopic[], id: string): string | undefined {
  for (const topic of topics) {
    const inside =
      topic.anchors.get(id) ??
      (topic.content.attributes['id'] === id ? topic.anchor : findAnchor(topic.nested, id));
    if (inside !== undefined) return inside;
  }
  return undefined;
}

/**
 * For each place those that its relationship-table rows name in other cells (DITA 1.3, 2.2.3.2),
 * and those of its family.
 */
export function relatedPlaces(
  relations: readonly Relation[],
  families: readonly (readonly string[])[],
  standing: Standing,
): Map<string, Related[]> {
  /** From where, to where, and for whom: each time all of that must hold. */
  const ways = new Map<string, Map<string, (readonly When[])[]>>();
  const relate = (from: string, to: string, when: readonly When[]): void => {
    const known = ways.get(from) ?? new Map<string, (readonly When[])[]>();
    ways.set(from, known.set(to, [...(known.get(to) ?? []), when]));
  };
  for (const { cells, when, branches } of relations)
    cells.forEach((cell, index) => {
      const others = cells.filter((_, other) => other !== index).flat();
      for (const one of cell.filter(({ from }) => from))
        for (const { anchor } of standing.topics.get(one.item) ?? []) {
          const around = standing.branches.get(anchor) ?? [];
          if (inCommon(around, branches) < branches.length) continue;
          for (const other of others) {
            const to = other.to ? nearest(other.item, around, standing)[0]?.anchor : undefined;
            if (to !== undefined) relate(anchor, to, [...when, ...one.when, ...other.when]);
          }
        }
    });
  for (const family of families)
    for (const from of family) for (const to of family) if (to !== from) relate(from, to, []);
  return new Map(
    [...ways].map(([from, leads]) => [
      from,
      [...leads].map(([anchor, several]) => ({ anchor, ...inOneOf(several) })),
    ]),
  );
}

/** For those for whom one of these holds. */
function inOneOf(ways: readonly (readonly When[])[]): { readonly when?: readonly When[] } {
  const [first, ...more] = new Map(ways.map((way) => [JSON.stringify(way), way])).values();
  if (!first || ways.some((way) => way.length === 0)) return {};
  return { when: more.length === 0 ? first : [{ either: [first, ...more] }] };
}

export function withRelated(
  places: readonly Place[],
  related: ReadonlyMap<string, readonly Related[]>,
): Place[] {
  return places.map((place) => ({
    ...place,
    related: related.get(place.anchor) ?? [],
    children: withRelated(place.children, related),
  }));
}
