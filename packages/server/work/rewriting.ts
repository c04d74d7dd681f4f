import { writeCanonical } from '@ukiyo/core/grammar';
import { readXml, type Element } from '@ukiyo/core/markup';
import { UniqueConstraintError, type Transaction } from 'sequelize';
import type { Database } from '../data/database.ts';
import type { ItemStore } from '../data/items.ts';
import type { LiveLog } from '../data/live.ts';

/** One transaction that changes texts of a project. */
export interface TextChange {
  readonly project: string;
  readonly author: string;
  readonly transaction: Transaction;
  /**
   * Changes the trees of topics and maps. Where a text is edited live, the change is
   * a step like any other.
   * @param change is given each tree with its ID
   * @returns the IDs of those that exist
   */
  rewrite(
    ids: readonly string[],
    change: (root: Element, id: string) => Element,
  ): Promise<string[]>;
}

/**
 * Does work that changes texts in one transaction. When a writer types at the same moment, the
 * whole is tried again.
 */
export type ChangeTexts = <Made>(
  project: string,
  author: string,
  work: (texts: TextChange) => Promise<Made>,
) => Promise<Made>;

const mostTries = 5;

export function textChanges(
  { sequelize, models }: Database,
  items: ItemStore,
  live: LiveLog,
): ChangeTexts {
  async function rewrite(
    { project, author, transaction }: Omit<TextChange, 'rewrite'>,
    ids: readonly string[],
    change: (root: Element, id: string) => Element,
  ): Promise<string[]> {
    // Always in the same order: two that hold each other's rows would wait for ever.
    const rows = await models.items.findAll({
      where: { projectId: project, id: [...ids] },
      order: [['id', 'ASC']],
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    for (const row of rows) {
      const { id, text } = row.get();
      const by = { person: author, note: '' };
      if (!(await live.change(row, (root) => change(root, id), by, transaction))) {
        const { document } = readXml(text);
        const next = document && writeCanonical(change(document.root, id));
        if (next !== undefined) await items.write(row, next, { author, note: '' }, transaction);
      }
    }
    return rows.map((row) => row.get().id);
  }
  return async (project, author, work) => {
    for (let tries = 1; ; tries += 1) {
      try {
        return await sequelize.transaction((transaction) => {
          const within = { project, author, transaction };
          return work({ ...within, rewrite: (ids, change) => rewrite(within, ids, change) });
        });
      } catch (error) {
        if (!(error instanceof UniqueConstraintError) || tries === mostTries) throw error;
      }
    }
  };
}
