import { randomUUID } from 'node:crypto';
import type { Edition, EditionInput, Impression, Lens, Progress } from '@ukiyo/contracts';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { EditionRow, ImpressionRow, LensRow } from './models.ts';

/** Lenses, editions and their impressions. */
export interface EditionStore {
  lenses(project: string): Promise<Lens[]>;
  saveLens(project: string, lens: Lens, transaction?: Transaction): Promise<void>;
  /** Changes a lens as it stands now, so that nobody's change is lost; undefined when there is none. */
  changeLens(project: string, id: string, change: (lens: Lens) => Lens): Promise<Lens | undefined>;
  removeLens(project: string, id: string): Promise<boolean>;
  editions(project: string): Promise<Edition[]>;
  edition(project: string, id: string): Promise<Edition | undefined>;
  createEdition(project: string, input: EditionInput): Promise<Edition>;
  updateEdition(project: string, id: string, input: EditionInput): Promise<Edition | undefined>;
  removeEdition(project: string, id: string): Promise<boolean>;
  impressions(project: string): Promise<Impression[]>;
  impression(project: string, id: string): Promise<Impression | undefined>;
  createImpression(project: string, edition: string, person: string): Promise<Impression>;
  /** The version of every item that went into an impression; none where it is gone. */
  inputsOf(project: string, impression: string): Promise<Readonly<Record<string, number>>>;
  /** Null when there is none. */
  impressionRow(id: string): Promise<ImpressionRow | null>;
  updateImpression(id: string, change: Partial<ImpressionRow>): Promise<void>;
  /** Ends an impression that waits or runs; false when it has ended already. */
  endImpression(id: string, change: Partial<ImpressionRow>): Promise<boolean>;
  /** Marks builds whose worker is gone as interrupted; returns their ids. */
  markInterrupted(olderThan: Date): Promise<string[]>;
}

const waiting: Progress = { step: 'Waiting', done: 0, total: 0 };
const noFigures = { pages: 0, topics: 0, bytes: 0, milliseconds: 0 };

function editionOf({ projectId: _project, ...edition }: EditionRow): Edition {
  return edition;
}

function impressionOf(row: ImpressionRow, edition: EditionRow): Impression {
  const { id, number, state, progress, problems, figures, person } = row;
  return {
    id,
    edition: row.edition,
    editionName: edition.name,
    output: edition.output,
    number,
    state,
    progress,
    problems,
    figures,
    person,
    createdAt: row.createdAt.toISOString(),
    finishedAt: row.finishedAt?.toISOString() ?? null,
  };
}

const lensFrom = ({ id, name, rules, through }: LensRow): Lens => ({ id, name, rules, through });

export function editionStore({ sequelize, models }: Database): EditionStore {
  const { lenses, editions, impressions } = models;
  const editionRow = async (project: string, id: string): Promise<EditionRow | undefined> => (await editions.findOne({ where: { projectId: project, id } }))?.get();
  const store: EditionStore = {
    lenses: async (project) => (await lenses.findAll({ where: { projectId: project }, order: [['name', 'ASC']] })).map((row) => lensFrom(row.get())),
    saveLens: async (project, lens, transaction) => void (await lenses.upsert({ projectId: project, ...lens }, transaction ? { transaction } : {})),
    changeLens: (project, id, change) =>
      sequelize.transaction(async (transaction) => {
        const row = await lenses.findOne({ where: { projectId: project, id }, transaction, lock: transaction.LOCK.UPDATE });
        if (!row) return undefined;
        const next = change(lensFrom(row.get()));
        await row.update({ name: next.name, rules: next.rules, through: next.through }, { transaction });
        return next;
      }),
    removeLens: async (project, id) => (await lenses.destroy({ where: { projectId: project, id } })) > 0,
    editions: async (project) => (await editions.findAll({ where: { projectId: project }, order: [['name', 'ASC']] })).map((row) => editionOf(row.get())),
    async edition(project, id) {
      const row = await editionRow(project, id);
      return row && editionOf(row);
    },
    async createEdition(project, input) {
      const row = await editions.create({ id: randomUUID(), projectId: project, ...input });
      return editionOf(row.get());
    },
    async updateEdition(project, id, input) {
      await editions.update({ ...input }, { where: { projectId: project, id } });
      return store.edition(project, id);
    },
    removeEdition: async (project, id) => (await editions.destroy({ where: { projectId: project, id } })) > 0,
    async impressions(project) {
      const rows = await impressions.findAll({ where: { projectId: project }, order: [['createdAt', 'DESC']], limit: 200 });
      const byId = new Map((await editions.findAll({ where: { projectId: project } })).map((row) => [row.get().id, row.get()]));
      return rows.flatMap((row) => {
        const edition = byId.get(row.get().edition);
        return edition ? [impressionOf(row.get(), edition)] : [];
      });
    },
    async impression(project, id) {
      const row = (await impressions.findOne({ where: { projectId: project, id } }))?.get();
      const edition = row && (await editionRow(project, row.edition));
      return row && edition && impressionOf(row, edition);
    },
    inputsOf: async (project, id) => (await impressions.findOne({ where: { projectId: project, id } }))?.get().inputs ?? {},
    async createImpression(project, edition, person) {
      const id = randomUUID();
      await sequelize.transaction(async (transaction) => {
        // One at a time for each edition, so that numbers have no gaps and no doubles.
        await editions.findOne({ where: { id: edition }, transaction, lock: transaction.LOCK.UPDATE });
        const last = Number((await impressions.max('number', { where: { edition }, transaction })) ?? 0);
        await impressions.create(
          { id, projectId: project, edition, number: last + 1, state: 'queued', progress: waiting, problems: [], figures: noFigures, inputs: {}, person, createdAt: new Date() },
          { transaction },
        );
      });
      const made = await store.impression(project, id);
      if (!made) throw new Error('The impression that was just made is not there');
      return made;
    },
    impressionRow: async (id) => (await impressions.findOne({ where: { id } }))?.get() ?? null,
    updateImpression: async (id, change) => void (await impressions.update(change, { where: { id } })),
    async endImpression(id, change) {
      const [count] = await impressions.update({ finishedAt: new Date(), ...change }, { where: { id, state: { [Op.in]: ['queued', 'running'] } } });
      return count > 0;
    },
    async markInterrupted(olderThan) {
      const rows = await sequelize.query<{ id: string }>(`UPDATE impressions SET state = 'interrupted', finished_at = now() WHERE state = 'running' AND heartbeat_at < :olderThan RETURNING id`, {
        replacements: { olderThan },
        type: QueryTypes.SELECT,
      });
      return rows.map(({ id }) => id);
    },
  };
  return store;
}
