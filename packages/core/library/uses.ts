import { isA } from '../grammar/index.ts';
import { walk, type Element } from '../markup/index.ts';
import { readReference, referenceAttributesOf, writeReference } from './address.ts';
import { alternateMark } from './alternates.ts';
import { namesIn } from './variables.ts';
import { rewriteReferences } from './rewrite.ts';

/**
 * How something is used: put into a map, borrowed, led to, shown as an image or played, filled in
 * for a key, stood in for by an alternate; and where a key gets its meaning.
 */
export const useManners = [
  'placed',
  'borrowed',
  'linked',
  'shown',
  'key',
  'alternate',
  'defined',
] as const;
export type UseManner = (typeof useManners)[number];

export interface Use {
  readonly manner: UseManner;
  /** The id of a topic, map or image, or the name of a key. */
  readonly target: string;
  /** The id of the element in it; `''` for all of it. */
  readonly part: string;
  readonly count: number;
}

function mannerOf({ name, attributes }: Element, attribute: string): UseManner {
  if (attribute === 'conref' || attribute === 'conrefend') return 'borrowed';
  if (name === 'data' && attributes['name'] === alternateMark) return 'alternate';
  // Of another publication nothing is taken in: links lead there.
  return isA(name, 'topicref') && attributes['scope'] !== 'peer' ? 'placed' : 'linked';
}
/** The key without the element that is meant in what it stands for. */
const keyIn = (text: string): string => text.split('/')[0]!;

/**
 * What a text uses of the library and of keys, each once, with how often. What it uses of itself is
 * not told.
 */
export function usesIn(root: Element, self: string): Use[] {
  const uses = new Map<string, Use>();
  const add = (manner: UseManner, target: string, part = ''): void => {
    const key = JSON.stringify([manner, target, part]);
    uses.set(key, { manner, target, part, count: (uses.get(key)?.count ?? 0) + 1 });
  };
  walk(root, (found) => {
    const { attributes } = found;
    for (const attribute of referenceAttributesOf(found)) {
      const value = attributes[attribute];
      if (value === undefined || value === '') continue;
      const reference = readReference(value, self);
      if (reference.kind === 'asset') add('shown', reference.id);
      else if (reference.kind === 'item' && reference.id !== self)
        add(mannerOf(found, attribute), reference.id, reference.element);
    }
    for (const value of [attributes['keyref'], attributes['conkeyref']])
      if (value !== undefined && value !== '') add('key', keyIn(value));
    for (const name of namesIn(attributes['keys'])) add('defined', name);
  });
  return [...uses.values()];
}

/** One topic, map or image in the place of another. */
export interface Replacement {
  readonly from: string;
  readonly to: string;
  /** Whether the new one has an element of that id; where it has not, all of it is meant. */
  readonly hasPart: (id: string) => boolean;
}

/**
 * The tree with another topic, map or image in the place of one. The same element is given back
 * where nothing changes.
 * @param self the id of the text
 */
export function replaceUses(root: Element, self: string, replacement: Replacement): Element {
  const { from, to, hasPart } = replacement;
  return rewriteReferences(root, (value) => {
    const reference = readReference(value, self);
    if (reference.kind === 'asset' && reference.id === from)
      return writeReference({ kind: 'asset', id: to });
    if (reference.kind !== 'item' || reference.id !== from) return value;
    const part =
      reference.element !== undefined && hasPart(reference.element)
        ? { element: reference.element }
        : {};
    return writeReference(
      { kind: 'item', id: to, ...part },
      value.startsWith('map:') ? 'map' : 'topic',
    );
  });
}
