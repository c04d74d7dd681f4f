import { element, isElement, lineOf, type Node } from '../markup/index.ts';
import {
  evaluateProfile,
  whenOf,
  type Facet,
  type Lens,
  type OpenFacet,
  type ValuesByFacet,
  type When,
} from '../facets/index.ts';
import { readReference, type KeyDefinition, type Reference } from '../library/index.ts';
import type { Branch } from './branches.ts';
import type { Origin } from './publication.ts';

/** A definition where it stands. */
interface PlacedDefinition extends KeyDefinition {
  readonly origin: Origin;
  /** How deep its map lies among the maps: 0 is the map that is composed. */
  readonly depth: number;
  /** The branches in which it stands, outermost first. */
  readonly branches: readonly Branch[];
  /** Who gets it, as far as readers decide: by each facet one of these values at least. */
  readonly any?: ValuesByFacet;
}

/** What a key means: the definition for all readers, or for those who get none of the others. */
export interface DefinedKey extends PlacedDefinition {
  /** Definitions that go before it, each for some readers. */
  readonly before: readonly PlacedDefinition[];
}

/** The keys that hold in one branch of the map. */
export interface KeyScope {
  readonly names: readonly string[];
  readonly parent?: KeyScope;
  /** In the order in which they go before each other; none after the first that is for all. */
  readonly definitions: Map<string, readonly PlacedDefinition[]>;
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

const isForAll = ({ any }: PlacedDefinition): boolean => any === undefined;
const isForTheSame = (one: KeyDefinition, other: KeyDefinition): boolean =>
  one.locale === other.locale &&
  JSON.stringify(Object.entries(one.conditions).sort()) ===
    JSON.stringify(Object.entries(other.conditions).sort());

/**
 * Adds the keys of one topic reference that the lens keeps. A map goes before the maps that it
 * takes in, and in one map the first definition holds (DITA 1.3, 2.4.4.3 “Effective key
 * definitions”); where readers decide, each gets the first that is for them.
 * @param given the keys, each with who gets it
 * @returns keys that are defined twice in one map for the same readers
 */
export function defineKeys(
  scope: KeyScope,
  given: readonly (KeyDefinition & Pick<PlacedDefinition, 'any'>)[],
  at: Pick<PlacedDefinition, 'origin' | 'depth' | 'branches'>,
): string[] {
  return given.flatMap((found) => {
    const definition: PlacedDefinition = { ...found, ...at };
    const known = scope.definitions.get(found.key) ?? [];
    const behind = known.findIndex(({ depth }) => depth > at.depth);
    const ordered = known.toSpliced(behind === -1 ? known.length : behind, 0, definition);
    const end = ordered.findIndex(isForAll);
    scope.definitions.set(found.key, end === -1 ? ordered : ordered.slice(0, end + 1));
    const isTwice = known.some(
      (one) =>
        one.origin.item === at.origin.item &&
        one.origin.path.join() !== at.origin.path.join() &&
        isForTheSame(one, found),
    );
    return isTwice ? [found.key] : [];
  });
}

/** @param ordered one definition at least */
function definedKey(ordered: readonly PlacedDefinition[]): DefinedKey {
  const last = ordered.at(-1)!;
  // Where none is for all, the last stands in for those who would get nothing.
  return { ...last, before: isForAll(last) ? ordered.slice(0, -1) : ordered };
}

const anyOf = ({ any }: PlacedDefinition): ValuesByFacet => any ?? {};

/**
 * The definitions of a key: one for all readers, or one for each choice of readers and one for the
 * rest.
 */
export function definitionsByReader({ before, ...definition }: DefinedKey): readonly {
  readonly definition: KeyDefinition & { readonly origin: Origin };
  readonly when?: When;
}[] {
  if (before.length === 0) return [{ definition }];
  const others = before.map((one, at) => ({
    definition: one,
    when: { any: one.any!, ...(at === 0 ? {} : { none: before.slice(0, at).map(anyOf) }) },
  }));
  return [...others, { definition, when: { none: before.map(anyOf) } }];
}

/**
 * Finds a key from a scope: an outer definition goes before an inner one; `scope.key` reaches into
 * a child scope (DITA 1.3, 2.4.4.4). What a definition does not say itself, the key says that it
 * names in its turn; keys that name each other in a circle say nothing more.
 */
export const lookUpKey = (scope: KeyScope, key: string): DefinedKey | undefined =>
  lookUpFrom(scope, key, []);

function lookUpFrom(
  scope: KeyScope,
  key: string,
  followed: readonly PlacedDefinition[],
): DefinedKey | undefined {
  return (
    (scope.parent && lookUpFrom(scope.parent, key, followed)) ?? lookUpInside(scope, key, followed)
  );
}

function lookUpInside(
  scope: KeyScope,
  key: string,
  followed: readonly PlacedDefinition[],
): DefinedKey | undefined {
  const ordered = scope.definitions.get(key);
  if (ordered) return definedKey(ordered.map((one) => completed(one, scope, followed)));
  const dot = key.indexOf('.');
  if (dot < 1) return undefined;
  // Several scopes may have one name: the first of them that has the key.
  for (const child of scope.children) {
    const inner = child.names.includes(key.slice(0, dot))
      ? lookUpInside(child, key.slice(dot + 1), followed)
      : undefined;
    if (inner) return inner;
  }
  return undefined;
}

/** What `key` or `key/element` leads to; undefined where the key leads nowhere. */
export function keyReference(scope: KeyScope, keyref: string): Reference | undefined {
  const [key, element] = splitKey(keyref);
  const definition = lookUpKey(scope, key);
  if (definition?.href === undefined) return undefined;
  const reference = readReference(definition.href, definition.origin.item);
  return element !== undefined && reference.kind === 'item' ? { ...reference, element } : reference;
}

/** The two parts of `key/element`: an element may stand deeper, as `key/topic/element`. */
function splitKey(keyref: string): readonly [key: string, element: string | undefined] {
  const slash = keyref.indexOf('/');
  return slash === -1 ? [keyref, undefined] : [keyref.slice(0, slash), keyref.slice(slash + 1)];
}

/** A definition with what the key says that it names. */
function completed(
  definition: PlacedDefinition,
  scope: KeyScope,
  followed: readonly PlacedDefinition[],
): PlacedDefinition {
  const { keyref, href, key, origin } = definition;
  const isCircle = followed.some((one) => one.key === key && one.origin === origin);
  if (keyref === undefined || href !== undefined || isCircle) return definition;
  const other = lookUpFrom(scope, keyref.split('/')[0]!, [...followed, definition]);
  if (!other) return definition;
  // A definition with words of its own takes only the address; all else is read where it stands.
  const { text, linkText } = definition.text === undefined ? other : definition;
  return {
    ...definition,
    ...(other.href === undefined ? {} : { href: other.href }),
    ...(text === undefined ? {} : { text }),
    ...(linkText === undefined ? {} : { linkText }),
    origin: definition.text === undefined ? other.origin : origin,
  };
}

/** The same for scopes in which every key means the same; used to remember results. */
export const scopeKey = (scope: KeyScope): string =>
  `${scope.parent ? scopeKey(scope.parent) : ''}|${insideKey(scope)}`;

const insideKey = (scope: KeyScope): string =>
  JSON.stringify([
    // Not where a definition stands: an entry that is put in before it changes no topic.
    [...scope.definitions.values()].map((ordered) =>
      ordered.map(({ key, href, keyref, text, linkText, any }) => [
        key,
        href,
        keyref,
        text,
        linkText,
        any,
      ]),
    ),
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
    ...[...texts.scope.definitions]
      .filter(([, ordered]) => ordered.some(({ text }) => text !== undefined))
      .map(([key]) => key),
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
