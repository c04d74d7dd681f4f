import { rm } from 'node:fs/promises';
import type { Impression, ImpressionState, NoticeEvent, Progress } from '@ukiyo/contracts';
import { bySeverity, problem, type Problem } from '@ukiyo/core/problems';
import PgBoss from 'pg-boss';
import type { Settings } from '../app/services.ts';
import { createAuthority } from '../live/authority.ts';
import { Cancelled, createBuilder } from './builder.ts';
import { openBus, type Bus } from '../data/bus.ts';
import type { NewImpression } from '../data/editions.ts';
import type { Equipped } from './clerk.ts';

const queueName = 'build';
const clockName = 'clock';
/** Of which ends people and programs outside are told. */
const toldOf: Readonly<Partial<Record<ImpressionState, NoticeEvent>>> = {
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

export async function openQueue(
  services: Equipped,
  settings: Settings,
  log: { error: (message: unknown) => void },
): Promise<Queue> {
  const boss = new PgBoss({ connectionString: settings.databaseUrl, max: 3 });
  boss.on('error', (error) => log.error(error));
  await boss.start();
  // Of each impression at most one job waits.
  await boss.createQueue(queueName);
  await boss.updateQueue(queueName, { name: queueName, policy: 'short' });
  await boss.createQueue(clockName);
  // Once a minute in one process of this database, however many there are.
  await boss.schedule(clockName, '* * * * *');

  const bus = await openBus(services.database, settings.databaseUrl, (error) => log.error(error));
  const { events } = bus;
  const builder = createBuilder();
  events.on('cancel', (impression) => void builder.cancel(impression));

  const removeFiles = (id: string): Promise<void> =>
    // What cannot be removed, such as files in a folder that is none, keeps no build from ending.
    rm(services.impressionFolder(id), { recursive: true, force: true }).catch((error: unknown) =>
      log.error(error),
    );
  /** Impressions that the rule of their edition does not keep go, with their files. */
  const clearOutdated = async (edition: string): Promise<void> => {
    for (const id of await services.editions.outdated(edition)) {
      const row = await services.editions.impressionRow(id);
      if (!row || !(await services.editions.removeImpression(row.projectId, id))) continue;
      await removeFiles(id);
    }
  };

  const run = async (id: string): Promise<void> => {
    const row = await services.editions.claimImpression(id);
    if (!row) return;
    const stored = await services.editions.edition(row.projectId, row.edition);
    if (!stored) return;
    const edition = row.locale === null ? stored : { ...stored, locale: row.locale, locales: [] };
    const update = services.editions.updateImpression;
    const heartbeat = setInterval(
      () => void update(id, { heartbeatAt: new Date() }).catch(log.error),
      heartbeatSeconds * 1000,
    );
    let said: Promise<unknown> = Promise.resolve();
    const onProgress = (progress: Progress): void => {
      said = said.then(() => update(id, { progress })).catch(log.error);
    };
    try {
      const found =
        edition.readsSources && row.again === null
          ? await readSources(row.projectId, row.person, onProgress)
          : [];
      if ((await services.editions.impressionRow(id))?.state !== 'running') throw new Cancelled();
      const outcome = await builder.build(
        { settings, impression: id, project: row.projectId, edition, again: row.again },
        onProgress,
      );
      await said;
      const progress = { step: 'Done', done: 1, total: 1 };
      const state = outcome.hasFiles ? ('done' as const) : ('failed' as const);
      const isKept = await services.editions.endImpression(id, {
        state,
        progress,
        problems: bySeverity([...found, ...outcome.problems]),
        figures: outcome.figures,
        inputs: outcome.inputs,
        fingerprint: outcome.fingerprint,
      });
      if (!isKept) await removeFiles(id);
      if (state === 'done') await clearOutdated(edition.id);
    } catch (error) {
      await said;
      // Whoever kills a builder does not wait until it has cleared up.
      await removeFiles(id);
      const wasCancelled = error instanceof Cancelled;
      if (!wasCancelled) log.error(error);
      const problems = wasCancelled
        ? []
        : [
            problem(
              'error',
              'build.failed',
              'The build failed: ' +
                `${error instanceof Error ? error.message.split('\n')[0] : String(error)}`,
            ),
          ];
      await services.editions.endImpression(id, {
        state: wasCancelled ? 'cancelled' : 'failed',
        problems,
      });
    } finally {
      clearInterval(heartbeat);
    }
    const ended = await services.editions.impression(row.projectId, id);
    if (!ended) return;
    const event = toldOf[ended.state];
    if (event) await services.sendNotifications(row.projectId, event, ended).catch(log.error);
  };

  /** Takes what has changed in linked sources, as what was written before the build. */
  const readSources = async (
    project: string,
    person: string,
    onProgress: (progress: Progress) => void,
  ): Promise<Problem[]> => {
    const linked = (await services.sources.list(project)).filter(({ isLinked }) => isLinked);
    const problems: Problem[] = [];
    await flush(project);
    for (const [done, { folder }] of linked.entries()) {
      onProgress({ step: `Reading the linked source “${folder}”`, done, total: linked.length });
      const read = await services.clerk.do(
        'readSource',
        project,
        { folder, order: { decisions: {} } },
        person,
      );
      problems.push(...(read?.reading.problems ?? []));
    }
    return problems;
  };

  /** Builds whose worker is gone, with what they have left behind. */
  const clearInterrupted = async (silentFor: number): Promise<void> => {
    const lost = await services.editions.markInterrupted(new Date(Date.now() - silentFor));
    await Promise.all(lost.map(removeFiles));
  };
  const enqueue = async (impression: string): Promise<void> =>
    void (await boss.send(queueName, { impression } satisfies BuildJob, {
      singletonKey: impression,
      retryLimit: 0,
      expireInHours: 2,
    }));
  /** A process can end between making an impression and queueing it, or taking its job. */
  const enqueueForgotten = async (): Promise<void> => {
    const since = new Date(Date.now() - heartbeatSeconds * 1000);
    for (const id of await services.editions.waitingImpressions(since)) await enqueue(id);
  };
  const sweep = setInterval(
    () =>
      void Promise.all([clearInterrupted(heartbeatSeconds * 4000), enqueueForgotten()]).catch(
        log.error,
      ),
    heartbeatSeconds * 1000,
  );
  /** What was typed stands in the texts, whichever process has them open. */
  const flush = async (project: string): Promise<void> => {
    const authority = createAuthority(services, (error) => log.error(error));
    await authority.flushAll(project);
    await authority.close();
  };
  const order: Queue['order'] = async (project, edition, person, more) => {
    // A text that cannot be written keeps its steps; what is built has what it had before.
    await flush(project).catch((error: unknown) => log.error(error));
    const impression = await services.editions.createImpression(project, edition, person, more);
    await enqueue(impression.id);
    return impression;
  };
  const buildDue = async (now: Date): Promise<void> => {
    for (const { project, edition } of await services.editions.takeDue(now)) {
      await order(project, edition, 'The clock');
    }
  };
  return {
    events,
    order,
    buildDue,
    cancel: bus.cancel,
    async work() {
      await clearInterrupted(heartbeatSeconds * 2000);
      await boss.work(clockName, { batchSize: 1, pollingIntervalSeconds: 10 }, () =>
        buildDue(new Date()),
      );
      await boss.work<BuildJob>(
        queueName,
        { batchSize: 1, pollingIntervalSeconds: 0.5 },
        async ([job]) => {
          if (job) await run(job.data.impression);
        },
      );
    },
    async close() {
      clearInterval(sweep);
      builder.close();
      await boss.stop({ graceful: false, wait: true, timeout: 3000 });
      await bus.close();
    },
  };
}
