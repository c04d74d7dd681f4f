import type { Alternates } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import { alternateOf, basedOn, freeId, onItsOwn, asAlternateOf } from '@ukiyo/core/library';
import { readXml, type Element } from '@ukiyo/core/markup';
import type { Transaction } from 'sequelize';
import type { Database } from '../data/database.ts';
import { hashOf } from '../data/derived.ts';
import type { ItemStore } from '../data/items.ts';
import { summaryOf } from '../data/listing.ts';
import type { ItemRow } from '../data/models.ts';
import type { ChangeTexts } from './rewriting.ts';

/** Topics that stand in for others. */
export interface AlternateStore {
  /** Of a base or of one of its alternates; undefined where there is no such topic. */
  read(project: string, id: string): Promise<Alternates | undefined>;
  /**
   * A copy that stands in for the base; undefined where there is no such topic, or it is an
   * alternate itself.
   */
  make(
    project: string,
    base: string,
    conditions: Record<string, string>,
    author: string,
  ): Promise<string | undefined>;
  /**
   * The alternate has been compared with its base as it is now. False where there is no such
   * alternate.
   */
  lookedAt(project: string, alternate: string, author: string): Promise<boolean>;
  /** The alternate becomes an independent topic. False where there is no such alternate. */
  release(project: string, alternate: string, author: string): Promise<boolean>;
}

const namesIn = (conditions: Record<string, string>): string =>
  Object.values(conditions)
    .join(' ')
    .replace(/\w+\(|\)/gu, '');

async function rowOf(
  { models }: Database,
  project: string,
  id: string,
  transaction?: Transaction,
): Promise<ItemRow | undefined> {
  const within = transaction ? { transaction } : {};
  return (await models.items.findOne({ where: { projectId: project, id }, ...within }))?.get();
}

/** A base with its alternates, and which of them are behind what it says by now. */
async function readAlternates(
  database: Database,
  project: string,
  base: ItemRow,
): Promise<Alternates> {
  const { models } = database;
  const now = hashOf(base.text);
  const revisions = await models.revisions.findAll({
    where: { projectId: project, itemId: base.id },
    attributes: ['version', 'hash'],
    order: [['version', 'ASC']],
  });
  const rows = await models.items.findAll({
    where: { projectId: project, alternateOf: base.id },
    order: [['id', 'ASC']],
  });
  const alternates = rows.map((row) => {
    const root = readXml(row.get().text).document?.root;
    const fingerprint = root && basedOn(root);
    const version = revisions.findLast((one) => one.get().hash === fingerprint)?.get().version;
    return {
      item: summaryOf(row.get()),
      isBehind: fingerprint !== undefined && fingerprint !== now,
      basedOn: version ?? null,
    };
  });
  return { base: summaryOf(base), alternates };
}

export function alternateStore(
  database: Database,
  items: ItemStore,
  changeTexts: ChangeTexts,
): AlternateStore {
  /** Changes an alternate; false where there is no such alternate. */
  const change = (
    project: string,
    id: string,
    author: string,
    how: (base: ItemRow | undefined) => ((root: Element) => Element) | undefined,
  ): Promise<boolean> =>
    changeTexts(project, author, async ({ transaction, rewrite }) => {
      const row = await rowOf(database, project, id, transaction);
      if (row?.alternateOf == null) return false;
      const base = await rowOf(database, project, row.alternateOf, transaction);
      const next = how(base);
      if (!next) return false;
      await rewrite([id], next);
      return true;
    });
  return {
    async read(project, id) {
      const asked = await rowOf(database, project, id);
      const base =
        asked?.alternateOf == null ? asked : await rowOf(database, project, asked.alternateOf);
      return base && readAlternates(database, project, base);
    },
    async make(project, base, conditions, author) {
      const row = await rowOf(database, project, base);
      const root = row && readXml(row.text).document?.root;
      if (!row || !root || row.kind !== 'topic' || row.alternateOf !== null) return undefined;
      const id = freeId(`${base} ${namesIn(conditions)}`, await items.ids(project), 'topic');
      const text = writeCanonical(
        alternateOf(root, { base, id, conditions, fingerprint: hashOf(row.text) }),
      );
      const made = { id, kind: 'topic' as const, folder: row.folder, name: `${id}.dita`, text };
      return (await items.create(project, made, author))?.id;
    },
    lookedAt: (project, alternate, author) =>
      change(
        project,
        alternate,
        author,
        (base) => base && ((root) => asAlternateOf(root, base.id, hashOf(base.text))),
      ),
    release: (project, alternate, author) => change(project, alternate, author, () => onItsOwn),
  };
}
