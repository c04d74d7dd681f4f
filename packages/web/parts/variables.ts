import { Variables, type Variable, type VariableChange, type VariableSet } from '@ukiyo/contracts';
import type { VariableKind } from '@ukiyo/core/editing';
import { effectiveDefinition } from '@ukiyo/core/library';
import { element, isElement, lineOf, type Element, type Node } from '@ukiyo/core/markup';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { ask } from './api.ts';
import { useAssets } from './assets.ts';
import { useEvents } from './events.ts';
import { loadOnce, renew } from './latest.ts';
import { useLens } from './lens.ts';
import { useItems } from './items.ts';
import { useLibrary } from './library.ts';
import { useSession } from './session.ts';

/** What a variable gives: an image of the library, a link target, or text. */
export const kindOfVariable = ({ href }: Pick<Variable, 'href'>): VariableKind =>
  href === undefined ? 'text' : href.startsWith('asset:') ? 'image' : 'link';

/** The variables on the server, kept up to date, and the ways to change them. */
function useStoredVariables() {
  const session = useSession();
  const events = useEvents();
  const list = shallowRef<Variables>({ sets: [], variables: [], uses: {}, undefined: [] });
  const isLoaded = shallowRef(false);
  const take = (next: Variables): void => {
    list.value = next;
    isLoaded.value = true;
  };
  async function load(): Promise<void> {
    await renew(list, () => ask(`${session.base}/variables`, Variables));
    isLoaded.value = true;
  }
  const ensure = loadOnce(load);
  /** After changes of maps, which may define variables. */
  const loadAgain = useDebounceFn(load, 400);
  events.listen((event) => {
    // Loads what failed to load while the server was unreachable.
    if (event.kind === 'missed' && !isLoaded.value) return void ensure().catch(() => undefined);
    const isOfMaps = event.kind !== 'item' || event.isMap;
    if (!isLoaded.value || !isOfMaps || event.kind === 'impression' || event.kind === 'assets')
      return;
    // Without an answer they stay as they are until the next change.
    void loadAgain().catch(() => undefined);
  });
  const change = async (set: string, body: VariableChange): Promise<void> =>
    take(
      await ask(`${session.base}/variables/${encodeURIComponent(set)}`, Variables, {
        method: 'POST',
        body,
      }),
    );
  const rename = async (from: string, to: string): Promise<void> =>
    take(
      await ask(`${session.base}/variables/rename`, Variables, {
        method: 'POST',
        body: { from, to },
      }),
    );

  return { list, isLoaded, load, ensure, change, rename };
}

/** The variables of the project, and their texts under the lens. */
export const useVariables = defineStore('variables', () => {
  const session = useSession();
  const items = useItems();
  const assets = useAssets();
  const library = useLibrary();
  const looking = useLens();
  const stored = useStoredVariables();
  const { list } = stored;
  const setOf = (id: string): VariableSet | undefined =>
    list.value.sets.find((set) => set.id === id);
  const isCommon = ({ map }: Variable): boolean => setOf(map)?.everywhere === true;
  /** The definitions of each variable, those of the whole project first. */
  const byKey = computed(() => {
    const found = new Map<string, Variable[]>();
    for (const variable of list.value.variables.toSorted(
      (a, b) => Number(isCommon(b)) - Number(isCommon(a)),
    ))
      found.set(variable.key, [...(found.get(variable.key) ?? []), variable]);
    return found;
  });
  /** The definition shown on a page outside any map. */
  const shown = (key: string): Variable | undefined =>
    effectiveDefinition(
      byKey.value.get(key) ?? [],
      session.project?.locale ?? 'en',
      looking.lens,
      library.facets,
    );
  /** The target of a key. */
  const targetOf = (key: string): string | undefined => shown(key)?.href;
  /** Without those that map entries define: they are changed in Arrange. */
  const named = computed(() =>
    [...byKey.value.keys()]
      .sort((a, b) => a.localeCompare(b))
      .flatMap((key) => shown(key) ?? [])
      .filter(({ isEntry, line, href }) => !isEntry && (line !== '' || href !== undefined)),
  );
  /** Its text, without markup. */
  function wordsOf({ line, href }: Variable): string {
    if (line !== '' || href === undefined) return line;
    const [, scheme, id = ''] = /^(topic|map|asset):([^/]*)/u.exec(href) ?? [];
    if (scheme === undefined) return href;
    return (scheme === 'asset' ? assets.find(id)?.name : items.find(id)?.title) ?? href;
  }
  /** The element with the texts of its variables filled in. */
  function withWords(holder: Element): Element {
    const { keyref } = holder.attributes;
    const known = keyref === undefined || holder.children.length > 0 ? undefined : shown(keyref);
    return {
      ...holder,
      children: known
        ? [wordsOf(known)]
        : holder.children.map((child) => (isElement(child) ? withWords(child) : child)),
    };
  }
  const spoken = (nodes: readonly Node[]): string => lineOf(withWords(element('title', {}, nodes)));
  return { ...stored, byKey, shown, named, wordsOf, withWords, spoken, targetOf, setOf };
});
