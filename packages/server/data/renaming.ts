import type { FacetList } from '@ukiyo/contracts';
import { allValues, replaceInLens, replaceInList, replaceValue } from '@ukiyo/core/facets';
import { writeCanonical } from '@ukiyo/core/grammar';
import { readXml } from '@ukiyo/core/markup';
import { UniqueConstraintError, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { FacetStore } from './facets.ts';
import type { ItemStore } from './items.ts';
import type { LiveLog } from './live.ts';

interface ValueChange {
  readonly version: number;
  readonly facet: string;
  readonly from: string;
  readonly to: string;
}
interface RenamedValue {
  readonly list: FacetList;
  /** The versions of the topics and maps in which it was set. */
  readonly changed: Readonly<Record<string, number>>;
}

/** Somebody types while all texts change: the whole is tried again, a few times. */
const tries = 5;

export type ValueRenaming = (project: string, change: ValueChange, author: string) => Promise<RenamedValue | undefined>;

/**
 * Gives a facet value another name in the list, in every lens and in every text, in one transaction. A name that the facet has already makes the two one.
 * Where a text is being written, the change is a step among the others.
 * @returns undefined when the list was changed since
 */
export function valueRenaming({ sequelize, models }: Database, facets: FacetStore, items: ItemStore, live: LiveLog): ValueRenaming {
  async function renameLenses(project: string, { facet, from, to }: ValueChange, transaction: Transaction): Promise<void> {
    for (const row of await models.lenses.findAll({ where: { projectId: project }, transaction, lock: transaction.LOCK.UPDATE })) {
      const { name, rules } = row.get();
      await row.update({ rules: [...replaceInLens({ name, rules }, facet, from, to).rules] }, { transaction });
    }
  }
  async function renameTexts(project: string, { facet, from, to }: ValueChange, author: string, transaction: Transaction): Promise<Record<string, number>> {
    const changed: Record<string, number> = {};
    const ids = (await models.facetUses.findAll({ where: { projectId: project, facet, value: from }, attributes: ['itemId'], transaction })).map((row) => row.get().itemId);
    // Always in the same order: two that hold each other's rows would wait for ever.
    for (const row of await models.items.findAll({ where: { projectId: project, id: ids }, order: [['id', 'ASC']], transaction, lock: transaction.LOCK.UPDATE })) {
      if (!(await live.change(row, (root) => replaceValue(root, facet, from, to), { person: author, note: '' }, transaction))) {
        const { document } = readXml(row.get().text);
        if (document) await items.write(row, { text: writeCanonical(replaceValue(document.root, facet, from, to)), note: '' }, author, transaction);
      }
      changed[row.get().id] = row.get().version;
    }
    return changed;
  }

  const once = (project: string, change: ValueChange, author: string): Promise<RenamedValue | undefined> =>
    sequelize.transaction(async (transaction) => {
      await facets.hold(project, transaction);
      const list = await facets.read(project, transaction);
      if (list.version !== change.version) return undefined;
      // First the list: the texts are checked against it as they are written.
      const next = await facets.put(project, { ...list, facets: list.facets.map((facet) => (facet.name === change.facet ? renamed(facet, change) : facet)) }, transaction);
      await renameLenses(project, change, transaction);
      return { list: next, changed: await renameTexts(project, change, author, transaction) };
    });
  return async (project, change, author) => {
    for (let attempt = 1; ; attempt += 1) {
      try {
        return await once(project, change, author);
      } catch (error) {
        if (!(error instanceof UniqueConstraintError) || attempt === tries) throw error;
      }
    }
  };
}

/** A value that becomes another one of the list goes from the list. */
function renamed(facet: FacetList['facets'][number], { from, to }: ValueChange): FacetList['facets'][number] {
  const isThere = allValues(facet.values).some(({ name }) => name === to);
  return { ...facet, values: replaceInList(facet.values, from, (value) => (isThere ? (value.values ?? []) : [{ ...value, name: to }])) };
}
