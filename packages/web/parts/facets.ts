import { Facet, FacetList, ValueUse, type Facet as FacetType } from '@ukiyo/contracts';
import { moveInList, replaceInList, type FacetValue } from '@ukiyo/core/facets';
import { useMessage } from 'naive-ui';
import { computed, shallowRef } from 'vue';
import { z } from 'zod';
import { ask } from './api.ts';
import { useAttempts } from './attempts.ts';
import { useLibrary } from './library.ts';
import { useSession } from './session.ts';

const Renamed = z.object({ list: FacetList, changed: z.array(z.string()) });

type Change = (facets: readonly FacetType[]) => readonly FacetType[];

/** The ways to change a list of facets. @param save keeps the changed list */
function facetEdits(save: (change: Change) => Promise<boolean>) {
  const changeFacet = (
    name: string,
    change: (facet: FacetType) => readonly FacetType[],
  ): Promise<boolean> =>
    save((all) => all.flatMap((facet) => (facet.name === name ? change(facet) : [facet])));
  const changeValues = (
    name: string,
    change: (values: readonly FacetValue[]) => FacetValue[],
  ): Promise<boolean> => changeFacet(name, (facet) => [{ ...facet, values: change(facet.values) }]);
  const addFacet = (facet: FacetType): Promise<boolean> => save((all) => [...all, facet]);
  const labelFacet = (name: string, label: string): Promise<boolean> =>
    changeFacet(name, (facet) => [{ ...facet, label }]);
  const removeFacet = (name: string): Promise<boolean> => changeFacet(name, () => []);
  const setValue = (facet: string, name: string, value: FacetValue): Promise<boolean> =>
    changeValues(facet, (values) => replaceInList(values, name, () => [value]));
  const removeValue = (facet: string, name: string): Promise<boolean> =>
    changeValues(facet, (values) => replaceInList(values, name, () => []));
  const moveValue = (facet: string, name: string, offset: 1 | -1): Promise<boolean> =>
    changeValues(facet, (values) => moveInList(values, name, offset));
  /** @param within the value that it is nested in */
  const addValue = (facet: string, value: FacetValue, within?: string): Promise<boolean> =>
    changeValues(facet, (values) =>
      within === undefined
        ? [...values, value]
        : replaceInList(values, within, (outer) => [
            { ...outer, values: [...(outer.values ?? []), value] },
          ]),
    );
  return { addFacet, labelFacet, removeFacet, addValue, setValue, removeValue, moveValue };
}

/**
 * The facets of the project and the ways to change them. Each change is saved at once; it is
 * refused if another person has changed them in the meantime.
 */
export function useFacets() {
  const library = useLibrary();
  const session = useSession();
  const message = useMessage();
  const facets = computed(() => library.facets);
  const editable = computed(() => session.may('publish'));
  const uses = shallowRef<readonly ValueUse[]>([]);
  const { attempt, isBusy } = useAttempts();

  async function load(): Promise<void> {
    await library.load();
    uses.value = await ask(`${session.base}/facets/uses`, z.array(ValueUse));
  }
  const useOf = (facet: string, value: string): ValueUse =>
    uses.value.find((one) => one.facet === facet && one.value === value) ?? {
      facet,
      value,
      count: 0,
      items: 0,
    };

  const save = (change: Change): Promise<boolean> =>
    attempt(async () => {
      const list = z.array(Facet).parse(change(facets.value));
      library.facetList = await ask(`${session.base}/facets`, FacetList, {
        method: 'PUT',
        body: { version: library.facetList.version, facets: list },
      });
    });
  /** Renames in the list of facets, in lenses and in all texts. */
  const renameValue = (facet: string, from: string, to: string): Promise<boolean> =>
    attempt(async () => {
      const { list, changed } = await ask(`${session.base}/facets/rename`, Renamed, {
        method: 'POST',
        body: { version: library.facetList.version, facet, from, to },
      });
      library.facetList = list;
      await load();
      message.success(
        `Renamed in ${changed.length} ` +
          `${changed.length === 1 ? 'topic or map' : 'topics and maps'}.`,
      );
    });
  return {
    facets,
    editable,
    isBusy,
    load,
    useOf,
    renameValue,
    ...facetEdits(save),
  };
}
