import type { FolderCount, ItemQuery, ItemSummary, ListedItem } from '@ukiyo/contracts';
import { literal, Op, QueryTypes, type Model, type Sequelize, type WhereOptions } from 'sequelize';
import type { Database } from './database.ts';
import type { ItemRow } from './models.ts';
import { contains, likePattern, typedWords } from './patterns.ts';

/** The attributes by which all of an item varies. */
type Conditions = ItemRow['conditions'];

/** Lists of topics and maps, without their texts. */
export interface ItemListing {
  /**
   * One page of the items that a query matches.
   * @param dropped conditions of items that are left out
   */
  list(
    project: string,
    query: ItemQuery,
    dropped?: readonly Conditions[],
  ): Promise<{ total: number; items: ListedItem[] }>;
  /** Those of the items that exist, in any order. */
  summaries(project: string, ids: readonly string[]): Promise<ListedItem[]>;
  /** Each set of conditions by which an item varies as a whole, once. */
  conditions(project: string): Promise<Conditions[]>;
  folders(project: string): Promise<FolderCount[]>;
  /** The topics that are no alternates of others, by title. */
  topicTitles(project: string): Promise<{ id: string; title: string }[]>;
}

export const summaryColumns = [
  'id',
  'kind',
  'type',
  'folder',
  'name',
  'title',
  'shortDescription',
  'version',
  'wordCount',
  'problems',
  'conditions',
  'facts',
  'alternateOf',
  'updatedAt',
  'updatedBy',
];

/** What lists show of an item: all of its row but the texts. */
export function summaryOf(row: ItemRow): ItemSummary {
  const { projectId: _project, text: _text, searchText: _words, updatedAt, ...summary } = row;
  return { ...summary, updatedAt: updatedAt.toISOString() };
}

/** How many topics are alternates of an item; as a column of a query of `items`. */
const alternateCount =
  '(SELECT count(*)::int FROM items AS alternate WHERE alternate.project_id = ' +
  'items.project_id AND alternate.alternate_of = items.id)';

const listedColumns = [
  ...summaryColumns,
  [literal(alternateCount), 'alternates'] as [ReturnType<typeof literal>, string],
];
const listed = (row: Model<ItemRow, Partial<ItemRow>>): ListedItem => ({
  ...summaryOf(row.get()),
  alternates: Number(row.get('alternates' as keyof ItemRow)),
});

/** What the items of a query fulfil. */
function filters(
  sequelize: Sequelize,
  query: ItemQuery,
  dropped: readonly Conditions[],
): WhereOptions[] {
  const named = (part: string): WhereOptions[] => [
    { title: contains(part) },
    { id: contains(part) },
  ];
  const { kind, type, folder, alternatesOf: base, search } = query;
  return [
    ...(kind === undefined ? [] : [{ kind }]),
    ...(type === undefined ? [] : [{ type }]),
    ...(folder === undefined
      ? []
      : [{ folder: { [Op.or]: [folder, { [Op.like]: `${likePattern(folder)}/%` }] } }]),
    ...(base === undefined ? [] : [{ alternateOf: base }]),
    ...(query.alternates ? [] : [{ alternateOf: null }]),
    ...typedWords(query.title).map((word) => ({
      [Op.or]: [...named(word), { shortDescription: contains(word) }],
    })),
    ...(search === ''
      ? []
      : [
          {
            [Op.or]: [
              ...named(search),
              sequelize.literal(
                `search_vector @@ websearch_to_tsquery('simple', ${sequelize.escape(search)})`,
              ),
            ],
          },
        ]),
    ...(dropped.length === 0
      ? []
      : [
          sequelize.literal(
            `NOT conditions IN (${dropped
              .map((one) => `${sequelize.escape(JSON.stringify(one))}::jsonb`)
              .join()})`,
          ),
        ]),
  ] as WhereOptions[];
}

/** How close a title is to what is looked for: 0 begins with it, 1 has it, 2 does not. */
function closeness(sequelize: Sequelize, title: string): ReturnType<typeof literal> {
  const escaped = (pattern: string): string => sequelize.escape(pattern);
  const part = likePattern(title);
  return literal(
    `CASE WHEN title ILIKE ${escaped(`${part}%`)} THEN 0 ` +
      `WHEN title ILIKE ${escaped(`%${part}%`)} THEN 1 ELSE 2 END`,
  );
}

export function itemListing({ sequelize, models: { items } }: Database): ItemListing {
  return {
    async list(project, query, dropped = []) {
      const { rows, count } = await items.findAndCountAll({
        where: { projectId: project, [Op.and]: filters(sequelize, query, dropped) },
        attributes: listedColumns,
        order: [
          ...(query.title === '' ? [] : [closeness(sequelize, query.title)]),
          [sequelize.fn('lower', sequelize.col('title')), 'ASC'],
          ['id', 'ASC'],
        ],
        offset: query.offset,
        limit: query.limit,
      });
      return { total: count, items: rows.map(listed) };
    },
    async summaries(project, ids) {
      const rows = await items.findAll({
        where: { projectId: project, id: [...ids] },
        attributes: listedColumns,
      });
      return rows.map(listed);
    },
    conditions: async (project) =>
      (
        await sequelize.query<{ conditions: Conditions }>(
          'SELECT DISTINCT conditions FROM items WHERE project_id = :project',
          { replacements: { project }, type: QueryTypes.SELECT },
        )
      ).map(({ conditions }) => conditions),
    topicTitles: (project) =>
      sequelize.query<{ id: string; title: string }>(
        "SELECT id, title FROM items WHERE project_id = :project AND kind = 'topic' " +
          'AND alternate_of IS NULL ORDER BY lower(title), id',
        { replacements: { project }, type: QueryTypes.SELECT },
      ),
    async folders(project) {
      return sequelize.query<FolderCount>(
        'SELECT folder, count(*)::int AS count, array_agg(DISTINCT type) AS types FROM items ' +
          'WHERE project_id = :project GROUP BY folder ORDER BY folder',
        {
          replacements: { project },
          type: QueryTypes.SELECT,
        },
      );
    },
  };
}
