import { diffArrays } from 'diff';
import { isInline } from '../grammar/index.ts';
import { childElements, isElement, lineOf, type Element } from '../markup/index.ts';
import { allPlaces, type Place, type Publication, type ResolvedElement } from './publication.ts';

/**
 * A block without blocks in it, or one that is shown by more than its words: changes are told of
 * such.
 */
const isLeaf = (element: Element): boolean =>
  element.children.some((child) =>
    typeof child === 'string' ? child.trim() !== '' : isElement(child) && isInline(child.name),
  ) || childElements(element).length === 0;

/** The blocks of a topic in which no other blocks are. */
export function leaves(element: Element): Element[] {
  return isLeaf(element) ? [element] : childElements(element).flatMap(leaves);
}

/** What one sees of a leaf; ids and where it comes from are not of that. */
const seen = (element: Element): string =>
  JSON.stringify(element, (name, value: unknown) =>
    name === 'attributes'
      ? visibleAttributes(value as Element['attributes'])
      : ['origin', 'anchor', 'link', 'marked'].includes(name)
        ? undefined
        : value,
  ) ?? lineOf(element);
const visibleAttributes = ({
  id: _id,
  xtrc: _trace,
  ...attributes
}: Element['attributes']): Element['attributes'] => attributes;

/** How a leaf has changed. */
interface Change {
  readonly bar?: true;
  readonly gone?: 'before' | 'after';
}
type Changes = Map<Element, Change>;

/**
 * The leaves of a topic that are new or otherwise than they were, and those beside which something
 * is gone.
 */
function changedIn(now: Element, before: Element | undefined): Changes {
  const all = leaves(now);
  if (!before) return new Map(all.map((leaf) => [leaf, { bar: true }]));
  const changes: Changes = new Map();
  const parts = diffArrays(leaves(before).map(seen), all.map(seen));
  let at = 0;
  for (const [index, part] of parts.entries()) {
    if (part.added)
      for (const leaf of all.slice(at, at + part.value.length))
        changes.set(leaf, { ...changes.get(leaf), bar: true });
    // What has something else in its place has a bar there.
    else if (part.removed && !parts[index - 1]?.added && !parts[index + 1]?.added)
      markDeletion(changes, all, at);
    if (!part.removed) at += part.value.length;
  }
  return changes;
}
/** Marks that something was deleted before the leaf of this index, or after the last. */
function markDeletion(changes: Changes, all: readonly Element[], at: number): void {
  const leaf = all[at] ?? all.at(-1);
  if (leaf) changes.set(leaf, { ...changes.get(leaf), gone: at < all.length ? 'before' : 'after' });
}

function changed(element: ResolvedElement, changes: ReadonlyMap<Element, Change>): ResolvedElement {
  const change = changes.get(element);
  if (change)
    return {
      ...element,
      ...(change.bar ? { marked: { ...element.marked, bar: true } } : {}),
      ...(change.gone ? { gone: change.gone } : {}),
    };
  return {
    ...element,
    children: element.children.map((child) =>
      isElement(child) ? changed(child as ResolvedElement, changes) : child,
    ),
  };
}

/**
 * The publication with a bar beside everything that an earlier one has not, or has otherwise, and
 * with a sign where something is gone.
 * @param before the same map, composed from earlier texts
 */
export function withChangeBars(publication: Publication, before: Publication): Publication {
  const [earlier, now] = [before, publication].map(({ places }) =>
    allPlaces(places).flatMap(({ content, anchor }) => (content ? [{ anchor, content }] : [])),
  ) as [Topic[], Topic[]];
  const known = new Map(earlier.map(({ anchor, content }) => [anchor, content]));
  const changes = new Map(
    now.map(({ anchor, content }) => [anchor, changedIn(content, known.get(anchor))]),
  );
  const at = new Map(now.map((topic) => [topic.anchor, topic]));
  for (const [index, { anchor }] of earlier.entries()) {
    if (at.has(anchor)) continue;
    const next = earlier.slice(index + 1).find((topic) => at.has(topic.anchor))?.anchor;
    const beside = next === undefined ? now.at(-1) : at.get(next);
    const all = beside ? leaves(beside.content) : [];
    if (beside) markDeletion(changes.get(beside.anchor)!, all, next === undefined ? all.length : 0);
  }
  const told = (anchor: string, content: ResolvedElement): ResolvedElement => {
    const found = changes.get(anchor);
    return found && found.size > 0 ? changed(content, found) : content;
  };
  const marked = (place: Place): Place => ({
    ...place,
    children: place.children.map(marked),
    ...(place.content ? { content: told(place.anchor, place.content) } : {}),
  });
  const news: Record<string, 'new' | 'changed'> = {};
  for (const { anchor } of now)
    if (!known.has(anchor) || changes.get(anchor)!.size > 0)
      news[anchor] = known.has(anchor) ? 'changed' : 'new';
  return {
    ...publication,
    news,
    places: publication.places.map(marked),
    glossary: publication.glossary.map((entry) => ({
      ...entry,
      content: told(entry.anchor, entry.content),
    })),
  };
}
interface Topic {
  readonly anchor: string;
  readonly content: ResolvedElement;
}
