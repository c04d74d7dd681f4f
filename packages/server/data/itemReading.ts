import type { Item } from '@ukiyo/contracts';
import { packagePath } from '@ukiyo/press';
import { QueryTypes } from 'sequelize';
import type { Database } from './database.ts';
import { summaryOf } from './listing.ts';
import type { LibraryText } from './revisions.ts';

export interface ItemReading {
  find(project: string, id: string): Promise<Item | undefined>;
  /** Characters of a text; 0 where there is none. */
  lengthOf(project: string, id: string): Promise<number>;
  /** Undefined when there is no such item. */
  folderOf(project: string, id: string): Promise<string | undefined>;
  /** Ids by where they stand. */
  paths(project: string): Promise<Map<string, string>>;
  /** Ids of everything in the library, images included. */
  ids(project: string): Promise<Set<string>>;
  texts(project: string): Promise<LibraryText[]>;
}

export function itemReading({ sequelize, models: { items } }: Database): ItemReading {
  return {
    async find(project, id) {
      const row = (await items.findOne({ where: { projectId: project, id } }))?.get();
      return row && { ...summaryOf(row), text: row.text };
    },
    async lengthOf(project, id) {
      const [found] = await sequelize.query<{ length: number }>(
        'SELECT length(text) AS length FROM items WHERE project_id = :project AND id = :id',
        { replacements: { project, id }, type: QueryTypes.SELECT },
      );
      return found?.length ?? 0;
    },
    async folderOf(project, id) {
      const row = await items.findOne({
        where: { projectId: project, id },
        attributes: ['folder'],
      });
      return row?.get().folder;
    },
    async paths(project) {
      const rows = await items.findAll({
        where: { projectId: project },
        attributes: ['id', 'folder', 'name'],
      });
      return new Map(rows.map((row) => [packagePath(row.get()), row.get().id]));
    },
    async ids(project) {
      const rows = await sequelize.query<{ id: string }>(
        'SELECT id FROM items WHERE project_id = :project UNION SELECT id FROM assets WHERE ' +
          'project_id = :project',
        { replacements: { project }, type: QueryTypes.SELECT },
      );
      return new Set(rows.map(({ id }) => id));
    },
    async texts(project) {
      const rows = await items.findAll({
        where: { projectId: project },
        attributes: ['id', 'kind', 'folder', 'name', 'text', 'version'],
        order: [['id', 'ASC']],
      });
      return rows.map((row) => row.get());
    },
  };
}
