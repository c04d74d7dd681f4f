import type { ItemSummary, Reach, ReachOf, UseIn } from '@ukiyo/contracts';
import type { UseManner } from '@ukiyo/core/library';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { summaryColumns, summaryOf } from './listing.ts';

/** Where things are used, and what a change of them touches. */
export interface UseStore {
  /**
   * Who uses it, which maps show it in the end, through borrowing and sub-maps, and which editions
   * are made of these.
   */
  reach(project: string, of: ReachOf): Promise<Reach>;
}

/** In these manners what a target says becomes part of what its user says. */
const carrying = ['placed', 'borrowed', 'shown'];

/** So many are told one by one; of what is used more often it is enough to know how often. */
const mostListed = 500;
const quoted = (name: string): string =>
  name.replace(/[A-Z]/gu, (letter) => `_${letter.toLowerCase()}`);

interface Built {
  readonly number: number;
  readonly version: number;
}

/** The manners in which something of a kind is used. */
const mannersOf = (of: ReachOf['of']): UseManner[] =>
  of === 'key' ? ['key', 'defined'] : ['placed', 'borrowed', 'linked', 'shown', 'alternate'];

/** The IDs of the topics and maps that use it. */
export async function usersOf(
  { models }: Database,
  project: string,
  { of, id }: ReachOf,
  transaction?: Transaction,
): Promise<string[]> {
  const rows = await models.itemUses.findAll({
    where: { projectId: project, target: id, manner: mannersOf(of) },
    attributes: ['sourceId'],
    group: ['sourceId'],
    ...(transaction ? { transaction } : {}),
  });
  return rows.map((row) => row.get().sourceId);
}

/** The first uses by title, with how many there are. */
async function usesOf(
  { sequelize }: Database,
  project: string,
  { of, id }: ReachOf,
): Promise<Pick<Reach, 'uses' | 'total'>> {
  type Row = Omit<UseIn, 'item'> &
    Omit<ItemSummary, 'updatedAt'> & { updatedAt: Date; total: number };
  const columns = summaryColumns.map((name) => `item.${quoted(name)} AS "${name}"`).join(', ');
  const rows = await sequelize.query<Row>(
    `WITH found AS MATERIALIZED (SELECT source_id, manner, part, count FROM item_uses
      WHERE project_id = :project AND target = :id AND manner IN (:manners))
     SELECT found.manner, found.part, found.count, count(*) OVER ()::int AS total,
       ${columns}
     FROM found JOIN items item ON item.project_id = :project AND item.id = found.source_id
     ORDER BY lower(item.title), item.id, found.part LIMIT :most`,
    {
      replacements: { project, id, manners: mannersOf(of), most: mostListed },
      type: QueryTypes.SELECT,
    },
  );
  return {
    total: rows[0]?.total ?? 0,
    uses: rows.map(({ manner, part, count, total: _total, updatedAt, ...item }) => ({
      manner,
      part,
      count,
      item: { ...item, updatedAt: updatedAt.toISOString() },
    })),
  };
}

/** What it stands in for is shown as it is. */
async function basesOf({ models }: Database, project: string, id: string): Promise<string[]> {
  const where = { projectId: project, id, alternateOf: { [Op.ne]: null } };
  const rows = [
    await models.items.findOne({ where, attributes: ['alternateOf'] }),
    await models.assets.findOne({ where, attributes: ['alternateOf'] }),
  ];
  return rows.flatMap((row) => row?.get().alternateOf ?? []);
}

/**
 * For each edition the last impression that is done, with the version of an item that went into
 * it.
 */
async function lastBuilt(
  { sequelize }: Database,
  project: string,
  id: string,
): Promise<Map<string, Built>> {
  const rows = await sequelize.query<Built & { edition: string }>(
    `SELECT DISTINCT ON (edition) edition, number, (inputs->>:id)::int AS version FROM impressions
     WHERE project_id = :project AND state = 'done' AND jsonb_exists(inputs, :id)
       ORDER BY edition, number DESC`,
    { replacements: { project, id }, type: QueryTypes.SELECT },
  );
  return new Map(rows.map(({ edition, number, version }) => [edition, { number, version }]));
}

/** From what is changed upward: whatever shows it, directly or through others. */
async function mapsThatShow(
  { sequelize, models }: Database,
  project: string,
  first: readonly string[],
): Promise<Reach['maps']> {
  if (first.length === 0) return [];
  const reached = await sequelize.query<{ id: string }>(
    `WITH RECURSIVE reach (id) AS (
       SELECT unnest(ARRAY[:first]::text[])
       UNION SELECT uses.source_id FROM item_uses uses JOIN reach ON uses.target = reach.id
         WHERE uses.project_id = :project AND uses.manner IN (:carrying))
     SELECT id FROM reach`,
    { replacements: { project, first, carrying }, type: QueryTypes.SELECT },
  );
  const rows = await models.items.findAll({
    where: { projectId: project, kind: 'map', id: reached.map(({ id }) => id) },
    attributes: summaryColumns,
    order: [['title', 'ASC']],
  });
  return rows.map((row) => summaryOf(row.get()));
}

export function useStore(database: Database): UseStore {
  return {
    async reach(project, of) {
      const { uses, total } = await usesOf(database, project, of);
      const isKey = of.of === 'key';
      const first = isKey
        ? await usersOf(database, project, of)
        : [of.id, ...(await basesOf(database, project, of.id))];
      const maps = await mapsThatShow(database, project, first);
      const editions = await database.models.editions.findAll({
        where: { projectId: project, map: { [Op.in]: maps.map(({ id }) => id) } },
        order: [['name', 'ASC']],
      });
      const built = isKey ? new Map<string, Built>() : await lastBuilt(database, project, of.id);
      return {
        uses,
        total,
        maps,
        editions: editions.map((row) => {
          const { id, name, lens } = row.get();
          return { id, name, lens, built: built.get(id) ?? null };
        }),
      };
    },
  };
}
