import { Variables, type Variable, type VariableChange, type VariableSet } from '@ukiyo/contracts';
import type { VariableKind } from '@ukiyo/core/editing';
import { closest } from '@ukiyo/core/library';
import { element, isElement, lineOf, type Element, type Node } from '@ukiyo/core/markup';
import { useDebounceFn } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { ask } from './api.ts';
import { useEvents } from './events.ts';
import { renew } from './latest.ts';
import { useLens } from './lens.ts';
import { useLibrary } from './library.ts';
import { useSession } from './session.ts';

/** What a variable stands for: an image of the library, something to follow, or words. */
export const kindOfVariable = ({ href }: Pick<Variable, 'href'>): VariableKind =>
  href === undefined ? 'text' : href.startsWith('asset:') ? 'image' : 'link';

/** The variables of the project, and what they say through the lens. */
export const useVariables = defineStore('variables', () => {
  const session = useSession();
  const library = useLibrary();
  const looking = useLens();
  const events = useEvents();
  const list = shallowRef<Variables>({ sets: [], variables: [], uses: {}, undefined: [] });
  const loaded = shallowRef(false);
  const take = (next: Variables): void => {
    list.value = next;
    loaded.value = true;
  };
  async function load(): Promise<void> {
    await renew(list, () => ask(`${session.base}/variables`, Variables));
    loaded.value = true;
  }
  const ensure = async (): Promise<void> => void (loaded.value || (await load()));
  /** Others have changed a map, which may define some. */
  const loadAgain = useDebounceFn(load, 400);
  events.listen((event) => {
    if (
      !loaded.value ||
      (event.kind === 'item' && library.find(event.id)?.kind !== 'map') ||
      event.kind === 'impression'
    )
      return;
    // Without an answer they stay as they are, until the next change.
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

  const setOf = (id: string): VariableSet | undefined =>
    list.value.sets.find((set) => set.id === id);
  const isCommon = ({ map }: Variable): boolean => setOf(map)?.everywhere === true;
  /** The definitions of each variable, those that hold everywhere first. */
  const byKey = computed(() => {
    const found = new Map<string, Variable[]>();
    for (const variable of list.value.variables.toSorted(
      (a, b) => Number(isCommon(b)) - Number(isCommon(a)),
    ))
      found.set(variable.key, [...(found.get(variable.key) ?? []), variable]);
    return found;
  });
  /** What a page that belongs to no map shows for a key. */
  const shown = (key: string): Variable | undefined =>
    closest(
      byKey.value.get(key) ?? [],
      session.project?.locale ?? 'en',
      looking.lens,
      library.facets,
    );
  /** What a key leads to. */
  const targetOf = (key: string): string | undefined => shown(key)?.href;
  /** What an entry of the map gives is arranged there. */
  const named = computed(() =>
    [...byKey.value.keys()]
      .sort((a, b) => a.localeCompare(b))
      .flatMap((key) => shown(key) ?? [])
      .filter(({ isEntry, line, href }) => !isEntry && (line !== '' || href !== undefined)),
  );
  /** What it says, in words. */
  function wordsOf({ line, href }: Variable): string {
    if (line !== '' || href === undefined) return line;
    const id = href.replace(/^(topic|map|asset):/u, '').split('/')[0]!;
    return library.find(id)?.title ?? library.assets.find((asset) => asset.id === id)?.name ?? href;
  }
  /** The element with what its variables say. */
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
  return {
    list,
    load,
    ensure,
    change,
    rename,
    byKey,
    shown,
    named,
    wordsOf,
    withWords,
    spoken,
    targetOf,
    setOf,
  };
});
