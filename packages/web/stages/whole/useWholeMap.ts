import { expandMap, type MapNode } from '@ukiyo/core/compose';
import { linksOf, readItem, textLibrary, type StoredItem } from '@ukiyo/core/library';
import { element, lineOf } from '@ukiyo/core/markup';
import { shallowRef } from 'vue';
import { useFailure } from '../../parts/attempts.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';

/** A topic of the map, or a heading of its own, in reading order. */
export interface WholePlace {
  /** Unique also for a topic that stands twice. */
  readonly key: string;
  readonly item?: string;
  /** The map's own title for it; `''` for the topic's own. */
  readonly title: string;
  readonly depth: number;
}

function placesOf(nodes: readonly MapNode[], depth = 0): Omit<WholePlace, 'key'>[] {
  return nodes.flatMap(({ item, title, children }) => {
    const words = title ? lineOf(element('title', {}, title)) : '';
    const own =
      item === undefined && words === ''
        ? []
        : [{ title: words, depth, ...(item === undefined ? {} : { item }) }];
    return [...own, ...placesOf(children, depth + 1)];
  });
}

/** Everything that a map with its sub-maps puts into reading order, through no lens. */
export function useWholeMap() {
  const items = useItems();
  const library = useLibrary();
  const places = shallowRef<readonly WholePlace[]>([]);
  const { failure, attempt } = useFailure();

  async function textsOf(
    id: string,
    known = new Map<string, StoredItem>(),
  ): Promise<Map<string, StoredItem>> {
    if (known.has(id)) return known;
    const { kind, text } = await items.read(id);
    known.set(id, { id, kind, text });
    const { root } = readItem(id, kind, text);
    for (const { target } of root ? linksOf(root, id) : [])
      if (target.kind === 'item' && (await items.load(target.id))?.kind === 'map')
        await textsOf(target.id, known);
    return known;
  }
  async function load(id: string): Promise<void> {
    places.value = [];
    await attempt(async () => {
      const texts = textLibrary((await textsOf(id)).values());
      const map = texts.item(id);
      const { nodes, problems } = map
        ? expandMap(map, { library: texts, lens: undefined, facets: library.facets })
        : { nodes: [], problems: [] };
      places.value = placesOf(nodes).map((place, index) => ({
        ...place,
        key: `${index}-${place.item ?? 'heading'}`,
      }));
      if (places.value.length === 0)
        failure.value = problems[0]?.message ?? 'This map has no topics yet.';
    });
  }
  return { places, failure, load };
}
