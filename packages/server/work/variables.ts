import type { Variable, VariableChange, Variables, VariableSet } from '@ukiyo/contracts';
import { normalise } from '@ukiyo/core/grammar';
import {
  definitionsIn,
  holdsEverywhere,
  isVariableSet,
  keyNamesIn,
  mapsTakenIn,
  markupOf,
  markupNodes,
  renameKey,
  titleOf,
  withDefinition,
  withEverywhere,
  withoutDefinition,
  withoutSet,
  withSet,
  type KeyDefinition,
} from '@ukiyo/core/library';
import { element, isElement, lineOf, nodeAt, readXml, type Element } from '@ukiyo/core/markup';
import { Op, QueryTypes } from 'sequelize';
import type { Database } from '../data/database.ts';
import type { ChangeTexts, TextChange } from './rewriting.ts';

/** The variables that maps define. */
export interface VariableStore {
  read(project: string): Promise<Variables>;
  /**
   * False where there is no such map, or it no longer has the definition.
   */
  change(project: string, set: string, change: VariableChange, author: string): Promise<boolean>;
  /**
   * Another name for a variable, where it is defined, wherever it is used and in every edition, in
   * one transaction.
   */
  rename(project: string, from: string, to: string, author: string): Promise<void>;
}

const rootOf = (text: string): Element | undefined => {
  const { document } = readXml(text);
  return document && normalise(document.root);
};
function variableOf(
  map: string,
  root: Element,
  { definition, path }: ReturnType<typeof definitionsIn>[number],
): Variable {
  const { text = [], conditions, choices, ...rest } = definition;
  const holder = nodeAt(root, path);
  const isEntry = path.length > 1 || !isElement(holder) || holder.name !== 'keydef';
  return {
    ...rest,
    choices: [...choices],
    conditions: { ...conditions },
    markup: markupOf(text),
    line: lineOf(element('ph', {}, text)),
    map,
    path,
    isEntry,
  };
}

/** The change that one map goes through; undefined where it does not fit what stands there now. */
function changed(root: Element, set: string, change: VariableChange): Element | undefined {
  const isThere = (at: { readonly path: readonly number[]; readonly key: string }): boolean =>
    at.path.length === 1 &&
    definitionsIn(root).some(
      ({ definition, path }) => definition.key === at.key && path.join() === at.path.join(),
    );
  if (change.kind === 'everywhere') return withEverywhere(root, change.on);
  if (change.kind === 'held') return change.on ? withSet(root, set) : withoutSet(root, set);
  if (change.kind === 'remove')
    return isThere(change.at) ? withoutDefinition(root, change.at.path) : undefined;
  if (change.at && !isThere(change.at)) return undefined;
  const { markup, ...given } = change.definition;
  const text = markupNodes(markup) ?? [];
  const definition: KeyDefinition = { ...given, ...(text.length > 0 ? { text } : {}) };
  return withDefinition(root, definition, change.at?.path);
}

/** The names of key scopes and of keys. */
interface KeyNames {
  readonly scopes: ReadonlySet<string>;
  readonly keys: ReadonlySet<string>;
}

const allNames = (found: readonly ReturnType<typeof keyNamesIn>[]): KeyNames => ({
  scopes: new Set(found.flatMap(({ scopes }) => scopes)),
  keys: new Set(found.flatMap(({ keys }) => keys)),
});

/** What the maps of a project name, as they are within a transaction. */
async function namesWithin(
  { models }: Database,
  { project, transaction }: TextChange,
): Promise<KeyNames> {
  const where = { projectId: project, kind: 'map' };
  const rows = await models.items.findAll({ where, attributes: ['text'], transaction });
  return allNames(
    rows.flatMap((row) => {
      const root = rootOf(row.get().text);
      return root ? [keyNamesIn(root)] : [];
    }),
  );
}

/** What a map defines, at a version of it. */
interface MapReading {
  readonly version: number;
  /** The map as a set; whether it is nothing but one is `isSet`. */
  readonly set: Omit<VariableSet, 'heldBy'>;
  readonly variables: readonly Variable[];
  readonly names: ReturnType<typeof keyNamesIn>;
  /** The IDs of the maps that it takes in. */
  readonly takesIn: ReadonlySet<string>;
}

function readMap(id: string, version: number, text: string): MapReading {
  const root = rootOf(text) ?? element('map');
  return {
    version,
    set: {
      id,
      title: titleOf(root),
      everywhere: holdsEverywhere(root),
      isSet: isVariableSet(root),
    },
    variables: definitionsIn(root).map((found) => variableOf(id, root, found)),
    names: keyNamesIn(root),
    takesIn: mapsTakenIn(root),
  };
}

/** Reads the maps of projects, and keeps what they define: most have not changed since. */
class MapReadings {
  readonly #database: Database;
  readonly #kept = new Map<string, ReadonlyMap<string, MapReading>>();

  constructor(database: Database) {
    this.#database = database;
  }

