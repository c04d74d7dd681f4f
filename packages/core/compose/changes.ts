import { diffArrays } from 'diff';
import { isInline } from '../grammar/index.ts';
import { childElements, isElement, lineOf, type Element } from '../markup/index.ts';
import { allPlaces, type Place, type Publication, type ResolvedElement } from './publication.ts';

/** A block without blocks in it, or one that is shown by more than its words: changes are told of such. */
const isLeaf = (element: Element): boolean =>
  element.children.some((child) => (typeof child === 'string' ? child.trim() !== '' : isElement(child) && isInline(child.name))) || childElements(element).length === 0;

function leaves(element: Element): Element[] {
  return isLeaf(element) ? [element] : childElements(element).flatMap(leaves);
}

/** What one sees of a leaf; ids and where it comes from are not of that. */
const seen = (element: Element): string =>
  JSON.stringify(element, (name, value: unknown) => (name === 'attributes' ? looks(value as Element['attributes']) : ['origin', 'anchor', 'link', 'marked'].includes(name) ? undefined : value)) ??
  lineOf(element);
const looks = ({ id: _id, xtrc: _trace, ...attributes }: Element['attributes']): Element['attributes'] => attributes;

/** The leaves of a topic that are new or otherwise than they were. */
function changedIn(now: Element, before: Element | undefined): Set<Element> {
  const all = leaves(now);
  if (!before) return new Set(all);
  const changed = new Set<Element>();
  let at = 0;
  for (const part of diffArrays(leaves(before).map(seen), all.map(seen))) {
    if (part.removed) continue;
    if (part.added) for (const leaf of all.slice(at, at + part.value.length)) changed.add(leaf);
    at += part.value.length;
  }
  return changed;
}

function barred(element: ResolvedElement, changed: ReadonlySet<Element>): ResolvedElement {
  if (changed.has(element)) return { ...element, marked: { ...element.marked, bar: true } };
  return { ...element, children: element.children.map((child) => (isElement(child) ? barred(child as ResolvedElement, changed) : child)) };
}

/**
 * The publication with a bar beside everything that an earlier one has not, or has otherwise. What is gone leaves nothing behind.
 * @param before the same map, composed from earlier texts
 */
export function withChangeBars(publication: Publication, before: Publication): Publication {
  const earlier = new Map(allPlaces(before.places).flatMap(({ content, anchor }) => (content ? [[anchor, content] as const] : [])));
  const marked = (place: Place): Place => {
    const children = place.children.map(marked);
    const changed = place.content && changedIn(place.content, earlier.get(place.anchor));
    return { ...place, children, ...(changed && changed.size > 0 ? { content: barred(place.content, changed) } : {}) };
  };
  return { ...publication, places: publication.places.map(marked) };
}
