import { randomUUID } from 'node:crypto';
import type { Edition, EditionInput } from '@ukiyo/contracts';
import { Op, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { impressionStore, type ImpressionStore } from './impressions.ts';
import { lensStore, type LensStore } from './lenses.ts';
import type { EditionRow } from './models.ts';

/** Lenses, editions and their impressions. */
export interface EditionStore extends LensStore, ImpressionStore {
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
}

/** When it was last this time of the day, by the clock of the server. */
function lastTime(time: string, now: Date): Date {
  const [hours, minutes] = time.split(':').map(Number) as [number, number];
  const today = new Date(now.getFullYear(), now.getMonth(), now.getDate(), hours, minutes);
  return today <= now
    ? today
    : new Date(now.getFullYear(), now.getMonth(), now.getDate() - 1, hours, minutes);
}
const editionOf = ({ projectId: _project, clockAt: _clock, ...edition }: EditionRow): Edition =>
  edition;

export function editionStore(database: Database): EditionStore {
  const { sequelize, models } = database;
  const { editions } = models;
  async function find(project: string, id: string): Promise<Edition | undefined> {
    const row = await editions.findOne({ where: { projectId: project, id } });
    return row ? editionOf(row.get()) : undefined;
  }
  return {
    ...lensStore(database),
    ...impressionStore(database),
    edition: find,
    async editions(project, transaction) {
      const rows = await editions.findAll({
        where: { projectId: project },
        order: [['name', 'ASC']],
        ...(transaction ? { transaction } : {}),
      });
      return rows.map((row) => editionOf(row.get()));
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
      return find(project, id);
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
  };
}
