import { randomUUID } from 'node:crypto';
import { applySteps, documentFrom, fromEditor, stepTo } from '@ukiyo/core/editing';
import { writeCanonical } from '@ukiyo/core/grammar';
import type { Element } from '@ukiyo/core/markup';
import {
  ForeignKeyConstraintError,
  Op,
  QueryTypes,
  UniqueConstraintError,
  type Model,
  type Transaction,
} from 'sequelize';
import type { Database } from './database.ts';
import type { ItemStore } from './items.ts';
import type { ItemRow, LiveDocumentRow, LiveStepRow } from './models.ts';

/** Where one topic's live document is kept. */
export interface LiveKey {
  readonly project: string;
  readonly item: string;
}

type LoggedStep = Pick<LiveStepRow, 'version' | 'step' | 'client' | 'person'>;

/**
 * The documents of live editing and the log of their steps. A step is in the log before anybody
 * hears of it.
 */
export interface LiveLog {
  /**
   * The document as last written with the steps since. A topic that has none yet begins from its
   * text.
   * @param begin makes the document of a text, as JSON; undefined when the text cannot be edited
   */
  open(
    key: LiveKey,
    schema: string,
    begin: (text: string) => string | undefined | Promise<string | undefined>,
  ): Promise<{ document: LiveDocumentRow; steps: LoggedStep[] } | undefined>;
  since(key: LiveKey, epoch: string, version: number): Promise<LoggedStep[]>;
  /**
   * `raced` when another process was first with this version, `gone` when the topic or this line of
   * versions is no more.
   */
  append(
    key: LiveKey,
    epoch: string,
    version: number,
    steps: readonly unknown[],
    by: { client: string; person: string },
  ): Promise<'kept' | 'raced' | 'gone'>;
  /**
   * Writes text and document as of a version; undefined when the topic is gone. What was written of
   * a later version stays.
   */
  write(
    key: LiveKey,
    as: {
      epoch: string;
      version: number;
      /** As JSON. */
      document: string;
      text: string;
      note: string;
      author: string;
    },
  ): Promise<number | undefined>;
  /**
   * Changes the tree of a topic that is edited live, within a transaction that holds the row: the
   * difference is a step like any other, and text and document follow at once. False when it is not
   * edited live; a step of somebody else at the same moment breaks the transaction with a
   * `UniqueConstraintError`.
   */
  change(
    row: Model<ItemRow, Partial<ItemRow>>,
    change: (root: Element) => Element,
    by: { person: string; note: string },
    transaction: Transaction,
  ): Promise<boolean>;
  /** Ends a line of versions: the next opening begins from the text. */
  end(key: LiveKey): Promise<void>;
  /** Topics with steps that no text holds yet. */
  unwritten(): Promise<LiveKey[]>;
}

/** How long an editor that was away can come back and still have its steps fitted in. */
const keptDays = 7;

