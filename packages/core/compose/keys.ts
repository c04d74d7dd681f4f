import { childNamed, element, findAll, isElement, lineOf, type Element, type Node } from '../markup/index.ts';
import type { Origin } from './publication.ts';

export interface KeyDefinition {
  readonly key: string;
  /** As it stands in the definition; absent for a key that only gives a text. */
  readonly href?: string;
  /** What an empty phrase with this key shows. */
  readonly text?: readonly Node[];
  readonly origin: Origin;
}

/** The keys that hold in one branch of the map. */
export interface KeyScope {
  readonly names: readonly string[];
  readonly parent?: KeyScope;
  readonly definitions: Map<string, KeyDefinition>;
  readonly children: KeyScope[];
}

export function keyScope(names: readonly string[], parent?: KeyScope): KeyScope {
  const scope: KeyScope = { names, definitions: new Map(), children: [], ...(parent ? { parent } : {}) };
  parent?.children.push(scope);
  return scope;
}

/** Adds the keys of one topic reference; of several definitions in one scope the first in map order holds (DITA 1.3, 2.4.4.2). */
export function defineKeys(scope: KeyScope, reference: Element, origin: Origin): void {
  for (const key of (reference.attributes['keys'] ?? '').split(/\s+/u)) {
    if (key === '' || scope.definitions.has(key)) continue;
    const { href } = reference.attributes;
    const text = textOfKey(reference);
    scope.definitions.set(key, { key, origin, ...(href === undefined ? {} : { href }), ...(text === undefined ? {} : { text }) });
  }
}

/** The words of a key: its keyword, else its link text, else its short title (DITA 1.3, 2.4.4.6). */
function textOfKey(reference: Element): readonly Node[] | undefined {
  const meta = childNamed(reference, 'topicmeta');
  if (!meta) return reference.attributes['navtitle'] === undefined ? undefined : [reference.attributes['navtitle']];
  const holder = findAll(meta, (found) => found.name === 'keywords')[0];
  const words = (holder && childNamed(holder, 'keyword', 'ph', 'term')) ?? childNamed(meta, 'linktext', 'navtitle');
  return words && lineOf(words) !== '' ? words.children : undefined;
}

/**
 * Finds a key from a scope: an outer definition goes before an inner one; `scope.key` reaches into a child scope (DITA 1.3, 2.4.4.4).
 */
export function lookUpKey(scope: KeyScope, key: string): KeyDefinition | undefined {
  const outer = scope.parent && lookUpKey(scope.parent, key);
  if (outer) return outer;
  const own = scope.definitions.get(key);
  if (own) return own;
  const dot = key.indexOf('.');
  if (dot < 1) return undefined;
  const inner = scope.children.find((child) => child.names.includes(key.slice(0, dot)));
  return inner && lookUpInside(inner, key.slice(dot + 1));
}

function lookUpInside(scope: KeyScope, key: string): KeyDefinition | undefined {
  const own = scope.definitions.get(key);
  if (own) return own;
  const dot = key.indexOf('.');
  const inner = dot < 1 ? undefined : scope.children.find((child) => child.names.includes(key.slice(0, dot)));
  return inner && lookUpInside(inner, key.slice(dot + 1));
}

/** The same for scopes in which every key means the same; used to remember results. */
export function scopeKey(scope: KeyScope): string {
  const own = JSON.stringify([...scope.definitions.values()].map(({ key, href, text }) => [key, href, text]));
  const inner = scope.children.map((child) => `${child.names.join(' ')}:${insideKey(child)}`).join();
  return `${scope.parent ? scopeKey(scope.parent) : ''}|${own}|${inner}`;
}

function insideKey(scope: KeyScope): string {
  return JSON.stringify([[...scope.definitions.values()].map(({ key, href, text }) => [key, href, text]), scope.children.map((child) => [child.names, insideKey(child)])]);
}

/** Nodes of a map in which every empty phrase with a key shows what the key gives; keys in the text of a key are not followed. */
export function fillKeys(nodes: readonly Node[], scope: KeyScope, variables: Readonly<Record<string, string>>): Node[] {
  return nodes.map((node) => {
    if (!isElement(node)) return node;
    const key = node.attributes['keyref'];
    const text = key === undefined || node.children.length > 0 ? undefined : variables[key] === undefined ? lookUpKey(scope, key)?.text : [variables[key]];
    return element(node.name, node.attributes, text ?? fillKeys(node.children, scope, variables));
  });
}
