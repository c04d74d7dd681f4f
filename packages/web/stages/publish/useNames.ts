import type { Edition, Lens } from '@ukiyo/contracts';
import { onMounted } from 'vue';
import { useDesigns } from '../../parts/designs.ts';
import { useItems } from '../../parts/items.ts';
import { useLibrary } from '../../parts/library.ts';
import type { Names } from './settings.ts';

/** How the things are called that editions name by id. */
export function useNames(editions: () => readonly Edition[], lenses: () => readonly Lens[]): Names {
  const items = useItems();
  const library = useLibrary();
  const designs = useDesigns();
  onMounted(() => designs.ensure());
  return {
    get editions() {
      return editions();
    },
    get lenses() {
      return lenses();
    },
    item: (id) => items.find(id)?.title ?? id,
    facet: (wanted) => library.facets.find(({ name }) => name === wanted)?.label ?? wanted,
    design: (kind, wanted) =>
      designs.list[kind].find(({ id }) => id === wanted)?.content.name ?? wanted,
  };
}
