import type { Revision } from '@ukiyo/contracts';
import { Op, QueryTypes } from 'sequelize';
import type { Database } from './database.ts';
import type { ItemRow } from './models.ts';

/** A text as a library takes it. */
export type LibraryText = Pick<ItemRow, 'id' | 'kind' | 'folder' | 'name' | 'text' | 'version'>;

/** What topics and maps were before. */
export interface RevisionStore {
  revisions(project: string, id: string): Promise<Revision[]>;
  /** Names revisions that have no name yet; each item at one version. */
  nameRevisions(
    project: string,
    versions: Readonly<Record<string, number>>,
    note: string,
  ): Promise<void>;
  /** Texts as they were at the version of each; those whose item is gone are left out. */
  textsAt(project: string, versions: Readonly<Record<string, number>>): Promise<LibraryText[]>;
  revisionText(project: string, id: string, version: number): Promise<string | undefined>;
}

/** So many of the latest revisions are listed. */
const mostListed = 500;

export function revisionStore({
  sequelize,
  models: { revisions },
}: Pick<Database, 'sequelize' | 'models'>): RevisionStore {
  return {
    async revisions(project, id) {
      const rows = await revisions.findAll({
        where: { projectId: project, itemId: id },
        order: [['version', 'DESC']],
        limit: mostListed,
        attributes: ['version', 'note', 'author', 'createdAt', 'hash'],
      });
      return rows.map((row) => {
        const { version, note, author, createdAt, hash } = row.get();
        return { version, note, author, createdAt: createdAt.toISOString(), hash };
      });
    },
    async nameRevisions(project, versions, note) {
      const named = Object.entries(versions).map(([itemId, version]) => ({ itemId, version }));
      if (named.length > 0)
        await revisions.update(
          { note },
          { where: { projectId: project, note: '', [Op.or]: named } },
        );
    },
    async textsAt(project, versions) {
      const ids = Object.keys(versions);
      if (ids.length === 0) return [];
      return sequelize.query<LibraryText>(
        `SELECT r.item_id AS id, i.kind, i.folder, i.name, r.version, r.text FROM revisions r
          JOIN items i ON i.project_id = r.project_id AND i.id = r.item_id
         WHERE r.project_id = :project AND r.item_id IN (:ids)
           AND r.version = (:versions::jsonb ->> r.item_id)::integer`,
        {
          replacements: { project, ids, versions: JSON.stringify(versions) },
          type: QueryTypes.SELECT,
        },
      );
    },
    async revisionText(project, id, version) {
      const row = await revisions.findOne({ where: { projectId: project, itemId: id, version } });
      return row?.get().text;
    },
  };
}
