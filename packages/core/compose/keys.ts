import { element, isElement, lineOf, type Element, type Node } from '../markup/index.ts';
import {
  evaluateProfile,
  whenOf,
  type Facet,
  type Lens,
  type OpenFacet,
  type ValuesByFacet,
  type When,
} from '../facets/index.ts';
import { definitionsOf, type KeyDefinition } from '../library/index.ts';
import { exclusiveAlternatives } from './alternates.ts';
import type { Origin } from './publication.ts';

/** A definition where it stands. */
export interface DefinedKey extends KeyDefinition {
  readonly origin: Origin;
  /** How deep its map lies among the maps: 0 is the map that is composed. */
  readonly depth: number;
  /**
   * How closely it suits those for whom the map is composed; -1 where it is not for all of them.
   */
  readonly match: number;
  /** Definitions of the same map that suit closer those who have chosen so, the closest first. */
  readonly closer: readonly (DefinedKey & { readonly all: ValuesByFacet })[];
}

/** The keys that hold in one branch of the map. */
export interface KeyScope {
  readonly names: readonly string[];
  readonly parent?: KeyScope;
  readonly definitions: Map<string, DefinedKey>;
  readonly children: KeyScope[];
}

export function keyScope(names: readonly string[], parent?: KeyScope): KeyScope {
  const scope: KeyScope = {
    names,
    definitions: new Map(),
    children: [],
    ...(parent ? { parent } : {}),
  };
  parent?.children.push(scope);
  return scope;
}

/**
 * Adds the keys of one topic reference. A map goes before the maps that it takes in, and of several
 * definitions the first holds (DITA 1.3, 2.4.4.3 “Effective key definitions”); but among those of
 * one map the one that suits the readers most closely.
 * @param suits how closely a definition does; undefined where it is not meant at all
 * @returns keys that are defined twice in one map for the same readers
 */
export function defineKeys(
  scope: KeyScope,
  {
    element: reference,
    origin,
    depth,
  }: { readonly element: Element; readonly origin: Origin; readonly depth: number },
  suits: (
    definition: KeyDefinition,
  ) => { readonly match: number; readonly all: ValuesByFacet } | undefined,
): string[] {
  return definitionsOf(reference).flatMap((found) => {
    const suiting = suits(found);
    if (suiting === undefined) return [];
    const { match, all } = suiting;
    const definition: DefinedKey = { ...found, origin, depth, match, closer: [] };
    const known = scope.definitions.get(found.key);
    const isOfOneMap = known?.origin.item === origin.item;
    const depends = match > 0 && Object.keys(all).length > 0;
    const hold = (one: DefinedKey, closer: DefinedKey['closer']): void =>
      void scope.definitions.set(found.key, {
        ...one,
        closer: closer
          .filter((other) => other.match > one.match)
          .toSorted((a, b) => b.match - a.match),
      });
    if (!known || depth < known.depth)
      hold(
        depends ? { ...definition, match: -1 } : definition,
        depends ? [{ ...definition, all }] : [],
      );
    else if (isOfOneMap && depends) hold(known, [...known.closer, { ...definition, all }]);
    else if (isOfOneMap && match > known.match) hold(definition, known.closer);
    const isAnother = known && isOfOneMap && known.origin.path.join() !== origin.path.join();
    return isAnother && !depends && match === known.match && match >= 0 ? [found.key] : [];
  });
}

/**
 * The definitions of a key: one for all readers, or one for each choice of readers and one for the
 * rest.
 */
export function definitionsByReader({ closer, ...definition }: DefinedKey): readonly {
  readonly definition: KeyDefinition & { readonly origin: Origin };
  readonly when?: When;
}[] {
  if (closer.length === 0) return [{ definition }];
  const others = exclusiveAlternatives(closer.map((one) => ({ definition: one, all: one.all })));
  return [...others, { definition, when: { unless: closer.map(({ all }) => all) } }];
}

