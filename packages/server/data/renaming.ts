import type { FacetList } from '@ukiyo/contracts';
import { allValues, replaceInLens, replaceInList, replaceValue } from '@ukiyo/core/facets';
import type { Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { FacetStore } from './facets.ts';
import { retryOnConflict, type TextRewriting } from './rewriting.ts';

interface ValueChange {
  readonly version: number;
  readonly facet: string;
  readonly from: string;
  readonly to: string;
}
export interface RenamedValue {
  readonly list: FacetList;
  /** The versions of the topics and maps in which it was set. */
  readonly changed: Readonly<Record<string, number>>;
}

export type ValueRenaming = (
  project: string,
  change: ValueChange,
  author: string,
) => Promise<RenamedValue | undefined>;

/**
 * Gives a facet value another name in the list, in every lens and in every text, in one
 * transaction. A name that the facet has already makes the two one. Where a text is being written,
 * the change is a step among the others.
 * @returns undefined when the list was changed since
 */
export function valueRenaming(
  { sequelize, models }: Database,
  facets: FacetStore,
  rewrite: TextRewriting,
): ValueRenaming {
  async function renameLenses(
    project: string,
    { facet, from, to }: ValueChange,
    transaction: Transaction,
  ): Promise<void> {
    for (const row of await models.lenses.findAll({
      where: { projectId: project },
      transaction,
      lock: transaction.LOCK.UPDATE,
    })) {
      const { name, rules } = row.get();
      await row.update(
        { rules: [...replaceInLens({ name, rules }, facet, from, to).rules] },
        { transaction },
      );
    }
  }
  async function renameTexts(
    project: string,
    { facet, from, to }: ValueChange,
    author: string,
    transaction: Transaction,
  ): Promise<Record<string, number>> {
    const ids = (
      await models.facetUses.findAll({
        where: { projectId: project, facet, value: from },
        attributes: ['itemId'],
        transaction,
      })
    ).map((row) => row.get().itemId);
    return rewrite(
      project,
      ids,
      (root) => replaceValue(root, facet, from, to),
      author,
      transaction,
    );
  }

  const once = (
    project: string,
    change: ValueChange,
    author: string,
  ): Promise<RenamedValue | undefined> =>
    sequelize.transaction(async (transaction) => {
      await facets.hold(project, transaction);
      const list = await facets.read(project, transaction);
      if (list.version !== change.version) return undefined;
      // First the list: the texts are checked against it as they are written.
      const next = await facets.put(
        project,
        {
          ...list,
          facets: list.facets.map((facet) =>
            facet.name === change.facet ? renamed(facet, change) : facet,
          ),
        },
        transaction,
      );
      await renameLenses(project, change, transaction);
      return { list: next, changed: await renameTexts(project, change, author, transaction) };
    });
  return (project, change, author) => retryOnConflict(() => once(project, change, author));
}

/** A value that becomes another one of the list goes from the list. */
function renamed(
  facet: FacetList['facets'][number],
  { from, to }: ValueChange,
): FacetList['facets'][number] {
  const isThere = allValues(facet.values).some(({ name }) => name === to);
  return {
    ...facet,
    values: replaceInList(facet.values, from, (value) =>
      isThere ? (value.values ?? []) : [{ ...value, name: to }],
    ),
  };
}
