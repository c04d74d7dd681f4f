import { writeCanonical } from '@ukiyo/core/grammar';
import { readXml, type Element } from '@ukiyo/core/markup';
import { UniqueConstraintError, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { ItemStore } from './items.ts';
import type { LiveLog } from './live.ts';

/** The versions that the changed topics and maps have now. */
export type Rewritten = Readonly<Record<string, number>>;
export type TextRewriting = (
  project: string,
  ids: readonly string[],
  change: (root: Element, id: string) => Element,
  author: string,
  transaction: Transaction,
) => Promise<Rewritten>;

/**
 * Changes many texts within one transaction. Where a text is being written, the change is a step
 * among the others.
 */
export function textRewriting(
  { models }: Database,
  items: ItemStore,
  live: LiveLog,
): TextRewriting {
  return async (project, ids, change, author, transaction) => {
    const changed: Record<string, number> = {};
    // Always in the same order: two that hold each other's rows would wait for ever.
    for (const row of await models.items.findAll({
      where: { projectId: project, id: [...ids] },
      order: [['id', 'ASC']],
      transaction,
      lock: transaction.LOCK.UPDATE,
    })) {
      const { id, text } = row.get();
      if (
        !(await live.change(
          row,
          (root) => change(root, id),
          { person: author, note: '' },
          transaction,
        ))
      ) {
        const { document } = readXml(text);
        if (document)
          await items.write(
            row,
            { text: writeCanonical(change(document.root, id)), note: '' },
            author,
            transaction,
          );
      }
      changed[id] = row.get().version;
    }
    return changed;
  };
}

/** Somebody types while all texts change: the whole is tried again, a few times. */
const tries = 5;

export async function retryOnConflict<Made>(act: () => Promise<Made>): Promise<Made> {
  for (let attempt = 1; ; attempt += 1) {
    try {
      return await act();
    } catch (error) {
      if (!(error instanceof UniqueConstraintError) || attempt === tries) throw error;
    }
  }
}
