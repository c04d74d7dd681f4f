import {
  lensKey,
  openFacets,
  whenOf,
  type Facet,
  type Lens,
  type OpenFacet,
  type When,
} from '../facets/index.ts';
import {
  checkLanguage,
  checkReadiness,
  elementOf,
  shortDescriptionIn,
  type Item,
  type Library,
  type ReadyFact,
} from '../library/index.ts';
import { childNamed, element, type Element } from '../markup/index.ts';
import { atItem, problem, type Problem } from '../problems/index.ts';
import type { HouseRule } from '../rules/index.ts';
import { usualNumbering, type Numbering } from '../styles/index.ts';
import { wordsFor } from '../words/index.ts';
import { basesAmong, choosing, type Choose } from './alternates.ts';
import { nameIn } from './branches.ts';
import { expandMap, type MapNode } from './expand.ts';
import { readFacts } from './facts.ts';
import { buildIndex } from './indexing.ts';
import { fillKeys, keyScope, scopeKey, variablesOf, type KeyScope } from './keys.ts';
import { relatedPlaces, resolveLinks, withRelated, type Standing } from './linking.ts';
import { counting } from './number.ts';
import type { Peer, PeerEdition, PeerMap } from './peers.ts';
import { plainLine } from './plain.ts';
import {
  forThose,
  prepareTopic,
  type PendingLink,
  type PreparationContext,
  type PreparedTopic,
} from './prepare.ts';
import {
  allPlaces,
  type GlossaryEntry,
  type Listed,
  type Other,
  type Place,
  type PlaceRole,
  type Publication,
  type PublicationFacts,
  type Reason,
  type ResolvedElement,
  type Target,
} from './publication.ts';

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

/**
 * Remembers prepared topics between compositions, so that after a change only what changed is done
 * again.
 */
export type ComposeMemory = WeakMap<Element, Map<string, PreparedTopic>>;

export function composeMemory(): ComposeMemory {
  return new WeakMap();
}

/**
 * Composes a map and everything it reaches into the one resolved document from which all outputs
 * are made. Pure: the same input gives the same result. A topic that cannot be read or found is
 * left out and reported; nothing else is affected.
 * @param memory gives back work of earlier compositions of the same library
 * @returns the publication with problems `map.*`, `topic.missing`, `fact.*`, `locale.*`,
 * `borrow.*`, `key.*`, `image.missing`, `link.*`, `index.*` and those of validation
 */
export function compose(input: Composition, memory: ComposeMemory = composeMemory()): Publication {
  return composeMap(input, memory).publication;
}

/**
 * With the keys of the map. What a publication says of others does not depend on what these say of
 * it: links of a peer to its own peers are left open.
 */
