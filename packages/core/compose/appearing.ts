import {
  allValues,
  facetValuesOf,
  evaluateProfile,
  type Facet,
  type Lens,
} from '../facets/index.ts';
import { labelOf } from '../grammar/index.ts';
import { elementById, type Library } from '../library/index.ts';
import { isElement, type Attributes, type Element } from '../markup/index.ts';
import { basesAmong } from './alternates.ts';
import { expandMap } from './expand/map.ts';
import { allNodes } from './expand/node.ts';
import { allPlaces, type Publication, type ResolvedElement } from './publication.ts';

/**
 * How a topic appears in a publication: at a place of its own, only in what others borrow from it,
 * or not, for a reason.
 */
export interface Appearance {
  readonly how: 'shown' | 'lends' | 'dropped';
  /** Of its first place, where it has one. */
  readonly number?: string;
  /** The title of its first place, or the rule that drops it. */
  readonly detail: string;
  /** At how many places it stands. */
  readonly places: number;
  /** The topic that stands there for it. */
  readonly alternate?: string;
}

/**
 * The rule by which a lens drops an element with these attributes, in words; undefined where it is
 * kept.
 */
export function whyDropped(
  attributes: Attributes,
  lens: Lens | undefined,
  facets: readonly Facet[],
): string | undefined {
  const { kept, facet, values = [] } = evaluateProfile(attributes, lens, facets);
  if (kept || facet === undefined) return undefined;
  const list = facets.find(({ name }) => name === facet);
  const labels = values.map(
    (value) => allValues(list?.values ?? []).find(({ name }) => name === value)?.label ?? value,
  );
  return `${list?.label ?? facet} is ${labels.join(', ')}, which “${lens?.name ?? ''}” drops`;
}

/**
 * Every topic that stands in a map or lends to one that does, with how it appears in the
 * publication that was composed from it.
 */
export function appearances(
  publication: Publication,
  {
    library,
    map,
    lens,
    facets,
  }: {
    readonly library: Library;
    readonly map: string;
    readonly lens: Lens | undefined;
    readonly facets: readonly Facet[];
  },
): Map<string, Appearance> {
  const found = new Map<string, Appearance>();
  const lends = new Set<string>();
  const bases = basesAmong(library);
  const gather = (element: Element, self: string): void => {
    const { origin } = element as ResolvedElement;
    if (origin.item !== self) lends.add(origin.item);
    for (const child of element.children) if (isElement(child)) gather(child, self);
  };
  for (const { content, number, label } of allPlaces(publication.places)) {
    if (!content) continue;
    const { item } = content.origin;
    const base = bases.get(item);
    const known = found.get(base ?? item);
    const standsIn = base === undefined ? {} : { alternate: item };
    found.set(
      base ?? item,
      known
        ? { ...known, places: known.places + 1 }
        : {
            how: 'shown',
            ...(number === undefined ? {} : { number }),
            detail: label,
            places: 1,
            ...standsIn,
          },
    );
    gather(content, item);
  }
  for (const id of lends)
    if (!found.has(id))
      found.set(id, { how: 'lends', detail: 'shown where others borrow from it', places: 0 });
  const root = library.item(map);
  for (const node of root?.root
    ? allNodes(expandMap(root, { library, lens: undefined, facets }).nodes)
    : []) {
    if (node.item === undefined || found.get(node.item)?.how === 'shown') continue;
    const topic = library.item(node.item)?.root;
    const own = topic && elementById(topic, node.element)?.element;
    const around = node.conditions.find(
      (attributes) => whyDropped(attributes, lens, facets) !== undefined,
    );
    const reason =
      (around && `an entry of the map: ${whyDropped(around, lens, facets)}`) ??
      (own && facetValuesOf(own.attributes).size > 0
        ? `the ${labelOf(own.name).toLowerCase()}: ${whyDropped(own.attributes, lens, facets)}`
        : undefined);
    if (reason !== undefined && found.get(node.item)?.how !== 'lends')
      found.set(node.item, { how: 'dropped', detail: reason, places: 0 });
  }
  return found;
}
