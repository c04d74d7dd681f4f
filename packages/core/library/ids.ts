import { isTopic } from '../grammar/index.ts';
import { walk, type Element } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';

export interface FoundElement {
  readonly element: Element;
  readonly path: Path;
}

const indexes = new WeakMap<Element, ReadonlyMap<string, FoundElement>>();

/**
 * The elements of a tree by id; of several with one id the first. Remembered as long as the tree
 * lives.
 */
export function idsOf(root: Element): ReadonlyMap<string, FoundElement> {
  const known = indexes.get(root);
  if (known) return known;
  const index = new Map<string, FoundElement>();
  walk(root, (element, path) => {
    const id = element.attributes['id'];
    if (id !== undefined && !index.has(id)) index.set(id, { element, path: [...path] });
  });
  indexes.set(root, index);
  return index;
}

/** A topic of a tree, and the elements in it by id, without those of topics nested in it. */
interface TopicIds extends FoundElement {
  readonly ids: Map<string, FoundElement>;
}

const topicIndexes = new WeakMap<Element, ReadonlyMap<string, TopicIds>>();

/** The topics of a tree by id, itself among them: ids of elements are unique in each alone. */
function topicsOf(root: Element): ReadonlyMap<string, TopicIds> {
  const known = topicIndexes.get(root);
  if (known) return known;
  const index = new Map<string, TopicIds>();
  const open: TopicIds[] = [];
  walk(root, (element, walked) => {
    const path = [...walked];
    while (open.length > 0 && open.at(-1)!.path.length >= path.length) open.pop();
    const id = element.attributes['id'];
    if (isTopic(element.name)) {
      const topic = { element, path, ids: new Map<string, FoundElement>() };
      open.push(topic);
      if (id !== undefined && !index.has(id)) index.set(id, topic);
    } else if (id !== undefined) {
      const ids = open.at(-1)?.ids;
      if (ids && !ids.has(id)) ids.set(id, { element, path });
    }
  });
  topicIndexes.set(root, index);
  return index;
}

/** The topic and the element that a reference names: `topic/element`, or one of both. */
export function partsOfFragment(fragment: string): {
  readonly topic?: string;
  readonly element: string;
} {
  const slash = fragment.indexOf('/');
  return slash === -1
    ? { element: fragment }
    : { topic: fragment.slice(0, slash), element: fragment.slice(slash + 1) };
}

/**
 * The element that a reference names within an item: its root when it names none. Where it names a
 * topic too that is there, only what is in that.
 */
export function elementById(root: Element, named: string | undefined): FoundElement | undefined {
  if (named === undefined) return { element: root, path: [] };
  const { topic, element } = partsOfFragment(named);
  const around = topic === undefined ? undefined : topicsOf(root).get(topic);
  return (around?.ids ?? idsOf(root)).get(element);
}

/** The nested topic in which something stands; undefined in the first topic of a tree. */
export function nestedTopicAround(root: Element, path: Path): Element | undefined {
  const around = [...topicsOf(root).values()].filter(
    (topic) =>
      topic.path.length > 0 &&
      topic.path.length <= path.length &&
      topic.path.every((step, at) => step === path[at]),
  );
  return around.toSorted((a, b) => b.path.length - a.path.length)[0]?.element;
}

/**
 * An id made from a title: letters and digits of any script, not among those that are taken.
 * @param kind what it begins with where the title begins with no letter
 */
export function freeId(title: string, taken: ReadonlySet<string>, kind: string): string {
  const plain = title
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/gu, '')
    .slice(0, 60);
  const base = /^\p{L}/u.test(plain) ? plain : `${kind}-${plain}`.replace(/-$/u, '');
  let id = base;
  for (let count = 2; taken.has(id); count += 1) id = `${base}-${count}`;
  return id;
}