function composeMap(
  input: Composition,
  memory: ComposeMemory,
  isPeer = false,
): { readonly publication: Publication; readonly scope: KeyScope } {
  const {
    library,
    facets = [],
    rules = [],
    variables = {},
    locale = 'en',
    numbering = usualNumbering,
  } = input;
  const lens = withDelivery(input.lens, input.deliveryTargets);
  const problems: Problem[] = [];
  const why: Reason[] = [];
  const map = library.item(input.map);
  if (!map?.root || map.kind !== 'map')
    return { publication: emptyPublication(input.map, map, locale), scope: keyScope([]) };

  const opened = new Map<string, readonly OpenFacet[]>();
  const openThrough = (through: Lens | undefined): readonly OpenFacet[] => {
    const known = opened.get(lensKey(through)) ?? openFacets(input.open ?? [], facets, through);
    opened.set(lensKey(through), known);
    return known;
  };
  const choosers = new Map<string, Choose>();
  const chooseThrough = (through: Lens | undefined): Choose => {
    const known =
      choosers.get(lensKey(through)) ?? choosing(library, through, facets, openThrough(through));
    choosers.set(lensKey(through), known);
    return known;
  };
  const expanded = expandMap(map, {
    library,
    lens,
    facets,
    rules,
    locale,
    chooseThrough,
    openThrough,
  });
  problems.push(...expanded.problems);
  why.push(...expanded.why);

  const scopeKeys = new Map<KeyScope, string>();
  const basis = JSON.stringify([
    facets,
    input.open,
    rules,
    variables,
    [...library.alternates],
    expanded.peers.map(({ names }) => names),
  ]);
  const prepare = (
    root: Element,
    item: string,
    node: MapNode,
    anchor: string,
  ): PreparedTopic | undefined => {
    const topic = elementOf(root, node.element);
    if (!topic) return undefined;
    const scoped = scopeKeys.get(node.scope) ?? scopeKey(node.scope);
    scopeKeys.set(node.scope, scoped);
    const key = `${anchor}\n${node.element ?? ''}\n${lensKey(node.lens)}\n${basis}\n${scoped}`;
    const remembered = memory.get(root) ?? new Map<string, PreparedTopic>();
    memory.set(root, remembered);
    const known = remembered.get(key);
    if (known && isCurrent(known, library)) return known;
    const context: PreparationContext = {
      library,
      lens: node.lens,
      facets,
      open: openThrough(node.lens),
      rules,
      scope: node.scope,
      variables,
      choose: chooseThrough(node.lens),
      peers: expanded.peers,
    };
    const prepared = prepareTopic(topic, item, anchor, context);
    remembered.set(key, prepared);
    return prepared;
  };

  const usedAnchors = new Set<string>();
  const anchorNamed = (wanted: string): string => {
    let anchor = wanted;
    for (let count = 2; usedAnchors.has(anchor); count += 1) anchor = `${wanted}-${count}`;
    usedAnchors.add(anchor);
    return anchor;
  };

  const counted = counting(numbering);
  const targets: Record<string, Target> = {};
  const figures: Listed[] = [];
  const tables: Listed[] = [];
  const glossary: GlossaryEntry[] = [];
  const indexTerms: PreparedTopic['indexTerms'][number][] = [];
  const assets = new Set<string>();
  const pending: PendingLink[] = [];
  /** Anchors of places that lead to each other because they stand together. */
  const families: string[][] = [];
  /**
   * Where each item stands, first place first; what an alternate stands in for stands there too.
   */
  const standing: Standing = { topics: new Map(), branches: new Map(), bases: basesAmong(library) };

  const register = (
    topic: PreparedTopic,
    { item, base, branches }: MapNode,
    title: string,
    number: string | undefined,
  ): void => {
    targets[topic.anchor] = {
      anchor: topic.anchor,
      place: topic.anchor,
      kind: 'topic',
      title,
      ...(number === undefined ? {} : { number }),
    };
    standing.branches.set(topic.anchor, branches);
    for (const id of new Set([item, base]))
      if (id !== undefined) standing.topics.set(id, [...(standing.topics.get(id) ?? []), topic]);
    collect(topic, topic.anchor);
  };

  /** @param place on whose page it stands */
  const collect = (topic: PreparedTopic, place: string): void => {
    for (const landmark of topic.landmarks) {
      let { number } = landmark;
      if (
        (landmark.kind === 'figure' ||
          landmark.kind === 'table' ||
          (landmark.kind === 'example' && numbering.examples)) &&
        landmark.title.length > 0
      ) {
        number = counted.caption(landmark.kind);
        const list = { figure: figures, table: tables, example: undefined }[landmark.kind];
        list?.push({ anchor: landmark.anchor, number: number ?? '', title: landmark.title });
      }
      targets[landmark.anchor] = {
        anchor: landmark.anchor,
        place,
        kind: landmark.kind,
        title: plainLine(landmark.title),
        ...(number === undefined ? {} : { number }),
      };
    }
    for (const id of topic.assets) assets.add(id);
    pending.push(...topic.links);
    indexTerms.push(...topic.indexTerms);
    problems.push(...topic.problems);
    why.push(...topic.why);
  };

  const placeNodes = (
    nodes: readonly MapNode[],
    level: number,
    parent: string | undefined,
  ): Place[] => {
    let ordinal = 0;
    return nodes.flatMap((entry) => {
      // A chapter has nothing above it that it could join.
      const node = level <= 1 ? { ...entry, joins: false, hasHeading: true } : entry;
      const source = node.item === undefined ? undefined : library.item(node.item);
      if (node.item !== undefined && !source?.root) {
        problems.push(
          ...(source?.problems ?? []),
          problem(
            'error',
            'topic.missing',
            source
              ? `The topic “${node.item}” cannot be read. It is left out.`
              : `The topic “${node.item}” is not in the library. It is left out.`,
            source ? { item: node.item } : node.origin,
          ),
        );
        return placeNodes(node.children, level, parent);
      }
      const own = node.role === 'part' ? 0 : Math.max(1, level);
      const anchor = anchorNamed(
        nameIn(node.branches, node.base ?? slug(node.title ? plainLine(node.title) : node.role)),
      );
      const prepared = source?.root ? prepare(source.root, source.id, node, anchor) : undefined;
      if (prepared?.dropped) {
        why.push(
          ...prepared.why,
          ...prepared.why.slice(0, 1).map((reason) => ({ ...reason, origin: node.origin })),
        );
        return placeNodes(node.children, level, parent);
      }
      if (node.role === 'section' && isListed(node)) ordinal += 1;
      const number =
        node.role === 'section' && !isListed(node)
          ? undefined
          : counted.place(node.role, own, parent, ordinal);
      if (source && !prepared) {
        problems.push(
          problem(
            'error',
            'topic.missing',
            `The topic “${node.item}” has no nested topic “${node.element}”. It is left out.`,
            node.origin,
          ),
        );
        return [];
      }
      return [makePlace(node, prepared, anchor, own, number)];
    });
  };

  const makePlace = (
    node: MapNode,
    prepared: PreparedTopic | undefined,
    anchor: string,
    level: number,
    number: string | undefined,
    isNested = false,
  ): Place => {
    const ownTitle = prepared && childNamed(prepared.content, 'title', 'glossterm');
    const title = ownTitle?.children ?? node.title ?? listTitle(node.role, locale);
    const label = plainLine(node.title ?? title);
    const when = node.conditions.flatMap(
      (attributes) => whenOf(attributes, openThrough(node.lens)) ?? [],
    );
    if (prepared && node.item !== undefined)
      register(prepared, node, plainLine(title) || label, number);
    else
      targets[anchor] = {
        anchor,
        place: anchor,
        kind: 'topic',
        title: label,
        ...(number === undefined ? {} : { number }),
      };
    const alternates = alternatesAt(node, anchor);
    const others = alternates.map(({ other }) => other);
    if (prepared && (node.role === 'glossaryentry' || prepared.content.name === 'glossentry'))
      glossary.push({ anchor, term: label, content: prepared.content });
    const inside = [
      ...(prepared?.nested ?? []).map((topic) => ({ topic, when: node.when })),
      ...alternates.flatMap(({ nested, when }) => nested.map((topic) => ({ topic, when }))),
    ];
    const nestedPlaces = inside.map(({ topic, when: whose }, index) =>
      nestedPlace(topic, node, whose, level + 1, number, index + 1),
    );
    const below = placeNodes(node.children, level + 1, number);
    if (node.isFamily)
      families.push(
        below
          .filter(({ isLinked, content }) => isLinked && content !== undefined)
          .map(({ anchor: one }) => one),
      );
    return {
      anchor,
      role: node.role,
      level,
      title,
      label,
      isLinked: node.isLinked,
      entry: node.origin,
      joins: node.joins,
      hasHeading: node.hasHeading,
      isNested,
      inContents: isListed(node) && node.role !== 'glossaryentry',
      shortDescription: prepared ? plainDescription(prepared.content) : '',
      contextIds: openedBy(
        [
          ...node.contextIds,
          ...(prepared?.contextIds ?? []),
          ...alternates.flatMap(({ contextIds }) => contextIds),
        ],
        anchor,
        node.origin,
      ),
      origin: prepared ? prepared.content.origin : node.origin,
      related: [],
      children: [...nestedPlaces, ...below],
      ...(number === undefined ? {} : { number }),
      ...(when.length === 0 ? {} : { when }),
      ...(others.length === 0 ? {} : { others }),
      ...(node.when ? { otherwise: node.when } : {}),
      ...(node.title ? { mapTitle: node.title } : {}),
      ...(prepared ? { content: prepared.content } : {}),
    };
  };

  const byContext = new Map<string, string>();
  /** An id opens what it was first found at. */
  const openedBy = (ids: readonly string[], anchor: string, where: MapNode['origin']): string[] =>
    [...new Set(ids)].filter((id) => {
      const first = byContext.get(id);
      if (first === undefined) byContext.set(id, anchor);
      else
        problems.push(
          problem(
            'warning',
            'context.twice',
            `The context-help id “${id}” opens “${targets[first]?.title ?? first}” already. ` +
              `It does not open “${targets[anchor]?.title ?? anchor}”.`,
            where,
          ),
        );
      return first === undefined;
    });

  /**
   * What some readers get in the place of the topic; links to its parts lead to those of the topic.
   */
  const alternatesAt = (
    node: MapNode,
    base: string,
  ): ({ readonly other: Other; readonly when: When | undefined } & Pick<
    PreparedTopic,
    'nested' | 'contextIds'
  >)[] =>
    node.others.flatMap(({ id, when }) => {
      const root = library.item(id)?.root;
      const anchor = root ? anchorNamed(nameIn(node.branches, id)) : base;
      const prepared = root && prepare(root, id, node, anchor);
      if (!prepared || prepared.dropped) return [];
      standing.topics.set(id, [...(standing.topics.get(id) ?? []), prepared]);
      standing.branches.set(anchor, node.branches);
      targets[anchor] = {
        anchor,
        place: base,
        kind: 'topic',
        title: plainLine(childNamed(prepared.content, 'title', 'glossterm')?.children ?? []),
      };
      collect(prepared, base);
      const title =
        childNamed(prepared.content, 'title', 'glossterm')?.children ?? node.title ?? [];
      const label = plainLine(node.title ?? title);
      const { content, nested, contextIds } = prepared;
      const own = node.title ? { mapTitle: node.title } : {};
      return [
        {
          other: {
            anchor,
            title,
            label,
            ...own,
            shortDescription: plainDescription(content),
            origin: content.origin,
            content: forThose(content, when),
          },
          when,
          nested,
          contextIds,
        },
      ];
    });

  const nestedPlace = (
    topic: PreparedTopic,
    node: MapNode,
    whose: When | undefined,
    level: number,
    parent: string | undefined,
    ordinal: number,
  ): Place => {
    const number = counted.place('section', level, parent, ordinal);
    const inner = {
      ...node,
      role: 'section' as const,
      joins: node.joinsNested,
      hasHeading: true,
      contextIds: [],
      children: [],
      others: [],
    };
    const { title: _mapTitle, when: _when, ...untitled } = inner;
    usedAnchors.add(topic.anchor);
    return makePlace(
      untitled,
      { ...topic, content: forThose(topic.content, whose) },
      topic.anchor,
      level,
      number,
      true,
    );
  };

  const said = (nodes: readonly MapNode[]): MapNode[] =>
    nodes.map((node) => {
      const { title, scope, lens: through, children } = node;
      return {
        ...node,
        children: said(children),
        ...(title
          ? {
              title: fillKeys(title, scope, variables, {
                lens: through,
                facets,
                open: openThrough(through),
              }),
            }
          : {}),
      };
    });
  const places = placeNodes(said(expanded.nodes), 1, undefined);
  problems.push(...unready(places, library, input));
  const peers = (): Peer[] =>
    isPeer ? [] : expanded.peers.flatMap((peer) => peersOf(peer, input, memory));
  const links = resolveLinks(pending, { standing, targets, library, peers, locale }, problems);
  const related = relatedPlaces(expanded.relations, families, standing);
  const { groups, problems: indexProblems } = buildIndex(indexTerms, locale);
  problems.push(...indexProblems);
  const collator = new Intl.Collator(locale);
  const publication = {
    facts: {
      ...readFacts(
        element(
          map.root.name,
          map.root.attributes,
          fillKeys(map.root.children, expanded.scope, variables, { lens, facets, open: [] }),
        ),
      ),
      ...input.facts,
    },
    locale,
    variables: variablesOf(expanded.scope, variables),
    places: withRelated(places, related),
    figures,
    tables,
    index: groups,
    glossary: glossary.sort((a, b) => collator.compare(a.term, b.term)),
    targets,
    links,
    assets: [...assets],
    open: openThrough(lens),
    numbering,
    problems: distinct(problems),
    why,
  };
  return { publication, scope: expanded.scope };
}

