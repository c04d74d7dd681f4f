import type { ItemSummary, Reach, ReachOf, UseIn } from '@ukiyo/contracts';
import { alternateOf, elementOf, replaceUses } from '@ukiyo/core/library';
import { readXml } from '@ukiyo/core/markup';
import { Op, QueryTypes, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { hashOf, summaryColumns, summaryOf, type ItemStore } from './items.ts';
import type { ItemRow } from './models.ts';
import { retryOnConflict, type Rewritten, type TextRewriting } from './rewriting.ts';

/** Where things are used, and what a change of them touches. */
export interface UseStore {
  /**
   * Who uses it, which maps show it in the end, through borrowing and sub-maps, and which editions
   * are made of these.
   */
  reach(project: string, of: ReachOf): Promise<Reach>;
  /**
   * Takes a topic or map out, with another one in its place wherever it is used; undefined when
   * either is not there, or one is a map and the other not.
   */
  replace(project: string, id: string, by: string, author: string): Promise<Rewritten | undefined>;
  /**
   * A topic goes on as one that stands in for another for some readers; the other one takes its
   * place wherever it is used.
   * @returns undefined when either is not there, or is or has an alternate where that cannot be
   */
  standIn(
    project: string,
    id: string,
    of: string,
    conditions: Record<string, string>,
    author: string,
  ): Promise<Rewritten | undefined>;
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

export function useStore(
  { sequelize, models }: Database,
  items: ItemStore,
  rewrite: TextRewriting,
): UseStore {
  const mannersOf = (of: ReachOf['of']) =>
    of === 'key' ? ['key', 'defined'] : ['placed', 'borrowed', 'linked', 'shown', 'alternate'];
  async function sourcesOf(
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
  /** The first of them by title, with how many there are. */
  async function usesOf(
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
  async function basesOf(project: string, id: string): Promise<string[]> {
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
  async function lastBuilt(project: string, id: string): Promise<Map<string, Built>> {
    const rows = await sequelize.query<Built & { edition: string }>(
      `SELECT DISTINCT ON (edition) edition, number, (inputs->>:id)::int AS version FROM impressions
       WHERE project_id = :project AND state = 'done' AND jsonb_exists(inputs, :id)
         ORDER BY edition, number DESC`,
      { replacements: { project, id }, type: QueryTypes.SELECT },
    );
    return new Map(rows.map(({ edition, number, version }) => [edition, { number, version }]));
  }
  /** From what is changed upward: whatever shows it, directly or through others. */
  async function mapsThatShow(project: string, first: readonly string[]): Promise<Reach['maps']> {
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
  /**
   * Puts one item in the place of another wherever that is used; undefined when either is not
   * there, or one is a map and the other not.
   */
  async function putInPlace(
    project: string,
    id: string,
    by: string,
    author: string,
    transaction: Transaction,
  ): Promise<Rewritten | undefined> {
    const rows = (
      await models.items.findAll({ where: { projectId: project, id: [id, by] }, transaction })
    ).map((row): ItemRow => row.get());
    const own = rows.find((row) => row.id === id);
    const other = rows.find((row) => row.id === by);
    const root = other && readXml(other.text).document?.root;
    if (!own || !root || own === other || own.kind !== other.kind) return undefined;
    const sources = (
      await models.itemUses.findAll({
        where: { projectId: project, target: id, manner: mannersOf('item') },
        attributes: ['sourceId'],
        transaction,
      })
    ).map((row) => row.get().sourceId);
    const hasPart = (part: string): boolean => elementOf(root, part) !== undefined;
    const users = sources.filter((source) => source !== by && source !== id);
    return rewrite(
      project,
      users,
      (text, self) => replaceUses(text, self, { from: id, to: by, hasPart }),
      author,
      transaction,
    );
  }
  const store: UseStore = {
    async reach(project, of) {
      const { uses, total } = await usesOf(project, of);
      const maps = await mapsThatShow(
        project,
        of.of === 'key'
          ? await sourcesOf(project, of)
          : [of.id, ...(await basesOf(project, of.id))],
      );
      const editions = await models.editions.findAll({
        where: { projectId: project, map: { [Op.in]: maps.map(({ id }) => id) } },
        order: [['name', 'ASC']],
      });
      const built = of.of === 'key' ? new Map<string, Built>() : await lastBuilt(project, of.id);
      return {
        uses,
        total,
        maps,
        editions: editions.map((row) => ({
          id: row.get().id,
          name: row.get().name,
          lens: row.get().lens,
          built: built.get(row.get().id) ?? null,
        })),
      };
    },
    replace: (project, id, by, author) =>
      retryOnConflict(() =>
        sequelize.transaction(async (transaction) => {
          const changed = await putInPlace(project, id, by, author, transaction);
          if (!changed) return undefined;
          await models.editions.update(
            { map: by },
            { where: { projectId: project, map: id }, transaction },
          );
          await items.remove(project, id, transaction);
          return changed;
        }),
      ),
    standIn: (project, id, of, conditions, author) =>
      retryOnConflict(() =>
        sequelize.transaction(async (transaction) => {
          const standing = { projectId: project, kind: 'topic', alternateOf: null };
          const isFree =
            (await models.items.count({ where: { ...standing, id: [id, of] }, transaction })) === 2;
          const hasAlternates =
            (await models.items.count({
              where: { projectId: project, alternateOf: id },
              transaction,
            })) > 0;
          const changed =
            isFree && !hasAlternates
              ? await putInPlace(project, id, of, author, transaction)
              : undefined;
          if (!changed) return undefined;
          const { text } = (await models.items.findOne({
            where: { projectId: project, id: of },
            transaction,
          }))!.get();
          return {
            ...changed,
            ...(await rewrite(
              project,
              [id],
              (root) => alternateOf(root, { base: of, id, conditions, fingerprint: hashOf(text) }),
              author,
              transaction,
            )),
          };
        }),
      ),
  };
  return store;
}
