import { randomUUID } from 'node:crypto';
import type { Edition, EditionInput, Impression, Lens, Progress, Seal } from '@ukiyo/contracts';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { EditionRow, ImpressionRow, LensRow } from './models.ts';
import { notify } from './notifying.ts';

export interface NewImpression {
  /** The impression from whose inputs it is built, instead of what is stored now. */
  readonly again?: string;
  /** Instead of that of the edition. */
  readonly locale?: string | null;
}

/** Lenses, editions and their impressions. */
export interface EditionStore {
  lenses(project: string): Promise<Lens[]>;
  saveLens(project: string, lens: Lens, transaction?: Transaction): Promise<void>;
  /**
   * Changes a lens as it stands now, so that nobody's change is lost; undefined when there is none.
   */
  changeLens(project: string, id: string, change: (lens: Lens) => Lens): Promise<Lens | undefined>;
  removeLens(project: string, id: string): Promise<boolean>;
  editions(project: string, transaction?: Transaction): Promise<Edition[]>;
  edition(project: string, id: string): Promise<Edition | undefined>;
  createEdition(project: string, input: EditionInput, transaction?: Transaction): Promise<Edition>;
  updateEdition(project: string, id: string, input: EditionInput): Promise<Edition | undefined>;
  removeEdition(project: string, id: string): Promise<boolean>;
  /**
   * Editions of all projects whose time of the day has come since it was last asked for, each once
   * however many ask and however late.
   */
  takeDue(now: Date): Promise<{ project: string; edition: string }[]>;
  /** The newest of a project, and all that are signed off, newest first. */
  impressions(project: string): Promise<Impression[]>;
  /** All of one edition, newest first. */
  impressionsOf(project: string, edition: string): Promise<Impression[]>;
  impression(project: string, id: string): Promise<Impression | undefined>;
  createImpression(
    project: string,
    edition: string,
    person: string,
    more?: NewImpression,
  ): Promise<Impression>;
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
  /**
   * Those of an edition that its rule clears: older than so many that were built, not signed off,
   * named or the one since which changes have bars.
   */
  outdated(edition: string): Promise<string[]>;
  /** The version of every item that went into an impression; none where it is gone. */
  inputsOf(project: string, impression: string): Promise<Readonly<Record<string, number>>>;
  /** Null when there is none. */
  impressionRow(id: string): Promise<ImpressionRow | null>;
  updateImpression(id: string, change: Partial<ImpressionRow>): Promise<void>;
  /** Takes one that waits, so that no other process builds it; null when it does not wait. */
  claimImpression(id: string): Promise<ImpressionRow | null>;
  /** Those that have waited to be built since before then, the oldest first. */
  waitingImpressions(since: Date): Promise<string[]>;
  /** Ends an impression that waits or runs; false when it has ended already. */
  endImpression(id: string, change: Partial<ImpressionRow>): Promise<boolean>;
  /** Marks builds whose worker is gone as interrupted, and says which. */
  markInterrupted(olderThan: Date): Promise<string[]>;
}

const mostListed = 200;
/** When it was last this time of the day, by the clock of the server. */
function lastTime(time: string, now: Date): Date {
  const [hours, minutes] = time.split(':').map(Number) as [number, number];
  const today = new Date(now.getFullYear(), now.getMonth(), now.getDate(), hours, minutes);
  return today <= now
    ? today
    : new Date(now.getFullYear(), now.getMonth(), now.getDate() - 1, hours, minutes);
}
const waiting: Progress = { step: 'Waiting', done: 0, total: 0 };
const noFigures = { pages: 0, topics: 0, words: 0, bytes: 0, milliseconds: 0 };

function editionOf({ projectId: _project, clockAt: _clock, ...edition }: EditionRow): Edition {
  return edition;
}

function impressionOf(row: ImpressionRow, edition: EditionRow): Impression {
  const {
    id,
    number,
    state,
    progress,
    problems,
    figures,
    person,
    name,
    notes,
    seal,
    stops,
    again,
    locale,
    fingerprint,
  } = row;
  return {
    id,
    edition: row.edition,
    editionName: edition.name,
    output: edition.output,
    number,
    state,
    progress,
    problems,
    figures: { ...noFigures, ...figures },
    name,
    notes,
    seal,
    stops,
    again,
    locale,
    fingerprint,
    person,
    createdAt: row.createdAt.toISOString(),
    finishedAt: row.finishedAt?.toISOString() ?? null,
  };
}

const lensFrom = ({ id, name, rules, through }: LensRow): Lens => ({ id, name, rules, through });