/** The publications of another map; made as this one is where none is named. */
function peersOf(peer: PeerMap, input: Composition, memory: ComposeMemory): Peer[] {
  const named = input.peerEditions?.(peer.map) ?? [];
  const { library, facets, rules } = input;
  const agreed = { library, ...(facets ? { facets } : {}), ...(rules ? { rules } : {}) };
  const { facts: _ofThisOne, ...alike } = input;
  return (named.length > 0 ? named : [alike]).map((edition: PeerEdition): Peer => {
    const { address: _ofReaders, ...settings } = edition;
    let known: ReturnType<Peer['composed']> | undefined;
    return {
      ...peer,
      edition,
      composed: () =>
        (known ??= composeMap({ ...settings, ...agreed, map: peer.map }, memory, true)),
    };
  });
}

/** What is said of its topics, each once. */
function unready(
  places: readonly Place[],
  library: Library,
  { ready = [], locale = 'en', sourceLocale }: Composition,
): Problem[] {
  const standing = allPlaces(places).flatMap(({ content, others = [] }) => [
    ...(content ? [content] : []),
    ...others.map((other) => other.content),
  ]);
  return [...new Set(standing.map(({ origin }) => origin.item))].flatMap((item) => {
    const root = library.item(item)?.root;
    return root
      ? atItem(item, [...checkReadiness(root, ready), ...checkLanguage(root, locale, sourceLocale)])
      : [];
  });
}

