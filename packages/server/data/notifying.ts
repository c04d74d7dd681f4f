import type { LiveEvent } from '@ukiyo/contracts';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import type { ItemRow } from './models.ts';

/**
 * Notifies every server process of a change (PostgreSQL, NOTIFY); the processes pass it on to the
 * open pages of the project. Within a transaction the notification is sent on commit and dropped on
 * rollback, so that the function that writes can notify and its callers need not.
 */
export async function notify(
  sequelize: Sequelize,
  project: string,
  events: readonly LiveEvent[],
  transaction?: Transaction,
): Promise<void> {
  if (events.length === 0) return;
  await sequelize.query(
    `SELECT pg_notify('ukiyo_live',
       json_build_object('project', $project::text, 'event', event)::text)
     FROM json_array_elements($events::json) AS sent (event)`,
    {
      bind: { project, events: JSON.stringify(events) },
      type: QueryTypes.SELECT,
      ...(transaction ? { transaction } : {}),
    },
  );
}

/** More changes at once than this are one event. */
const mostEvents = 100;

/** The events of topics and maps that are new or have another text. */
export const itemEvents = (
  items: readonly Pick<ItemRow, 'id' | 'kind' | 'version'>[],
): LiveEvent[] =>
  items.length > mostEvents
    ? [{ kind: 'many-items' }]
    : items.map(({ id, kind, version }) => ({ kind: 'item', id, version, isMap: kind === 'map' }));
