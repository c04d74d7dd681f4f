import type { Variable, VariableChange, Variables, VariableSet } from '@ukiyo/contracts';
import { isA, mayContain, normalise } from '@ukiyo/core/grammar';
import {
  definitionsIn,
  holdsEverywhere,
  isVariableSet,
  keyNamesIn,
  markupOf,
  nodesOf,
  renameKey,
  titleOf,
  withDefinition,
  withEverywhere,
  withoutDefinition,
  type KeyDefinition,
} from '@ukiyo/core/library';
import {
  element,
  isElement,
  lineOf,
  nodeAt,
  readXml,
  replaceAt,
  walk,
  type Element,
} from '@ukiyo/core/markup';
import type { Path } from '@ukiyo/core/problems';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { retryOnConflict, type Rewritten, type TextRewriting } from './rewriting.ts';

/** The variables that maps define. */
export interface VariableStore {
  read(project: string): Promise<Variables>;
  /**
   * Undefined where there is no such map, or the definition that is meant does not stand there any
   * more.
   */
  change(
    project: string,
    set: string,
    change: VariableChange,
    author: string,
  ): Promise<Rewritten | undefined>;
  /**
   * Another name for a variable, where it is defined, wherever it is used and in every edition, in
   * one transaction.
   */
  rename(project: string, from: string, to: string, author: string): Promise<Rewritten>;
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

/** Where a map takes a set in; undefined where it does not. */
function takenAt(root: Element, set: string): Path | undefined {
  let found: Path | undefined;
  walk(root, ({ name, attributes }, path) => {
    if (isA(name, 'topicref') && attributes['href'] === `map:${set}`) found ??= [...path];
  });
  return found;
}

/** The map that takes a set in, at its end: in a group where it may hold no other map directly. */
function takingIn(root: Element, set: string): Element {
  const taken = element('mapref', {
    href: `map:${set}`,
    format: 'ditamap',
    'processing-role': 'resource-only',
  });
  const before = root.children.findIndex((child) => isElement(child) && child.name === 'reltable');
  const put = mayContain(root.name, 'mapref') ? taken : element('topicgroup', {}, [taken]);
  return {
    ...root,
    children: root.children.toSpliced(
      before === -1 || put !== taken ? root.children.length : before,
      0,
      put,
    ),
  };
}

/** The change that one map goes through; undefined where it does not fit what stands there now. */
function changed(root: Element, set: string, change: VariableChange): Element | undefined {
  const isThere = ({
    path,
    key,
  }: {
    readonly path: readonly number[];
    readonly key: string;
  }): boolean =>
    path.length === 1 &&
    definitionsIn(root).some(
      (one) => one.definition.key === key && one.path.join() === path.join(),
    );
  if (change.kind === 'everywhere') return withEverywhere(root, change.on);
  if (change.kind === 'held') {
    const at = takenAt(root, set);
    if (!at) return change.on ? takingIn(root, set) : root;
    if (change.on) return root;
    const group = nodeAt(root, at.slice(0, -1));
    const isAlone = isElement(group) && group.name === 'topicgroup' && group.children.length === 1;
    return replaceAt(root, isAlone ? at.slice(0, -1) : at, []);
  }
  if (change.kind === 'remove')
    return isThere(change.at) ? withoutDefinition(root, change.at.path) : undefined;
  if (change.at && !isThere(change.at)) return undefined;
  const { markup, ...given } = change.definition;
  const text = nodesOf(markup) ?? [];
  const definition: KeyDefinition = { ...given, ...(text.length > 0 ? { text } : {}) };
  return withDefinition(root, definition, change.at?.path);
}

export function variableStore(
  { sequelize, models }: Database,
  rewrite: TextRewriting,
): VariableStore {
  const mapsOf = async (
    project: string,
    transaction?: Transaction,
  ): Promise<{ id: string; root: Element }[]> => {
    const rows = await models.items.findAll({
      where: { projectId: project, kind: 'map' },
      attributes: ['id', 'text'],
      order: [['id', 'ASC']],
      ...(transaction ? { transaction } : {}),
    });
    return rows.flatMap((row) => {
      const root = rootOf(row.get().text);
      return root ? [{ id: row.get().id, root }] : [];
    });
  };
  const namesAmong = (
    maps: readonly { readonly root: Element }[],
  ): { scopes: Set<string>; keys: Set<string> } => {
    const all = maps.map(({ root }) => keyNamesIn(root));
    return {
      scopes: new Set(all.flatMap(({ scopes }) => scopes)),
      keys: new Set(all.flatMap(({ keys }) => keys)),
    };
  };
  const usesOf = (
    project: string,
  ): Promise<{ key: string; count: number; id: string; title: string; kind: 'topic' | 'map' }[]> =>
    sequelize.query(
      `SELECT uses.target AS key, uses.count::int AS count, item.id, item.title, item.kind
        FROM item_uses uses JOIN items item ON item.project_id = uses.project_id
        AND item.id = uses.source_id
       WHERE uses.project_id = :project AND uses.manner = 'key'
         ORDER BY uses.target, lower(item.title)`,
      { replacements: { project }, type: QueryTypes.SELECT },
    );

  return {
    async read(project) {
      const maps = await mapsOf(project);
      const { scopes, keys } = namesAmong(maps);
      /** The key itself, also where it is reached through its scope. */
      const meant = (name: string): string => {
        const parts = name.split('.');
        return keys.has(name) || !parts.slice(0, -1).every((scope) => scopes.has(scope))
          ? name
          : parts.at(-1)!;
      };
      const uses: Variables['uses'] = {};
      const unknown = new Map<string, Variables['undefined'][number]['items']>();
      for (const { key: name, count, ...item } of await usesOf(project)) {
        const key = meant(name);
        uses[key] = { count: (uses[key]?.count ?? 0) + count, items: (uses[key]?.items ?? 0) + 1 };
        if (!keys.has(key)) unknown.set(key, [...(unknown.get(key) ?? []), item]);
      }
      const variables = maps.flatMap(({ id, root }) =>
        definitionsIn(root).map((found) => variableOf(id, root, found)),
      );
      const sets = maps
        .filter(
          ({ id, root }) =>
            isVariableSet(root) || variables.some(({ map, isEntry }) => map === id && !isEntry),
        )
        .map(({ id, root }): VariableSet => ({
          id,
          title: titleOf(root),
          everywhere: holdsEverywhere(root),
          isSet: isVariableSet(root),
          heldBy: maps.filter((map) => takenAt(map.root, id) !== undefined).map((map) => map.id),
        }));
      return {
        sets,
        variables,
        uses,
        undefined: [...unknown].map(([key, items]) => ({ key, items })),
      };
    },
    change: (project, set, change, author) =>
      retryOnConflict(() =>
        sequelize.transaction(async (transaction) => {
          let fits = false;
          const texts = await rewrite(
            project,
            [change.kind === 'held' ? change.map : set],
            (root) => {
              const next = root.name.endsWith('map')
                ? changed(normalise(root), set, change)
                : undefined;
              fits = next !== undefined;
              return next ?? root;
            },
            author,
            transaction,
          );
          return fits ? texts : undefined;
        }),
      ),
    rename: (project, from, to, author) =>
      retryOnConflict(() =>
        sequelize.transaction(async (transaction) => {
          const names = namesAmong(await mapsOf(project, transaction));
          const rows = await models.itemUses.findAll({
            where: {
              projectId: project,
              manner: ['key', 'defined'],
              target: { [Op.or]: [from, { [Op.like]: `%.${from.replace(/[\\%_]/gu, '\\$&')}` }] },
            },
            attributes: ['sourceId'],
            transaction,
          });
          for (const row of await models.editions.findAll({
            where: { projectId: project },
            transaction,
            lock: transaction.LOCK.UPDATE,
          })) {
            const { [from]: own, ...others } = row.get().variables;
            if (own !== undefined)
              await row.update({ variables: { ...others, [to]: own } }, { transaction });
          }
          return rewrite(
            project,
            [...new Set(rows.map((row) => row.get().sourceId))],
            (root) => renameKey(root, from, to, names),
            author,
            transaction,
          );
        }),
      ),
  };
}
