import {
  facetValuesOf,
  evaluateProfile,
  throughLens,
  whenOf,
  type Facet,
  type Lens,
  type OpenFacet,
  type When,
} from '../facets/index.ts';
import { basesOf, definitionOf, isA, labelOf } from '../grammar/index.ts';
import {
  checkItem,
  contextIdsIn,
  namesIn,
  readReference,
  definitionsOf,
  isInLanguage,
  type LibraryItem,
  type Library,
  type Reference,
} from '../library/index.ts';
import {
  childNamed,
  findOutermost,
  isElement,
  lineOf,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
import { atItem, problem, type Path, type Problem } from '../problems/index.ts';
import type { HouseRule } from '../rules/index.ts';
import type { ChosenAlternate, Choose } from './alternates.ts';
import { branchesOf, scopesIn, type Branch } from './branches.ts';
import { defineKeys, keyScope, lookUpKey, type KeyScope } from './keys.ts';
import type { PeerMap } from './peers.ts';
import type { Origin, PlaceRole, Reason } from './publication.ts';
import { readRelations, type Relation } from './relations.ts';

/** An entry of the expanded map, before its topic is read. */
export interface MapNode {
  readonly role: PlaceRole;
  /** The item shown here, and the nested topic in it where one is named. */
  readonly item?: string;
  /** What the map names: another item where an alternate stands in for it. */
  readonly base?: string;
  /** Who gets it rather than one of the others, where readers decide; and what those get. */
  readonly when?: When;
  readonly others: ChosenAlternate['others'];
  readonly element?: string;
  /** Where an entry leads that shows nothing of the library. */
  readonly address?: string;
  /** Index entries of the map that lead to it. */
  readonly indexTerms: readonly Element[];
  /** The map's own title for the place. */
  readonly title?: readonly Node[];
  /**
   * Whether that goes before the titles of its topic in contents and navigation (DITA 1.3,
   * `locktitle`).
   */
  readonly isTitleLocked: boolean;
  /** The map's own title for it among search results. */
  readonly searchTitle?: readonly Node[];
  /** Ids by which applications open it, as the map says. */
  readonly contextIds: readonly string[];
  readonly inContents: boolean;
  /** Whether the search finds it. */
  readonly isSearched: boolean;
  /** Whether links are made from it and to it. */
  readonly isLinked: boolean;
  /** What stands directly under it leads to each other (DITA 1.3, `collection-type`). */
  readonly isFamily: boolean;
  /** Whether it stands on the page of the place above it (DITA 1.3, 2.4.5, `chunk`). */
  readonly isChunked: boolean;
  /** Whether the topics nested in its topic stand on its page. */
  readonly chunksNested: boolean;
  /** Without a heading its text goes on where that of the place above ends. */
  readonly hasHeading: boolean;
  readonly scope: KeyScope;
  readonly origin: Origin;
  /** The attributes of the entry and of all around it that decide who gets it, outermost first. */
  readonly conditions: readonly Attributes[];
  /** Through which its content is seen: that of the branch. */
  readonly lens: Lens | undefined;
  /** The branches in which it stands, outermost first. */
  readonly branches: readonly Branch[];
  readonly children: readonly MapNode[];
}

export interface ExpandedMap {
  readonly nodes: readonly MapNode[];
  readonly scope: KeyScope;
  readonly relations: readonly Relation[];
  readonly peers: readonly PeerMap[];
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
}

export interface Expansion {
  readonly library: Library;
  readonly lens: Lens | undefined;
  readonly facets: readonly Facet[];
  readonly rules?: readonly HouseRule[];
  readonly locale?: string;
  /** Whether the output is paper; entries for the other kind of output are then left out. */
  readonly isPrint?: boolean | undefined;
  /**
   * Chooses among topics and their alternates, through the lens of a branch; only bases where it is
   * not given.
   */
  readonly chooseThrough?: (lens: Lens | undefined) => Choose;
  /** On which readers decide themselves, through the lens of a branch; on nothing by default. */
  readonly openThrough?: (lens: Lens | undefined) => readonly OpenFacet[];
}

/**
 * Expands a map with its sub-maps into entries, drops what the lens drops, parts it into branches,
 * chooses alternates, and gathers keys, relationship tables and peers. A pass of composing.
 * @returns the entries with problems `map.*`, `key.*`, `alternate.*` and those of the maps'
 * validation
 */
export function expandMap(map: LibraryItem, expansion: Expansion): ExpandedMap {
  return new MapReader(expansion).read(map);
}

/** Every entry in reading order. */
export const allNodes = (nodes: readonly MapNode[]): MapNode[] =>
  nodes.flatMap((node) => [node, ...allNodes(node.children)]);

/** The `outputclass` of an entry whose text goes on in that of the place above. */
export const withoutHeading = 'without-heading';

const lists: Readonly<Record<string, PlaceRole>> = {
  toc: 'toc',
  figurelist: 'figurelist',
  tablelist: 'tablelist',
  indexlist: 'indexlist',
  glossarylist: 'glossarylist',
};
const roles: Readonly<Record<string, PlaceRole>> = {
  ...lists,
  part: 'part',
  chapter: 'chapter',
  appendix: 'appendix',
  preface: 'preface',
  notices: 'notices',
  frontmatter: 'frontmatter',
  backmatter: 'backmatter',
  glossref: 'glossaryentry',
};
/** Elements that hold others and have no heading of their own. */
const transparent = new Set([
  'frontmatter',
  'backmatter',
  'booklists',
  'appendices',
  'topicgroup',
  'topicset',
]);
/** Keys of sets that hold everywhere come behind all that a map says itself. */
const deepest = 1000;

/** What holds around an element of a map. */
interface MapContext {
  readonly item: LibraryItem;
  readonly role: PlaceRole;
  readonly scope: KeyScope;
  /** The maps that are being read, outermost first. */
  readonly maps: readonly string[];
  /** How deep the map lies among the maps. */
  readonly depth: number;
  readonly conditions: readonly Attributes[];
  readonly lens: Lens | undefined;
  readonly branches: readonly Branch[];
  /** Whether all that is read here stands on one page. */
  readonly isOnePage: boolean;
  /** What entries inherit from those around them, unless they say it themselves. */
  readonly cascading: Cascading;
}

/** Attributes that hold for all entries below as well (DITA 1.3, 2.4.4.5 “Cascading”). */
const cascadingNames = ['toc', 'processing-role', 'print', 'search', 'linking'] as const;
type Cascading = Readonly<Partial<Record<(typeof cascadingNames)[number], string>>>;

/** Where none of them is said, which is usual, it is the same object as around it. */
function cascadingAt({ name: element, attributes }: Element, around: Cascading): Cascading {
  const own: Readonly<Record<string, string | undefined>> =
    element === 'keydef' ? { 'processing-role': 'resource-only', ...attributes } : attributes;
  const said = cascadingNames.filter((name) => own[name] !== undefined);
  return said.length === 0
    ? around
    : { ...around, ...Object.fromEntries(said.map((name) => [name, own[name]])) };
}

/** A reference by a key, which is looked up when all keys are known. */
interface KeyedEntry {
  readonly entry: Entry;
  readonly keyref: string;
  readonly context: MapContext;
}

/** A topic reference where it stands. */
interface Entry {
  readonly element: Element;
  readonly path: Path;
  readonly origin: Origin;
  readonly reference: Reference | undefined;
}

class MapReader {
  readonly #expansion: Expansion;
  readonly #problems: Problem[] = [];
  readonly #why: Reason[] = [];
  readonly #reltables: { readonly element: Element; readonly context: MapContext }[] = [];
  readonly #peers: PeerMap[] = [];
  readonly #read = new Set<string>();
  readonly #keyed = new Map<MapNode, KeyedEntry>();

  constructor(expansion: Expansion) {
    this.#expansion = expansion;
  }

  read(map: LibraryItem): ExpandedMap {
    const { library, lens } = this.#expansion;
    const scope = keyScope([]);
    const outside: MapContext = {
      item: map,
      role: 'chapter',
      scope,
      maps: [],
      depth: 0,
      conditions: [],
      lens,
      branches: [],
      isOnePage: false,
      cascading: {},
    };
    const nodes = this.#map(outside);
    for (const id of library.commonSets) {
      const set = library.item(id);
      if (set && !this.#read.has(id)) this.#map({ ...outside, item: set, depth: deepest });
    }
    return {
      nodes: this.#withKeyed(nodes),
      scope,
      relations: this.#reltables.flatMap((table) => this.#relationsIn(table)),
      peers: this.#peers,
      problems: this.#problems,
      why: this.#why,
    };
  }

  #map(context: MapContext): readonly MapNode[] {
    const { item } = context;
    const { facets, rules = [] } = this.#expansion;
    this.#read.add(item.id);
    this.#problems.push(...item.problems);
    const { root } = item;
    if (!root) return [];
    this.#problems.push(...atItem(item.id, checkItem(root, { facets, rules })));
    return this.#inEachBranch(root, { item: item.id, path: [] }, context, (branch) =>
      this.#children(root, [], {
        ...branch,
        scope: scopeOf(root, branch),
        isOnePage: branch.isOnePage || chunkingOf(root).has('to-content'),
        cascading: cascadingAt(root, branch.cascading),
        maps: [...branch.maps, item.id],
        conditions: [...branch.conditions, ...conditionsOn(root)],
      }),
    );
  }

  /** What is read of an element, once for each branch into which its filters part it. */
  #inEachBranch(
    parent: Element,
    origin: Origin,
    context: MapContext,
    read: (context: MapContext) => readonly MapNode[],
  ): readonly MapNode[] {
    const { branches, problems } = branchesOf(parent, origin, context.lens, this.#expansion);
    this.#problems.push(...problems);
    if (branches.length === 0) return read(context);
    return branches.flatMap((branch) =>
      read({ ...context, lens: branch.lens, branches: [...context.branches, branch] }),
    );
  }

  #children(parent: Element, path: Path, context: MapContext): readonly MapNode[] {
    return parent.children.flatMap((child, index) =>
      isElement(child) ? this.#element(child, [...path, index], context) : [],
    );
  }

  #isKept(element: Element, origin: Origin, lens: Lens | undefined): boolean {
    const verdict = evaluateProfile(element.attributes, lens, this.#expansion.facets);
    if (!verdict.kept)
      this.#why.push({
        kind: 'dropped',
        origin,
        detail: `${labelOf(element.name)}: ${verdict.facet} is ${verdict.values?.join(', ')}`,
      });
    return verdict.kept;
  }

  #element(element: Element, path: Path, context: MapContext): readonly MapNode[] {
    const origin = { item: context.item.id, path };
    if (element.name === 'reltable') {
      // Keys in it are looked up when all are known.
      if (this.#isKept(element, origin, context.lens)) this.#reltables.push({ element, context });
      return [];
    }
    if (
      !isA(element.name, 'topicref') ||
      element.name === 'ditavalref' ||
      !definitionOf(element.name) ||
      !this.#isKept(element, origin, context.lens)
    )
      return [];
    const { href } = element.attributes;
    const reference = href === undefined ? undefined : readReference(href, context.item.id);
    return this.#inEachBranch(element, origin, context, (branch) =>
      branch === context || this.#isKept(element, origin, branch.lens)
        ? this.#entry({ element, path, origin, reference }, branch)
        : [],
    );
  }

  #entry(entry: Entry, outer: MapContext): readonly MapNode[] {
    const { element, path, origin } = entry;
    // One that is named by a key is taken in when all keys are known.
    const isMap = namesMap(element) && element.attributes['keyref'] === undefined;
    if (isMap && element.attributes['scope'] === 'peer') return this.#peer(entry);
    const scope = scopeOf(element, outer);
    this.#define(scope, entry, outer);
    const context: MapContext = {
      ...outer,
      scope,
      isOnePage: outer.isOnePage || chunkingOf(element).has('to-content'),
      cascading: cascadingAt(element, outer.cascading),
      conditions: [...outer.conditions, ...conditionsOn(element)],
    };
    const { cascading } = context;
    const role = roleOf(element, outer.role);
    const isResource =
      cascading['processing-role'] === 'resource-only' || this.#isForOtherMedium(cascading);
    if (isMap) {
      const taken = this.#subMap(entry, {
        ...context,
        role: outer.role === 'section' ? 'section' : role,
      });
      return taken;
    }
    const children = this.#children(element, path, {
      ...context,
      role:
        transparent.has(element.name) && !isResource ? inheritedBy(element, outer.role) : 'section',
    });
    // A resource is read for the keys in it, and for what in it is none.
    if (isResource) return children;
    if (transparent.has(element.name) && entry.reference === undefined) return children;
    const node = nodeOf(element, {
      role,
      scope,
      origin,
      children,
      conditions: context.conditions,
      lens: context.lens,
      branches: context.branches,
      cascading,
      ...pagesOf(element, outer.isOnePage),
    });
    const { keyref } = element.attributes;
    if (keyref === undefined) return this.#shown(entry, node);
    this.#keyed.set(node, { entry, keyref, context });
    return [node];
  }

  /** Entries with those looked up that name what they show by a key (DITA 1.3, 2.4.4.5). */
  #withKeyed(nodes: readonly MapNode[]): readonly MapNode[] {
    return nodes.flatMap((node) => {
      const keyed = this.#keyed.get(node);
      const children = this.#withKeyed(node.children);
      const isSame = children.every((child, at) => child === node.children[at]);
      const made =
        isSame && children.length === node.children.length ? node : { ...node, children };
      return keyed ? this.#byKey(keyed, made) : [made];
    });
  }

  #byKey({ entry, keyref, context }: KeyedEntry, node: MapNode): readonly MapNode[] {
    const [key = '', part] = keyref.split('/');
    const definition = lookUpKey(node.scope, key);
    if (!definition) {
      // The address beside a key stands in for a key that is not defined.
      if (entry.reference !== undefined) return this.#shown(entry, node);
      this.#report(
        'key.undefined',
        `The map uses the key “${key}”, which is not defined in this publication.`,
        entry.origin,
      );
      return this.#shown(entry, node);
    }
    const { href, text, origin } = definition;
    const titled = node.title || !text ? node : { ...node, title: text };
    if (href === undefined) {
      if (!hasWords(titled.title))
        this.#report(
          'key.empty',
          `The key “${key}” of the map has neither an address nor words.`,
          entry.origin,
        );
      return this.#shown({ ...entry, reference: undefined }, titled);
    }
    const found = readReference(href, origin.item);
    const reference =
      part !== undefined && found.kind === 'item' ? { ...found, element: part } : found;
    const named = { ...entry, reference };
    const isMap =
      reference.kind === 'item' && this.#expansion.library.item(reference.id)?.kind === 'map';
    return isMap
      ? this.#withKeyed(this.#subMap(named, { ...context, role: node.role }))
      : this.#shown(named, titled);
  }

  #relationsIn({
    element,
    context,
  }: {
    readonly element: Element;
    readonly context: MapContext;
  }): readonly Relation[] {
    const { facets, openThrough } = this.#expansion;
    const { item, lens, branches, scope } = context;
    const targetOf = ({ attributes }: Element): Reference | undefined => {
      const { keyref, href } = attributes;
      const definition = keyref === undefined ? undefined : lookUpKey(scope, keyref.split('/')[0]!);
      if (keyref !== undefined && !definition && href === undefined)
        this.#report(
          'key.undefined',
          `The map uses the key “${keyref}”, which is not defined in this publication.`,
          { item: item.id, path: [] },
        );
      return definition?.href !== undefined
        ? readReference(definition.href, definition.origin.item)
        : href === undefined || definition
          ? undefined
          : readReference(href, item.id);
    };
    const reading = { lens, facets, open: openThrough?.(lens) ?? [] };
    return readRelations(element, { branches, targetOf }, reading);
  }

  /** The entry where it shows a topic or a heading; otherwise its children. */
  #shown({ element, origin, reference }: Entry, node: MapNode): readonly MapNode[] {
    const { href, scope } = element.attributes;
    if (reference === undefined)
      return lists[element.name] || hasWords(node.title) ? [node] : node.children;
    if (reference.kind === 'item') {
      const choice = this.#choose(reference.id, node.lens, origin);
      return [
        {
          ...node,
          item: choice?.id ?? reference.id,
          base: reference.id,
          others: choice?.others ?? [],
          ...(choice?.when ? { when: choice.when } : {}),
          ...(reference.element === undefined ? {} : { element: reference.element }),
        },
      ];
    }
    if (reference.kind === 'external')
      return [
        { ...node, address: reference.href, ...namedByAddress(element, node, reference.href) },
      ];
    if (scope !== 'external' && scope !== 'peer')
      this.#report(
        'map.missing-topic',
        `The map names “${href}”, which is not in the library. It is left out.`,
        origin,
      );
    return node.children;
  }

  #choose(id: string, lens: Lens | undefined, origin: Origin): ChosenAlternate | undefined {
    const choice = this.#expansion.chooseThrough?.(lens)(id);
    this.#problems.push(...(choice?.problems ?? []));
    if (choice?.alternate)
      this.#why.push({ kind: 'alternate', origin, detail: `${choice.id} stands in for ${id}` });
    return choice;
  }

  #define(scope: KeyScope, { element, origin }: Entry, { depth, lens }: MapContext): void {
    const { locale = 'en', facets, openThrough } = this.#expansion;
    const open = openThrough?.(lens) ?? [];
    const given = definitionsOf(throughLens(element, lens, facets) ?? element)
      .filter((definition) => isInLanguage(definition, locale))
      .map((definition) => {
        const any = whenOf(definition.conditions, open)?.any;
        return { ...definition, ...(any ? { any } : {}) };
      });
    const twice = defineKeys(scope, given, { origin, depth });
    for (const key of twice)
      this.#problems.push(
        problem(
          'warning',
          'key.twice',
          `The variable “${key}” is defined twice in this map for the same readers. The first ` +
            'definition holds.',
          origin,
        ),
      );
  }

  /** Of another publication nothing is taken in. */
  #peer({ element, origin, reference }: Entry): readonly MapNode[] {
    const names = namesIn(element.attributes['keyscope']);
    if (reference?.kind === 'item' && this.#expansion.library.item(reference.id)?.kind === 'map')
      this.#peers.push({ map: reference.id, names, origin });
    else
      this.#report(
        'map.missing-map',
        `The map “${element.attributes['href'] ?? ''}” of another publication is not in the ` +
          'library. Links to it lead nowhere.',
        origin,
      );
    return [];
  }

  #subMap({ element, origin, reference }: Entry, context: MapContext): readonly MapNode[] {
    const sub = reference?.kind === 'item' ? this.#expansion.library.item(reference.id) : undefined;
    if (sub?.kind !== 'map') {
      this.#report(
        'map.missing-map',
        `The map “${element.attributes['href'] ?? ''}” is not in the library. It is left out.`,
        origin,
      );
      return [];
    }
    if (context.maps.includes(sub.id)) {
      this.#report(
        'map.cycle',
        `The map “${sub.id}” contains itself. It is left out here.`,
        origin,
      );
      return [];
    }
    return this.#map({ ...context, item: sub, depth: context.depth + 1 });
  }

  /** Whether an entry is for paper and this is not, or the other way (DITA 1.3, `print`). */
  #isForOtherMedium({ print }: Cascading): boolean {
    const { isPrint } = this.#expansion;
    if (isPrint === undefined) return false;
    return print === (isPrint ? 'no' : 'printonly');
  }

  #report(code: string, message: string, where: Origin): void {
    this.#problems.push(problem('error', code, message, where));
  }
}