const isListed = ({ inContents, hasHeading }: MapNode): boolean => inContents && hasHeading;

function emptyPublication(id: string, map: Item | undefined, locale: string): Publication {
  const facts = readFacts(element('map'));
  const missing = problem(
    'error',
    'map.missing-map',
    `The map “${id}” ${map ? 'cannot be read' : 'is not in the library'}.`,
    { item: id },
  );
  return {
    facts,
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
    open: [],
    numbering: usualNumbering,
    problems: [...(map?.problems ?? []), missing],
    why: [],
  };
}

function withDelivery(
  lens: Lens | undefined,
  targets: readonly string[] | undefined,
): Lens | undefined {
  if (!targets) return lens;
  const kept = targets.map((value) => ({
    facet: 'deliveryTarget',
    value,
    action: 'keep' as const,
  }));
  return {
    name: lens?.name ?? '',
    rules: [...(lens?.rules ?? []), ...kept, { facet: 'deliveryTarget', action: 'drop' }],
  };
}

const isCurrent = (topic: PreparedTopic, library: Library): boolean =>
  [...topic.lenders].every(([id, root]) => library.item(id)?.root === root) &&
  [...topic.lookedFor].every(([id, found]) => (library.asset(id) !== undefined) === found) &&
  topic.nested.every((inner) => isCurrent(inner, library));

/** Lists that the product makes have the product's own headings. */
function listTitle(role: PlaceRole, locale: string): readonly string[] {
  const words = wordsFor(locale);
  const titles: Partial<Record<PlaceRole, string>> = {
    toc: words.contents,
    figurelist: words.figures,
    tablelist: words.tables,
    glossarylist: words.glossary,
    indexlist: words.index,
  };
  const title = titles[role];
  return title === undefined ? [] : [title];
}

const plainDescription = (content: ResolvedElement): string =>
  plainLine(shortDescriptionIn(content)?.children ?? []);

function slug(text: string): string {
  const plain = text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();
  return (
    plain
      .replace(/[^\p{L}\p{N}]+/gu, '-')
      .replace(/^-|-$/gu, '')
      .slice(0, 60) || 'place'
  );
}

/** A passage borrowed or a topic used twice reports the same thing twice; people need it once. */
function distinct(problems: readonly Problem[]): Problem[] {
  const seen = new Map<string, Problem>();
  for (const found of problems) {
    const key = JSON.stringify([
      found.code,
      found.message,
      found.where.item,
      found.where.path,
      found.where.attribute,
    ]);
    if (!seen.has(key)) seen.set(key, found);
  }
  return [...seen.values()];
}
