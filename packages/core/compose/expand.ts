import { facetValuesOf, judge, type Facet, type Lens } from '../facets/index.ts';
import { basesOf, definitionOf, isA, labelOf } from '../grammar/index.ts';
import { checkItem, readReference, type Item, type Library } from '../library/index.ts';
import { childNamed, isElement, lineOf, type Attributes, type Element, type Node } from '../markup/index.ts';
import { atItem, problem, type Path, type Problem } from '../problems/index.ts';
import type { HouseRule } from '../rules/index.ts';
import { defineKeys, keyScope, type KeyScope } from './keys.ts';
import type { Origin, PlaceRole, Reason } from './publication.ts';

/** One place of the expanded map, before its topic is read. */
export interface MapNode {
  readonly role: PlaceRole;
  /** The item shown here, and the nested topic in it where one is named. */
  readonly item?: string;
  readonly element?: string;
  /** The map's own title for the place. */
  readonly title?: readonly Node[];
  readonly inContents: boolean;
  readonly scope: KeyScope;
  readonly origin: Origin;
  /** The attributes of the entry and of all around it that decide who gets it, outermost first. */
  readonly conditions: readonly Attributes[];
  readonly children: readonly MapNode[];
}

/** Topics that lead to each other, as a row of a relationship table has them: one list of items a cell. */
export type Relation = readonly (readonly string[])[];

export interface ExpandedMap {
  readonly nodes: readonly MapNode[];
  readonly scope: KeyScope;
  readonly relations: readonly Relation[];
  readonly problems: readonly Problem[];
  readonly why: readonly Reason[];
}

const lists: Record<string, PlaceRole> = { toc: 'toc', figurelist: 'figurelist', tablelist: 'tablelist', indexlist: 'indexlist', glossarylist: 'glossarylist' };
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
const transparent = new Set(['frontmatter', 'backmatter', 'booklists', 'appendices', 'topicgroup', 'topicset']);