const namesMap = ({ name, attributes }: Element): boolean =>
  name === 'mapref' ||
  attributes['format'] === 'ditamap' ||
  (attributes['href']?.startsWith('map:') ?? false);

/** The scope of keys in which an element stands: one of its own, or the one around it. */
function scopeOf(element: Element, { scope, branches }: MapContext): KeyScope {
  const names = namesIn(element.attributes['keyscope']);
  const branch = branches.at(-1);
  const isHead =
    branch !== undefined &&
    element.children.some((child) => isElement(child) && child.name === 'ditavalref');
  const scoped = isHead ? scopesIn(branch, names) : names;
  return scoped.length > 0 ? keyScope(scoped, scope) : scope;
}

type Pages = Pick<MapNode, 'isChunked' | 'chunksNested' | 'hasHeading'>;

/** On whose page an entry and the topics nested in its topic stand (DITA 1.3, 2.4.5, `chunk`). */
function pagesOf(element: Element, isOnOuterPage: boolean): Pages {
  const chunking = chunkingOf(element);
  const isPage = chunking.has('to-content');
  const isChunked = isOnOuterPage && !isPage;
  return {
    isChunked,
    chunksNested: isOnOuterPage || isPage || chunking.has('by-document'),
    hasHeading: !(isChunked && namesIn(element.attributes['outputclass']).includes(withoutHeading)),
  };
}

