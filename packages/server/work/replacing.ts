import { alternateOf, elementById, replaceUses } from '@ukiyo/core/library';
import { readXml } from '@ukiyo/core/markup';
import type { Database } from '../data/database.ts';
import { hashOf } from '../data/derived.ts';
import type { ItemStore } from '../data/items.ts';
import { usersOf } from '../data/uses.ts';
import type { ChangeTexts, TextChange } from './rewriting.ts';

/** One topic or map takes the place of another. */
export interface Replacing {
  /**
   * Deletes a topic or map, with another one in its place wherever it is used; false if either
   * does not exist, or one is a map and the other not.
   */
  replace(project: string, id: string, by: string, author: string): Promise<boolean>;
  /**
   * A topic goes on as one that stands in for another for some readers; the other one takes its
   * place wherever it is used.
   * @returns false if either does not exist, or is or has an alternate
   */
  standIn(project: string, order: StandInOrder, author: string): Promise<boolean>;
}

export interface StandInOrder {
  readonly id: string;
  /** The topic for which it stands in. */
  readonly of: string;
  readonly conditions: Record<string, string>;
}

/**
 * Puts one item in the place of another wherever that is used.
 * @returns false if either does not exist, or one is a map and the other not
 */
async function putInPlace(
  database: Database,
  { project, transaction, rewrite }: TextChange,
  id: string,
  by: string,
): Promise<boolean> {
  const rows = await database.models.items.findAll({
    where: { projectId: project, id: [id, by] },
    transaction,
  });
  const own = rows.find((row) => row.get().id === id)?.get();
  const other = rows.find((row) => row.get().id === by)?.get();
  const root = other && readXml(other.text).document?.root;
  if (!own || !root || own === other || own.kind !== other.kind) return false;
  const users = await usersOf(database, project, { of: 'item', id }, transaction);
  const hasPart = (part: string): boolean => elementById(root, part) !== undefined;
  await rewrite(
    users.filter((source) => source !== by && source !== id),
    (text, self) => replaceUses(text, self, { from: id, to: by, hasPart }),
  );
  return true;
}

/** Whether both are topics that stand for themselves, and none stands in for the first. */
async function mayStandIn(
  { models }: Database,
  { project, transaction }: TextChange,
  { id, of }: StandInOrder,
): Promise<boolean> {
  const free = { projectId: project, kind: 'topic', alternateOf: null, id: [id, of] };
  if ((await models.items.count({ where: free, transaction })) !== 2) return false;
  const alternates = { projectId: project, alternateOf: id };
  return (await models.items.count({ where: alternates, transaction })) === 0;
}

export function replacing(
  database: Database,
  items: ItemStore,
  changeTexts: ChangeTexts,
): Replacing {
  const { models } = database;
  return {
    replace: (project, id, by, author) =>
      changeTexts(project, author, async (texts) => {
        const { transaction } = texts;
        if (!(await putInPlace(database, texts, id, by))) return false;
        const where = { projectId: project, map: id };
        await models.editions.update({ map: by }, { where, transaction });
        await items.remove(project, id, transaction);
        return true;
      }),
    standIn: (project, order, author) =>
      changeTexts(project, author, async (texts) => {
        const { id, of: base, conditions } = order;
        if (!(await mayStandIn(database, texts, order))) return false;
        if (!(await putInPlace(database, texts, id, base))) return false;
        const row = await models.items.findOne({
          where: { projectId: project, id: base },
          transaction: texts.transaction,
          rejectOnEmpty: true,
        });
        const fingerprint = hashOf(row.get().text);
        await texts.rewrite([id], (root) =>
          alternateOf(root, { base, id, conditions, fingerprint }),
        );
        return true;
      }),
  };
}
