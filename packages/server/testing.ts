import { randomBytes } from 'node:crypto';
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Role } from '@ukiyo/contracts';
import type { FastifyInstance, LightMyRequestResponse } from 'fastify';
import pg from 'pg';
import { inject } from 'vitest';
import type { TestProject } from 'vitest/node';
import {
  createApp,
  createClerk,
  equip,
  openThreads,
  demoPassword,
  demoPeople,
  makeServices,
  openQueue,
  seedDemo,
  type Queue,
  upgrade,
  type Equipped,
  type Settings,
} from './index.ts';

export interface TestServer {
  readonly app: FastifyInstance;
  readonly services: Equipped;
  readonly queue: Queue;
  readonly settings: Settings;
  readonly project: string;
  /** Sends a request as a person of that role; a path that begins with `~` is below the project. */
  ask(
    role: Role | undefined,
    method: 'GET' | 'POST' | 'PUT' | 'DELETE',
    path: string,
    body?: object,
  ): Promise<LightMyRequestResponse>;
  /** Sends one file as a form does. */
  upload(
    role: Role,
    path: string,
    file: { readonly name: string; readonly type: string; readonly bytes: Uint8Array },
  ): Promise<LightMyRequestResponse>;
  cookieOf(role: Role): Promise<string>;
  close(): Promise<void>;
}

declare module 'vitest' {
  interface ProvidedContext {
    /** A database and a data folder with the demo library, of which each server gets a copy. */
    seed: Settings;
  }
}

const nameOf = (databaseUrl: string): string => new URL(databaseUrl).pathname.slice(1);

/** Gives a statement to the PostgreSQL that `npm test` starts. */
async function administer(statement: string): Promise<void> {
  const admin = new pg.Client({ connectionString: cluster() });
  await admin.connect();
  await admin.query(statement);
  await admin.end();
}
function cluster(): string {
  const url = process.env['DATABASE_URL'];
  if (url === undefined)
    throw new Error('Run the server tests with npm run test:server, which starts the database.');
  return url;
}
/** @param template name of the database that the new one is a copy of */
async function freshGround(template = 'template1'): Promise<Settings> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  await administer(`CREATE DATABASE ${name} TEMPLATE ${template}`);
  const dataFolder = await mkdtemp(join(tmpdir(), 'ukiyo-server-'));
  return { databaseUrl: cluster().replace(/\/[^/]*$/u, `/${name}`), dataFolder };
}

/** Before all tests of the server: makes what their servers are copies of. */
export default async function makeSeed(project: TestProject): Promise<() => Promise<void>> {
  const seed = await freshGround();
  const services = makeServices(seed);
  await upgrade(services);
  await seedDemo(services, join(import.meta.dirname, '../../demo'));
  await services.database.sequelize.close();
  project.provide('seed', seed);
  return async () => {
    await administer(`DROP DATABASE ${nameOf(seed.databaseUrl)}`);
    await rm(seed.dataFolder, { recursive: true, force: true });
  };
}

/**
 * The real application over a database of its own in the PostgreSQL that `npm test` starts, with
 * the demo library.
 * @param asItRuns with clerks in processes of their own, and threads; without, in this one, which
 * starts sooner
 */
export async function startTestServer({ asItRuns = false } = {}): Promise<TestServer> {
  const seed = inject('seed');
  const settings = await freshGround(nameOf(seed.databaseUrl));
  await cp(seed.dataFolder, settings.dataFolder, { recursive: true });
  const threads = asItRuns ? openThreads() : undefined;
  const clerk = asItRuns ? createClerk(settings) : undefined;
  const services = equip(makeServices(settings, threads ? { threads } : {}), clerk);
  const queue = await openQueue(services, settings, { error: () => undefined });
  const app = await createApp(services, queue, { log: process.env['TEST_LOG'] !== undefined });
  const project = (await services.database.models.projects.findOne())!.get().id;
  const cookies = new Map<Role, string>();

  const cookieOf = async (role: Role): Promise<string> => {
    const known = cookies.get(role);
    if (known !== undefined) return known;
    const email = demoPeople.find((person) => person.role === role)!.email;
    const person = (await services.people.verified(email, demoPassword))!;
    const token = await services.sessions.create(person.id, 'test');
    cookies.set(role, `ukiyo_session=${token}`);
    return `ukiyo_session=${token}`;
  };
  return {
    app,
    services,
    queue,
    settings,
    project,
    cookieOf,
    async ask(role, method, path, body) {
      const headers = role === undefined ? {} : { cookie: await cookieOf(role) };
      const answer = await app.inject({
        method,
        url: `/api${path.replace('~', `/projects/${project}`)}`,
        headers,
        ...(body === undefined ? {} : { payload: body }),
      });
      // As a browser does; what is made of content has an address of its own.
      return answer.statusCode === 302 ? app.inject(String(answer.headers.location)) : answer;
    },
    async upload(role, path, { name, type, bytes }) {
      const boundary = 'a-boundary';
      const head =
        `--${boundary}\r\nContent-Disposition: form-data; name="file"; filename="${name}"\r\n` +
        `Content-Type: ${type}\r\n\r\n`;
      return app.inject({
        method: 'POST',
        url: `/api${path.replace('~', `/projects/${project}`)}`,
        headers: {
          cookie: await cookieOf(role),
          'content-type': `multipart/form-data; boundary=${boundary}`,
        },
        payload: Buffer.concat([Buffer.from(head), bytes, Buffer.from(`\r\n--${boundary}--\r\n`)]),
      });
    },
    async close() {
      await app.close();
      await queue.close();
      clerk?.close();
      await threads?.close();
      await services.database.sequelize.close();
      await rm(settings.dataFolder, { recursive: true, force: true });
    },
  };
}
