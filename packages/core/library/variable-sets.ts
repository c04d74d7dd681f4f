import { isA, mayContain } from '../grammar/index.ts';
import {
  childElements,
  childNamed,
  element,
  findAll,
  isElement,
  nodeAt,
  replaceAt,
  walk,
  type Element,
} from '../markup/index.ts';
import type { Path } from '../problems/index.ts';

/** In the facts of a map: its variables hold in every map of the project. */
export const everywhereMark = 'holds-in';
const isEverywhere = ({ name, attributes }: Element): boolean =>
  name === 'data' && attributes['name'] === everywhereMark && attributes['value'] === 'every-map';

export function holdsEverywhere(map: Element): boolean {
  const meta = childNamed(map, 'topicmeta');
  return meta !== undefined && childElements(meta).some(isEverywhere);
}

/** The map with its variables holding in every map, or only where it is taken in. */
export function withEverywhere(map: Element, everywhere: boolean): Element {
  const meta = childNamed(map, 'topicmeta');
  const others = (meta?.children ?? []).filter(
    (child) => !isElement(child) || !isEverywhere(child),
  );
  const children = everywhere
    ? [...others, element('data', { name: everywhereMark, value: 'every-map' })]
    : others;
  const made = children.length === 0 ? [] : [{ ...(meta ?? element('topicmeta')), children }];
  if (meta)
    return { ...map, children: map.children.flatMap((child) => (child === meta ? made : [child])) };
  const after = map.children.findLastIndex(
    (child) => isElement(child) && ['title', 'booktitle'].includes(child.name),
  );
  return { ...map, children: map.children.toSpliced(after + 1, 0, ...made) };
}

/** Whether a map is nothing but a set of variables. */
export function isVariableSet(map: Element): boolean {
  const entries = childElements(map).filter(({ name }) => isA(name, 'topicref'));
  return (
    holdsEverywhere(map) || (entries.length > 0 && entries.every(({ name }) => name === 'keydef'))
  );
}

/** The IDs of the maps that a map takes in, sets of variables among them. */
export const mapsTakenIn = (map: Element): ReadonlySet<string> =>
  new Set(
    findAll(map, ({ name }) => isA(name, 'topicref')).flatMap(({ attributes: { href = '' } }) =>
      href.startsWith('map:') ? [href.slice('map:'.length)] : [],
    ),
  );

/** Where a map takes a set in; undefined where it does not. */
function placeOfSet(map: Element, set: string): Path | undefined {
  let found: Path | undefined;
  walk(map, ({ name, attributes }, path) => {
    if (isA(name, 'topicref') && attributes['href'] === `map:${set}`) found ??= [...path];
  });
  return found;
}

/**
 * The map that takes a set in, at its end: in a group where it may hold no other map directly. One
 * that takes it in already stays as it is.
 */
export function withSet(map: Element, set: string): Element {
  if (placeOfSet(map, set)) return map;
  const { name, children } = map;
  const taken = element('mapref', {
    href: `map:${set}`,
    format: 'ditamap',
    'processing-role': 'resource-only',
  });
  if (!mayContain(name, 'mapref'))
    return { ...map, children: [...children, element('topicgroup', {}, [taken])] };
  const grid = children.findIndex((child) => isElement(child) && child.name === 'reltable');
  return { ...map, children: children.toSpliced(grid === -1 ? children.length : grid, 0, taken) };
}

/** The map without a set, and without the group that held nothing else. */
export function withoutSet(map: Element, set: string): Element {
  const place = placeOfSet(map, set);
  if (!place) return map;
  const group = nodeAt(map, place.slice(0, -1));
  const isAlone = isElement(group) && group.name === 'topicgroup' && group.children.length === 1;
  return replaceAt(map, isAlone ? place.slice(0, -1) : place, []);
}
