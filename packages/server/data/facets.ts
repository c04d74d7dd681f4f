import type { Facet, FacetList, ItemSummary, ValueUse } from '@ukiyo/contracts';
import { QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { summaryColumns, summaryOf } from './listing.ts';

/** The facets of a project, and where their values are set. */
export interface FacetStore {
  read(project: string, transaction?: Transaction): Promise<FacetList>;
  /** Adds facets after those that are there. */
  add(project: string, added: readonly Facet[], transaction: Transaction): Promise<void>;
  /** Undefined when another version was saved since. */
  save(project: string, list: FacetList): Promise<FacetList | undefined>;
  /** The same within a transaction that holds the project's row. */
  put(project: string, list: FacetList, transaction: Transaction): Promise<FacetList>;
  /** Holds the project's row, so that one change comes after the other. */
  hold(project: string, transaction: Transaction): Promise<void>;
  /** Every value that is set somewhere. */
  uses(project: string): Promise<ValueUse[]>;
  /** The topics and maps in which a value is set. */
  usedIn(project: string, facet: string, value: string): Promise<ItemSummary[]>;
}

const rowsOf = (project: string, list: readonly Facet[], first: number) =>
  list.map(({ name, label, values }, at) => ({
    projectId: project,
    name,
    label,
    valueList: values,
    position: first + at,
  }));

export function facetStore({ sequelize, models }: Database): FacetStore {
  const { facets, facetUses, items, projects } = models;
  const store: FacetStore = {
    async read(project, transaction) {
      const within = transaction ? { transaction } : {};
      const rows = await facets.findAll({
        where: { projectId: project },
        order: [['position', 'ASC']],
        ...within,
      });
      const owner = await projects.findOne({
        where: { id: project },
        attributes: ['facetsVersion'],
        ...within,
      });
      return {
        version: owner?.get().facetsVersion ?? 0,
        facets: rows.map((row) => ({
          name: row.get().name,
          label: row.get().label,
          values: [...row.get().valueList],
        })),
      };
    },
    async add(project, added, transaction) {
      const first = await facets.count({ where: { projectId: project }, transaction });
      await facets.bulkCreate(rowsOf(project, added, first), { transaction });
    },
    save: (project, list) =>
      sequelize.transaction(async (transaction) => {
        await store.hold(project, transaction);
        return (await store.read(project, transaction)).version === list.version
          ? store.put(project, list, transaction)
          : undefined;
      }),
    async put(project, list, transaction) {
      await facets.destroy({ where: { projectId: project }, transaction });
      await facets.bulkCreate(rowsOf(project, list.facets, 0), { transaction });
      await projects.update(
        { facetsVersion: list.version + 1 },
        { where: { id: project }, transaction },
      );
      return { ...list, version: list.version + 1 };
    },
    hold: async (project, transaction) =>
      void (await projects.findOne({
        where: { id: project },
        transaction,
        lock: transaction.LOCK.UPDATE,
      })),
    uses: (project) =>
      sequelize.query<ValueUse>(
        'SELECT facet, value, sum(count)::int AS count, count(*)::int AS items FROM ' +
          'facet_uses WHERE project_id = :project GROUP BY facet, value ORDER BY facet, value',
        {
          replacements: { project },
          type: QueryTypes.SELECT,
        },
      ),
    async usedIn(project, facet, value) {
      const ids = (
        await facetUses.findAll({
          where: { projectId: project, facet, value },
          attributes: ['itemId'],
        })
      ).map((row) => row.get().itemId);
      const rows = await items.findAll({
        where: { projectId: project, id: ids },
        attributes: [...summaryColumns],
        order: [['title', 'ASC']],
      });
      return rows.map((row) => summaryOf(row.get()));
    },
  };
  return store;
}
