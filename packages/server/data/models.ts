import type {
  Agreements,
  EditionFacts,
  EditionInput,
  Figures,
  Impression,
  ImpressionState,
  Notice,
  NoticeEvent,
  Output,
  Progress,
  ReaderChoice,
  Role,
  Seal,
  Token,
} from '@ukiyo/contracts';
import type { ClashLook, FacetValue, LensRule } from '@ukiyo/core/facets';
import type { UseManner } from '@ukiyo/core/library';
import type { Problem, ProblemCounts, ProblemKind } from '@ukiyo/core/problems';
import type { LinkedFile } from '@ukiyo/intake';
import { DataTypes, type Model, type ModelStatic, type Sequelize } from 'sequelize';

export interface PersonRow {
  id: string;
  name: string;
  email: string;
  passwordHash: string;
  role: Role;
  active: boolean;
}
export interface SessionRow {
  /** SHA-256 of the token that the browser holds. */
  id: string;
  personId: string;
  expiresAt: Date;
  createdAt: Date;
  usedAt: Date;
  /** What the browser says of itself. */
  agent: string;
}
interface ProjectRow {
  id: string;
  name: string;
  locale: string;
  /** Counts the changes of its facets. */
  facetsVersion: number;
}
export interface ItemRow {
  projectId: string;
  id: string;
  kind: 'topic' | 'map';
  type: string;
  folder: string;
  name: string;
  title: string;
  shortDescription: string;
  text: string;
  searchText: string;
  wordCount: number;
  problems: ProblemCounts;
  conditions: Record<string, string>;
  facts: Record<string, string>;
  alternateOf: string | null;
  version: number;
  updatedAt: Date;
  updatedBy: string;
}
interface RevisionRow {
  projectId: string;
  itemId: string;
  version: number;
  text: string;
  hash: string;
  note: string;
  author: string;
  createdAt: Date;
}
interface UseRow {
  projectId: string;
  sourceId: string;
  manner: UseManner;
  target: string;
  part: string;
  count: number;
}
export interface AssetRow {
  projectId: string;
  id: string;
  folder: string;
  name: string;
  mediaType: string;
  size: number;
  width: number | null;
  height: number | null;
  hash: string;
  alternateOf: string | null;
  conditions: Record<string, string>;
}
/** What the team has agreed on; one row a project. */
type AgreementsRow = Agreements & { projectId: string };
export interface LensRow {
  projectId: string;
  id: string;
  name: string;
  rules: LensRule[];
  clash: ClashLook | null;
  through: string[];
}
/** How often a facet value is set in a text. */
interface FacetUseRow {
  projectId: string;
  itemId: string;
  facet: string;
  value: string;
  count: number;
}
interface FacetRow {
  projectId: string;
  name: string;
  label: string;
  /** `values` is a word of SQL. */
  valueList: readonly FacetValue[];
  position: number;
}
export interface EditionRow {
  id: string;
  projectId: string;
  name: string;
  output: Output;
  map: string;
  lens: string | null;
  variables: Record<string, string>;
  facts: EditionFacts;
  locale: string;
  address: string;
  sheet: string;
  since: string | null;
  plan: string;
  look: string;
  choices: ReaderChoice[];
  stops: ProblemKind[];
  keeps: number;
  naming: EditionInput['naming'];
  folders: EditionInput['folders'];
  holds: string[];
  start: string;
  locales: string[];
  nightly: string;
  readsSources: boolean;
  /** When the clock last built it, or its time of the day was set. */
  clockAt: Date;
}
export interface ImpressionRow {
  id: string;
  projectId: string;
  edition: string;
  number: number;
  state: ImpressionState;
  progress: Progress;
  problems: Problem[];
  figures: Figures;
  /** The version of every item that went in. */
  inputs: Record<string, number>;
  name: string;
  notes: Impression['notes'];
  seal: Seal | null;
  stops: ProblemKind[];
  again: string | null;
  /** The language in which it was asked for instead of that of its edition. */
  locale: string | null;
  fingerprint: string;
  person: string;
  createdAt: Date;
  heartbeatAt: Date | null;
  finishedAt: Date | null;
}

