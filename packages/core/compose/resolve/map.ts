import { lensKey, throughLens, type Lens, type When } from '../../facets/index.ts';
import { elementById, type LibraryItem } from '../../library/index.ts';
import { problem, type Problem } from '../../problems/index.ts';
import { isElement, type Element, type Node } from '../../markup/index.ts';
import { nameIn } from '../branches.ts';
import type { ComposeContext } from '../context.ts';
import type { ExpandedMap } from '../expand/map.ts';
import type { MapNode } from '../expand/node.ts';
import { fillKeys, scopeKey, type KeyScope } from '../keys.ts';
import { once } from '../memory.ts';
import { plainLine } from '../plain.ts';
import type { Reason, ResolvedElement } from '../publication.ts';
import type { PushedContent } from '../pushing.ts';
import type { ResolvedTopic } from './resolved.ts';
import { resolveTopic } from './topic.ts';

/** An alternate that some readers get in the place of a topic. */
export interface ResolvedAlternate {
  readonly id: string;
  readonly when: When;
  readonly topic: ResolvedTopic;
}

/** An entry of the map with its topic, or with its heading alone. */
export interface ResolvedNode {
  /** With the variables in its title filled in. */
  readonly entry: MapNode;
  /** Unique in the publication. */
  readonly anchor: string;
  readonly topic?: ResolvedTopic;
  readonly alternates: readonly ResolvedAlternate[];
  readonly children: readonly ResolvedNode[];
}

export interface ResolvedMap {
  readonly nodes: readonly ResolvedNode[];
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
}

/**
 * Resolves the topics of all entries for these readers. The entries below a topic that is dropped
 * or missing take its place. A pass of composing.
 * @returns the entries with problems `topic.missing` and those of their topics
 */
export const resolveMap = (
  expanded: ExpandedMap,
  pushed: PushedContent,
  context: ComposeContext,
): ResolvedMap => new MapResolver(expanded, pushed, context).resolve();

class MapResolver {
  readonly #expanded: ExpandedMap;
  readonly #pushed: PushedContent;
  readonly #context: ComposeContext;
  readonly #problems: Problem[] = [];
  readonly #why: Reason[] = [];
  readonly #anchors = new Set<string>();
  /** Names of what topics are resolved with, for the memory. */
  readonly #scopes = new Map<KeyScope, number>();
  readonly #lenses = new Map<Lens | undefined, number>();
  readonly #settings: number;

