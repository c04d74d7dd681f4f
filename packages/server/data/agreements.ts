import { FactField, type Agreements } from '@ukiyo/contracts';
import type { Transaction } from 'sequelize';
import type { Database } from './database.ts';

/** House rules, own facts and words of a project. */
export interface AgreementStore {
  read(project: string, transaction?: Transaction): Promise<Agreements>;
  /** Undefined when another version was saved since. */
  save(project: string, agreements: Agreements): Promise<Agreements | undefined>;
  /** Makes a word right in a language; the same again changes nothing. */
  addWord(project: string, locale: string, word: string): Promise<Agreements>;
}

const none: Agreements = { version: 0, rules: [], facts: [], words: {}, synonyms: {} };

export function agreementStore({ sequelize, models }: Database): AgreementStore {
  const { agreements, projects } = models;
  /** One change after the other: the project's row is held. */
  const changed = (
    project: string,
    change: (current: Agreements) => Agreements | undefined,
  ): Promise<Agreements | undefined> =>
    sequelize.transaction(async (transaction) => {
      await projects.findOne({
        where: { id: project },
        transaction,
        lock: transaction.LOCK.UPDATE,
      });
      const next = change(await store.read(project, transaction));
      if (next) await agreements.upsert({ projectId: project, ...next }, { transaction });
      return next;
    });
  const store: AgreementStore = {
    async read(project, transaction) {
      const row = (
        await agreements.findOne({
          where: { projectId: project },
          ...(transaction ? { transaction } : {}),
        })
      )?.get();
      return row
        ? {
            version: row.version,
            rules: row.rules,
            facts: row.facts.flatMap((fact) => FactField.safeParse(fact).data ?? []),
            words: row.words,
            synonyms: row.synonyms,
          }
        : none;
    },
    save: (project, next) =>
      changed(project, ({ version }) =>
        version === next.version ? { ...next, version: version + 1 } : undefined,
      ),
    async addWord(project, locale, word) {
      const saved = await changed(project, (current) => {
        const known = current.words[locale] ?? [];
        return {
          ...current,
          version: current.version + 1,
          words: {
            ...current.words,
            [locale]: [...new Set([...known, word])].sort((a, b) => a.localeCompare(b, locale)),
          },
        };
      });
      return saved ?? none;
    },
  };
  return store;
}