/**
 * The document of a topic that is or was being edited live, as of its last writing to the library.
 */
export interface LiveDocumentRow {
  projectId: string;
  itemId: string;
  /** One line of versions; another begins when the text is read anew. */
  epoch: string;
  /** Fingerprint of the editor's schema that wrote the document. */
  schema: string;
  version: number;
  document: unknown;
  itemVersion: number;
}
export interface LiveStepRow {
  projectId: string;
  itemId: string;
  epoch: string;
  /** The version that the step makes. */
  version: number;
  step: unknown;
  client: string;
  person: string;
  createdAt: Date;
}

export interface TokenRow {
  id: string;
  personId: string;
  name: string;
  access: Token['access'];
  /** SHA-256 of the secret. */
  hash: string;
  createdAt: Date;
  usedAt: Date | null;
  expiresAt: Date;
}
interface NoticeRow {
  id: string;
  projectId: string;
  kind: Notice['kind'];
  target: string;
  events: NoticeEvent[];
  edition: string | null;
  secret: string;
}
interface OutboxRow {
  id: string;
  projectId: string;
  at: Date;
  kind: Notice['kind'];
  target: string;
  subject: string;
  body: string;
  signature: string;
}

export interface DesignRow {
  projectId: string;
  kind: string;
  id: string;
  version: number;
  content: unknown;
}

export interface LinkedSourceRow {
  projectId: string;
  folder: string;
  /**
   * What is known of the files of one that was linked stays: linked again, it goes on with its
   * topics.
   */
  isLinked: boolean;
  files: LinkedFile[];
  readAt: Date | null;
}

type Table<Row extends object> = ModelStatic<Model<Row, Partial<Row>>>;

const text = { type: DataTypes.TEXT };
const key = { ...text, primaryKey: true };
const uuid = { type: DataTypes.UUID };
const uuidKey = { ...uuid, primaryKey: true };
const integer = { type: DataTypes.INTEGER };
const real = { type: DataTypes.REAL };
const json = { type: DataTypes.JSONB };
/** Kept as it was written: `jsonb` takes no U+0000, which people can paste. */
const plainJson = { type: DataTypes.JSON };
const date = { type: DataTypes.DATE };
const boolean = { type: DataTypes.BOOLEAN };

/** A table with its columns, before there is a connection. */
interface TableDefinition<Row extends object> {
  readonly name: string;
  readonly columns: Record<keyof Row & string, object>;
}
const table = <Row extends object>(
  name: string,
  columns: TableDefinition<Row>['columns'],
): TableDefinition<Row> => ({ name, columns });