  /** By ID, in the order of the IDs. */
  async of(project: string): Promise<ReadonlyMap<string, MapReading>> {
    const { items } = this.#database.models;
    const maps = { projectId: project, kind: 'map' };
    const now = await items.findAll({
      where: maps,
      attributes: ['id', 'version'],
      order: [['id', 'ASC']],
    });
    const before = this.#kept.get(project);
    const stale = now
      .map((row) => row.get())
      .filter(({ id, version }) => before?.get(id)?.version !== version);
    const read = await items.findAll({
      where: { ...maps, id: stale.map(({ id }) => id) },
      attributes: ['id', 'version', 'text'],
    });
    const fresh = new Map(
      read.map((row) => {
        const { id, version, text } = row.get();
        return [id, readMap(id, version, text)];
      }),
    );
    const readings = new Map(
      now.flatMap((row) => {
        const { id } = row.get();
        // One that was deleted in between is in neither.
        const reading = fresh.get(id) ?? before?.get(id);
        return reading ? [[id, reading] as const] : [];
      }),
    );
    this.#kept.set(project, readings);
    return readings;
  }
}

interface KeyUse extends UndefinedIn {
  readonly key: string;
  readonly count: number;
}
type UndefinedIn = Variables['undefined'][number]['items'][number];

const usesOf = ({ sequelize }: Database, project: string): Promise<KeyUse[]> =>
  sequelize.query(
    `SELECT uses.target AS key, uses.count::int AS count, item.id, item.title, item.kind
      FROM item_uses uses JOIN items item ON item.project_id = uses.project_id
      AND item.id = uses.source_id
     WHERE uses.project_id = :project AND uses.manner = 'key'
       ORDER BY uses.target, lower(item.title)`,
    { replacements: { project }, type: QueryTypes.SELECT },
  );

/** How often each key is used, and where one is used that no map defines. */
function countUses(
  found: readonly KeyUse[],
  { scopes, keys }: KeyNames,
): Pick<Variables, 'uses' | 'undefined'> {
  /** The key itself, also where it is reached through its scope. */
  const meant = (name: string): string => {
    const parts = name.split('.');
    return keys.has(name) || !parts.slice(0, -1).every((scope) => scopes.has(scope))
      ? name
      : parts.at(-1)!;
  };
  const uses: Variables['uses'] = {};
  const unknown = new Map<string, UndefinedIn[]>();
  for (const { key: name, count, ...item } of found) {
    const key = meant(name);
    uses[key] = { count: (uses[key]?.count ?? 0) + count, items: (uses[key]?.items ?? 0) + 1 };
    if (!keys.has(key)) unknown.set(key, [...(unknown.get(key) ?? []), item]);
  }
  return { uses, undefined: [...unknown].map(([key, items]) => ({ key, items })) };
}

async function readVariables(
  database: Database,
  readings: MapReadings,
  project: string,
): Promise<Variables> {
  const maps = [...(await readings.of(project)).values()];
  const sets = maps
    .filter(({ set, variables }) => set.isSet || variables.some(({ isEntry }) => !isEntry))
    .map(({ set }) => ({
      ...set,
      heldBy: maps.filter(({ takesIn }) => takesIn.has(set.id)).map((map) => map.set.id),
    }));
  const names = allNames(maps.map((map) => map.names));
  return {
    sets,
    variables: maps.flatMap(({ variables }) => variables),
    ...countUses(await usesOf(database, project), names),
  };
}

/** Another name for the value that each edition gives a variable. */
async function renameInEditions(
  { models }: Database,
  { project, transaction }: TextChange,
  from: string,
  to: string,
): Promise<void> {
  for (const row of await models.editions.findAll({
    where: { projectId: project },
    transaction,
    lock: transaction.LOCK.UPDATE,
  })) {
    const { [from]: own, ...others } = row.get().variables;
    if (own !== undefined)
      await row.update({ variables: { ...others, [to]: own } }, { transaction });
  }
}

export function variableStore(database: Database, changeTexts: ChangeTexts): VariableStore {
  const readings = new MapReadings(database);
  return {
    read: (project) => readVariables(database, readings, project),
    change: (project, set, change, author) =>
      changeTexts(project, author, async ({ rewrite }) => {
        let fits = false;
        await rewrite([change.kind === 'held' ? change.map : set], (root) => {
          const isMap = root.name.endsWith('map');
          const next = isMap ? changed(normalise(root), set, change) : undefined;
          fits = next !== undefined;
          return next ?? root;
        });
        return fits;
      }),
    rename: (project, from, to, author) =>
      changeTexts(project, author, async (texts) => {
        const { transaction } = texts;
        const names = await namesWithin(database, texts);
        const scoped = `%.${from.replace(/[\\%_]/gu, '\\$&')}`;
        const rows = await database.models.itemUses.findAll({
          where: {
            projectId: project,
            manner: ['key', 'defined'],
            target: { [Op.or]: [from, { [Op.like]: scoped }] },
          },
          attributes: ['sourceId'],
          transaction,
        });
        await renameInEditions(database, texts, from, to);
        const ids = new Set(rows.map((row) => row.get().sourceId));
        await texts.rewrite([...ids], (root) => renameKey(root, from, to, names));
      }),
  };
}
