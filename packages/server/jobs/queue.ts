import { rm } from 'node:fs/promises';
import type { Edition, Impression, ImpressionState, NoticeEvent, Progress } from '@ukiyo/contracts';
import { bySeverity, problem, type Problem } from '@ukiyo/core/problems';
import PgBoss from 'pg-boss';
import type { Settings } from '../app/services.ts';
import { createAuthority } from '../live/authority.ts';
import { Cancelled, createBuilder, type Builder } from './builder.ts';
import { openBus, type Bus } from '../data/bus.ts';
import type { NewImpression } from '../data/impressions.ts';
import type { ImpressionRow } from '../data/models.ts';
import type { Equipped } from './clerk.ts';

const queueName = 'build';
const clockName = 'clock';
/** The endings that people and programs outside are notified of. */
const noticeOf: Readonly<Partial<Record<ImpressionState, NoticeEvent>>> = {
  done: 'built',
  failed: 'failed',
};
const heartbeatSeconds = 5;

interface BuildJob {
  readonly impression: string;
}

/**
 * The queue of builds in PostgreSQL. Several processes may add builds, and several may run them.
 */
export interface Queue {
  /** Has an edition built from the texts as they are now, or again from what went into one. */
  order(
    project: string,
    edition: string,
    person: string,
    more?: NewImpression,
  ): Promise<Impression>;
  cancel(impression: string): Promise<void>;
  /** Puts in every edition that is to be built by itself now. */
  buildDue(now: Date): Promise<void>;
  /** Takes builds from the queue in this process, one at a time, and looks at the clock. */
  work(): Promise<void>;
  readonly events: Bus['events'];
  close(): Promise<void>;
}

type Report = (error: unknown) => void;

/** Files of impressions that are gone, or that their edition does not keep. */
function clearing({ editions, impressionFolder }: Equipped, report: Report) {
  /** What cannot be removed, such as files in a folder that is none, keeps no build from ending. */
  const removeFiles = (id: string): Promise<void> =>
    rm(impressionFolder(id), { recursive: true, force: true }).catch(report);
  return {
    removeFiles,
    /** Impressions that the rule of their edition does not keep go, with their files. */
    async clearOutdated(edition: string): Promise<void> {
      for (const id of await editions.outdated(edition)) {
        const row = await editions.impressionRow(id);
        if (row && (await editions.removeImpression(row.projectId, id))) await removeFiles(id);
      }
    },
    /** Builds whose worker is gone, with what they have left behind. @param silentFor in ms */
    async clearInterrupted(silentFor: number): Promise<void> {
      const lost = await editions.markInterrupted(new Date(Date.now() - silentFor));
      await Promise.all(lost.map(removeFiles));
    },
  };
}
type Clearing = ReturnType<typeof clearing>;

/** What was typed stands in the texts, whichever process has them open. */
async function flush(services: Equipped, project: string, report: Report): Promise<void> {
  const authority = createAuthority(services, report);
  await authority.flushAll(project);
  await authority.close();
}

/** Takes what has changed in linked sources, as what was written before the build. */
async function readSources(
  services: Equipped,
  project: string,
  person: string,
  onProgress: (progress: Progress) => void,
): Promise<Problem[]> {
  const linked = (await services.sources.list(project)).filter(({ isLinked }) => isLinked);
  const problems: Problem[] = [];
  for (const [done, { folder }] of linked.entries()) {
    onProgress({ step: `Reading the linked source “${folder}”`, done, total: linked.length });
    const order = { folder, order: { decisions: {} } };
    const reading = await services.clerk.do('readSource', project, order, person);
    problems.push(...(reading?.problems ?? []));
  }
  return problems;
}

interface Running {
  readonly services: Equipped;
  readonly settings: Settings;
  readonly builder: Builder;
  readonly clear: Clearing;
  readonly report: Report;
}

/** Builds a claimed impression and returns its final state. */
async function buildClaimed(
  { services, settings, builder, report }: Running,
  row: ImpressionRow,
  stored: Edition,
  onProgress: (progress: Progress) => void,
) {
  const { id, projectId: project, person, again, locale } = row;
  const edition = locale === null ? stored : { ...stored, locale, locales: [] };
  const readsSources = edition.readsSources && again === null;
  if (readsSources) await flush(services, project, report);
  const found = readsSources ? await readSources(services, project, person, onProgress) : [];
  if ((await services.editions.impressionRow(id))?.state !== 'running') throw new Cancelled();
  const order = { settings, impression: id, project, edition, again };
  const { hasFiles, problems, figures, inputs, fingerprint } = await builder.build(
    order,
    onProgress,
  );
  return {
    state: hasFiles ? ('done' as const) : ('failed' as const),
    progress: { step: 'Done', done: 1, total: 1 },
    problems: bySeverity([...found, ...problems]),
    figures,
    inputs,
    fingerprint,
  };
}

