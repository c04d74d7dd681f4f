import {
  evaluateProfile,
  isSubjectScheme,
  throughLens,
  whenOf,
  type Facet,
  type Lens,
  type OpenFacet,
} from '../../facets/index.ts';
import { definitionOf, labelOf } from '../../grammar/index.ts';
import {
  checkItem,
  elementById,
  namesIn,
  readReference,
  definitionsOf,
  isInLanguage,
  type Borrower,
  type LibraryItem,
  type Library,
  type Reference,
} from '../../library/index.ts';
import { childNamed, element, isElement, type Element } from '../../markup/index.ts';
import { atItem, problem, type Path, type Problem } from '../../problems/index.ts';
import type { HouseRule } from '../../rules/index.ts';
import type { ChosenAlternate, Choose } from '../alternates.ts';
import { branchesOf } from '../branches.ts';
import { defineKeys, keyReference, keyScope, lookUpKey, type KeyScope } from '../keys.ts';
import type { PeerMap } from '../peers.ts';
import type { Origin, Reason } from '../publication.ts';
import type { Relation } from '../relations.ts';
import { Anchors } from './anchors.ts';
import { borrows, filled, findEntries, lentElements } from './borrowing.ts';
import {
  cascadingAt,
  conditionsInside,
  isEntry,
  chunksBelow,
  isParted,
  isTransparent,
  lists,
  namesMap,
  pagePlaceOf,
  roleInside,
  placeRoleOf,
  scopeNamesOf,
  scopeOf,
  type Cascading,
  type Entry,
  type MapContext,
} from './entry.ts';
import { hasWords, nodeOf, type MapNode, type NewNode } from './node.ts';
import { PendingNodes } from './pending.ts';
import { relationsIn, type PlacedTable } from './relations.ts';

/** A topic that is at hand without being shown (DITA 1.3, `processing-role`). */
interface MapResource {
  readonly item: string;
  readonly scope: KeyScope;
  readonly lens: Lens | undefined;
}

