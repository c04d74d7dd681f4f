import { partsOfFragment, type Library, type Reference } from '../library/index.ts';
import { childNamed, lineOf } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { webAddress } from '../rules/index.ts';
import { wordsFor } from '../words/index.ts';
import { basesAmong } from './alternates.ts';
import { inCommon, type Branch } from './branches.ts';
import { lookUpKey } from './keys.ts';
import type { NumberedMap } from './number.ts';
import { peerTargets, type Peer, type PeerKey } from './peers.ts';
import type { PlacedTopic } from './place.ts';
import type { Origin, PeerLink, ResolvedLink, Target } from './publication.ts';
import { relatedPlaces, withRelated } from './related.ts';
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
  const related = relatedPlaces(context.relations, numbered.families, {
    anchorsOf: (item) => index.standingsOf(item).map(({ anchor }) => anchor),
    nearest: (item, around) => index.nearest(item, around)[0]?.anchor,
    branchesOf: (anchor) => index.branchesOf(anchor),
  });
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
  readonly #placed = new Map<string, PlacedTopic>();
  readonly #copies: (PlacedTopic & { readonly copyTo: string })[] = [];
  readonly bases: ReadonlyMap<string, string>;

  /** @param bases for each alternate what it stands in for */
  constructor(placed: readonly PlacedTopic[], bases: ReadonlyMap<string, string>) {
    this.bases = bases;
    for (const one of placed) {
      const { topic, copyTo } = one;
      this.#placed.set(topic.anchor, one);
      if (copyTo !== undefined) this.#copies.push({ ...one, copyTo });
    }
    // Who names the topic itself does not mean what stands under another name.
    const ordered = this.#copies.length === 0 ? placed : placed.toSorted(asThemselvesFirst);
    for (const { topic, items } of ordered) {
      for (const id of items) {
        const known = this.#topics.get(id);
        if (known) known.push(topic);
        else this.#topics.set(id, [topic]);
      }
    }
  }

  branchesOf(anchor: string): readonly Branch[] {
    return this.#placed.get(anchor)?.branches ?? [];
  }

  /** Where the definition of a key stands that is used at a place. */
  branchesOfKey(keyref: string, anchor: string): readonly Branch[] {
    const scope = this.#placed.get(anchor)?.scope;
    return (scope && lookUpKey(scope, keyref.split('/')[0]!)?.branches) ?? [];
  }

  /** The topics that stand under the name of a file (DITA 1.3, `copy-to`). */
  copiesAs(path: string): readonly ResolvedTopic[] {
    return this.#copies.filter(({ copyTo }) => isSameFile(copyTo, path)).map(({ topic }) => topic);
  }

  /** The topics that show an item, in reading order. */
  standingsOf(id: string): readonly ResolvedTopic[] {
    return this.#topics.get(id) ?? [];
  }

  /** Where an item, or what it stands in for, stands: nearest to these branches first. */
  nearest(id: string, around: readonly Branch[]): readonly ResolvedTopic[] {
    const near = ({ anchor }: ResolvedTopic): number => inCommon(around, this.branchesOf(anchor));
    const found = this.#topics.get(id) ?? this.standingsOf(this.bases.get(id) ?? '');
    return found.length === 1 ? found : found.toSorted((a, b) => near(b) - near(a));
  }
}

interface Candidates {
  readonly candidates: readonly ResolvedTopic[];
  readonly element: string | undefined;
}

const asThemselvesFirst = (one: PlacedTopic, other: PlacedTopic): number =>
  Number(one.copyTo !== undefined) - Number(other.copyTo !== undefined);

/** Whether two paths, each from where it is written, can mean one file: from its end on. */
function isSameFile(one: string, other: string): boolean {
  const steps = (path: string): string[] =>
    path.split('/').filter((step) => step !== '.' && step !== '..');
  const [short = [], long = []] = [steps(one), steps(other)].toSorted(
    (a, b) => a.length - b.length,
  );
  return (
    short.length > 0 && short.every((step, at) => step === long[long.length - short.length + at])
  );
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

  resolve(link: PendingLink): ResolvedLink {
    const { key, reference, origin } = link;
    if (reference.kind === 'external') return outside(reference.href);
    const file = reference.kind === 'asset' ? this.#context.library.asset(reference.id) : undefined;
    if (file) return { kind: 'file', asset: file.id, text: file.name };
    const place = key.slice(0, key.lastIndexOf('~'));
    const { candidates, element } = this.#candidates(link, place);
    const here = candidates.find(({ anchor }) => anchor === place) ?? candidates[0];
    const anchor = here && anchorIn(here, candidates, element);
    const target = anchor === undefined ? undefined : this.#targets[anchor];
    if (target) return { kind: 'target', anchor: target.anchor, text: this.#wordsFor(target) };
    return (
      (here ? undefined : this.#inPeer(reference, origin)) ??
      (link.isOptional ? { kind: 'broken', text: '' } : this.#broken(reference, here, origin))
    );
  }

  /** The topics to which a link may lead, the most likely first, and a part of them. */
  #candidates({ reference, byKey }: PendingLink, place: string): Candidates {
    if (reference.kind === 'unknown') {
      const [path = '', element] = reference.href.split('#', 2);
      return { candidates: this.#index.copiesAs(path), element };
    }
    if (reference.kind !== 'item') return { candidates: [], element: undefined };
    // A key of another branch leads to where it is defined.
    const defined = byKey === undefined ? [] : this.#index.branchesOfKey(byKey, place);
    const around = defined.length > 0 ? defined : this.#index.branchesOf(place);
    return {
      candidates: this.#index.nearest(reference.id, around),
      element: reference.element,
    };
  }

  /** The text of a link without words of its own. */
  #wordsFor({ kind, number, title, linkText, opening, place }: Target): string {
    if (linkText !== undefined && linkText !== '') return linkText;
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

/** An address that cannot be read is reported where its text is checked. */
function outside(href: string): ResolvedLink {
  const address = webAddress(href);
  return address === undefined
    ? { kind: 'broken', text: href }
    : { kind: 'external', href: address };
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
