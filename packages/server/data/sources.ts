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
  type Reading,
} from '@ukiyo/intake';
import { packagePath } from '@ukiyo/press';
import { Op, type Transaction } from 'sequelize';
import type { Database } from './database.ts';
import type { ItemStore } from './items.ts';
import type { LinkedSourceRow } from './models.ts';
import { retryOnConflict, type Rewritten, type TextRewriting } from './rewriting.ts';

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
  ): Promise<{ reading: SourceReading; texts: Rewritten } | undefined>;
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

/** @param root in it lie the folders, put or linked there by who runs the server */
export function sourceStore(
  { sequelize, models }: Database,
  items: ItemStore,
  rewrite: TextRewriting,
  root: string,
): SourceStore {
  const { linkedSources } = models;
  const where = (project: string, folder: string) => ({ projectId: project, folder });
  async function foldersOutside(): Promise<string[]> {
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
  async function readOutside(folder: string): Promise<Outside> {
    const nothing = { files: new Map<string, string>(), problems: [], isThere: false };
    // Only what is listed is opened: the name comes from outside.
    if (!(await foldersOutside()).includes(folder)) return nothing;
    return readSourceFolder(join(root, folder)).then(
      (found) => ({ ...found, isThere: true }),
      () => nothing,
    );
  }
  async function planOf(
    project: string,
    { files }: Outside,
    linked: readonly LinkedFile[],
    order: SourceOrder,
    transaction?: Transaction,
  ): Promise<Reading> {
    const rows = await models.items.findAll({
      where: { projectId: project, id: { [Op.in]: linked.map(({ item }) => item) } },
      attributes: ['id', 'text'],
      ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
      order: [['id', 'ASC']],
    });
    const texts = new Map(rows.map((row) => [row.get().id, row.get().text]));
    return planReading({
      files,
      linked,
      textOf: (item) => texts.get(item),
      taken: await items.ids(project),
      decisions: order.decisions,
    });
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
  const missing = (folder: string): Problem =>
    problem(
      'warning',
      'source.folder',
      `The folder “${folder}” is not there, or cannot be read: its topics are as they were.`,
    );

  async function writeAdded(
    project: string,
    folder: string,
    { added, linked }: Reading,
    author: string,
    transaction: Transaction,
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

  return {
    async list(project) {
      const linked = new Map(
        (await linkedSources.findAll({ where: { projectId: project, isLinked: true } })).map(
          (row) => [row.get().folder, row.get()],
        ),
      );
      const outside = await foldersOutside();
      return [...new Set([...outside, ...linked.keys()])]
        .sort((a, b) => a.localeCompare(b))
        .map((folder) => summaryOf(folder, linked.get(folder), outside.includes(folder)));
    },
    async look(project, folder) {
      const row = (await linkedSources.findOne({ where: where(project, folder) }))?.get();
      const outside = await readOutside(folder);
      if (row?.isLinked !== true && !outside.isThere) return undefined;
      if (!outside.isThere)
        return { ...summaryOf(folder, row, false), plan: [], problems: [missing(folder)] };
      const { files, problems } = await planOf(project, outside, row?.files ?? [], {
        decisions: {},
      });
      return {
        ...summaryOf(folder, row, true),
        plan: [...files],
        problems: [...outside.problems, ...problems],
      };
    },
    async link(project, folder) {
      if (!(await foldersOutside()).includes(folder)) return false;
      return sequelize.transaction(async (transaction) => {
        const [row, isNew] = await linkedSources.findOrCreate({
          where: where(project, folder),
          defaults: { ...where(project, folder), isLinked: true, files: [], readAt: null },
          transaction,
        });
        if (isNew || row.get().isLinked) return isNew;
        // Topics that were removed since are made anew.
        const ids = await items.ids(project);
        await row.update(
          { isLinked: true, files: row.get().files.filter(({ item }) => ids.has(item)) },
          { transaction },
        );
        return true;
      });
    },
    async read(project, folder, author, order = { decisions: {} }) {
      const outside = await readOutside(folder);
      return retryOnConflict(() =>
        sequelize.transaction(async (transaction) => {
          const row = await linkedSources.findOne({
            where: where(project, folder),
            transaction,
            lock: transaction.LOCK.UPDATE,
          });
          if (row?.get().isLinked !== true) return undefined;
          const before = row.get();
          if (!outside.isThere)
            return {
              reading: {
                ...summaryOf(folder, before, false),
                plan: [],
                problems: [missing(folder)],
                added: 0,
                changed: 0,
              },
              texts: {},
            };
          const planned = await planOf(project, outside, before.files, order, transaction);
          await writeAdded(project, folder, planned, author, transaction);
          const next = new Map(planned.changed.map((one) => [one.item, one.root]));
          const known = new Map(before.files.map((file) => [file.item, file]));
          const files = new Map(planned.files.map((file) => [file.item, file]));
          const typed = new Map<string, Problem>();
          const texts = await rewrite(
            project,
            [...next.keys()],
            (current, id) => {
              const file = files.get(id)!;
              // Words that were typed in this moment are in no text yet.
              if (
                order.decisions[file.path] === 'outside' ||
                textHash(writeCanonical(current)) === known.get(id)!.text
              )
                return next.get(id)!;
              typed.set(id, changedTwice(file));
              return current;
            },
            author,
            transaction,
          );
          const linked = planned.linked.map((file) =>
            typed.has(file.item) ? { ...known.get(file.item)!, path: file.path } : file,
          );
          await row.update({ files: linked, readAt: new Date() }, { transaction });
          const plan = planned.files.map((file) => {
            if (file.item !== undefined && typed.has(file.item))
              return { ...file, state: 'both' as const };
            return file.state === 'new' || file.state === 'changed'
              ? { ...file, state: 'same' as const }
              : file;
          });
          const reading = {
            ...summaryOf(folder, row.get(), true),
            plan,
            problems: [...outside.problems, ...planned.problems, ...typed.values()],
            added: planned.added.length,
            changed: next.size - typed.size,
          };
          // Whoever lists topics hears of new ones too.
          return {
            reading,
            texts: { ...Object.fromEntries(planned.added.map(({ item }) => [item, 1])), ...texts },
          };
        }),
      );
    },
    unlink: async (project, folder) =>
      (
        await linkedSources.update(
          { isLinked: false },
          { where: { ...where(project, folder), isLinked: true } },
        )
      )[0] > 0,
  };
}
