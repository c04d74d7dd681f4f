import { randomUUID } from 'node:crypto';
import type { Impression, Progress, Seal } from '@ukiyo/contracts';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { EditionRow, ImpressionRow } from './models.ts';
import { notify } from './notifying.ts';

export interface NewImpression {
  /** The impression from whose inputs it is built, instead of what is stored now. */
  readonly again?: string;
  /** Instead of that of the edition. */
  readonly locale?: string | null;
}

/** What was built, and how builds stand. */
interface ImpressionReading {
  /** The newest of a project, and all that are signed off, newest first. */
  impressions(project: string): Promise<Impression[]>;
  /** All of one edition, newest first. */
  impressionsOf(project: string, edition: string): Promise<Impression[]>;
  impression(project: string, id: string): Promise<Impression | undefined>;
  /** The version of every item that went into an impression; none where it is gone. */
  inputsOf(project: string, impression: string): Promise<Readonly<Record<string, number>>>;
  /** Null when there is none. */
  impressionRow(id: string): Promise<ImpressionRow | null>;
  /**
   * Those of an edition that its rule clears: older than so many that were built, not signed off,
   * named or the one since which changes have bars.
   */
  outdated(edition: string): Promise<string[]>;
  /** Those that have waited to be built since before then, the oldest first. */
  waitingImpressions(since: Date): Promise<string[]>;
}

/** What people do with an impression. */
interface ImpressionNotes {
  nameImpression(project: string, id: string, name: string): Promise<boolean>;
  noteOnImpression(
    project: string,
    id: string,
    note: Impression['notes'][number],
  ): Promise<boolean>;
  /** Signs one off, or takes that back. */
  sealImpression(project: string, id: string, seal: Seal | null): Promise<void>;
  /** False where it is not there, or signed off: then it stays. */
  removeImpression(project: string, id: string): Promise<boolean>;
}

/** The life of an impression, from its order to its end. */
interface ImpressionBuilding {
  createImpression(
    project: string,
    edition: string,
    person: string,
    more?: NewImpression,
  ): Promise<Impression>;
  updateImpression(id: string, change: Partial<ImpressionRow>): Promise<void>;
  /** Takes one that waits, so that no other process builds it; null when it does not wait. */
  claimImpression(id: string): Promise<ImpressionRow | null>;
  /** Ends an impression that waits or runs; false when it has ended already. */
  endImpression(id: string, change: Partial<ImpressionRow>): Promise<boolean>;
  /** Marks builds whose worker is gone as interrupted, and says which. */
  markInterrupted(olderThan: Date): Promise<string[]>;
}

export interface ImpressionStore extends ImpressionReading, ImpressionNotes, ImpressionBuilding {}

const mostListed = 200;
const waiting: Progress = { step: 'Waiting', done: 0, total: 0 };
const noFigures = { pages: 0, topics: 0, words: 0, bytes: 0, milliseconds: 0 };

function impressionOf(row: ImpressionRow, edition: EditionRow): Impression {
  const { projectId: _project, inputs: _inputs, heartbeatAt: _beat, ...impression } = row;
  return {
    ...impression,
    editionName: edition.name,
    output: edition.output,
    figures: { ...noFigures, ...row.figures },
    createdAt: row.createdAt.toISOString(),
    finishedAt: row.finishedAt?.toISOString() ?? null,
  };
}

/** Tells open pages how far an impression is. */
async function announce(
  { sequelize, models: { impressions } }: Database,
  id: string,
  transaction?: Transaction,
): Promise<void> {
  const within = transaction ? { transaction } : {};
  const row = (await impressions.findOne({ where: { id }, ...within }))?.get();
  if (!row) return;
  const { projectId, state, progress } = row;
  await notify(sequelize, projectId, [{ kind: 'impression', id, state, progress }], transaction);
}

function reading({ sequelize, models }: Database): ImpressionReading {
  const { editions, impressions } = models;
  const editionRow = async (project: string, id: string): Promise<EditionRow | undefined> =>
    (await editions.findOne({ where: { projectId: project, id } }))?.get();
  return {
    async impressions(project) {
      const newest = await impressions.findAll({
        where: { projectId: project },
        order: [['createdAt', 'DESC']],
        limit: mostListed,
      });
      const oldest = newest.length < mostListed ? undefined : newest.at(-1)!.get().createdAt;
      const signed = oldest
        ? (
            await impressions.findAll({
              where: { projectId: project, createdAt: { [Op.lt]: oldest } },
              order: [['createdAt', 'DESC']],
            })
          ).filter((row) => row.get().seal !== null)
        : [];
      const rows = [...newest, ...signed];
      const byId = new Map(
        (await editions.findAll({ where: { projectId: project } })).map((row) => [
          row.get().id,
          row.get(),
        ]),
      );
      return rows.flatMap((row) => {
        const edition = byId.get(row.get().edition);
        return edition ? [impressionOf(row.get(), edition)] : [];
      });
    },
    async impressionsOf(project, id) {
      const edition = await editionRow(project, id);
      const rows = await impressions.findAll({
        where: { projectId: project, edition: id },
        order: [['number', 'DESC']],
      });
      return edition ? rows.map((row) => impressionOf(row.get(), edition)) : [];
    },
    async impression(project, id) {
      const row = (await impressions.findOne({ where: { projectId: project, id } }))?.get();
      const edition = row && (await editionRow(project, row.edition));
      return row && edition && impressionOf(row, edition);
    },
    inputsOf: async (project, id) =>
      (await impressions.findOne({ where: { projectId: project, id } }))?.get().inputs ?? {},
    impressionRow: async (id) => (await impressions.findOne({ where: { id } }))?.get() ?? null,
    async outdated(edition) {
      const rows = await sequelize.query<{ id: string }>(
        `SELECT i.id FROM impressions i JOIN editions e ON e.id = i.edition
         WHERE i.edition = :edition AND i.state NOT IN ('queued', 'running')
           AND (i.seal IS NULL OR i.seal = 'null'::jsonb) AND i.name = ''
           AND e.since IS DISTINCT FROM i.id
           AND i.number < (
             SELECT number FROM impressions WHERE edition = :edition AND state = 'done'
             ORDER BY number DESC LIMIT 1
             OFFSET (SELECT keeps - 1 FROM editions WHERE id = :edition))`,
        { replacements: { edition }, type: QueryTypes.SELECT },
      );
      return rows.map(({ id }) => id);
    },
    waitingImpressions: async (since) =>
      (
        await impressions.findAll({
          where: { state: 'queued', createdAt: { [Op.lt]: since } },
          attributes: ['id'],
          order: [['createdAt', 'ASC']],
        })
      ).map((row) => row.get().id),
  };
}

