import {
  facetValuesOf,
  judge,
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
  suits,
  type Item,
  type Library,
} from '../library/index.ts';
import {
  childElements,
  childNamed,
  isElement,
  lineOf,
  type Attributes,
  type Element,
  type Node,
} from '../markup/index.ts';
import { atItem, problem, type Path, type Problem } from '../problems/index.ts';
import type { HouseRule } from '../rules/index.ts';
import type { Choice, Choose } from './alternates.ts';
import { branchesOf, scopesIn, type Branch } from './branches.ts';
import { defineKeys, keyScope, type KeyScope } from './keys.ts';
import type { PeerMap } from './peers.ts';
import type { Origin, PlaceRole, Reason } from './publication.ts';

/** One place of the expanded map, before its topic is read. */
export interface MapNode {
  readonly role: PlaceRole;
  /** The item shown here, and the nested topic in it where one is named. */
  readonly item?: string;
  /** What the map names: another item where an alternate stands in for it. */
  readonly base?: string;
  /** Who gets it rather than one of the others, where readers decide; and what those get. */
  readonly when?: When;
  readonly others: Choice['others'];
  readonly element?: string;
  /** The map's own title for the place. */
  readonly title?: readonly Node[];
  /** Ids by which applications open it, as the map says. */
  readonly contextIds: readonly string[];
  readonly inContents: boolean;
  /** Whether links are made from it and to it. */
  readonly isLinked: boolean;
  /** What stands directly under it leads to each other (DITA 1.3, `collection-type`). */
  readonly isFamily: boolean;
  /** Whether it stands on the page of the place above it (DITA 1.3, 2.4.5, `chunk`). */
  readonly joins: boolean;
  /** Whether the topics nested in its topic stand on its page. */
  readonly joinsNested: boolean;
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

/** A topic in a relationship table: whether links go from it, and to it (DITA 1.3, `linking`). */
interface RelatedTopic {
  readonly item: string;
  readonly from: boolean;
  readonly to: boolean;
  /** By its entry and all around it up to the row. */
  readonly when: readonly When[];
}
/** Topics that lead to each other, as a row of a relationship table has them. */
export interface Relation {
  readonly cells: readonly (readonly RelatedTopic[])[];
  /** By the row and its table. */
  readonly when: readonly When[];
  /** The branches in which its table stands. */
  readonly branches: readonly Branch[];
}

export interface ExpandedMap {
  readonly nodes: readonly MapNode[];
  readonly scope: KeyScope;
  readonly relations: readonly Relation[];
  readonly peers: readonly PeerMap[];
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
}

const lists: Record<string, PlaceRole> = {
  toc: 'toc',
  figurelist: 'figurelist',
  tablelist: 'tablelist',
  indexlist: 'indexlist',
  glossarylist: 'glossarylist',
};
const roles: Record<string, PlaceRole> = {
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

export interface Expansion {
  readonly library: Library;
  readonly lens: Lens | undefined;
  readonly facets: readonly Facet[];
  readonly rules?: readonly HouseRule[];
  readonly locale?: string;
  /**
   * Chooses among topics and their alternates, through the lens of a branch; only bases where it is
   * not given.
   */
  readonly chooseThrough?: (lens: Lens | undefined) => Choose;
  /** On which readers decide themselves, through the lens of a branch. */
  readonly openThrough?: (lens: Lens | undefined) => readonly OpenFacet[];
}

/** Where the reading of a map is. */
interface Around {
  readonly item: Item;
  readonly role: PlaceRole;
  readonly scope: KeyScope;
  /** The maps that are being read. */
  readonly open: readonly string[];
  /** How deep the map lies among the maps. */
  readonly depth: number;
  readonly conditions: readonly Attributes[];
  readonly lens: Lens | undefined;
  readonly branches: readonly Branch[];
  /** Whether all that is read here stands on one page. */
  readonly isOnePage: boolean;
}

/** Keys of sets that hold everywhere come behind all that a map says itself. */
const deepest = 1000;

/**
 * Expands a map with its sub-maps into places, drops what the lens drops, parts it into branches,
 * chooses alternates, and gathers keys and relationship tables.
 */
export function expandMap(
  map: Item,
  {
    library,
    lens: outermost,
    facets,
    rules = [],
    locale = 'en',
    chooseThrough,
    openThrough = () => [],
  }: Expansion,
): ExpandedMap {
  const problems: Problem[] = [];
  const why: Reason[] = [];
  const relations: Relation[] = [];
  const peers: PeerMap[] = [];
  const rootScope = keyScope([]);
  const read = new Set<string>();
  const report = (found: Problem): void => void problems.push(found);

  const readMap = (around: Around): MapNode[] => {
    const { item } = around;
    read.add(item.id);
    problems.push(...item.problems);
    const { root } = item;
    if (!root) return [];
    problems.push(...atItem(item.id, checkItem(root, { facets, rules })));
    const origin = { item: item.id, path: [] };
    return eachBranch(root, origin, around, (branch) => {
      const scope = scopeFor(root, branch);
      const isOnePage = branch.isOnePage || chunkingOf(root).has('to-content');
      return readChildren(root, [], {
        ...branch,
        scope,
        isOnePage,
        open: [...branch.open, item.id],
        conditions: [...branch.conditions, ...conditionsOn(root)],
      });
    });
  };

  /** What is read of an element, once for each branch into which its filters part it. */
  const eachBranch = (
    parent: Element,
    origin: Origin,
    around: Around,
    readOne: (around: Around) => MapNode[],
  ): MapNode[] => {
    const branches = branchesOf(parent, origin, around.lens, library, facets, report);
    if (branches.length === 0) return readOne(around);
    return branches.flatMap((branch) =>
      readOne({ ...around, lens: branch.lens, branches: [...around.branches, branch] }),
    );
  };

  const scopeFor = (element: Element, { scope, branches }: Around): KeyScope => {
    const names = namesIn(element.attributes['keyscope']);
    const branch = branches.at(-1);
    const isHead =
      branch !== undefined &&
      element.children.some((child) => isElement(child) && child.name === 'ditavalref');
    const scoped = isHead ? scopesIn(branch, names) : names;
    return scoped.length > 0 ? keyScope(scoped, scope) : scope;
  };

  const readChildren = (parent: Element, path: Path, around: Around): MapNode[] =>
    parent.children.flatMap((child, index) =>
      isElement(child) ? readReferenceElement(child, [...path, index], around) : [],
    );

  const isKept = (element: Element, origin: Origin, lens: Lens | undefined): boolean => {
    const verdict = judge(element.attributes, lens, facets);
    if (!verdict.kept)
      why.push({
        kind: 'dropped',
        origin,
        detail: `${labelOf(element.name)}: ${verdict.facet} is ${verdict.values?.join(', ')}`,
      });
    return verdict.kept;
  };

  const readReferenceElement = (element: Element, path: Path, around: Around): MapNode[] => {
    const origin = { item: around.item.id, path };
    if (element.name === 'reltable') {
      if (isKept(element, origin, around.lens)) relations.push(...readRelations(element, around));
      return [];
    }
    if (
      !isA(element.name, 'topicref') ||
      element.name === 'ditavalref' ||
      !definitionOf(element.name) ||
      !isKept(element, origin, around.lens)
    )
      return [];
    return eachBranch(element, origin, around, (branch) =>
      branch === around || isKept(element, origin, branch.lens)
        ? readEntry(element, path, branch)
        : [],
    );
  };

  const readEntry = (element: Element, path: Path, outer: Around): MapNode[] => {
    const { item } = outer;
    const origin = { item: item.id, path };
    const { href, format } = element.attributes;
    const reference = href === undefined ? undefined : readReference(href, item.id);
    const isMapReference =
      element.name === 'mapref' || format === 'ditamap' || (href?.startsWith('map:') ?? false);
    if (isMapReference && element.attributes['scope'] === 'peer') {
      if (reference?.kind === 'item' && library.item(reference.id)?.kind === 'map')
        peers.push({ map: reference.id, names: namesIn(element.attributes['keyscope']), origin });
      else
        report(
          problem(
            'error',
            'map.missing-map',
            `The map “${href ?? ''}” of another publication is not in the library. Links to ` +
              'it lead nowhere.',
            origin,
          ),
        );
      return [];
    }
    const scope = scopeFor(element, outer);
    const chunking = chunkingOf(element);
    const isOnePage = outer.isOnePage || chunking.has('to-content');
    const joins = outer.isOnePage && !chunking.has('to-content');
    const around = {
      ...outer,
      scope,
      isOnePage,
      conditions: [...outer.conditions, ...conditionsOn(element)],
    };
    defineAt(scope, element, origin, outer);
    const role = roleOf(element, outer.role);

    const isResource =
      element.name === 'keydef' || element.attributes['processing-role'] === 'resource-only';
    if (isMapReference) {
      const taken = readSubMap(
        reference?.kind === 'item' ? reference.id : undefined,
        href,
        origin,
        { ...around, role: outer.role === 'section' ? 'section' : role },
      );
      return isResource ? [] : taken;
    }
    if (isResource) {
      readChildren(element, path, around);
      return [];
    }

    const children = readChildren(element, path, {
      ...around,
      role: transparent.has(element.name) ? inheritedBy(element, outer.role) : 'section',
    });
    if (transparent.has(element.name) && href === undefined) return children;
    const meta = childNamed(element, 'topicmeta');
    const navigation = meta && childNamed(meta, 'navtitle');
    const title = navigation
      ? navigation.children
      : element.attributes['navtitle'] === undefined
        ? undefined
        : [element.attributes['navtitle']];
    const { lens, branches, conditions } = around;
    const isFamily = element.attributes['collection-type'] === 'family';
    const base = {
      role,
      contextIds: contextIdsIn(meta?.children ?? []),
      inContents: element.attributes['toc'] !== 'no',
      isLinked: element.attributes['linking'] !== 'none',
      isFamily,
      joins,
      joinsNested: isOnePage || chunking.has('by-document'),
      hasHeading: !(joins && namesIn(element.attributes['outputclass']).includes(withoutHeading)),
      scope,
      origin,
      conditions,
      lens,
      branches,
      children,
      others: [],
      ...(title ? { title } : {}),
    };
    if (href === undefined) {
      if (lists[element.name]) return [base];
      if (!title || lineOf({ name: 'title', attributes: {}, children: title }) === '')
        return children;
      return [base];
    }
    if (reference?.kind === 'item') {
      const {
        id: chosen,
        others = [],
        when,
      } = choose(reference.id, lens, origin) ?? { id: reference.id };
      return [
        {
          ...base,
          item: chosen,
          base: reference.id,
          others,
          ...(when ? { when } : {}),
          ...(reference.element === undefined ? {} : { element: reference.element }),
        },
      ];
    }
    if (element.attributes['scope'] !== 'external' && element.attributes['scope'] !== 'peer') {
      report(
        problem(
          'error',
          'map.missing-topic',
          `The map names “${href}”, which is not in the library. It is left out.`,
          origin,
        ),
      );
    }
    return children;
  };

  const choose = (id: string, lens: Lens | undefined, origin: Origin): Choice | undefined => {
    const choice = chooseThrough?.(lens)(id);
    problems.push(...(choice?.problems ?? []));
    if (choice?.alternate)
      why.push({ kind: 'alternate', origin, detail: `${choice.id} stands in for ${id}` });
    return choice;
  };

  const defineAt = (
    scope: KeyScope,
    element: Element,
    origin: Origin,
    { depth, lens }: Around,
  ): void => {
    const open = openThrough(lens);
    for (const key of defineKeys(scope, element, origin, depth, (definition) =>
      suits(definition, locale, lens, facets, open),
    ))
      report(
        problem(
          'warning',
          'key.twice',
          `The variable “${key}” is defined twice in this map for the same readers. The ` +
            'first definition holds.',
          origin,
        ),
      );
  };

  /** The rows of a relationship table, without what the lens drops. */
  const readRelations = (reltable: Element, { item, lens, branches }: Around): Relation[] => {
    const kept = ({ attributes }: Element): boolean => judge(attributes, lens, facets).kept;
    const open = openThrough(lens);
    const within = (around: readonly When[], { attributes }: Element): readonly When[] => {
      const when = whenOf(attributes, open);
      return when ? [...around, when] : around;
    };
    const topicsIn = (holder: Element, around: readonly When[]): RelatedTopic[] =>
      childElements(holder)
        .filter(kept)
        .flatMap((entry) => {
          const { href, linking } = entry.attributes;
          const reference = href === undefined ? undefined : readReference(href, item.id);
          const when = within(around, entry);
          const own =
            reference?.kind === 'item' && linking !== 'none'
              ? [
                  {
                    item: reference.id,
                    from: linking !== 'targetonly',
                    to: linking !== 'sourceonly',
                    when,
                  },
                ]
              : [];
          return [...own, ...topicsIn(entry, when)];
        });
    const rows = childElements(reltable).filter((row) => row.name === 'relrow' && kept(row));
    const ofTable = within([], reltable);
    return rows.map((row) => ({
      cells: childElements(row).map((cell) => (kept(cell) ? topicsIn(cell, within([], cell)) : [])),
      when: within(ofTable, row),
      branches,
    }));
  };

  const readSubMap = (
    id: string | undefined,
    href: string | undefined,
    origin: Origin,
    around: Around,
  ): MapNode[] => {
    const sub = id === undefined ? undefined : library.item(id);
    if (!sub || sub.kind !== 'map') {
      report(
        problem(
          'error',
          'map.missing-map',
          `The map “${href ?? ''}” is not in the library. It is left out.`,
          origin,
        ),
      );
      return [];
    }
    if (around.open.includes(sub.id)) {
      report(
        problem(
          'error',
          'map.cycle',
          `The map “${sub.id}” contains itself. It is left out here.`,
          origin,
        ),
      );
      return [];
    }
    return readMap({ ...around, item: sub, depth: around.depth + 1 });
  };

  const outside: Around = {
    item: map,
    role: 'chapter',
    scope: rootScope,
    open: [],
    depth: 0,
    conditions: [],
    lens: outermost,
    branches: [],
    isOnePage: false,
  };
  const nodes = readMap(outside);
  for (const id of library.commonSets) {
    const set = library.item(id);
    if (set && !read.has(id)) readMap({ ...outside, item: set, depth: deepest });
  }
  return { nodes, scope: rootScope, relations, peers, problems, why };
}

const chunkingOf = ({ attributes }: Element): ReadonlySet<string> =>
  new Set(namesIn(attributes['chunk']));

/** The `outputclass` of an entry whose text goes on in that of the place above. */
export const withoutHeading = 'without-heading';

/** Every place of the expanded map in reading order. */
export const allNodes = (nodes: readonly MapNode[]): MapNode[] =>
  nodes.flatMap((node) => [node, ...allNodes(node.children)]);

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
  return element.name === 'topicref' || element.name === 'topichead' || element.name === 'mapref'
    ? inherited
    : inherited === 'chapter'
      ? 'preface'
      : inherited;
}
