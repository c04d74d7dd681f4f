import type { When } from '../facets/index.ts';
import { partsOfFragment, type Library, type Reference } from '../library/index.ts';
import { childNamed, lineOf } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { wordsFor } from '../words/index.ts';
import { basesAmong } from './alternates.ts';
import { inCommon, type Branch } from './branches.ts';
import type { NumberedMap } from './number.ts';
import { peerTargets, type Peer, type PeerKey } from './peers.ts';
import type { PlacedTopic } from './place.ts';
import type { Origin, PeerLink, Place, Related, ResolvedLink, Target } from './publication.ts';
import type { Relation } from './relations.ts';
import type { PendingLink, ResolvedTopic } from './resolve/resolved.ts';

export interface LinkedMap extends NumberedMap {
  /** By the key that an element has as its `link`. */
  readonly links: Readonly<Record<string, ResolvedLink>>;
}

/** What link targets are looked up in, beside the publication itself. */
export interface LinkingContext {
  readonly library: Library;
  readonly locale: string;
  readonly relations: readonly Relation[];
  /** The other publications; composed when the first link asks for them. */
  readonly peers: () => readonly Peer[];
}

/**
 * Finds what links lead to, and what places lead to because of where they stand. A link leads to
 * the nearest standing of its target: in the same topic when it is there, else in the same branch,
 * else where it stands first, else in the first other publication that has it. A pass of composing.
 * @returns the places with what they lead to, the links, and problems `link.*` added to those
 * before
 */
export function linkPlaces(numbered: NumberedMap, context: LinkingContext): LinkedMap {
  const index = new LinkIndex(numbered.topics, basesAmong(context.library));
  const related = relatedPlaces(context.relations, numbered.families, index);
  const linking = new Linking(numbered.targets, index, context);
  const links: Record<string, ResolvedLink> = {};
  for (const { topic } of numbered.topics)
    for (const link of topic.links) links[link.key] = linking.resolve(link);
  return {
    ...numbered,
    places: related.size === 0 ? numbered.places : withRelated(numbered.places, related),
    links,
    problems: [...numbered.problems, ...linking.problems],
  };
}

/** The places of each item. */
class LinkIndex {
  readonly #topics = new Map<string, ResolvedTopic[]>();
  readonly #branches = new Map<string, readonly Branch[]>();
  readonly bases: ReadonlyMap<string, string>;

  /** @param bases for each alternate what it stands in for */
  constructor(placed: readonly PlacedTopic[], bases: ReadonlyMap<string, string>) {
    this.bases = bases;
    for (const { topic, items, branches } of placed) {
      this.#branches.set(topic.anchor, branches);
      for (const id of items) {
        const known = this.#topics.get(id);
        if (known) known.push(topic);
        else this.#topics.set(id, [topic]);
      }
    }
  }

  branchesOf(anchor: string): readonly Branch[] {
    return this.#branches.get(anchor) ?? [];
  }

  /** The topics that show an item, in reading order. */
  standingsOf(id: string): readonly ResolvedTopic[] {
    return this.#topics.get(id) ?? [];
  }

  /** Where an item, or what it stands in for, stands: nearest to these branches first. */
  nearest(id: string, around: readonly Branch[]): readonly ResolvedTopic[] {
    const near = ({ anchor }: ResolvedTopic): number => inCommon(around, this.branchesOf(anchor));
    const found = this.#topics.get(id) ?? this.standingsOf(this.bases.get(id) ?? '');
    return found.toSorted((a, b) => near(b) - near(a));
  }
}

class Linking {
  readonly problems: Problem[] = [];
  readonly #targets: Readonly<Record<string, Target>>;
  readonly #index: LinkIndex;
  readonly #context: LinkingContext;
  readonly #words: ReturnType<typeof wordsFor>;
  #findInPeers: ReturnType<typeof peerTargets> | undefined;

  constructor(
    targets: Readonly<Record<string, Target>>,
    index: LinkIndex,
    context: LinkingContext,
  ) {
    this.#targets = targets;
    this.#index = index;
    this.#context = context;
    this.#words = wordsFor(context.locale);
  }

