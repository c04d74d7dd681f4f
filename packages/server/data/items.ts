import { createHash } from 'node:crypto';
import type { FolderCount, Item, ItemQuery, ItemSummary, Revision } from '@ukiyo/contracts';
import { conditionsOf, valuesUsed } from '@ukiyo/core/facets';
import {
  baseOf,
  checkItem,
  ownFacts,
  usesIn,
  type Agreed,
  type Derived,
} from '@ukiyo/core/library';
import { readXml } from '@ukiyo/core/markup';
import { countProblems } from '@ukiyo/core/problems';
import { packagePath } from '@ukiyo/press';
import {
  Op,
  QueryTypes,
  UniqueConstraintError,
  type Model,
  type Transaction,
  type WhereOptions,
} from 'sequelize';
import type { Database } from './database.ts';
import { isIndexable, listedTitle, searchedText } from './indexable.ts';
import type { ItemRow } from './models.ts';
import { itemEvents, notify } from './notifying.ts';
import type { PrepareText } from './preparing.ts';

/**
 * Reading and writing of topics and maps. What is derived from a text is written in the same
 * transaction as the text.
 */
export interface ItemStore {
  list(project: string, query: ItemQuery): Promise<{ total: number; items: ItemSummary[] }>;
  folders(project: string): Promise<FolderCount[]>;
  find(project: string, id: string): Promise<Item | undefined>;
  /** Characters of a text; 0 where there is none. */
  lengthOf(project: string, id: string): Promise<number>;
  /** Undefined when the id or the path is taken. */
  create(project: string, item: NewRow, author: string): Promise<Item | undefined>;
  /** Many at once, within a transaction that the caller ends; ids and paths must be free. */
  createAll(
    project: string,
    items: readonly NewRow[],
    author: string,
    transaction: Transaction,
  ): Promise<void>;
  /** Undefined when there is no such item. */
  folderOf(project: string, id: string): Promise<string | undefined>;
  /** Ids by where they stand. */
  paths(project: string): Promise<Map<string, string>>;
  /**
   * `conflict` when `version` is not the stored one; `live` when the authority of live editing has
   * to make the change.
   */
  save(
    project: string,
    id: string,
    change: { text: string; version: number; note: string },
    author: string,
  ): Promise<{ saved: Item } | { conflict: Item } | { live: Item } | undefined>;
  /** Names revisions that have no name yet; each item at one version. */
  nameRevisions(
    project: string,
    versions: Readonly<Record<string, number>>,
    note: string,
  ): Promise<void>;
  /**
   * Writes a text within a transaction that holds the row; returns the version that now stands. A
   * text that is the same makes none, unless it has a note.
   */
  write(
    row: Model<ItemRow, Partial<ItemRow>>,
    change: { text: string; note: string },
    author: string,
    transaction: Transaction,
  ): Promise<number>;
  remove(project: string, id: string, transaction?: Transaction): Promise<boolean>;
  revisions(project: string, id: string): Promise<Revision[]>;
  /** Texts as they were at the version of each; those whose item is gone are left out. */
  textsAt(project: string, versions: Readonly<Record<string, number>>): Promise<LibraryText[]>;
  revisionText(project: string, id: string, version: number): Promise<string | undefined>;
  ids(project: string): Promise<Set<string>>;
  /**
   * Counts the problems, the facet values and the uses of every text anew, after something else was
   * agreed on.
   */
  recount(project: string): Promise<void>;
  texts(project: string): Promise<LibraryText[]>;
}

/** A text as a library takes it. */
export type LibraryText = Pick<ItemRow, 'id' | 'kind' | 'folder' | 'name' | 'text' | 'version'>;

interface NewRow {
  readonly id: string;
  readonly kind: 'topic' | 'map';
  readonly folder: string;
  readonly name: string;
  readonly text: string;
}

/**
 * Rows of one statement: enough to be quick, few enough to stay far from the limit of parameters,
 * and of memory.
 */
const mostRows = 200;
const mostCharacters = 8_000_000;

