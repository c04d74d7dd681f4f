import type { Alternates } from '@ukiyo/contracts';
import { writeCanonical } from '@ukiyo/core/grammar';
import { alternateOf, basedOn, freeId, onItsOwn, standingInFor } from '@ukiyo/core/library';
import { readXml } from '@ukiyo/core/markup';
import type { Database } from './database.ts';
import { hashOf, summaryOf, type ItemStore } from './items.ts';
import type { ItemRow } from './models.ts';
import { retryOnConflict, type Rewritten, type TextRewriting } from './rewriting.ts';

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
  /** What the base says now has been looked at. */
  lookedAt(project: string, alternate: string, author: string): Promise<Rewritten | undefined>;
  /** The alternate becomes a topic of its own. */
  release(project: string, alternate: string, author: string): Promise<Rewritten | undefined>;
}

export function alternateStore(
  { sequelize, models }: Database,
  items: ItemStore,
  rewrite: TextRewriting,
): AlternateStore {
  const rowOf = async (project: string, id: string): Promise<ItemRow | undefined> =>
    (await models.items.findOne({ where: { projectId: project, id } }))?.get();
  const change = (
    project: string,
    id: string,
    of: (row: ItemRow) => Promise<Parameters<TextRewriting>[2] | undefined>,
    author: string,
  ): Promise<Rewritten | undefined> =>
    retryOnConflict(async () => {
      const row = await rowOf(project, id);
      const how = row && row.alternateOf !== null ? await of(row) : undefined;
      return (
        how &&
        sequelize.transaction((transaction) => rewrite(project, [id], how, author, transaction))
      );
    });
  const namesIn = (conditions: Record<string, string>): string =>
    Object.values(conditions)
      .join(' ')
      .replace(/\w+\(|\)/gu, '');

  return {
    async read(project, id) {
      const asked = await rowOf(project, id);
      const base = asked?.alternateOf == null ? asked : await rowOf(project, asked.alternateOf);
      if (!base) return undefined;
      const now = hashOf(base.text);
      const revisions = (
        await models.revisions.findAll({
          where: { projectId: project, itemId: base.id },
          attributes: ['version', 'hash'],
          order: [['version', 'ASC']],
        })
      ).map((row) => row.get());
      const rows = (
        await models.items.findAll({
          where: { projectId: project, alternateOf: base.id },
          order: [['id', 'ASC']],
        })
      ).map((row) => row.get());
      const alternates = rows.map((row) => {
        const root = readXml(row.text).document?.root;
        const fingerprint = root && basedOn(root);
        return {
          item: summaryOf(row),
          isBehind: fingerprint !== undefined && fingerprint !== now,
          basedOn: revisions.findLast(({ hash }) => hash === fingerprint)?.version ?? null,
        };
      });
      return { base: summaryOf(base), alternates };
    },
    async make(project, base, conditions, author) {
      const row = await rowOf(project, base);
      const root = row && readXml(row.text).document?.root;
      if (!row || !root || row.kind !== 'topic' || row.alternateOf !== null) return undefined;
      const id = freeId(`${base} ${namesIn(conditions)}`, await items.ids(project), 'topic');
      const text = writeCanonical(
        alternateOf(root, { base, id, conditions, fingerprint: hashOf(row.text) }),
      );
      return (
        await items.create(
          project,
          { id, kind: 'topic', folder: row.folder, name: `${id}.dita`, text },
          author,
        )
      )?.id;
    },
    lookedAt: (project, alternate, author) =>
      change(
        project,
        alternate,
        async (row) => {
          const base = await rowOf(project, row.alternateOf!);
          return base && ((root) => standingInFor(root, base.id, hashOf(base.text)));
        },
        author,
      ),
    release: (project, alternate, author) =>
      change(project, alternate, () => Promise.resolve(onItsOwn), author),
  };
}
