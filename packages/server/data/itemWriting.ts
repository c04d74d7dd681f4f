import type { Item } from '@ukiyo/contracts';
import { conditionsOf, valuesUsed } from '@ukiyo/core/facets';
import { baseOf, checkItem, ownFacts, usesIn, type Agreed } from '@ukiyo/core/library';
import { readXml } from '@ukiyo/core/markup';
import { countProblems } from '@ukiyo/core/problems';
import { QueryTypes, UniqueConstraintError, type Model, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import { derivedColumns, facetRows, hashOf, indexedBase, storeUses, useRows } from './derived.ts';
import type { ItemReading } from './itemReading.ts';
import type { ItemRow } from './models.ts';
import { itemEvents, notify } from './notifying.ts';
import type { PrepareText } from './preparing.ts';

interface NewRow {
  readonly id: string;
  readonly kind: 'topic' | 'map';
  readonly folder: string;
  readonly name: string;
  readonly text: string;
}

type ItemModel = Model<ItemRow, Partial<ItemRow>>;

/** The author of a change, and the name of the revision that it creates. */
interface Authorship {
  readonly author: string;
  readonly note: string;
}

export interface ItemWriting {
  /** Undefined when the id or the path is taken. */
  create(project: string, item: NewRow, author: string): Promise<Item | undefined>;
  /** Many at once, within a transaction that the caller ends; ids and paths must be free. */
  createAll(
    project: string,
    items: readonly NewRow[],
    author: string,
    transaction: Transaction,
  ): Promise<void>;
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
  /**
   * Writes a text within a transaction that holds the row; returns the version that now stands. A
   * text that is the same makes none, unless it has a note.
   */
  write(row: ItemModel, text: string, by: Authorship, transaction: Transaction): Promise<number>;
  remove(project: string, id: string, transaction?: Transaction): Promise<boolean>;
  /**
   * Counts the problems, the facet values and the uses of every text anew, after something else was
   * agreed on.
   */
  recount(project: string): Promise<void>;
}

/** What writing needs besides the database. */
interface WritingTools {
  readonly reading: ItemReading;
  /** What texts are checked against. */
  readonly agreedIn: (project: string, transaction?: Transaction) => Promise<Agreed>;
  /** Works out what is stored with a text. */
  readonly prepare: PrepareText;
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

/**
 * The history of what was removed stays: an item that comes again under its ID goes on from there.
 * @returns the last version of each ID; IDs without revisions are left out
 */
async function lastVersions(
  { sequelize }: Database,
  project: string,
  ids: readonly string[],
  transaction: Transaction,
): Promise<Map<string, number>> {
  const found = await sequelize.query<{ id: string; version: number }>(
    'SELECT item_id AS id, max(version) AS version FROM revisions WHERE project_id = ' +
      ':project AND item_id IN (:ids) GROUP BY item_id',
    { replacements: { project, ids }, type: QueryTypes.SELECT, transaction },
  );
  return new Map(found.map(({ id, version }) => [id, version]));
}

/** Makes many items, a batch of rows in each statement. */
function creating(
  database: Database,
  { agreedIn, prepare }: WritingTools,
): ItemWriting['createAll'] {
  const { items, itemUses, facetUses, revisions } = database.models;
  return async (project, rows, author, transaction) => {
    const agreed = await agreedIn(project, transaction);
    const updatedAt = new Date();
    const made: Pick<ItemRow, 'id' | 'kind' | 'version'>[] = [];
    for (const part of batches(rows)) {
      const ids = part.map(({ id }) => id);
      const versions = await lastVersions(database, project, ids, transaction);
      const prepared = await Promise.all(
        part.map(async ({ text: source, ...row }) => ({
          row: { ...row, projectId: project, version: (versions.get(row.id) ?? 0) + 1 },
          key: { project, id: row.id },
          ...(await prepare({ id: row.id, kind: row.kind, source, agreed })),
        })),
      );
      await items.bulkCreate(
        prepared.map(({ row, text, derived }) => ({
          ...row,
          text,
          updatedAt,
          updatedBy: author,
          ...derivedColumns(derived),
        })),
        { transaction },
      );
      await itemUses.bulkCreate(
        prepared.flatMap(({ key, derived }) => useRows(key, derived.uses)),
        { transaction },
      );
      await facetUses.bulkCreate(
        prepared.flatMap(({ key, derived }) => facetRows(key, derived.facetValues)),
        { transaction },
      );
      await revisions.bulkCreate(
        prepared.map(({ row: { id, version }, text }) => ({
          projectId: project,
          itemId: id,
          version,
          text,
          hash: hashOf(text),
          note: '',
          author,
          createdAt: updatedAt,
        })),
        { transaction },
      );
      made.push(...prepared.map(({ row: { id, kind, version } }) => ({ id, kind, version })));
    }
    await notify(database.sequelize, project, itemEvents(made), transaction);
  };
}

/** Writes one text with what is derived from it, and tells of it when the transaction ends. */
function writing(database: Database, { agreedIn, prepare }: WritingTools): ItemWriting['write'] {
  const { sequelize, models } = database;
  return async (row, source, { note, author }, transaction) => {
    const { projectId: project, id, kind, version: before, text: textBefore } = row.get();
    const agreed = await agreedIn(project, transaction);
    const { text, derived } = await prepare({ id, kind, source, agreed });
    if (text === textBefore && note === '') return before;
    const version = before + 1;
    const now = new Date();
    await row.update(
      { text, version, updatedAt: now, updatedBy: author, ...derivedColumns(derived) },
      { transaction },
    );
    await storeUses(models, { project, id }, derived, transaction);
    await models.revisions.create(
      {
        projectId: project,
        itemId: id,
        version,
        text,
        hash: hashOf(text),
        note,
        author,
        createdAt: now,
      },
      { transaction },
    );
    await notify(sequelize, project, itemEvents([{ id, kind, version }]), transaction);
    return version;
  };
}

/** Counts anew what depends on what the team has agreed on, a text in each transaction. */
function recounting(
  { sequelize, models }: Database,
  { agreedIn, reading }: WritingTools,
): ItemWriting['recount'] {
  return async (project) => {
    const agreed = await agreedIn(project);
    for (const { id, text, version } of await reading.texts(project)) {
      const { document } = readXml(text);
      if (!document) continue;
      const { root } = document;
      await sequelize.transaction(async (transaction) => {
        const [updated] = await models.items.update(
          {
            problems: countProblems(checkItem(root, agreed)),
            conditions: { ...conditionsOf(root) },
            facts: ownFacts(root),
            alternateOf: indexedBase(baseOf(root, id)),
          },
          { where: { projectId: project, id, version }, transaction },
        );
        // A text that was saved meanwhile was counted then.
        if (updated === 0) return;
        const uses = { uses: usesIn(root, id), facetValues: valuesUsed(root) };
        await storeUses(models, { project, id }, uses, transaction);
      });
    }
  };
}

/** Writing of topics and maps, with all that is derived from a text in the same transaction. */
export function itemWriting(database: Database, tools: WritingTools): ItemWriting {
  const { sequelize, models } = database;
  const { items, liveDocuments } = models;
  const { reading } = tools;
  const createAll = creating(database, tools);
  const write = writing(database, tools);
  return {
    createAll,
    write,
    recount: recounting(database, tools),
    async create(project, item, author) {
      try {
        await sequelize.transaction((transaction) =>
          createAll(project, [item], author, transaction),
        );
      } catch (error) {
        if (error instanceof UniqueConstraintError) return undefined;
        throw error;
      }
      return reading.find(project, item.id);
    },
    async save(project, id, { text, version, note }, author) {
      const outcome = await sequelize.transaction(async (transaction) => {
        const row = await items.findOne({
          where: { projectId: project, id },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        if (!row) return undefined;
        const isLive = await liveDocuments.findOne({
          where: { projectId: project, itemId: id },
          attributes: ['itemId'],
          transaction,
        });
        if (isLive) return 'live';
        if (row.get().version !== version) return 'conflict';
        await write(row, text, { note, author }, transaction);
        return 'saved';
      });
      const item = outcome && (await reading.find(project, id));
      if (!item) return undefined;
      if (outcome === 'saved') return { saved: item };
      return outcome === 'live' ? { live: item } : { conflict: item };
    },
    async remove(project, id, transaction) {
      const within = transaction ? { transaction } : {};
      const count = await items.destroy({ where: { projectId: project, id }, ...within });
      if (count > 0) await notify(sequelize, project, [{ kind: 'item-gone', id }], transaction);
      return count > 0;
    },
  };
}