function* batches(rows: readonly NewRow[]): Generator<NewRow[]> {
  let part: NewRow[] = [];
  let characters = 0;
  for (const row of rows) {
    if (part.length === mostRows || (part.length > 0 && characters > mostCharacters)) {
      yield part;
      part = [];
      characters = 0;
    }
    part.push(row);
    characters += row.text.length;
  }
  if (part.length > 0) yield part;
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

export function summaryOf(row: ItemRow): ItemSummary {
  const {
    id,
    kind,
    type,
    folder,
    name,
    title,
    shortDescription,
    version,
    wordCount,
    problems,
    conditions,
    facts,
    alternateOf,
    updatedAt,
    updatedBy,
  } = row;
  return {
    id,
    kind,
    type,
    folder,
    name,
    title,
    shortDescription,
    version,
    wordCount,
    problems,
    conditions,
    facts,
    alternateOf,
    updatedAt: updatedAt.toISOString(),
    updatedBy,
  };
}

const indexedBase = (base: string | undefined): string | null =>
  base !== undefined && isIndexable(base) ? base : null;

export const hashOf = (content: string): string =>
  createHash('sha256').update(content).digest('hex');

/**
 * @param agreedIn what texts are checked against
 * @param prepare works out what is stored with a text
 */
export function itemStore(
  { sequelize, models }: Database,
  agreedIn: (project: string, transaction?: Transaction) => Promise<Agreed>,
  prepare: PrepareText,
): ItemStore {
  const { items, revisions, itemUses, facetUses, liveDocuments } = models;

  const writeDerived = async (
    project: string,
    id: string,
    text: string,
    derived: Derived,
    version: number,
    note: string,
    author: string,
    transaction: Transaction,
  ): Promise<void> => {
    await writeUses(project, id, derived, transaction);
    await revisions.create(
      {
        projectId: project,
        itemId: id,
        version,
        text,
        hash: hashOf(text),
        note,
        author,
        createdAt: new Date(),
      },
      { transaction },
    );
  };
  const facetRows = (project: string, itemId: string, values: Derived['facetValues']) =>
    values
      .filter(({ value, facet }) => isIndexable(value) && isIndexable(facet))
      .map((use) => ({ projectId: project, itemId, ...use }));
  const useRows = (project: string, sourceId: string, uses: Derived['uses']) =>
    uses
      .filter(({ target, part }) => isIndexable(target) && isIndexable(part))
      .map((use) => ({ projectId: project, sourceId, ...use }));
  const writeUses = async (
    project: string,
    id: string,
    { uses, facetValues }: Pick<Derived, 'uses' | 'facetValues'>,
    transaction: Transaction,
  ): Promise<void> => {
    await itemUses.destroy({ where: { projectId: project, sourceId: id }, transaction });
    await itemUses.bulkCreate(useRows(project, id, uses), { transaction });
    await facetUses.destroy({ where: { projectId: project, itemId: id }, transaction });
    await facetUses.bulkCreate(facetRows(project, id, facetValues), { transaction });
  };
  /**
   * The history of what was removed stays: an item that comes again under its id goes on from
   * there.
   */
  const versionsBefore = async (
    project: string,
    rows: readonly NewRow[],
    transaction: Transaction,
  ): Promise<Map<string, number>> => {
    const found = await sequelize.query<{ id: string; version: number }>(
      'SELECT item_id AS id, max(version) AS version FROM revisions WHERE project_id = ' +
        ':project AND item_id IN (:ids) GROUP BY item_id',
      {
        replacements: { project, ids: rows.map(({ id }) => id) },
        type: QueryTypes.SELECT,
        transaction,
      },
    );
    return new Map(found.map(({ id, version }) => [id, version]));
  };
  const columns = (derived: Derived) => ({
    type: derived.type,
    title: listedTitle(derived.title),
    shortDescription: derived.shortDescription,
    searchText: searchedText(derived.text),
    wordCount: derived.wordCount,
    problems: derived.problems,
    conditions: { ...derived.conditions },
    facts: { ...derived.facts },
    alternateOf: indexedBase(derived.alternateOf),
  });

  const store: ItemStore = {
    async list(project, query) {
      const where: Record<string | symbol, unknown> = { projectId: project };
      if (query.kind) where['kind'] = query.kind;
      if (query.ids !== undefined) where['id'] = query.ids.split(',');
      if (query.type) where['type'] = query.type;
      if (query.folder !== undefined)
        where['folder'] = {
          [Op.or]: [query.folder, { [Op.like]: `${query.folder.replace(/[\\%_]/gu, '\\$&')}/%` }],
        };
      if (query.search !== '') {
        const like = `%${query.search.replace(/[\\%_]/gu, '\\$&')}%`;
        where[Op.or] = [
          { title: { [Op.iLike]: like } },
          { id: { [Op.iLike]: like } },
          sequelize.literal(
            `search_vector @@ websearch_to_tsquery('simple', ${sequelize.escape(query.search)})`,
          ),
        ];
      }
      const { rows, count } = await items.findAndCountAll({
        where: where as WhereOptions,
        attributes: summaryColumns,
        order: [
          [sequelize.fn('lower', sequelize.col('title')), 'ASC'],
          ['id', 'ASC'],
        ],
        offset: query.offset,
        limit: query.limit,
      });
      return { total: count, items: rows.map((row) => summaryOf(row.get())) };
    },
    async folders(project) {
      return sequelize.query<FolderCount>(
        'SELECT folder, count(*)::int AS count FROM items WHERE project_id = :project GROUP ' +
          'BY folder ORDER BY folder',
        {
          replacements: { project },
          type: QueryTypes.SELECT,
        },
      );
    },
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
    async create(project, item, author) {
      try {
        await sequelize.transaction((transaction) =>
          store.createAll(project, [item], author, transaction),
        );
      } catch (error) {
        if (error instanceof UniqueConstraintError) return undefined;
        throw error;
      }
      return store.find(project, item.id);
    },
    async createAll(project, rows, author, transaction) {
      const agreed = await agreedIn(project, transaction);
      const made: { id: string; version: number }[] = [];
      for (const part of batches(rows)) {
        const versions = await versionsBefore(project, part, transaction);
        const prepared = await Promise.all(
          part.map(async (row) => ({
            row,
            version: (versions.get(row.id) ?? 0) + 1,
            ...(await prepare({ id: row.id, kind: row.kind, source: row.text, agreed })),
          })),
        );
        const now = new Date();
        await items.bulkCreate(
          prepared.map(({ row, version, text, derived }) => ({
            projectId: project,
            id: row.id,
            kind: row.kind,
            folder: row.folder,
            name: row.name,
            text,
            version,
            updatedAt: now,
            updatedBy: author,
            ...columns(derived),
          })),
          { transaction },
        );
        await itemUses.bulkCreate(
          prepared.flatMap(({ row, derived }) => useRows(project, row.id, derived.uses)),
          { transaction },
        );
        await facetUses.bulkCreate(
          prepared.flatMap(({ row, derived }) => facetRows(project, row.id, derived.facetValues)),
          { transaction },
        );
        await revisions.bulkCreate(
          prepared.map(({ row, version, text }) => ({
            projectId: project,
            itemId: row.id,
            version,
            text,
            hash: hashOf(text),
            note: '',
            author,
            createdAt: now,
          })),
          { transaction },
        );
        made.push(...prepared.map(({ row: { id }, version }) => ({ id, version })));
      }
      await notify(sequelize, project, itemEvents(made), transaction);
    },
    folderOf: async (project, id) =>
      (await items.findOne({ where: { projectId: project, id }, attributes: ['folder'] }))?.get()
        .folder,
    paths: async (project) =>
      new Map(
        (
          await items.findAll({
            where: { projectId: project },
            attributes: ['id', 'folder', 'name'],
          })
        ).map((row) => [packagePath(row.get()), row.get().id]),
      ),
    async save(project, id, { text: source, version, note }, author) {
      const outcome = await sequelize.transaction(async (transaction) => {
        const row = await items.findOne({
          where: { projectId: project, id },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        if (!row) return 'missing' as const;
        const current = row.get();
        if (
          await liveDocuments.findOne({
            where: { projectId: project, itemId: id },
            attributes: ['itemId'],
            transaction,
          })
        )
          return 'live' as const;
        if (current.version !== version) return 'conflict' as const;
        await store.write(row, { text: source, note }, author, transaction);
        return 'saved' as const;
      });
      const item = await store.find(project, id);
      if (outcome === 'missing' || !item) return undefined;
      return outcome === 'conflict'
        ? { conflict: item }
        : outcome === 'live'
          ? { live: item }
          : { saved: item };
    },
    async write(row, { text: source, note }, author, transaction) {
      const { projectId: project, id, kind, version, text: before } = row.get();
      const agreed = await agreedIn(project, transaction);
      const { text, derived } = await prepare({ id, kind, source, agreed });
      if (text === before && note === '') return version;
      await row.update(
        {
          text,
          version: version + 1,
          updatedAt: new Date(),
          updatedBy: author,
          ...columns(derived),
        },
        { transaction },
      );
      await writeDerived(project, id, text, derived, version + 1, note, author, transaction);
      await notify(sequelize, project, itemEvents([{ id, version: version + 1 }]), transaction);
      return version + 1;
    },
    async remove(project, id, transaction) {
      const within = transaction ? { transaction } : {};
      const count = await items.destroy({ where: { projectId: project, id }, ...within });
      if (count > 0) await notify(sequelize, project, [{ kind: 'item-gone', id }], transaction);
      return count > 0;
    },
    async revisions(project, id) {
      const rows = await revisions.findAll({
        where: { projectId: project, itemId: id },
        order: [['version', 'DESC']],
        limit: 500,
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
      return (
        await revisions.findOne({ where: { projectId: project, itemId: id, version } })
      )?.get().text;
    },
    async ids(project) {
      const rows = await sequelize.query<{ id: string }>(
        'SELECT id FROM items WHERE project_id = :project UNION SELECT id FROM assets WHERE ' +
          'project_id = :project',
        {
          replacements: { project },
          type: QueryTypes.SELECT,
        },
      );
      return new Set(rows.map(({ id }) => id));
    },
    async recount(project) {
      const agreed = await agreedIn(project);
      for (const { id, text, version } of await store.texts(project)) {
        const { document } = readXml(text);
        if (!document) continue;
        await sequelize.transaction(async (transaction) => {
          const [updated] = await items.update(
            {
              problems: countProblems(checkItem(document.root, agreed)),
              conditions: { ...conditionsOf(document.root) },
              facts: ownFacts(document.root),
              alternateOf: indexedBase(baseOf(document.root, id)),
            },
            { where: { projectId: project, id, version }, transaction },
          );
          // A text that was saved meanwhile was counted then.
          if (updated === 0) return;
          await writeUses(
            project,
            id,
            { uses: usesIn(document.root, id), facetValues: valuesUsed(document.root) },
            transaction,
          );
        });
      }
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
  return store;
}
