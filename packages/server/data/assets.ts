import type { AssetQuery, ListedAsset } from '@ukiyo/contracts';
import { Op, UniqueConstraintError, type Transaction, type WhereOptions } from 'sequelize';
import type { Database } from './database.ts';
import type { AssetRow } from './models.ts';
import { notify } from './notifying.ts';
import { contains, typedWords } from './patterns.ts';

interface NewAsset {
  readonly id: string;
  readonly folder: string;
  readonly name: string;
  readonly mediaType: string;
  /** SHA-256 under which the bytes are stored. */
  readonly hash: string;
  /** In bytes. */
  readonly size: number;
  readonly width?: number;
  readonly height?: number;
  readonly alternateOf?: string;
  readonly conditions?: Readonly<Record<string, string>>;
}

export interface AssetStore {
  /** One page of the images that a query matches, by name. */
  list(project: string, query: AssetQuery): Promise<{ total: number; assets: ListedAsset[] }>;
  /** Those of the images that exist, by name. */
  summaries(project: string, ids: readonly string[]): Promise<ListedAsset[]>;
  /** All of them, for a build. */
  rows(project: string): Promise<AssetRow[]>;
  find(project: string, id: string): Promise<AssetRow | undefined>;
  /** Makes it stand in for another one, or for itself alone; false when it is not there. */
  standIn(
    project: string,
    id: string,
    of: string | null,
    conditions: Record<string, string>,
  ): Promise<boolean>;
  /** False when there is none. The file stays: what was built with it can be built again. */
  remove(project: string, id: string): Promise<boolean>;
  /** False when the id or the path is taken. */
  create(project: string, asset: NewAsset, within?: Transaction): Promise<boolean>;
}

/** What lists show of an image. */
const summaryOf = ({
  projectId: _project,
  hash: _hash,
  ...summary
}: AssetRow): Omit<ListedAsset, 'alternates'> => summary;

/** What the images of a query fulfil. */
const filters = ({ name, media, alternates }: AssetQuery): WhereOptions[] => [
  ...(media === undefined
    ? []
    : [{ mediaType: { [media === 'image' ? Op.like : Op.notLike]: 'image/%' } }]),
  ...(alternates ? [] : [{ alternateOf: null }]),
  ...typedWords(name).map((word) => ({
    [Op.or]: [{ name: contains(word) }, { id: contains(word) }],
  })),
];

export function assetStore({ sequelize, models }: Database): AssetStore {
  const byName: [string, string][] = [
    ['name', 'ASC'],
    ['id', 'ASC'],
  ];
  const told = (project: string, within?: Transaction): Promise<void> =>
    notify(sequelize, project, [{ kind: 'assets' }], within);

  async function withAlternates(project: string, rows: AssetRow[]): Promise<ListedAsset[]> {
    const where = { projectId: project, alternateOf: rows.map(({ id }) => id) };
    const found = await models.assets.findAll({ where, order: byName });
    const alternates = new Map<string | null, ListedAsset['alternates']>();
    for (const row of found) {
      const { id, name, conditions, alternateOf: base } = row.get();
      alternates.set(base, [...(alternates.get(base) ?? []), { id, name, conditions }]);
    }
    return rows.map((row) => ({ ...summaryOf(row), alternates: alternates.get(row.id) ?? [] }));
  }
  return {
    async list(project, query) {
      const { rows, count } = await models.assets.findAndCountAll({
        where: { projectId: project, [Op.and]: filters(query) },
        order: byName,
        offset: query.offset,
        limit: query.limit,
      });
      const found = rows.map((row) => row.get());
      return { total: count, assets: await withAlternates(project, found) };
    },
    async summaries(project, ids) {
      const where = { projectId: project, id: [...ids] };
      const rows = await models.assets.findAll({ where, order: byName });
      return withAlternates(
        project,
        rows.map((row) => row.get()),
      );
    },
    rows: async (project) =>
      (await models.assets.findAll({ where: { projectId: project }, order: byName })).map((row) =>
        row.get(),
      ),
    find: async (project, id) =>
      (await models.assets.findOne({ where: { projectId: project, id } }))?.get(),
    async standIn(project, id, of, conditions) {
      const [count] = await models.assets.update(
        { alternateOf: of, conditions: of === null ? {} : conditions },
        { where: { projectId: project, id } },
      );
      if (count > 0) await told(project);
      return count > 0;
    },
    async remove(project, id) {
      const count = await models.assets.destroy({ where: { projectId: project, id } });
      if (count > 0) await told(project);
      return count > 0;
    },
    async create(project, asset, within) {
      try {
        const { alternateOf = null, conditions = {}, width = null, height = null } = asset;
        await models.assets.create(
          {
            projectId: project,
            ...asset,
            width,
            height,
            alternateOf,
            conditions: { ...conditions },
          },
          within ? { transaction: within } : {},
        );
      } catch (error) {
        if (error instanceof UniqueConstraintError) return false;
        throw error;
      }
      await told(project, within);
      return true;
    },
  };
}
