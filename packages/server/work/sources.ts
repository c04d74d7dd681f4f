import { readdir, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { SourceOrder, SourceReading, SourceState, SourceSummary } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import { problem, type Problem } from '@ukiyo/core/problems';
import {
  changedTwice,
  planReading,
  readSourceFolder,
  textHash,
  type LinkedFile,
  type SourceDifference,
  type ReadingInput,
} from '@ukiyo/intake';
import { packagePath } from '@ukiyo/press';
import { Op, type Model, type Transaction } from 'sequelize';
import type { Database } from '../data/database.ts';
import type { ItemStore } from '../data/items.ts';
import type { LinkedSourceRow } from '../data/models.ts';
import type { ChangeTexts, TextChange } from './rewriting.ts';

/**
 * Folders outside the library whose Markdown files are topics here, and are read again when they
 * change.
 */
export interface SourceStore {
  /** Those that are linked, and those that could be. */
  list(project: string): Promise<SourceSummary[]>;
  /**
   * How the files of one stand, linked or not; undefined where there is neither a link nor a
   * folder.
   */
  look(project: string, folder: string): Promise<SourceState | undefined>;
  /** False where there is no such folder, or it is linked already. */
  link(project: string, folder: string): Promise<boolean>;
  /**
   * Takes what is new and what has changed; what was changed here too stays, unless the order says
   * otherwise. Undefined where it is not linked.
   */
  read(
    project: string,
    folder: string,
    author: string,
    order?: SourceOrder,
  ): Promise<SourceReading | undefined>;
  /**
   * Its topics stay, as topics like any other; linked again, it goes on with them. False where it
   * is not linked.
   */
  unlink(project: string, folder: string): Promise<boolean>;
}

/** What topics of linked sources lie in. */
const ownFolder = 'sources';

interface Outside {
  readonly files: ReadonlyMap<string, string>;
  readonly problems: readonly Problem[];
  readonly isThere: boolean;
}

const rowOf = (project: string, folder: string) => ({ projectId: project, folder });

/** The folders that are put, or linked, into `root` by who runs the server. */
function foldersIn(root: string): {
  readonly names: () => Promise<string[]>;
  readonly read: (folder: string) => Promise<Outside>;
} {
  async function names(): Promise<string[]> {
    const entries = await readdir(root).catch(() => []);
    const isFolder = await Promise.all(
      entries.map((name) =>
        stat(join(root, name)).then(
          (found) => found.isDirectory(),
          () => false,
        ),
      ),
    );
    return entries.filter((name, index) => isFolder[index] === true && !name.startsWith('.'));
  }
  async function read(folder: string): Promise<Outside> {
    const nothing = { files: new Map<string, string>(), problems: [], isThere: false };
    // Only what is listed is opened: the name comes from outside.
    if (!(await names()).includes(folder)) return nothing;
    return readSourceFolder(join(root, folder)).then(
      (found) => ({ ...found, isThere: true }),
      () => nothing,
    );
  }
  return { names, read };
}

const summaryOf = (
  folder: string,
  row: LinkedSourceRow | undefined,
  isThere: boolean,
): SourceSummary => ({
  folder,
  isLinked: row?.isLinked === true,
  isThere,
  readAt: row?.isLinked === true ? (row.readAt?.toISOString() ?? null) : null,
  files: row?.isLinked === true ? row.files.map(({ path, item }) => ({ path, item })) : [],
});

/** A reading of a folder that is not there. */
const nothingThere = (folder: string, row: LinkedSourceRow | undefined): SourceState => ({
  ...summaryOf(folder, row, false),
  plan: [],
  problems: [
    problem(
      'warning',
      'source.folder',
      `The folder “${folder}” is not there, or cannot be read: its topics are as they were.`,
    ),
  ],
});

/** Works out what reading the files would do, without doing it. */
function planning({ models }: Database, items: ItemStore) {
  return async (
    project: string,
    { files, linked, decisions }: Required<Pick<ReadingInput, 'files' | 'linked' | 'decisions'>>,
    transaction?: Transaction,
  ): Promise<SourceDifference> => {
    const rows = await models.items.findAll({
      where: { projectId: project, id: { [Op.in]: linked.map(({ item }) => item) } },
      attributes: ['id', 'text'],
      ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
      order: [['id', 'ASC']],
    });
    const texts = new Map(rows.map((row) => [row.get().id, row.get().text]));
    const taken = await items.ids(project);
    return planReading({ files, linked, textOf: (item) => texts.get(item), taken, decisions });
  };
}

/** Makes topics of the files that are new, in a folder that is like theirs. */
async function writeAdded(
  items: ItemStore,
  { project, author, transaction }: TextChange,
  folder: string,
  { added, linked }: SourceDifference,
): Promise<void> {
  const paths = await items.paths(project);
  const rows = added.map(({ item, text }) => {
    const place = dirname(linked.find((one) => one.item === item)!.path);
    const within = `${ownFolder}/${folder}${place === '.' ? '' : `/${place}`}`;
    let name = `${item}.dita`;
    for (let count = 2; paths.has(packagePath({ folder: within, name })); count += 1)
      name = `${item}-${count}.dita`;
    return { id: item, kind: 'topic' as const, folder: within, name, text };
  });
  if (rows.length > 0) await items.createAll(project, rows, author, transaction);
}

/**
 * Writes what has changed outside into its topics, but not over words that are typed in this
 * moment and in no text yet.
 * @returns the topics that were left, each with the problem that says why
 */
async function writeChanged(
  { rewrite }: TextChange,
  { changed, files }: SourceDifference,
  linked: readonly LinkedFile[],
  { decisions }: SourceOrder,
): Promise<Map<string, Problem>> {
  const next = new Map(changed.map(({ item, root }) => [item, root]));
  const known = new Map(linked.map((file) => [file.item, file]));
  const planned = new Map(files.map((file) => [file.item, file]));
  const left = new Map<string, Problem>();
  await rewrite([...next.keys()], (current, id) => {
    const file = planned.get(id)!;
    const isUntouched = textHash(writeCanonical(current)) === known.get(id)!.text;
    if (isUntouched || decisions[file.path] === 'outside') return next.get(id)!;
    left.set(id, changedTwice(file));
    return current;
  });
  return left;
}

/** How each file stands once it has been read. */
const stateAfter = (
  file: SourceDifference['files'][number],
  left: ReadonlyMap<string, Problem>,
): SourceState['plan'][number] => {
  if (file.item !== undefined && left.has(file.item)) return { ...file, state: 'both' };
  return file.state === 'new' || file.state === 'changed' ? { ...file, state: 'same' } : file;
};

/** Reads the files of a linked folder that is there. */
function reading(database: Database, items: ItemStore) {
  const plan = planning(database, items);
  return async (
    texts: TextChange,
    row: Model<LinkedSourceRow, Partial<LinkedSourceRow>>,
    outside: Outside,
    order: SourceOrder,
  ): Promise<SourceReading> => {
    const { project, transaction } = texts;
    const { folder, files: linked } = row.get();
    const input = { files: outside.files, linked, decisions: order.decisions };
    const planned = await plan(project, input, transaction);
    await writeAdded(items, texts, folder, planned);
    const left = await writeChanged(texts, planned, linked, order);
    const known = new Map(linked.map((file) => [file.item, file]));
    const files = planned.linked.map((file) =>
      left.has(file.item) ? { ...known.get(file.item)!, path: file.path } : file,
    );
    await row.update({ files, readAt: new Date() }, { transaction });
    return {
      ...summaryOf(folder, row.get(), true),
      plan: planned.files.map((file) => stateAfter(file, left)),
      problems: [...outside.problems, ...planned.problems, ...left.values()],
      added: planned.added.length,
      changed: planned.changed.length - left.size,
    };
  };
}

/** @param root in it lie the folders, put or linked there by who runs the server */
export function sourceStore(
  database: Database,
  items: ItemStore,
  changeTexts: ChangeTexts,
  root: string,
): SourceStore {
  const { sequelize, models } = database;
  const { linkedSources } = models;
  const folders = foldersIn(root);
  const plan = planning(database, items);
  const readFiles = reading(database, items);
  return {
    async list(project) {
      const rows = await linkedSources.findAll({ where: { projectId: project, isLinked: true } });
      const linked = new Map(rows.map((row) => [row.get().folder, row.get()]));
      const there = await folders.names();
      return [...new Set([...there, ...linked.keys()])]
        .sort((a, b) => a.localeCompare(b))
        .map((folder) => summaryOf(folder, linked.get(folder), there.includes(folder)));
    },
    async look(project, folder) {
      const row = (await linkedSources.findOne({ where: rowOf(project, folder) }))?.get();
      const outside = await folders.read(folder);
      if (!outside.isThere) return row?.isLinked === true ? nothingThere(folder, row) : undefined;
      const input = { files: outside.files, linked: row?.files ?? [], decisions: {} };
      const { files, problems } = await plan(project, input);
      return {
        ...summaryOf(folder, row, true),
        plan: [...files],
        problems: [...outside.problems, ...problems],
      };
    },
    async link(project, folder) {
      if (!(await folders.names()).includes(folder)) return false;
      return sequelize.transaction(async (transaction) => {
        const [row, isNew] = await linkedSources.findOrCreate({
          where: rowOf(project, folder),
          defaults: { ...rowOf(project, folder), isLinked: true, files: [], readAt: null },
          transaction,
        });
        if (isNew || row.get().isLinked) return isNew;
        // Topics that were removed since are made anew.
        const ids = await items.ids(project);
        const files = row.get().files.filter(({ item }) => ids.has(item));
        await row.update({ isLinked: true, files }, { transaction });
        return true;
      });
    },
    async read(project, folder, author, order = { decisions: {} }) {
      const outside = await folders.read(folder);
      return changeTexts(project, author, async (texts) => {
        const row = await linkedSources.findOne({
          where: rowOf(project, folder),
          transaction: texts.transaction,
          lock: texts.transaction.LOCK.UPDATE,
        });
        if (row?.get().isLinked !== true) return undefined;
        if (outside.isThere) return readFiles(texts, row, outside, order);
        return { ...nothingThere(folder, row.get()), added: 0, changed: 0 };
      });
    },
    async unlink(project, folder) {
      const where = { ...rowOf(project, folder), isLinked: true };
      const [count] = await linkedSources.update({ isLinked: false }, { where });
      return count > 0;
    },
  };
}
