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

/** Steps that come after a version. */
interface NewSteps {
  readonly epoch: string;
  readonly version: number;
  readonly steps: readonly unknown[];
  readonly client: string;
  readonly person: string;
}

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
  append(key: LiveKey, steps: NewSteps): Promise<'kept' | 'raced' | 'gone'>;
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
   * edited live; a step of another person at the same moment breaks the transaction with a
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

const rowsOf = ({ project, item }: LiveKey) => ({ projectId: project, itemId: item });

/** The steps of a line of versions after one of them, in order. */
async function stepsAfter(
  { models: { liveSteps } }: Database,
  key: LiveKey,
  after: Pick<LiveDocumentRow, 'epoch' | 'version'>,
  transaction?: Transaction,
): Promise<LoggedStep[]> {
  const rows = await liveSteps.findAll({
    where: { ...rowsOf(key), epoch: after.epoch, version: { [Op.gt]: after.version } },
    order: [['version', 'ASC']],
    ...(transaction ? { transaction } : {}),
  });
  return rows.map((row) => row.get());
}

/**
 * Writes the steps and tells every process of the database, which hears of it when the transaction
 * ends.
 */
async function logSteps(
  { sequelize }: Database,
  key: LiveKey,
  { steps, ...made }: NewSteps,
  transaction?: Transaction,
): Promise<void> {
  await sequelize.query(
    `WITH added AS (
       INSERT INTO live_steps (project_id, item_id, epoch, version, step, client, person)
       SELECT $project::uuid, $item, $epoch::uuid, $version::int + place, step, $client, $person
         FROM json_array_elements($steps::json) WITH ORDINALITY AS sent (step, place) RETURNING 1)
     SELECT pg_notify('ukiyo_steps', $payload) FROM (SELECT count(*) FROM added) AS done`,
    {
      bind: {
        ...key,
        ...made,
        steps: JSON.stringify(steps),
        payload: JSON.stringify({ ...key, version: made.version + steps.length }),
      },
      type: QueryTypes.SELECT,
      ...(transaction ? { transaction } : {}),
    },
  );
}

/** The row of a topic, held until the transaction ends. */
const holdRow = (
  { models }: Database,
  { project, item }: LiveKey,
  transaction: Transaction,
): Promise<Model<ItemRow, Partial<ItemRow>> | null> =>
  models.items.findOne({
    where: { projectId: project, id: item },
    transaction,
    lock: transaction.LOCK.UPDATE,
  });

function opening(database: Database): LiveLog['open'] {
  const { sequelize, models } = database;
  return async (key, schema, begin) => {
    const document = await sequelize.transaction(async (transaction) => {
      const row = await holdRow(database, key, transaction);
      if (!row) return undefined;
      const known = await models.liveDocuments.findOne({ where: rowsOf(key), transaction });
      if (known) return known.get();
      const { kind, text, version } = row.get();
      const begun = kind === 'topic' ? await begin(text) : undefined;
      if (begun === undefined) return undefined;
      const fresh: LiveDocumentRow = {
        ...rowsOf(key),
        epoch: randomUUID(),
        schema,
        version: 0,
        document: JSON.parse(begun) as unknown,
        itemVersion: version,
      };
      await models.liveDocuments.create(fresh, { transaction });
      return fresh;
    });
    return document && { document, steps: await stepsAfter(database, key, document) };
  };
}

function writing(database: Database, items: ItemStore): LiveLog['write'] {
  const { sequelize, models } = database;
  return (key, { epoch, version, document, text, note, author }) =>
    sequelize.transaction(async (transaction) => {
      const row = await holdRow(database, key, transaction);
      const live =
        row &&
        (await models.liveDocuments.findOne({
          where: { ...rowsOf(key), epoch },
          attributes: ['version'],
          transaction,
        }));
      if (!row || !live) return undefined;
      if (live.get().version > version) return row.get().version;
      const itemVersion = await items.write(row, text, { note, author }, transaction);
      // As it is: a long document need not be read and written here once more.
      await sequelize.query(
        `UPDATE live_documents
         SET version = $version, document = $document::json, item_version = $itemVersion
         WHERE project_id = $project::uuid AND item_id = $item AND epoch = $epoch::uuid`,
        { bind: { ...key, epoch, version, document, itemVersion }, transaction },
      );
      await models.liveSteps.destroy({
        where: {
          ...rowsOf(key),
          version: { [Op.lte]: version },
          createdAt: { [Op.lt]: new Date(Date.now() - keptDays * 86_400_000) },
        },
        transaction,
      });
      return itemVersion;
    });
}

function changing(database: Database, items: ItemStore): LiveLog['change'] {
  const { liveDocuments } = database.models;
  return async (row, change, { person, note }, transaction) => {
    const { projectId: project, id: item } = row.get();
    const key = { project, item };
    const live = await liveDocuments.findOne({ where: rowsOf(key), transaction });
    if (!live) return false;
    const held = live.get();
    const logged = await stepsAfter(database, key, held, transaction);
    const start = documentFrom(held.document);
    const steps = logged.map(({ step }) => step);
    const current = start && applySteps(start, steps);
    // A log that cannot be followed ends; the text is what holds.
    if (!current || !('document' in current)) {
      await live.destroy({ transaction });
      return false;
    }
    const root = change(fromEditor(current.document));
    const step = stepTo(current.document, root);
    const version = held.version + steps.length;
    if (step) {
      const made = { epoch: held.epoch, version, steps: [step.toJSON()], client: 'text', person };
      await logSteps(database, key, made, transaction);
    }
    const by = { note, author: person };
    const itemVersion = await items.write(row, writeCanonical(root), by, transaction);
    const document = (step?.apply(current.document).doc ?? current.document).toJSON() as unknown;
    await live.update(
      { version: version + (step ? 1 : 0), document, itemVersion },
      { transaction },
    );
    return true;
  };
}

export function liveLog(database: Database, items: ItemStore): LiveLog {
  const { sequelize, models } = database;
  return {
    open: opening(database),
    write: writing(database, items),
    change: changing(database, items),
    since: (key, epoch, version) => stepsAfter(database, key, { epoch, version }),
    async append(key, steps) {
      try {
        await logSteps(database, key, steps);
        return 'kept';
      } catch (error) {
        if (error instanceof UniqueConstraintError) return 'raced';
        if (error instanceof ForeignKeyConstraintError) return 'gone';
        throw error;
      }
    },
    end: async (key) => void (await models.liveDocuments.destroy({ where: rowsOf(key) })),
    unwritten: () =>
      sequelize.query<LiveKey>(
        'SELECT DISTINCT d.project_id AS project, d.item_id AS item FROM live_documents d ' +
          'JOIN live_steps s ON s.project_id = d.project_id AND s.item_id = d.item_id AND ' +
          's.epoch = d.epoch AND s.version > d.version',
        { type: QueryTypes.SELECT },
      ),
  };
}
