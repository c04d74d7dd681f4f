import { elementById, type Library } from '../library/index.ts';
import { isElement, nodeAt } from '../markup/index.ts';
import type { Path } from '../problems/index.ts';
import { basesAmong } from './alternates.ts';
import type { Appearance } from './appearing.ts';
import { allPlaces, type Origin, type Publication, type ResolvedElement } from './publication.ts';

/** What a publication makes of one element, and by which rule. */
export interface ElementStanding {
  readonly how: 'shown' | 'dropped' | 'absent';
  /** The rule, or from where it comes; empty where it simply stands there. */
  readonly detail: string;
  /** The headings under which it stands, with their numbers. */
  readonly places: readonly string[];
}

const isAt = (origin: Origin, item: string, path: Path): boolean =>
  origin.item === item && origin.path.join() === path.join();
const isAround = (origin: Origin, item: string, path: Path): boolean =>
  origin.item === item && origin.path.every((step, at) => path[at] === step);

function holds(element: ResolvedElement, item: string, path: Path): boolean {
  return (
    isAt(element.origin, item, path) ||
    element.children.some(
      (child) => isElement(child) && holds(child as ResolvedElement, item, path),
    )
  );
}

/**
 * Why an element is where it is, or is not, in a publication.
 * @param origin of the element: its topic, and its path in the text of that
 * @param appearances how each topic appears in the publication
 */
export function explainElement(
  publication: Publication,
  { item, path }: Origin,
  appearances: ReadonlyMap<string, Appearance>,
  library: Library,
): ElementStanding {
  const root = library.item(item)?.root;
  const element =
    root && (path.length === 0 ? elementById(root, undefined)?.element : nodeAt(root, path));
  const reasonsAt = (kind: Publication['why'][number]['kind']) =>
    publication.why.filter((reason) => reason.kind === kind && isAt(reason.origin, item, path));
  const droppedAround = (self: string, at: Path) =>
    publication.why.find(({ kind, origin }) => kind === 'dropped' && isAround(origin, self, at));
  const dropped = droppedAround(item, path);
  const [borrowed] = reasonsAt('borrowed');
  const home = borrowed?.from;
  const [replaced] = reasonsAt('replaced');
  const places = allPlaces(publication.places).flatMap(({ content, number, label }) => {
    if (!content) return [];
    // What is borrowed stands in the place of the element that borrows it.
    const isHere =
      holds(content, item, path) ||
      (home !== undefined && content.origin.item === item && holds(content, home.item, home.path));
    if (!isHere) return [];
    const numbered = number === undefined ? label : `${number} ${label}`;
    return [content.origin.item === item ? numbered : `${numbered} (borrowed)`];
  });
  if (places.length > 0 && element) {
    const detail = borrowed
      ? `borrowed from ${borrowed.detail}`
      : replaced
        ? `what the variable ${replaced.detail} says`
        : '';
    return { how: 'shown', detail, places };
  }
  if (dropped) return { how: 'dropped', detail: dropped.detail, places: [] };
  const droppedAtHome = home && droppedAround(home.item, home.path);
  if (borrowed && droppedAtHome)
    return {
      how: 'dropped',
      detail: `borrowed from ${borrowed.detail}; ${droppedAtHome.detail}`,
      places: [],
    };
  const topic = appearances.get(item);
  if (topic?.alternate !== undefined)
    return { how: 'absent', detail: `${topic.alternate} stands in for this topic`, places: [] };
  const base = basesAmong(library).get(item);
  if (base !== undefined && topic === undefined)
    return { how: 'absent', detail: `it stands in for ${base}, for other readers`, places: [] };
  return {
    how: 'absent',
    detail:
      topic?.how === 'dropped'
        ? topic.detail
        : topic
          ? 'the topic is there, this part of it is not'
          : 'the topic is not in its map',
    places: [],
  };
}
