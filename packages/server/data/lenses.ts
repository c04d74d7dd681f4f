import type { Lens } from '@ukiyo/contracts';
import type { Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { LensRow } from './models.ts';

export interface LensStore {
  lenses(project: string): Promise<Lens[]>;
  saveLens(project: string, lens: Lens, transaction?: Transaction): Promise<void>;
  /**
   * Changes a lens as it is stored now, so that no change is lost; undefined when there is none.
   */
  changeLens(project: string, id: string, change: (lens: Lens) => Lens): Promise<Lens | undefined>;
  removeLens(project: string, id: string): Promise<boolean>;
}

const lensFrom = ({ id, name, rules, clash, through }: LensRow): Lens => ({
  id,
  name,
  rules,
  ...(clash ? { clash } : {}),
  through,
});

export function lensStore({ sequelize, models: { lenses } }: Database): LensStore {
  return {
    lenses: async (project) =>
      (await lenses.findAll({ where: { projectId: project }, order: [['name', 'ASC']] })).map(
        (row) => lensFrom(row.get()),
      ),
    saveLens: async (project, lens, transaction) =>
      void (await lenses.upsert(
        { projectId: project, ...lens, clash: lens.clash ?? null },
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
  };
}
