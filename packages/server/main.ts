/**
 * The program that serves: `DATABASE_URL`, `DATA_FOLDER`, `PORT`, and `WEB_FOLDER`, `DEMO_FOLDER`
 * where there are any; with `WORKER_ONLY` it only builds. Behind a proxy, `TRUST_PROXY` says whose
 * word about the client is taken, and `CONTENT_URL` names a second origin for what is made of
 * people's content.
 */
import {
  createApp,
  createClerk,
  equip,
  type TrustedProxies,
  makeServices,
  openQueue,
  openThreads,
  seedDemo,
  seedEmpty,
  upgrade,
} from './index.ts';

const {
  DATABASE_URL: databaseUrl,
  DATA_FOLDER: dataFolder,
  PORT: port = '4600',
  WEB_FOLDER: webFolder,
  DEMO_FOLDER: demoFolder,
  WORKER_ONLY: workerOnly,
  TRUST_PROXY: trustProxy,
  CONTENT_URL: contentUrl,
} = process.env;
if (databaseUrl === undefined || dataFolder === undefined)
  throw new Error('DATABASE_URL and DATA_FOLDER must be set.');

const settings = { databaseUrl, dataFolder };
const threads = openThreads();
const clerk = createClerk(settings);
const services = equip(makeServices(settings, { threads }), clerk);
await upgrade(services);
const seeded =
  demoFolder === undefined ? await seedEmpty(services) : await seedDemo(services, demoFolder);
const queue = await openQueue(services, settings, console);
await queue.work();
/** A number of proxies in front, or their addresses, parted by commas. */
const trusted = (value: string): TrustedProxies =>
  /^\d+$/u.test(value) ? (_address, hop) => hop < Number(value) : value;
const app =
  workerOnly === undefined
    ? await createApp(services, queue, {
        log: true,
        ...(webFolder === undefined ? {} : { webFolder }),
        ...(trustProxy === undefined ? {} : { trustProxy: trusted(trustProxy) }),
        ...(contentUrl === undefined ? {} : { contentUrl }),
      })
    : undefined;
await app?.listen({ port: Number(port), host: '127.0.0.1' });
// The queue does not await what it writes about its jobs (pg-boss 10, `Manager.watch`): losing the
// database at that moment must not end the server.
process.on('unhandledRejection', (error) => console.error(error));
if (app) clerk.start();
process.send?.({ ready: true, ...(typeof seeded === 'object' ? { account: seeded } : {}) });

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  // Answers on their way are given; a connection that is then kept open for more is closed.
  const closing = setInterval(() => app?.server.closeIdleConnections(), 100);
  const late = setTimeout(() => app?.server.closeAllConnections(), 8000);
  await app?.close();
  clearInterval(closing);
  clearTimeout(late);
  await queue.close();
  clerk.close();
  await threads.close();
  await services.database.sequelize.close();
  process.exit(0);
}
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop());
process.on('disconnect', () => void stop());
