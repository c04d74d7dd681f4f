import { createHash } from 'node:crypto';
import type { Derived } from '@ukiyo/core/library';
import type { Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { isIndexable, listedTitle, searchedText } from './indexable.ts';

/** Which text of which project rows are about. */
export interface ItemKey {
  readonly project: string;
  readonly id: string;
}

/** The hash by which texts are compared: SHA-256 in hexadecimal. */
export const hashOf = (content: string): string =>
  createHash('sha256').update(content).digest('hex');

/** The base of an alternate as the database can index it. */
export const indexedBase = (base: string | undefined): string | null =>
  base !== undefined && isIndexable(base) ? base : null;

/** The columns of an item that follow from its text. */
export const derivedColumns = (derived: Derived) => ({
  type: derived.type,
  title: listedTitle(derived.title),
  shortDescription: derived.shortDescription,
  searchText: searchedText(derived.text),
  wordCount: derived.wordCount,
  problems: derived.problems,
  conditions: { ...derived.conditions },
  facts: { ...derived.facts },
  alternateOf: indexedBase(derived.alternateOf),
});

/** A row for each facet value that a text is marked with. */
export const facetRows = ({ project, id }: ItemKey, values: Derived['facetValues']) =>
  values
    .filter(({ value, facet }) => isIndexable(value) && isIndexable(facet))
    .map((use) => ({ projectId: project, itemId: id, ...use }));

/** A row for each thing that a text refers to. */
export const useRows = ({ project, id }: ItemKey, uses: Derived['uses']) =>
  uses
    .filter(({ target, part }) => isIndexable(target) && isIndexable(part))
    .map((use) => ({ projectId: project, sourceId: id, ...use }));

/** Replaces the rows of what a text refers to and is marked with. */
export async function storeUses(
  { itemUses, facetUses }: Database['models'],
  key: ItemKey,
  { uses, facetValues }: Pick<Derived, 'uses' | 'facetValues'>,
  transaction: Transaction,
): Promise<void> {
  const { project, id } = key;
  await itemUses.destroy({ where: { projectId: project, sourceId: id }, transaction });
  await itemUses.bulkCreate(useRows(key, uses), { transaction });
  await facetUses.destroy({ where: { projectId: project, itemId: id }, transaction });
  await facetUses.bulkCreate(facetRows(key, facetValues), { transaction });
}
