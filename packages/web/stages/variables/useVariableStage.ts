import type { Variable, VariableChange, VariableDefinition } from '@ukiyo/contracts';
import { useMessage } from 'naive-ui';
import { computed, ref } from 'vue';
import { messageOf } from '../../parts/api.ts';
import { useLibrary } from '../../parts/library.ts';
import { useVariables } from '../../parts/variables.ts';

/** The rows of one variable: its definitions in one set. */
export interface VariableRow {
  readonly variable: Variable;
  readonly isUnused: boolean;
}

/** What the screen of variables shows and does. */
export function useVariableStage() {
  const variables = useVariables();
  const library = useLibrary();
  const message = useMessage();
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
  const maps = computed(() =>
    library.items.filter(
      ({ kind, id }) => kind === 'map' && !sets.value.some((set) => set.id === id && set.isSet),
    ),
  );

  async function attempt(act: () => Promise<void>): Promise<boolean> {
    try {
      await act();
      return true;
    } catch (error) {
      message.error(messageOf(error), { duration: 8000, closable: true });
      return false;
    }
  }
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
  async function addSet(title: string): Promise<void> {
    await attempt(async () => {
      const { id } = await library.create({ type: 'map', title, folder: '' });
      await variables.change(id, { kind: 'everywhere', on: true });
      chosen.value = id;
    });
  }
  const setEverywhere = (set: string, on: boolean): Promise<boolean> =>
    change(set, { kind: 'everywhere', on });
  const setHeld = (set: string, map: string, on: boolean): Promise<boolean> =>
    change(set, { kind: 'held', map, on });
  return {
    variables,
    chosen,
    query,
    onlyUnused,
    sets,
    rows,
    unused,
    maps,
    keep,
    remove,
    addSet,
    setEverywhere,
    setHeld,
  };
}
