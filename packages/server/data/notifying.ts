import type { LiveEvent } from '@ukiyo/contracts';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';

/**
 * Tells every process of the database what has changed (PostgreSQL, NOTIFY), which passes it on to
 * those who look at the project. Within a transaction it is told when that ends, and not at all when
 * it is taken back: so whatever writes tells, and nobody else has to.
 */
export async function notify(
  sequelize: Sequelize,
  project: string,
  events: readonly LiveEvent[],
  transaction?: Transaction,
): Promise<void> {
  if (events.length === 0) return;
  await sequelize.query(
    `SELECT pg_notify('ukiyo_live', json_build_object('project', $project::text, 'event', event)::text)
     FROM json_array_elements($events::json) AS sent (event)`,
    {
      bind: { project, events: JSON.stringify(events) },
      type: QueryTypes.SELECT,
      ...(transaction ? { transaction } : {}),
    },
  );
}

/** More changes at once than this are told as one. */
const mostTold = 100;

/** What is told of topics and maps that are new or have another text. */
export const itemEvents = (
  items: readonly { readonly id: string; readonly version: number }[],
): LiveEvent[] =>
  items.length > mostTold
    ? [{ kind: 'many-items' }]
    : items.map(({ id, version }) => ({ kind: 'item', id, version }));