export function liveLog({ sequelize, models }: Database, items: ItemStore): LiveLog {
  const { liveDocuments, liveSteps } = models;
  const where = ({ project, item }: LiveKey) => ({ projectId: project, itemId: item });
  const stepsAfter = async (
    key: LiveKey,
    epoch: string,
    version: number,
    transaction?: Transaction,
  ): Promise<LoggedStep[]> =>
    (
      await liveSteps.findAll({
        where: { ...where(key), epoch, version: { [Op.gt]: version } },
        order: [['version', 'ASC']],
        ...(transaction ? { transaction } : {}),
      })
    ).map((row) => row.get());
  /**
   * Writes the steps and tells every process of the database, which hears of it when the
   * transaction ends.
   */
  const log = (
    key: LiveKey,
    epoch: string,
    version: number,
    steps: readonly unknown[],
    by: { client: string; person: string },
    transaction?: Transaction,
  ) =>
    sequelize.query(
      `WITH added AS (
         INSERT INTO live_steps (project_id, item_id, epoch, version, step, client, person)
         SELECT $project::uuid, $item, $epoch::uuid, $version::int + place, step, $client, $person
           FROM json_array_elements($steps::json) WITH ORDINALITY AS sent (step, place) RETURNING 1)
       SELECT pg_notify('ukiyo_steps', $payload) FROM (SELECT count(*) FROM added) AS done`,
      {
        bind: {
          ...key,
          epoch,
          version,
          ...by,
          steps: JSON.stringify(steps),
          payload: JSON.stringify({ ...key, version: version + steps.length }),
        },
        type: QueryTypes.SELECT,
        ...(transaction ? { transaction } : {}),
      },
    );

  return {
    async open(key, schema, begin) {
      const document = await sequelize.transaction(async (transaction) => {
        const row = await models.items.findOne({
          where: { projectId: key.project, id: key.item },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        if (!row) return undefined;
        const known = (await liveDocuments.findOne({ where: where(key), transaction }))?.get();
        if (known) return known;
        const { kind, text, version } = row.get();
        const begun = kind === 'topic' ? await begin(text) : undefined;
        if (begun === undefined) return undefined;
        const fresh: LiveDocumentRow = {
          ...where(key),
          epoch: randomUUID(),
          schema,
          version: 0,
          document: JSON.parse(begun) as unknown,
          itemVersion: version,
        };
        await liveDocuments.create(fresh, { transaction });
        return fresh;
      });
      return (
        document && { document, steps: await stepsAfter(key, document.epoch, document.version) }
      );
    },
    since: stepsAfter,
    async append(key, epoch, version, steps, by) {
      try {
        await log(key, epoch, version, steps, by);
        return 'kept';
      } catch (error) {
        if (error instanceof UniqueConstraintError) return 'raced';
        if (error instanceof ForeignKeyConstraintError) return 'gone';
        throw error;
      }
    },
    async write(key, { epoch, version, document, text, note, author }) {
      return sequelize.transaction(async (transaction) => {
        const row = await models.items.findOne({
          where: { projectId: key.project, id: key.item },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        const live =
          row &&
          (await liveDocuments.findOne({
            where: { ...where(key), epoch },
            attributes: ['version'],
            transaction,
          }));
        if (!row || !live) return undefined;
        if (live.get().version > version) return row.get().version;
        const itemVersion = await items.write(row, { text, note }, author, transaction);
        // As it is: a long document need not be read and written here once more.
        await sequelize.query(
          `UPDATE live_documents
           SET version = $version, document = $document::json, item_version = $itemVersion
           WHERE project_id = $project::uuid AND item_id = $item AND epoch = $epoch::uuid`,
          { bind: { ...key, epoch, version, document, itemVersion }, transaction },
        );
        await liveSteps.destroy({
          where: {
            ...where(key),
            version: { [Op.lte]: version },
            createdAt: { [Op.lt]: new Date(Date.now() - keptDays * 86_400_000) },
          },
          transaction,
        });
        return itemVersion;
      });
    },
    async change(row, change, { person, note }, transaction) {
      const { projectId: project, id: item } = row.get();
      const live = await liveDocuments.findOne({
        where: { projectId: project, itemId: item },
        transaction,
      });
      if (!live) return false;
      const { epoch, version, document: held } = live.get();
      const steps = await stepsAfter({ project, item }, epoch, version, transaction);
      const start = documentFrom(held);
      const current =
        start &&
        applySteps(
          start,
          steps.map(({ step }) => step),
        );
      // A log that cannot be followed ends; the text is what holds.
      if (!current || !('document' in current)) {
        await live.destroy({ transaction });
        return false;
      }
      const root = change(fromEditor(current.document));
      const step = stepTo(current.document, root);
      if (step)
        await log(
          { project, item },
          epoch,
          version + steps.length,
          [step.toJSON()],
          { client: 'text', person },
          transaction,
        );
      const itemVersion = await items.write(
        row,
        { text: writeCanonical(root), note },
        person,
        transaction,
      );
      const document = (step?.apply(current.document).doc ?? current.document).toJSON() as unknown;
      await live.update(
        { version: version + steps.length + (step ? 1 : 0), document, itemVersion },
        { transaction },
      );
      return true;
    },
    end: async (key) => void (await liveDocuments.destroy({ where: where(key) })),
    async unwritten() {
      return sequelize.query<LiveKey>(
        'SELECT DISTINCT d.project_id AS project, d.item_id AS item FROM live_documents d ' +
          'JOIN live_steps s ON s.project_id = d.project_id AND s.item_id = d.item_id AND ' +
          's.epoch = d.epoch AND s.version > d.version',
        { type: QueryTypes.SELECT },
      );
    },
  };
}