/**
 * Finds a key from a scope: an outer definition goes before an inner one; `scope.key` reaches into
 * a child scope (DITA 1.3, 2.4.4.4).
 */
export function lookUpKey(scope: KeyScope, key: string): DefinedKey | undefined {
  return (scope.parent && lookUpKey(scope.parent, key)) ?? lookUpInside(scope, key);
}

function lookUpInside(scope: KeyScope, key: string): DefinedKey | undefined {
  const own = scope.definitions.get(key);
  const dot = key.indexOf('.');
  if (own || dot < 1) return own;
  // Several scopes may have one name: the first of them that has the key.
  for (const child of scope.children) {
    const inner = child.names.includes(key.slice(0, dot))
      ? lookUpInside(child, key.slice(dot + 1))
      : undefined;
    if (inner) return inner;
  }
  return undefined;
}

/** The same for scopes in which every key means the same; used to remember results. */
export const scopeKey = (scope: KeyScope): string =>
  `${scope.parent ? scopeKey(scope.parent) : ''}|${insideKey(scope)}`;

const insideKey = (scope: KeyScope): string =>
  JSON.stringify([
    [...scope.definitions.values()].map(({ key, href, text, closer }) => [key, href, text, closer]),
    scope.children.map((child) => [child.names, insideKey(child)]),
  ]);

/** The readers for whom a map is read. */
export interface Reading {
  readonly lens: Lens | undefined;
  readonly facets: readonly Facet[];
  /** On which readers decide themselves; of what depends on others, everybody gets the same. */
  readonly open: readonly OpenFacet[];
}
const everybody: Reading = { lens: undefined, facets: [], open: [] };

/** What keys say: what the edition sets for them, else what the map defines. */
export interface KeyTexts {
  readonly scope: KeyScope;
  readonly variables: Readonly<Record<string, string>>;
}

/**
 * Nodes of a map as they are read: without what the lens drops, every empty phrase with a key
 * showing what the key gives, and nothing where it uses itself. Parts that not everybody gets say
 * who does, like a `ResolvedElement`.
 */
export function fillKeys(
  nodes: readonly Node[],
  keys: KeyTexts,
  reading: Reading = everybody,
  used: readonly string[] = [],
): Node[] {
  const { lens, facets, open } = reading;
  return nodes.flatMap((node): Node[] => {
    if (!isElement(node)) return [node];
    const { name, attributes } = node;
    if (!evaluateProfile(attributes, lens, facets).kept) return [];
    const own = whenOf(attributes, open);
    const as = (children: readonly Node[], when?: When): Node => ({
      name,
      attributes,
      children,
      ...(when || own ? { when: [own, when].filter((one) => one !== undefined) } : {}),
    });
    const key = attributes['keyref'];
    if (key === undefined || node.children.length > 0)
      return [as(fillKeys(node.children, keys, reading, used))];
    if (used.includes(key)) return [as([])];
    const filled = (text: readonly Node[] = []): Node[] =>
      fillKeys(text, keys, reading, [...used, key]);
    const set = keys.variables[key];
    if (set !== undefined) return [as([set])];
    const found = lookUpKey(keys.scope, key);
    if (!found || open.length === 0) return [as(filled(found?.text))];
    return definitionsByReader(found).map(({ definition, when }) =>
      as(filled(definition.text), when),
    );
  });
}

/** What each key of a scope says where it is used, for those that have a text. */
export function variablesOf(texts: KeyTexts): Record<string, string> {
  const keys = new Set([
    ...[...texts.scope.definitions.values()]
      .filter(({ text }) => text !== undefined)
      .map(({ key }) => key),
    ...Object.keys(texts.variables),
  ]);
  return Object.fromEntries(
    [...keys]
      .sort()
      .map((key) => [
        key,
        lineOf(element('keyword', {}, fillKeys([element('keyword', { keyref: key })], texts))),
      ]),
  );
}
