import { EventEmitter } from 'node:events';
import { setTimeout as sleep } from 'node:timers/promises';
import { LiveEvent } from '@ukiyo/contracts';
import pg from 'pg';
import { z } from 'zod';
import type { Database } from './database.ts';

/** An event with the project whose people hear of it. */
const Announced = z.object({ project: z.string(), event: LiveEvent });
/** A topic, and the version to which its log of steps now reaches. */
const LoggedSteps = z.object({ project: z.string(), item: z.string(), version: z.number() });

interface Events {
  live: [event: LiveEvent, project: string];
  steps: [key: { project: string; item: string }, version: number];
  cancel: [impression: string];
  /** The role, the sessions or the tokens of a person have changed. */
  access: [person: string];
  /** The connection was broken: what happened meanwhile was not heard. */
  missed: [];
}

/** What happens, in every process of this database (PostgreSQL, LISTEN and NOTIFY). */
export interface Bus {
  readonly events: EventEmitter<Events>;
  cancel(impression: string): Promise<void>;
  close(): Promise<void>;
}

const channels = ['ukiyo_live', 'ukiyo_steps', 'ukiyo_cancel', 'ukiyo_access'] as const;
/** Pauses before connecting again, in milliseconds. */
const shortestPause = 100;
const longestPause = 5000;

export async function openBus(
  { sequelize }: Database,
  databaseUrl: string,
  failed: (error: unknown) => void,
): Promise<Bus> {
  const events = new EventEmitter<Events>();
  events.setMaxListeners(0);
  let isClosed = false;
  let listener: pg.Client;

  function hear(channel: string, payload: string): void {
    if (channel === 'ukiyo_cancel') events.emit('cancel', payload);
    if (channel === 'ukiyo_access') events.emit('access', payload);
    if (channel === 'ukiyo_steps') {
      const { project, item, version } = LoggedSteps.parse(JSON.parse(payload));
      events.emit('steps', { project, item }, version);
    }
    if (channel === 'ukiyo_live') {
      const { event, project } = Announced.parse(JSON.parse(payload));
      events.emit('live', event, project);
    }
  }
  async function connect(): Promise<void> {
    const client = new pg.Client({ connectionString: databaseUrl });
    let isLost = false;
    const lose = (error?: unknown): void => {
      if (error !== undefined && !isClosed) failed(error);
      if (isLost || isClosed || client !== listener) return;
      isLost = true;
      void reconnect().catch(failed);
    };
    client.on('error', lose);
    client.on('end', () => lose());
    client.on('notification', ({ channel, payload = '' }) => {
      try {
        hear(channel, payload);
      } catch (error) {
        failed(error);
      }
    });
    await client.connect();
    await client.query(channels.map((channel) => `LISTEN ${channel}`).join('; '));
    listener = client;
  }
  /**
   * The database can end one connection, or all of them, while it recovers from a crash of its own.
   */
  async function reconnect(): Promise<void> {
    for (let pause = shortestPause; !isClosed; pause = Math.min(longestPause, pause * 2)) {
      await sleep(pause);
      try {
        await connect();
        events.emit('missed');
        return;
      } catch (error) {
        failed(error);
      }
    }
  }
  await connect();

  return {
    events,
    cancel: async (impression) =>
      void (await sequelize.query("SELECT pg_notify('ukiyo_cancel', :impression)", {
        replacements: { impression },
      })),
    async close() {
      isClosed = true;
      await listener.end();
    },
  };
}