export function editionStore({ sequelize, models }: Database): EditionStore {
  const { lenses, editions, impressions } = models;
  const editionRow = async (project: string, id: string): Promise<EditionRow | undefined> =>
    (await editions.findOne({ where: { projectId: project, id } }))?.get();
  /** Tells everybody how an impression stands. */
  async function tell(id: string, transaction?: Transaction): Promise<void> {
    const row = (
      await impressions.findOne({ where: { id }, ...(transaction ? { transaction } : {}) })
    )?.get();
    if (!row) return;
    const { projectId, state, progress } = row;
    await notify(sequelize, projectId, [{ kind: 'impression', id, state, progress }], transaction);
  }
  const store: EditionStore = {
    lenses: async (project) =>
      (await lenses.findAll({ where: { projectId: project }, order: [['name', 'ASC']] })).map(
        (row) => lensFrom(row.get()),
      ),
    saveLens: async (project, lens, transaction) =>
      void (await lenses.upsert(
        { projectId: project, ...lens },
        transaction ? { transaction } : {},
      )),
    changeLens: (project, id, change) =>
      sequelize.transaction(async (transaction) => {
        const row = await lenses.findOne({
          where: { projectId: project, id },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        if (!row) return undefined;
        const next = change(lensFrom(row.get()));
        await row.update(
          { name: next.name, rules: next.rules, through: next.through },
          { transaction },
        );
        return next;
      }),
    removeLens: async (project, id) =>
      (await lenses.destroy({ where: { projectId: project, id } })) > 0,
    async editions(project, transaction) {
      const rows = await editions.findAll({
        where: { projectId: project },
        order: [['name', 'ASC']],
        ...(transaction ? { transaction } : {}),
      });
      return rows.map((row) => editionOf(row.get()));
    },
    async edition(project, id) {
      const row = await editionRow(project, id);
      return row && editionOf(row);
    },
    async createEdition(project, input, transaction) {
      const row = await editions.create(
        { id: randomUUID(), projectId: project, ...input, clockAt: new Date() },
        transaction ? { transaction } : {},
      );
      return editionOf(row.get());
    },
    async updateEdition(project, id, input) {
      await sequelize.transaction(async (transaction) => {
        // A time of the day that is over when it is set has not been missed.
        await editions.update(
          { clockAt: new Date() },
          { where: { projectId: project, id, nightly: { [Op.ne]: input.nightly } }, transaction },
        );
        await editions.update({ ...input }, { where: { projectId: project, id }, transaction });
      });
      return store.edition(project, id);
    },
    async takeDue(now) {
      const due: { project: string; edition: string }[] = [];
      for (const row of await editions.findAll({ where: { nightly: { [Op.ne]: '' } } })) {
        const { id, projectId, nightly } = row.get();
        const [taken] = await editions.update(
          { clockAt: now },
          { where: { id, clockAt: { [Op.lt]: lastTime(nightly, now) } } },
        );
        if (taken > 0) due.push({ project: projectId, edition: id });
      }
      return due;
    },
    removeEdition: async (project, id) =>
      (await editions.destroy({ where: { projectId: project, id } })) > 0,
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
    async createImpression(project, edition, person, { again, locale = null } = {}) {
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
        await tell(id, transaction);
      });
      const made = await store.impression(project, id);
      if (!made) throw new Error('The impression that was just made is not there');
      return made;
    },
    async nameImpression(project, id, name) {
      const [count] = await impressions.update({ name }, { where: { projectId: project, id } });
      await tell(id);
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
      await tell(id);
      return count > 0;
    },
    async sealImpression(project, id, seal) {
      await impressions.update({ seal }, { where: { projectId: project, id } });
      await tell(id);
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
    impressionRow: async (id) => (await impressions.findOne({ where: { id } }))?.get() ?? null,
    async updateImpression(id, change) {
      await impressions.update(change, { where: { id } });
      if (change.state || change.progress) await tell(id);
    },
    async claimImpression(id) {
      const [, [row]] = await impressions.update(
        { state: 'running', heartbeatAt: new Date() },
        { where: { id, state: 'queued' }, returning: true },
      );
      return row?.get() ?? null;
    },
    waitingImpressions: async (since) =>
      (
        await impressions.findAll({
          where: { state: 'queued', createdAt: { [Op.lt]: since } },
          attributes: ['id'],
          order: [['createdAt', 'ASC']],
        })
      ).map((row) => row.get().id),
    async endImpression(id, change) {
      const [count] = await impressions.update(
        { finishedAt: new Date(), ...change },
        { where: { id, state: { [Op.in]: ['queued', 'running'] } } },
      );
      await tell(id);
      return count > 0;
    },
    async markInterrupted(olderThan) {
      const lost = await sequelize.query<{ id: string }>(
        `UPDATE impressions SET state = 'interrupted', finished_at = now()
         WHERE state = 'running' AND heartbeat_at < :olderThan RETURNING id`,
        { replacements: { olderThan }, type: QueryTypes.SELECT },
      );
      for (const { id } of lost) await tell(id);
      return lost.map(({ id }) => id);
    },
  };
  return store;
}
