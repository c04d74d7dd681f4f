import type { Asset } from '@ukiyo/contracts';
import { UniqueConstraintError, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { AssetRow } from './models.ts';

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
  list(project: string): Promise<Asset[]>;
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

const shown = ({
  id,
  folder,
  name,
  mediaType,
  size,
  width,
  height,
  alternateOf,
  conditions,
}: AssetRow): Asset => ({
  id,
  folder,
  name,
  mediaType,
  size,
  width,
  height,
  alternateOf,
  conditions,
});

export function assetStore({ models }: Database): AssetStore {
  const rows = async (project: string): Promise<AssetRow[]> =>
    (await models.assets.findAll({ where: { projectId: project }, order: [['name', 'ASC']] })).map(
      (row) => row.get(),
    );
  return {
    rows,
    list: async (project) => (await rows(project)).map(shown),
    find: async (project, id) =>
      (await models.assets.findOne({ where: { projectId: project, id } }))?.get(),
    standIn: async (project, id, of, conditions) =>
      (
        await models.assets.update(
          { alternateOf: of, conditions: of === null ? {} : conditions },
          { where: { projectId: project, id } },
        )
      )[0] > 0,
    remove: async (project, id) =>
      (await models.assets.destroy({ where: { projectId: project, id } })) > 0,
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
      return true;
    },
  };
}
