import type { Variable, VariableChange, VariableDefinition } from '@ukiyo/contracts';
import { computed, ref } from 'vue';
import { useAttempts } from '../../parts/attempts.ts';
import { useAllItems } from '../../parts/itemList.ts';
import { useItems } from '../../parts/items.ts';
import { useVariables } from '../../parts/variables.ts';

/** The rows of one variable: its definitions in one set. */
export interface VariableRow {
  readonly variable: Variable;
  readonly isUnused: boolean;
}

/** What is done to variables and their sets. */
function useVariableActs() {
  const variables = useVariables();
  const items = useItems();
  const { attempt } = useAttempts();
  const change = (set: string, body: VariableChange): Promise<boolean> =>
    attempt(() => variables.change(set, body));
  const atOf = ({ path, key }: Variable) => ({ path, key });
  async function keep(
    set: string,
    definition: VariableDefinition,
    before?: Variable,
  ): Promise<boolean> {
    if (!before) return change(set, { kind: 'define', definition });
    const done = await change(before.map, {
      kind: 'define',
      at: atOf(before),
      definition: { ...definition, key: before.key },
    });
    // Renaming is an act of its own: it reaches every text.
    return done && definition.key !== before.key
      ? attempt(() => variables.rename(before.key, definition.key))
      : done;
  }
  const remove = (variable: Variable): Promise<boolean> =>
    change(variable.map, { kind: 'remove', at: atOf(variable) });
  /** @returns the ID of the set; undefined when it could not be made */
  async function makeSet(title: string): Promise<string | undefined> {
    let made: string | undefined;
    await attempt(async () => {
      const { id } = await items.create({ type: 'map', title, folder: '' });
      await variables.change(id, { kind: 'everywhere', on: true });
      made = id;
    });
    return made;
  }
  const setEverywhere = (set: string, on: boolean): Promise<boolean> =>
    change(set, { kind: 'everywhere', on });
  const setHeld = (set: string, map: string, on: boolean): Promise<boolean> =>
    change(set, { kind: 'held', map, on });
  return { keep, remove, makeSet, setEverywhere, setHeld };
}

/** What the screen of variables shows and does. */
export function useVariableStage() {
  const variables = useVariables();
  /** The set that is shown; `''` for all of them. */
  const chosen = ref('');
  const query = ref('');
  const onlyUnused = ref(false);

  const sets = computed(() => variables.list.sets);
  const isUsed = (key: string): boolean => variables.list.uses[key] !== undefined;
  const rows = computed((): VariableRow[] => {
    const words = query.value.trim().toLowerCase();
    return variables.list.variables
      .filter(({ map, isEntry }) => !isEntry && (chosen.value === '' || map === chosen.value))
      .filter(
        (variable) =>
          words === '' ||
          variable.key.toLowerCase().includes(words) ||
          variables.wordsOf(variable).toLowerCase().includes(words),
      )
      .map((variable) => ({ variable, isUnused: !isUsed(variable.key) }))
      .filter(({ isUnused }) => !onlyUnused.value || isUnused);
  });
  const unused = computed(
    () =>
      new Set(
        variables.list.variables
          .filter(({ key, isEntry }) => !isEntry && !isUsed(key))
          .map(({ key }) => key),
      ).size,
  );
  const allMaps = useAllItems(() => ({ kind: 'map' }));
  const maps = computed(() =>
    allMaps.value.filter(({ id }) => !sets.value.some((set) => set.id === id && set.isSet)),
  );

  const acts = useVariableActs();
  return {
    variables,
    chosen,
    query,
    onlyUnused,
    sets,
    rows,
    unused,
    maps,
    ...acts,
    async addSet(title: string): Promise<void> {
      const id = await acts.makeSet(title);
      if (id !== undefined) chosen.value = id;
    },
  };
}
