import type { FacetList } from '@ukiyo/contracts';
import { allValues, replaceInLens, replaceInList, replaceValue } from '@ukiyo/core/facets';
import type { Database } from '../data/database.ts';
import type { FacetStore } from '../data/facets.ts';
import type { ChangeTexts, TextChange } from './rewriting.ts';

interface ValueChange {
  readonly version: number;
  readonly facet: string;
  readonly from: string;
  readonly to: string;
}
export interface RenamedValue {
  readonly list: FacetList;
  /** IDs of the topics and maps in which it was set. */
  readonly changed: string[];
}

export type ValueRenaming = (
  project: string,
  change: ValueChange,
  author: string,
) => Promise<RenamedValue | undefined>;

async function renameInLenses(
  { models }: Database,
  { project, transaction }: TextChange,
  { facet, from, to }: ValueChange,
): Promise<void> {
  for (const row of await models.lenses.findAll({
    where: { projectId: project },
    transaction,
    lock: transaction.LOCK.UPDATE,
  })) {
    const { name, rules } = row.get();
    const next = replaceInLens({ name, rules }, facet, from, to);
    await row.update({ rules: [...next.rules] }, { transaction });
  }
}

async function renameInTexts(
  { models }: Database,
  { project, transaction, rewrite }: TextChange,
  { facet, from, to }: ValueChange,
): Promise<string[]> {
  const rows = await models.facetUses.findAll({
    where: { projectId: project, facet, value: from },
    attributes: ['itemId'],
    transaction,
  });
  return rewrite(
    rows.map((row) => row.get().itemId),
    (root) => replaceValue(root, facet, from, to),
  );
}

/**
 * Gives a facet value another name in the list, in every lens and in every text, in one
 * transaction. A name that the facet has already makes the two one. Where a text is being written,
 * the change is a step among the others.
 * @returns undefined when the list was changed since
 */
export function valueRenaming(
  database: Database,
  facets: FacetStore,
  changeTexts: ChangeTexts,
): ValueRenaming {
  return (project, change, author) =>
    changeTexts(project, author, async (texts) => {
      const { transaction } = texts;
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
      await renameInLenses(database, texts, change);
      return { list: next, changed: await renameInTexts(database, texts, change) };
    });
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
