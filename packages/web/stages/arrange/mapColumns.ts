import type { Path } from '@ukiyo/core/problems';
import { shallowRef } from 'vue';

/** What can be shown beside each entry. */
export const mapColumns = [
  { name: 'number', label: 'Number' },
  { name: 'kind', label: 'Kind' },
  { name: 'facets', label: 'Facets' },
  { name: 'problems', label: 'Problems' },
  { name: 'words', label: 'Words' },
];
/** The column of a fact that the team agreed on. */
export const factColumn = (name: string): string => `fact ${name}`;

/** What is being dragged onto a map: its own entries, or topics and maps of the library. */
export type Dragged = { readonly paths: readonly Path[] } | { readonly hrefs: readonly string[] };
export const draggedEntries = shallowRef<Dragged>();