/** What is said of a build that ended without an outcome. */
function failureOf(error: unknown): { state: ImpressionState; problems: Problem[] } {
  if (error instanceof Cancelled) return { state: 'cancelled', problems: [] };
  const reason = error instanceof Error ? error.message.split('\n')[0] : String(error);
  const failed = problem('error', 'build.failed', `The build failed: ${reason}`);
  return { state: 'failed', problems: [failed] };
}

/** Claims a waiting impression, builds it, and stores and announces its final state. */
async function run(running: Running, id: string): Promise<void> {
  const { services, clear, report } = running;
  const { editions } = services;
  const row = await editions.claimImpression(id);
  const stored = row && (await editions.edition(row.projectId, row.edition));
  if (!row || !stored) return;
  const heartbeat = setInterval(
    () => void editions.updateImpression(id, { heartbeatAt: new Date() }).catch(report),
    heartbeatSeconds * 1000,
  );
  let progressWrites: Promise<unknown> = Promise.resolve();
  const onProgress = (progress: Progress): void => {
    progressWrites = progressWrites
      .then(() => editions.updateImpression(id, { progress }))
      .catch(report);
  };
  try {
    const ended = await buildClaimed(running, row, stored, onProgress);
    await progressWrites;
    if (!(await editions.endImpression(id, ended))) await clear.removeFiles(id);
    if (ended.state === 'done') await clear.clearOutdated(stored.id);
  } catch (error) {
    await progressWrites;
    // A builder that was killed cannot delete its files itself.
    await clear.removeFiles(id);
    if (!(error instanceof Cancelled)) report(error);
    await editions.endImpression(id, failureOf(error));
  } finally {
    clearInterval(heartbeat);
  }
  const impression = await editions.impression(row.projectId, id);
  const event = impression && noticeOf[impression.state];
  if (event) await services.sendNotifications(row.projectId, event, impression).catch(report);
}

/** Opens the queues in the database: of builds, and of the clock. */
async function openQueues(connectionString: string, report: Report): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString, max: 3 });
  boss.on('error', report);
  await boss.start();
  // Of each impression at most one job waits.
  await boss.createQueue(queueName);
  await boss.updateQueue(queueName, { name: queueName, policy: 'short' });
  await boss.createQueue(clockName);
  // Once a minute in one process of this database, however many there are.
  await boss.schedule(clockName, '* * * * *');
  return boss;
}

export async function openQueue(
  services: Equipped,
  settings: Settings,
  log: { error: (message: unknown) => void },
): Promise<Queue> {
  const report: Report = (error) => log.error(error);
  const boss = await openQueues(settings.databaseUrl, report);
  const bus = await openBus(services.database, settings.databaseUrl, report);
  const builder = createBuilder();
  bus.events.on('cancel', (impression) => void builder.cancel(impression));
  const clear = clearing(services, report);
  const running = { services, settings, builder, clear, report };

  const enqueue = async (impression: string): Promise<void> =>
    void (await boss.send(queueName, { impression } satisfies BuildJob, {
      singletonKey: impression,
      retryLimit: 0,
      expireInHours: 2,
    }));
  /** A process can end between making an impression and queueing it, or taking its job. */
  async function enqueueForgotten(): Promise<void> {
    const since = new Date(Date.now() - heartbeatSeconds * 1000);
    for (const id of await services.editions.waitingImpressions(since)) await enqueue(id);
  }
  const sweep = setInterval(() => {
    const all = [clear.clearInterrupted(heartbeatSeconds * 4000), enqueueForgotten()];
    void Promise.all(all).catch(report);
  }, heartbeatSeconds * 1000);

  const order: Queue['order'] = async (project, edition, person, more) => {
    // The steps of a text that cannot be written stay in the log; the build uses the old text.
    await flush(services, project, report).catch(report);
    const impression = await services.editions.createImpression(project, edition, person, more);
    await enqueue(impression.id);
    return impression;
  };
  async function buildDue(now: Date): Promise<void> {
    for (const { project, edition } of await services.editions.takeDue(now))
      await order(project, edition, 'The clock');
  }
  return {
    events: bus.events,
    order,
    buildDue,
    cancel: bus.cancel,
    async work() {
      await clear.clearInterrupted(heartbeatSeconds * 2000);
      const seldom = { batchSize: 1, pollingIntervalSeconds: 10 };
      await boss.work(clockName, seldom, () => buildDue(new Date()));
      const often = { batchSize: 1, pollingIntervalSeconds: 0.5 };
      await boss.work<BuildJob>(queueName, often, async ([job]) => {
        if (job) await run(running, job.data.impression);
      });
    },
    async close() {
      clearInterval(sweep);
      builder.close();
      await boss.stop({ graceful: false, wait: true, timeout: 3000 });
      await bus.close();
    },
  };
}