function notes(database: Database): ImpressionNotes {
  const { sequelize, models } = database;
  const { impressions } = models;
  return {
    async nameImpression(project, id, name) {
      const [count] = await impressions.update({ name }, { where: { projectId: project, id } });
      await announce(database, id);
      return count > 0;
    },
    noteOnImpression: async (project, id, note) => {
      const [, count] = await sequelize.query(
        'UPDATE impressions SET notes = notes || :note::jsonb WHERE project_id = :project ' +
          'AND id = :id',
        {
          replacements: { project, id, note: JSON.stringify([note]) },
          type: QueryTypes.UPDATE,
        },
      );
      await announce(database, id);
      return count > 0;
    },
    async sealImpression(project, id, seal) {
      await impressions.update({ seal }, { where: { projectId: project, id } });
      await announce(database, id);
    },
    removeImpression: async (project, id) =>
      sequelize.transaction(async (transaction) => {
        const row = await impressions.findOne({
          where: { projectId: project, id },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        if (!row || row.get().seal !== null) return false;
        await row.destroy({ transaction });
        await notify(sequelize, project, [{ kind: 'impression-gone', id }], transaction);
        return true;
      }),
  };
}

/** Makes the impression of an edition that comes next. */
function creating(database: Database) {
  const { sequelize, models } = database;
  const { editions, impressions } = models;
  return async (
    project: string,
    edition: string,
    person: string,
    { again, locale = null }: NewImpression,
  ): Promise<string> => {
    const id = randomUUID();
    await sequelize.transaction(async (transaction) => {
      // One at a time for each edition, so that numbers have no gaps and no doubles.
      const row = await editions.findOne({
        where: { id: edition },
        transaction,
        lock: transaction.LOCK.UPDATE,
      });
      const last = Number(
        (await impressions.max('number', { where: { edition }, transaction })) ?? 0,
      );
      await impressions.create(
        {
          id,
          projectId: project,
          edition,
          number: last + 1,
          state: 'queued',
          progress: waiting,
          problems: [],
          figures: noFigures,
          inputs: {},
          stops: row?.get().stops ?? [],
          again: again ?? null,
          locale,
          person,
          createdAt: new Date(),
        },
        { transaction },
      );
      await announce(database, id, transaction);
    });
    return id;
  };
}

function building(database: Database, reads: ImpressionReading): ImpressionBuilding {
  const { sequelize, models } = database;
  const { impressions } = models;
  const create = creating(database);
  return {
    async createImpression(project, edition, person, more = {}) {
      const made = await reads.impression(project, await create(project, edition, person, more));
      if (!made) throw new Error('The impression that was just made is not there');
      return made;
    },
    async updateImpression(id, change) {
      await impressions.update(change, { where: { id } });
      if (change.state || change.progress) await announce(database, id);
    },
    async claimImpression(id) {
      const [, [row]] = await impressions.update(
        { state: 'running', heartbeatAt: new Date() },
        { where: { id, state: 'queued' }, returning: true },
      );
      return row?.get() ?? null;
    },
    async endImpression(id, change) {
      const [count] = await impressions.update(
        { finishedAt: new Date(), ...change },
        { where: { id, state: { [Op.in]: ['queued', 'running'] } } },
      );
      await announce(database, id);
      return count > 0;
    },
    async markInterrupted(olderThan) {
      const lost = await sequelize.query<{ id: string }>(
        `UPDATE impressions SET state = 'interrupted', finished_at = now()
         WHERE state = 'running' AND heartbeat_at < :olderThan RETURNING id`,
        { replacements: { olderThan }, type: QueryTypes.SELECT },
      );
      for (const { id } of lost) await announce(database, id);
      return lost.map(({ id }) => id);
    },
  };
}

export function impressionStore(database: Database): ImpressionStore {
  const reads = reading(database);
  return { ...reads, ...notes(database), ...building(database, reads) };
}