  resolve({ key, reference, origin }: PendingLink): ResolvedLink {
    if (reference.kind === 'external') return { kind: 'external', href: reference.href };
    const place = key.slice(0, key.lastIndexOf('~'));
    const candidates =
      reference.kind === 'item'
        ? this.#index.nearest(reference.id, this.#index.branchesOf(place))
        : [];
    const here = candidates.find(({ anchor }) => anchor === place) ?? candidates[0];
    const anchor =
      here && reference.kind === 'item' ? anchorIn(here, candidates, reference.element) : undefined;
    const target = anchor === undefined ? undefined : this.#targets[anchor];
    if (target) return { kind: 'target', anchor: target.anchor, text: this.#wordsFor(target) };
    return (
      (here ? undefined : this.#inPeer(reference, origin)) ?? this.#broken(reference, here, origin)
    );
  }

  /** The text of a link without words of its own. */
  #wordsFor({ kind, number, title, opening, place }: Target): string {
    if (number !== undefined && kind === 'item') return number;
    const word =
      kind === 'figure' || kind === 'table' || kind === 'example' || kind === 'step'
        ? this.#words[kind]
        : undefined;
    return word && number !== undefined
      ? `${word} ${number}`
      : title || opening || word || (this.#targets[place]?.title ?? '');
  }

  #inPeer(reference: Reference | PeerKey, origin: Origin): ResolvedLink | undefined {
    this.#findInPeers ??= peerTargets(this.#context.peers(), this.#index.bases);
    const found = this.#findInPeers(reference);
    if (found?.anchor !== undefined) return peerLink(found.peer, found.anchor);
    if (reference.kind !== 'peer') return undefined;
    const title = found?.peer.composed().publication.facts.title ?? reference.scope;
    this.#report(
      'link.outside-peer',
      `A link leads to “${reference.key}” in “${title}”, which is not in that publication.`,
      origin,
    );
    return { kind: 'broken', text: reference.key };
  }

  #broken(
    reference: Reference | PeerKey,
    here: ResolvedTopic | undefined,
    origin: Origin,
  ): ResolvedLink {
    const known = reference.kind === 'item' ? this.#context.library.item(reference.id) : undefined;
    const title = known?.root && childNamed(known.root, 'title', 'glossterm');
    const name = title ? lineOf(title) : nameOf(reference);
    if (!known)
      this.#report(
        'link.unknown-target',
        `A link leads to “${name}”, which is not in the library.`,
        origin,
      );
    else if (!here)
      this.#report(
        'link.outside-publication',
        `A link leads to “${name}”, which is not in this publication.`,
        origin,
      );
    else
      this.#report(
        'link.unknown-element',
        `A link leads to a part of “${name}” that is not there.`,
        origin,
      );
    return { kind: 'broken', text: name };
  }

  #report(code: string, message: string, where: Origin): void {
    this.problems.push(problem('error', code, message, where));
  }
}

function nameOf(reference: Reference | PeerKey): string {
  if (reference.kind === 'peer') return reference.key;
  return reference.kind === 'unknown' || reference.kind === 'external'
    ? reference.href
    : reference.id;
}

/** @param element an id in the topic; the topic itself, where nothing is said */
function anchorIn(
  here: ResolvedTopic,
  candidates: readonly ResolvedTopic[],
  element: string | undefined,
): string | undefined {
  if (element === undefined || element === here.content.attributes['id']) return here.anchor;
  const parts = partsOfFragment(element);
  const topic = parts.topic === undefined ? undefined : findTopic(candidates, parts.topic);
  return topic ? topic.anchors.get(parts.element) : findAnchor(candidates, parts.element);
}

/** A topic by the id that it has in its text, nested ones too. */
function findTopic(topics: readonly ResolvedTopic[], id: string): ResolvedTopic | undefined {
  for (const topic of topics) {
    const found = topic.content.attributes['id'] === id ? topic : findTopic(topic.nested, id);
    if (found) return found;
  }
  return undefined;
}

function findAnchor(topics: readonly ResolvedTopic[], id: string): string | undefined {
  for (const topic of topics) {
    const inside =
      topic.anchors.get(id) ??
      (topic.content.attributes['id'] === id ? topic.anchor : findAnchor(topic.nested, id));
    if (inside !== undefined) return inside;
  }
  return undefined;
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

/**
 * For each place those that its relationship-table rows name in other cells (DITA 1.3, 2.2.3.2),
 * and those of its family.
 */
function relatedPlaces(
  relations: readonly Relation[],
  families: readonly (readonly string[])[],
  index: LinkIndex,
): Map<string, Related[]> {
  /** From where, to where, and for whom: each time all of that must hold. */
  const ways = new Map<string, Map<string, (readonly When[])[]>>();
  const relate = (from: string, to: string, when: readonly When[]): void => {
    const known = ways.get(from) ?? new Map<string, (readonly When[])[]>();
    ways.set(from, known.set(to, [...(known.get(to) ?? []), when]));
  };
  for (const { cells, when, branches } of relations)
    cells.forEach((cell, at) => {
      const others = cells.filter((_, other) => other !== at).flat();
      for (const one of cell.filter(({ from }) => from))
        for (const { anchor } of index.standingsOf(one.item)) {
          const around = index.branchesOf(anchor);
          if (inCommon(around, branches) < branches.length) continue;
          for (const other of others) {
            const to = other.to ? index.nearest(other.item, around)[0]?.anchor : undefined;
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

const withRelated = (
  places: readonly Place[],
  related: ReadonlyMap<string, readonly Related[]>,
): Place[] =>
  places.map((place) => ({
    ...place,
    related: related.get(place.anchor) ?? [],
    children: withRelated(place.children, related),
  }));
