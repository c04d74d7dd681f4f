/**
 * The server as a library: what the start program, the worker, the command line and the tests make
 * a running system from. In: a database address and a data folder; out: services, a queue and an
 * HTTP application.
 */
export { demoPassword, demoPeople, seedDemo, seedEmpty } from './app/seed.ts';
export { makeServices, type Services, type Settings } from './app/services.ts';
export { upgrade } from './app/upgrade.ts';
export { createApp, type TrustedProxies } from './http/app.ts';
export { createClerk, equip, type Equipped } from './jobs/clerk.ts';
export { openQueue, type Queue } from './jobs/queue.ts';
export { openThreads } from './threads/pool.ts';