const tables = {
  people: table<PersonRow>('people', {
    id: uuidKey,
    name: text,
    email: text,
    passwordHash: text,
    role: text,
    active: boolean,
  }),
  sessions: table<SessionRow>('sessions', {
    id: key,
    personId: uuid,
    expiresAt: date,
    createdAt: date,
    usedAt: date,
    agent: text,
  }),
  projects: table<ProjectRow>('projects', {
    id: uuidKey,
    name: text,
    locale: text,
    facetsVersion: integer,
  }),
  items: table<ItemRow>('items', {
    projectId: uuidKey,
    id: key,
    kind: text,
    type: text,
    folder: text,
    name: text,
    title: text,
    shortDescription: text,
    text,
    searchText: text,
    wordCount: integer,
    problems: json,
    conditions: json,
    facts: json,
    alternateOf: text,
    version: integer,
    updatedAt: date,
    updatedBy: text,
  }),
  revisions: table<RevisionRow>('revisions', {
    projectId: uuidKey,
    itemId: key,
    version: { ...integer, primaryKey: true },
    text,
    hash: text,
    note: text,
    author: text,
    createdAt: date,
  }),
  itemUses: table<UseRow>('item_uses', {
    projectId: uuidKey,
    sourceId: key,
    manner: key,
    target: key,
    part: key,
    count: integer,
  }),
  assets: table<AssetRow>('assets', {
    projectId: uuidKey,
    id: key,
    folder: text,
    name: text,
    mediaType: text,
    size: integer,
    width: real,
    height: real,
    hash: text,
    alternateOf: text,
    conditions: json,
  }),
  agreements: table<AgreementsRow>('agreements', {
    projectId: uuidKey,
    version: integer,
    rules: json,
    facts: json,
    words: json,
    synonyms: json,
  }),
  lenses: table<LensRow>('lenses', {
    projectId: uuidKey,
    id: key,
    name: text,
    rules: json,
    clash: json,
    through: json,
  }),
  designs: table<DesignRow>('designs', {
    projectId: uuidKey,
    kind: key,
    id: key,
    version: integer,
    content: plainJson,
  }),
  facets: table<FacetRow>('facets', {
    projectId: uuidKey,
    name: key,
    label: text,
    valueList: json,
    position: integer,
  }),
  facetUses: table<FacetUseRow>('facet_uses', {
    projectId: uuidKey,
    itemId: key,
    facet: key,
    value: key,
    count: integer,
  }),
  editions: table<EditionRow>('editions', {
    id: uuidKey,
    projectId: uuid,
    name: text,
    output: text,
    map: text,
    lens: text,
    variables: json,
    facts: json,
    locale: text,
    address: text,
    sheet: text,
    plan: text,
    since: uuid,
    look: text,
    choices: json,
    stops: json,
    keeps: integer,
    naming: text,
    folders: text,
    holds: json,
    start: text,
    locales: json,
    nightly: text,
    readsSources: boolean,
    clockAt: date,
  }),
  tokens: table<TokenRow>('tokens', {
    id: uuidKey,
    personId: uuid,
    name: text,
    access: text,
    hash: text,
    createdAt: date,
    usedAt: date,
    expiresAt: date,
  }),
  notices: table<NoticeRow>('notices', {
    id: uuidKey,
    projectId: uuid,
    kind: text,
    target: text,
    events: json,
    edition: uuid,
    secret: text,
  }),
  outbox: table<OutboxRow>('outbox', {
    id: uuidKey,
    projectId: uuid,
    at: date,
    kind: text,
    target: text,
    subject: text,
    body: text,
    signature: text,
  }),
  linkedSources: table<LinkedSourceRow>('linked_sources', {
    projectId: uuidKey,
    folder: key,
    isLinked: boolean,
    files: json,
    readAt: date,
  }),
  impressions: table<ImpressionRow>('impressions', {
    id: uuidKey,
    projectId: uuid,
    edition: uuid,
    number: integer,
    state: text,
    progress: json,
    problems: json,
    figures: json,
    inputs: json,
    name: text,
    notes: json,
    seal: json,
    stops: json,
    again: uuid,
    locale: text,
    fingerprint: text,
    person: text,
    createdAt: date,
    heartbeatAt: date,
    finishedAt: date,
  }),
  liveDocuments: table<LiveDocumentRow>('live_documents', {
    projectId: uuidKey,
    itemId: key,
    epoch: uuid,
    schema: text,
    version: integer,
    document: plainJson,
    itemVersion: integer,
  }),
  liveSteps: table<LiveStepRow>('live_steps', {
    projectId: uuidKey,
    itemId: key,
    epoch: uuidKey,
    version: { ...integer, primaryKey: true },
    step: plainJson,
    client: text,
    person: text,
    createdAt: date,
  }),
};

function define<Row extends object>(
  sequelize: Sequelize,
  { name, columns }: TableDefinition<Row>,
): Table<Row> {
  // Sequelize writes into the definitions it is given, so each column gets its own.
  const own = Object.fromEntries(
    Object.entries<object>(columns).map(([column, definition]) => [column, { ...definition }]),
  );
  return sequelize.define<Model<Row, Partial<Row>>>(name, own as never, {
    tableName: name,
    timestamps: false,
    underscored: true,
  });
}

/** A model for each table. */
export type Models = {
  readonly [Name in keyof typeof tables]: (typeof tables)[Name] extends TableDefinition<infer Row>
    ? Table<Row>
    : never;
};

export const defineModels = (sequelize: Sequelize): Models =>
  Object.fromEntries(
    Object.entries(tables).map(([name, definition]) => [
      name,
      define(sequelize, definition as TableDefinition<object>),
    ]),
  ) as unknown as Models;