type InheritedMeta = Pick<
  MapNode,
  'role' | 'scope' | 'origin' | 'conditions' | 'lens' | 'branches' | 'children' | keyof Pages
> & { readonly cascading: Cascading };

/** The entry as it says itself, without a topic. */
function nodeOf(element: Element, { cascading, ...standing }: InheritedMeta): MapNode {
  const meta = childNamed(element, 'topicmeta');
  const title = meta && childNamed(meta, 'navtitle')?.children;
  const searchTitle = meta && childNamed(meta, 'searchtitle')?.children;
  const { navtitle, locktitle } = element.attributes;
  const own = title ?? (navtitle === undefined ? undefined : [navtitle]);
  return {
    ...standing,
    contextIds: meta ? contextIdsIn(meta.children) : [],
    indexTerms: meta ? findOutermost(meta, ({ name }) => name === 'indexterm') : [],
    inContents: cascading.toc !== 'no',
    isSearched: cascading.search !== 'no',
    isLinked: cascading.linking !== 'none',
    isFamily: element.attributes['collection-type'] === 'family',
    others: [],
    isTitleLocked: locktitle === 'yes',
    ...(own ? { title: own } : {}),
    ...(searchTitle ? { searchTitle } : {}),
  };
}

/** What an entry that leads out of the publication is called. */
function namedByAddress(
  element: Element,
  { title }: MapNode,
  address: string,
): Pick<MapNode, 'title'> {
  const meta = childNamed(element, 'topicmeta');
  const linkText = meta && childNamed(meta, 'linktext')?.children;
  return { title: title ?? linkText ?? [address] };
}

const hasWords = (title: readonly Node[] | undefined): boolean =>
  title !== undefined && lineOf({ name: 'title', attributes: {}, children: title }) !== '';

const chunkingOf = ({ attributes }: Element): ReadonlySet<string> =>
  new Set(namesIn(attributes['chunk']));

const conditionsOn = ({ attributes }: Element): Attributes[] =>
  facetValuesOf(attributes).size > 0 ? [attributes] : [];

function inheritedBy(element: Element, inherited: PlaceRole): PlaceRole {
  if (element.name === 'frontmatter') return 'preface';
  return element.name === 'backmatter' ? 'backmatter' : inherited;
}

function roleOf(element: Element, inherited: PlaceRole): PlaceRole {
  for (const name of basesOf(element.name)) {
    const role = roles[name];
    if (role) return role;
  }
  if (['topicref', 'topichead', 'mapref'].includes(element.name)) return inherited;
  return inherited === 'chapter' ? 'preface' : inherited;
}