  constructor(expanded: ExpandedMap, pushed: PushedContent, context: ComposeContext) {
    this.#expanded = expanded;
    this.#pushed = pushed;
    this.#context = context;
    const { facets, rules, variables, library } = context;
    const peers = expanded.peers.map(({ names }) => names);
    const open = context.openThrough(undefined);
    this.#settings = context.memory.settingsName(
      JSON.stringify([
        facets,
        open,
        rules,
        variables,
        [...library.alternates],
        peers,
        [...pushed.pushes].map(([id, byPath]) => [id, [...byPath]]),
      ]),
    );
  }

  resolve(): ResolvedMap {
    const nodes = this.#nodes(this.#expanded.nodes);
    const { problems, why } = this.#pushed;
    return {
      nodes,
      problems: [...problems, ...this.#problems],
      why: [...why, ...this.#why],
    };
  }

  #nodes(entries: readonly MapNode[]): readonly ResolvedNode[] {
    return entries.flatMap((entry) => this.#node(this.#titled(entry)));
  }

  #titled(entry: MapNode): MapNode {
    const { title, searchTitle, linkText, metadata, scope, lens } = entry;
    if (!title && !searchTitle && !linkText && metadata.length === 0) return entry;
    const { facets, variables, openThrough } = this.#context;
    const reading = { lens, facets, open: openThrough(lens) };
    const filled = (words: readonly Node[]): Node[] =>
      fillKeys(words, { scope, variables }, reading);
    return {
      ...entry,
      ...(title ? { title: filled(title) } : {}),
      ...(searchTitle ? { searchTitle: filled(searchTitle) } : {}),
      ...(linkText ? { linkText: filled(linkText) } : {}),
      ...(metadata.length === 0 ? {} : { metadata: filled(metadata).filter(isElement) }),
    };
  }

  #node(entry: MapNode): readonly ResolvedNode[] {
    const { item: id } = entry;
    const item = id === undefined ? undefined : this.#context.library.item(id);
    if (id !== undefined && !item?.root) {
      this.#reportMissing(id, item, entry);
      return this.#nodes(entry.children);
    }
    const anchor = this.#freeAnchor(entry);
    if (entry.address !== undefined) {
      const topic = leadingTopic(entry, entry.address, anchor);
      return [{ entry, anchor, topic, alternates: [], children: this.#nodes(entry.children) }];
    }
    if (!item?.root)
      return [{ entry, anchor, alternates: [], children: this.#nodes(entry.children) }];
    const topic = this.#topic(item.root, item.id, entry, anchor);
    if (!topic) {
      this.#problems.push(
        problem(
          'error',
          'topic.missing',
          `The topic “${id}” has no nested topic “${entry.element}”. It is left out.`,
          entry.origin,
        ),
      );
      return [];
    }
    if (topic.dropped) {
      const [first] = topic.why;
      this.#why.push(...topic.why, ...(first ? [{ ...first, origin: entry.origin }] : []));
      return this.#nodes(entry.children);
    }
    this.#gather(topic);
    const alternates = this.#alternates(entry, anchor);
    for (const one of [topic, ...alternates.map((other) => other.topic)]) this.#gatherNested(one);
    const indexed = this.#indexed(topic, entry);
    return [{ entry, anchor, topic: indexed, alternates, children: this.#nodes(entry.children) }];
  }

  /** The topic with the index entries that the map gives it. */
  #indexed(topic: ResolvedTopic, { indexTerms, lens, origin }: MapNode): ResolvedTopic {
    if (indexTerms.length === 0) return topic;
    const { anchor } = topic;
    const kept = indexTerms.flatMap((term) => throughLens(term, lens, this.#context.facets) ?? []);
    const given = kept.map((term) => ({ anchor, term: { ...term, origin } }));
    return { ...topic, indexTerms: [...topic.indexTerms, ...given] };
  }

  #alternates(entry: MapNode, anchor: string): readonly ResolvedAlternate[] {
    return entry.others.flatMap(({ id, when }) => {
      const root = this.#context.library.item(id)?.root;
      const own = root ? this.#unused(nameIn(entry.branches, id)) : anchor;
      const topic = root && this.#topic(root, id, entry, own);
      if (!topic || topic.dropped) return [];
      this.#gather(topic);
      return [{ id, when, topic }];
    });
  }

  /** One topic at one place; as it was before, where nothing has changed that it depends on. */
  #topic(root: Element, item: string, entry: MapNode, anchor: string): ResolvedTopic | undefined {
    const topic = elementById(root, entry.element);
    if (!topic) return undefined;
    const { library, facets, rules, variables, memory, ...context } = this.#context;
    const { scope, lens, element = '' } = entry;
    const scopeName = once(this.#scopes, scope, () => memory.settingsName(scopeKey(scope)));
    const lensName = once(this.#lenses, lens, () => memory.settingsName(lensKey(lens)));
    const key = JSON.stringify([anchor, element, this.#settings, scopeName, lensName]);
    const isCurrent = (known: ResolvedTopic): boolean =>
      [...known.read].every(([id, found]) => library.item(id)?.root === found) &&
      [...known.lookedFor].every(([id, found]) => (library.asset(id) !== undefined) === found) &&
      known.nested.every(isCurrent);
    return memory.topic(root, key, isCurrent, () =>
      resolveTopic(
        { item, topic, anchor },
        {
          library,
          lens,
          facets,
          open: context.openThrough(lens),
          rules,
          scope,
          variables,
          choose: context.chooseThrough(lens),
          peers: this.#expanded.peers,
          pushes: this.#pushed.pushes,
        },
      ),
    );
  }

  #freeAnchor({ branches, base, copyTo, title, role }: MapNode): string {
    const copy = copyTo === undefined ? undefined : slug(fileStem(copyTo));
    return this.#unused(nameIn(branches, copy ?? base ?? slug(title ? plainLine(title) : role)));
  }

  #unused(wanted: string): string {
    let anchor = wanted;
    for (let count = 2; this.#anchors.has(anchor); count += 1) anchor = `${wanted}-${count}`;
    this.#anchors.add(anchor);
    return anchor;
  }

  #gather({ problems, why }: ResolvedTopic): void {
    this.#problems.push(...problems);
    this.#why.push(...why);
  }

  #gatherNested({ nested }: ResolvedTopic): void {
    for (const topic of nested) {
      this.#anchors.add(topic.anchor);
      this.#gather(topic);
      this.#gatherNested(topic);
    }
  }

  #reportMissing(id: string, item: LibraryItem | undefined, { origin }: MapNode): void {
    this.#problems.push(
      ...(item?.problems ?? []),
      problem(
        'error',
        'topic.missing',
        item
          ? `The topic “${id}” cannot be read. It is left out.`
          : `The topic “${id}” is not in the library. It is left out.`,
        item ? { item: id } : origin,
      ),
    );
  }
}

/** A topic of one link, for an entry that leads out of the publication. */
function leadingTopic({ title, origin }: MapNode, href: string, anchor: string): ResolvedTopic {
  const made = (name: string, children: readonly Node[]): ResolvedElement => ({
    name,
    attributes: {},
    children,
    origin,
  });
  const key = `${anchor}~1`;
  const link = { ...made('xref', []), link: key };
  return {
    content: {
      ...made('topic', [made('title', title ?? []), made('body', [made('p', [link])])]),
      anchor,
    },
    otherTitles: {},
    metadata: [],
    dropped: false,
    anchor,
    anchors: new Map(),
    landmarks: [],
    links: [{ key, reference: { kind: 'external', href }, origin }],
    indexTerms: [],
    contextIds: [],
    assets: new Set(),
    drawings: new Map(),
    problems: [],
    why: [],
    read: new Map(),
    lookedFor: new Map(),
    nested: [],
  };
}

/** The name of a file without its folders and its ending. */
const fileStem = (path: string): string => path.replace(/^.*\//u, '').replace(/\.[^.]*$/u, '');

/** Words as a part of an address. */
function slug(words: string): string {
  const plain = words.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
  return (
    plain
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/gu, '')
      .slice(0, 60) || 'place'
  );
}