/** Expands a map with its sub-maps into places, drops what the lens drops, and gathers keys and relationship tables. */
export function expandMap(map: Item, library: Library, lens: Lens | undefined, facets: readonly Facet[], rules: readonly HouseRule[] = []): ExpandedMap {
  const problems: Problem[] = [];
  const why: Reason[] = [];
  const relations: Relation[] = [];
  const rootScope = keyScope([]);

  const readMap = (item: Item, inherited: PlaceRole, scope: KeyScope, open: readonly string[], around: readonly Attributes[]): MapNode[] => {
    problems.push(...item.problems);
    if (!item.root) return [];
    problems.push(...atItem(item.id, checkItem(item.root, { facets, rules })));
    const own = scopeFor(item.root, scope);
    return readChildren(item.root, [], item, inherited, own, [...open, item.id], [...around, ...conditionsOn(item.root)]);
  };

  const scopeFor = (element: Element, scope: KeyScope): KeyScope => {
    const names = (element.attributes['keyscope'] ?? '').split(/\s+/u).filter((name) => name !== '');
    return names.length > 0 ? keyScope(names, scope) : scope;
  };

  const readChildren = (parent: Element, path: Path, item: Item, inherited: PlaceRole, scope: KeyScope, open: readonly string[], around: readonly Attributes[]): MapNode[] =>
    parent.children.flatMap((child, index) => (isElement(child) ? readReferenceElement(child, [...path, index], item, inherited, scope, open, around) : []));

  const readReferenceElement = (element: Element, path: Path, item: Item, inherited: PlaceRole, outer: KeyScope, open: readonly string[], around: readonly Attributes[]): MapNode[] => {
    const conditions = [...around, ...conditionsOn(element)];
    const origin = { item: item.id, path };
    if (element.name === 'reltable') {
      relations.push(...readRelations(element, item.id));
      return [];
    }
    if (!isA(element.name, 'topicref') || !definitionOf(element.name)) return [];
    const verdict = judge(element.attributes, lens, facets);
    if (!verdict.kept) {
      why.push({ kind: 'dropped', origin, detail: `${labelOf(element.name)}: ${verdict.facet} is ${verdict.values?.join(', ')}` });
      return [];
    }
    const scope = scopeFor(element, outer);
    defineKeys(scope, element, origin);
    const role = roleOf(element, inherited);
    const { href, format } = element.attributes;
    const reference = href === undefined ? undefined : readReference(href, item.id);

    if (element.name === 'keydef' || element.attributes['processing-role'] === 'resource-only') {
      readChildren(element, path, item, inherited, scope, open, conditions);
      return [];
    }
    const isMapReference = element.name === 'mapref' || format === 'ditamap' || (href?.startsWith('map:') ?? false);
    if (isMapReference) return readSubMap(reference?.kind === 'item' ? reference.id : undefined, href, origin, inherited === 'section' ? 'section' : role, scope, open, conditions);

    const children = readChildren(element, path, item, transparent.has(element.name) ? inheritedBy(element, inherited) : 'section', scope, open, conditions);
    if (transparent.has(element.name) && href === undefined) return children;
    const meta = childNamed(element, 'topicmeta');
    const navigation = meta && childNamed(meta, 'navtitle');
    const title = navigation ? navigation.children : element.attributes['navtitle'] === undefined ? undefined : [element.attributes['navtitle']];
    const base = { role, inContents: element.attributes['toc'] !== 'no', scope, origin, conditions, children, ...(title ? { title } : {}) };
    if (href === undefined) {
      if (lists[element.name]) return [base];
      if (!title || lineOf({ name: 'title', attributes: {}, children: title }) === '') return children;
      return [base];
    }
    if (reference?.kind === 'item') return [{ ...base, item: reference.id, ...(reference.element === undefined ? {} : { element: reference.element }) }];
    if (element.attributes['scope'] !== 'external' && element.attributes['scope'] !== 'peer') {
      problems.push(problem('error', 'map.missing-topic', `The map names “${href}”, which is not in the library. It is left out.`, origin));
    }
    return children;
  };

  const readSubMap = (id: string | undefined, href: string | undefined, origin: Origin, role: PlaceRole, scope: KeyScope, open: readonly string[], around: readonly Attributes[]): MapNode[] => {
    const sub = id === undefined ? undefined : library.item(id);
    if (!sub || sub.kind !== 'map') {
      problems.push(problem('error', 'map.missing-map', `The map “${href ?? ''}” is not in the library. It is left out.`, origin));
      return [];
    }
    if (open.includes(sub.id)) {
      problems.push(problem('error', 'map.cycle', `The map “${sub.id}” contains itself. It is left out here.`, origin));
      return [];
    }
    return readMap(sub, role, scope, open, around);
  };

  const nodes = readMap(map, 'chapter', rootScope, [], []);
  return { nodes, scope: rootScope, relations, problems, why };
}

/** Every place of the expanded map in reading order. */
export const allNodes = (nodes: readonly MapNode[]): MapNode[] => nodes.flatMap((node) => [node, ...allNodes(node.children)]);

const conditionsOn = ({ attributes }: Element): Attributes[] => (facetValuesOf(attributes).size > 0 ? [attributes] : []);

function inheritedBy(element: Element, inherited: PlaceRole): PlaceRole {
  if (element.name === 'frontmatter') return 'preface';
  return element.name === 'backmatter' ? 'backmatter' : inherited;
}

function roleOf(element: Element, inherited: PlaceRole): PlaceRole {
  for (const name of basesOf(element.name)) {
    const role = roles[name];
    if (role) return role;
  }
  return element.name === 'topicref' || element.name === 'topichead' || element.name === 'mapref' ? inherited : inherited === 'chapter' ? 'preface' : inherited;
}

function readRelations(reltable: Element, self: string): Relation[] {
  const itemsIn = (cell: Element): string[] =>
    cell.children.filter(isElement).flatMap((child) => {
      const reference = child.attributes['href'] === undefined ? undefined : readReference(child.attributes['href'], self);
      return [...(reference?.kind === 'item' ? [reference.id] : []), ...itemsIn(child)];
    });
  return reltable.children
    .filter(isElement)
    .filter((row) => row.name === 'relrow')
    .map((row) => row.children.filter(isElement).map(itemsIn));
}