export interface ExpandedMap {
  /** The tree of the map, with all that it borrows. */
  readonly root: Element;
  readonly nodes: readonly MapNode[];
  readonly scope: KeyScope;
  readonly relations: readonly Relation[];
  readonly resources: readonly MapResource[];
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
 * chooses alternates, and gathers keys, relationship tables, resources and peers. A pass of
 * composing.
 * @returns the entries with problems `map.*`, `key.*`, `borrow.*`, `alternate.*` and those of the
 * maps' validation
 */
export function expandMap(map: LibraryItem, expansion: Expansion): ExpandedMap {
  return new MapReader(expansion).read(map);
}

/** Keys of sets that hold everywhere come behind all that a map says itself. */
const deepest = 1000;

/**
 * Maps, branches and borrowed entries that are read for one publication: real ones have some
 * hundreds at most.
 */
const mostRead = 20_000;

/** A reference by a key, which is looked up when all keys are known. */
interface KeyedEntry {
  readonly entry: Entry;
  readonly keyref: string;
  readonly context: MapContext;
}

class MapReader {
  readonly #expansion: Expansion;
  readonly #problems: Problem[] = [];
  readonly #why: Reason[] = [];
  readonly #reltables: PlacedTable[] = [];
  readonly #peers: PeerMap[] = [];
  readonly #resources: MapResource[] = [];
  readonly #read = new Set<string>();
  readonly #pending = new PendingNodes();
  readonly #anchors = new Anchors();
  readonly #borrowing = new Map<Element, boolean>();
  #count = 0;

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
      borrowing: [],
      conditions: [],
      lens,
      branches: [],
      isOnePage: false,
      cascading: {},
    };
    const read = this.#map(outside);
    for (const id of library.commonSets) {
      const set = library.item(id);
      if (set && !this.#read.has(id)) this.#map({ ...outside, item: set, depth: deepest });
    }
    const nodes = this.#pending.settled(read);
    return {
      root: map.root ? this.#filled(map.root, [], outside) : element('map'),
      nodes: [...nodes, ...this.#hungInThemselves(map)],
      scope,
      relations: this.#reltables.flatMap((table) => this.#relationsIn(table)),
      resources: this.#resources,
      peers: this.#peers,
      problems: this.#problems,
      why: this.#why,
    };
  }

  /** @param opensScope whether the root may open a scope beside that of what names the map */
  #map(context: MapContext, opensScope = true): readonly MapNode[] {
    const { item } = context;
    const { facets, rules = [] } = this.#expansion;
    this.#read.add(item.id);
    this.#problems.push(...item.problems);
    const { root } = item;
    if (!root) return [];
    this.#problems.push(...atItem(item.id, checkItem(root, { facets, rules })));
    const nodes = this.#inEachBranch(root, { item: item.id, path: [] }, context, (branch) =>
      this.#children(root, [], {
        ...branch,
        scope: opensScope || isParted(root) ? scopeOf(root, branch) : branch.scope,
        isOnePage: branch.isOnePage || chunksBelow(root),
        cascading: cascadingAt(root, branch.cascading),
        maps: [...branch.maps, item.id],
        conditions: conditionsInside(branch.conditions, root),
      }),
    );
    return this.#hungIn(root, nodes, context);
  }

  /** Whether something in a map is borrowed. */
  #isBorrowing({ root }: LibraryItem): boolean {
    if (!root) return false;
    const known = this.#borrowing.get(root) ?? borrows(root);
    this.#borrowing.set(root, known);
    return known;
  }

  #filled(element: Element, path: Path, { item, borrowing }: MapContext): Element {
    if (!this.#isBorrowing(item)) return element;
    const report = (found: Problem): unknown => this.#problems.push(found);
    const place = { item: item.id, path, borrowing };
    const isTooLarge = (): boolean => this.#isTooLarge(1, { item: item.id, path });
    return filled(element, place, { ...this.#expansion, report, isTooLarge });
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
    if (this.#isTooLarge(branches.length, origin)) return [];
    return branches.flatMap((branch) =>
      read({ ...context, lens: branch.lens, branches: [...context.branches, branch] }),
    );
  }

  /** Counts what doubles where each map or branch holds several others. */
  #isTooLarge(more: number, origin: Origin): boolean {
    this.#count += more;
    if (this.#count <= mostRead) return false;
    this.#report(
      'map.too-large',
      'The map has more than 20,000 branches, nested maps and borrowed entries. The rest is left ' +
        'out.',
      { item: origin.item, path: origin.path },
    );
    return true;
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
    const { name, attributes } = element;
    if (!definitionOf(name) || !this.#isKept(element, origin, context.lens)) return [];
    if (attributes['conref'] !== undefined || attributes['conkeyref'] !== undefined)
      return this.#borrowed(element, path, context);
    if (name === 'reltable') {
      // Keys in it are looked up when all are known.
      const table = this.#filled(element, path, context);
      this.#reltables.push({ element: table, origin, context });
      return [];
    }
    if (name === 'anchor') return this.#anchor(element, origin, context);
    if (!isEntry(element)) return [];
    const { href } = attributes;
    const reference = href === undefined ? undefined : readReference(href, context.item.id);
    const meta = childNamed(element, 'topicmeta');
    const whole = meta && borrows(meta) ? this.#filled(element, path, context) : element;
    return this.#inEachBranch(element, origin, context, (branch) =>
      branch === context || this.#isKept(element, origin, branch.lens)
        ? this.#entry({ element: whole, path, origin, reference }, branch)
        : [],
    );
  }

  /** Entries that another map, or another part of this one, lends (DITA 1.3, 2.5.1 “conref”). */
  #borrowed(element: Element, path: Path, context: MapContext): readonly MapNode[] {
    const { item, borrowing } = context;
    const { attributes } = element;
    const borrower = { element, attributes, place: { item: item.id, path, borrowing } };
    const { conref, conkeyref = '' } = attributes;
    if (conref !== undefined) return this.#lent(borrower, readReference(conref, item.id), context);
    const at = this.#plainNode(element, { item: item.id, path }, context);
    return this.#pending.add(at, () => {
      const reference = keyReference(context.scope, conkeyref);
      return this.#pending.settled(this.#lent(borrower, reference, context));
    });
  }

  #lent(
    borrower: Borrower,
    reference: Reference | undefined,
    context: MapContext,
  ): readonly MapNode[] {
    if (this.#isTooLarge(1, borrower.place)) return [];
    const found = findEntries(borrower, reference, this.#expansion.library);
    if ('code' in found) {
      this.#problems.push(found);
      return [];
    }
    const { lender, passage } = found;
    const { item, path } = borrower.place;
    const detail = borrower.attributes['conref'] ?? borrower.attributes['conkeyref'] ?? '';
    const from = { item: lender.id, path: passage.first.path };
    this.#why.push({ kind: 'borrowed', origin: { item, path }, detail, from });
    const borrowing = [...context.borrowing, passage.key];
    return lentElements(borrower, passage).flatMap((lent) =>
      this.#element(lent.element, lent.path, { ...context, item: lender, borrowing }),
    );
  }

  #entry(entry: Entry, outer: MapContext): readonly MapNode[] {
    const { element, path, origin } = entry;
    // One that is named by a key is taken in when all keys are known.
    const isMap = namesMap(element) && element.attributes['keyref'] === undefined;
    if (element.name === 'topicsetref') return this.#topicSet(entry, outer);
    if (isMap && element.attributes['scope'] === 'peer') return this.#peer(entry);
    const sharedNames = isMap && scopeNamesOf(element).length > 0 ? this.#scopeNamesIn(entry) : [];
    const scope = scopeOf(element, outer, sharedNames);
    this.#define(scope, entry, outer);
    const cascading = cascadingAt(element, outer.cascading);
    const conditions = conditionsInside(outer.conditions, element);
    const context: MapContext = {
      ...outer,
      scope,
      isOnePage: outer.isOnePage || chunksBelow(element),
      cascading,
      conditions,
    };
    const role = placeRoleOf(element, outer.role);
    const isResource = cascading['processing-role'] === 'resource-only';
    if (isMap)
      return this.#subMap(
        entry,
        { ...context, role: outer.role === 'section' ? 'section' : role },
        sharedNames.length === 0,
      );
    const isLeftOut = isResource || this.#isForOtherMedium(cascading);
    const children = this.#children(element, path, {
      ...context,
      role: isTransparent(element) && !isLeftOut ? roleInside(element, outer.role) : 'section',
    });
    if (isResource && entry.reference?.kind === 'item')
      this.#resources.push({ item: entry.reference.id, scope, lens: context.lens });
    // A resource is read for the keys in it, and for what in it is none.
    if (isLeftOut) return children;
    if (element.name === 'anchorref') {
      // It stands here as well.
      this.#anchors.hang(entry.reference, children);
      return children;
    }
    if (isTransparent(element) && entry.reference === undefined) return children;
    const { lens, branches } = outer;
    const pages = pagePlaceOf(element, outer.isOnePage);
    const standing = { ...pages, role, scope, origin, conditions, lens, branches };
    const node = nodeOf(element, standing, cascading, children);
    const { keyref } = element.attributes;
    if (keyref === undefined) return this.#shown(entry, node);
    return this.#pending.add(node, () =>
      this.#byKey({ entry, keyref, context }, this.#pending.withSettled(node)),
    );
  }

  #scopeNamesIn({ reference }: Entry): readonly string[] {
    const root =
      reference?.kind === 'item' ? this.#expansion.library.item(reference.id)?.root : undefined;
    return root ? scopeNamesOf(root) : [];
  }

  /** The topics of a set that another map, or another part of this one, has (`topicsetref`). */
  #topicSet(entry: Entry, context: MapContext): readonly MapNode[] {
    const { reference, origin } = entry;
    const holder =
      reference?.kind === 'item' ? this.#expansion.library.item(reference.id) : undefined;
    const set =
      holder?.root && reference?.kind === 'item'
        ? elementById(holder.root, reference.element)
        : undefined;
    const key = set && holder ? `${holder.id}/${set.path.join('.')}` : '';
    if (!set || !holder || context.borrowing.includes(key)) {
      this.#report(
        set ? 'map.cycle' : 'map.missing-map',
        set
          ? 'The set of topics contains itself. It is left out here.'
          : `The set of topics “${entry.element.attributes['href'] ?? ''}” is not in the ` +
              'library. It is left out.',
        origin,
      );
      return [];
    }
    if (this.#isTooLarge(1, origin)) return [];
    const within = { ...context, item: holder, borrowing: [...context.borrowing, key] };
    return this.#element(set.element, set.path, within);
  }

  /** A node that holds a position in the map until its entries are known. */
  #plainNode(element: Element, origin: Origin, context: MapContext): MapNode {
    const {
      role,
      scope,
      conditions,
      lens,
      branches,
      cascading,
      isOnePage: isOnOuterPage,
    } = context;
    const standing = { role, scope, conditions, lens, branches, origin };
    const pages = pagePlaceOf(element, isOnOuterPage);
    return nodeOf(element, { ...standing, ...pages }, cascading, []);
  }

  /** Where other maps hang in what they have (DITA 1.3, 3.2.2 `anchor`). */
  #anchor(element: Element, origin: Origin, context: MapContext): readonly MapNode[] {
    const key = `${origin.item}/${element.attributes['id'] ?? ''}`;
    this.#anchors.add(key);
    return this.#pending.add(this.#plainNode(element, origin, context), () =>
      this.#pending.settled(this.#anchors.take(key)),
    );
  }

  /** What is in a map, unless it hangs at an anchor of another one that is read too. */
  #hungIn(root: Element, nodes: readonly MapNode[], context: MapContext): readonly MapNode[] {
    const { anchorref } = root.attributes;
    if (anchorref === undefined) return nodes;
    const { id } = context.item;
    const key = this.#anchors.hang(readReference(anchorref, id), nodes);
    return this.#pending.add(this.#plainNode(root, { item: id, path: [] }, context), () =>
      this.#anchors.isRead(key) ? [] : this.#pending.settled(nodes),
    );
  }

  /** What would be lost because the anchor at which it hangs is in it. */
  #hungInThemselves({ id }: LibraryItem): readonly MapNode[] {
    return this.#anchors.untaken().flatMap((key) => {
      const [map = ''] = key.split('/');
      this.#report(
        'map.cycle',
        `The map “${map}” is anchored in itself. Its topics are added at the end.`,
        { item: id, path: [] },
      );
      return this.#pending.settled(this.#anchors.take(key));
    });
  }

  /** An entry that names what it shows by a key (DITA 1.3, 2.4.4.5). */
  #byKey({ entry, keyref, context }: KeyedEntry, node: MapNode): readonly MapNode[] {
    const [key = ''] = keyref.split('/');
    const definition = lookUpKey(node.scope, key);
    if (!definition) {
      // The address beside a key stands in for a key that is not defined.
      if (entry.reference === undefined) this.#reportUndefined(key, entry.origin);
      return this.#shown(entry, { ...node });
    }
    const { text } = definition;
    const reference = keyReference(node.scope, keyref);
    const titled = node.title || !text ? { ...node } : { ...node, title: text };
    if (!reference) {
      if (!hasWords(titled.title))
        this.#report(
          'key.empty',
          `The key “${key}” of the map has neither an address nor words.`,
          entry.origin,
        );
      return this.#shown({ ...entry, reference: undefined }, titled);
    }
    const named = { ...entry, reference };
    const isMap =
      reference.kind === 'item' && this.#expansion.library.item(reference.id)?.kind === 'map';
    return isMap
      ? this.#pending.settled(this.#subMap(named, { ...context, role: node.role }))
      : this.#shown(named, titled);
  }

  #relationsIn(table: PlacedTable): readonly Relation[] {
    const { facets, openThrough } = this.#expansion;
    const { lens } = table.context;
    const reading = { lens, facets, open: openThrough?.(lens) ?? [] };
    return relationsIn(table, reading, (key) => this.#reportUndefined(key, table.origin));
  }

  /** The entry where it shows a topic or a heading; otherwise its children. */
  #shown({ element, origin, reference }: Entry, node: NewNode): readonly MapNode[] {
    const { href, scope } = element.attributes;
    if (reference === undefined)
      return lists[element.name] || hasWords(node.title) ? [node] : node.children;
    if (reference.kind === 'item') {
      const choice = this.#choose(reference.id, node.lens, origin);
      node.item = choice?.id ?? reference.id;
      node.base = reference.id;
      if (choice) node.others = choice.others;
      if (choice?.when) node.when = choice.when;
      if (reference.element !== undefined) node.element = reference.element;
      return [node];
    }
    if (reference.kind === 'external') {
      // What leads out of the publication is called by its address where nothing else is said.
      node.title ??= node.linkText ?? [reference.href];
      node.address = reference.href;
      return [node];
    }
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

  #define(
    scope: KeyScope,
    { element, origin }: Entry,
    { depth, lens, branches }: MapContext,
  ): void {
    const { locale = 'en', facets, openThrough } = this.#expansion;
    const open = openThrough?.(lens) ?? [];
    const given = definitionsOf(throughLens(element, lens, facets) ?? element)
      .filter((definition) => isInLanguage(definition, locale))
      .map((definition) => {
        const any = whenOf(definition.conditions, open)?.any;
        return { ...definition, ...(any ? { any } : {}) };
      });
    const twice = defineKeys(scope, given, { origin, depth, branches });
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

  #subMap(
    { element, origin, reference }: Entry,
    context: MapContext,
    opensScope = true,
  ): readonly MapNode[] {
    const sub = reference?.kind === 'item' ? this.#expansion.library.item(reference.id) : undefined;
    if (sub?.kind !== 'map') {
      this.#report(
        'map.missing-map',
        `The map “${element.attributes['href'] ?? ''}” is not in the library. It is left out.`,
        origin,
      );
      return [];
    }
    // A scheme says which values attributes have, and shows nothing.
    if (sub.root && isSubjectScheme(sub.root)) return [];
    if (context.maps.includes(sub.id)) {
      this.#report(
        'map.cycle',
        `The map “${sub.id}” contains itself. It is left out here.`,
        origin,
      );
      return [];
    }
    if (this.#isTooLarge(1, origin)) return [];
    return this.#map({ ...context, item: sub, depth: context.depth + 1 }, opensScope);
  }

  /** Whether an entry is for paper and this is not, or the other way (DITA 1.3, `print`). */
  #isForOtherMedium({ print }: Cascading): boolean {
    const { isPrint } = this.#expansion;
    if (isPrint === undefined) return false;
    return print === (isPrint ? 'no' : 'printonly');
  }

  #reportUndefined(key: string, where: Origin): void {
    this.#report(
      'key.undefined',
      `The map uses the key “${key}”, which is not defined in this publication.`,
      where,
    );
  }

  #report(code: string, message: string, where: Origin): void {
    this.#problems.push(problem('error', code, message, where));
  }
}
