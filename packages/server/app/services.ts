import { join } from 'node:path';
import type { Transaction } from 'sequelize';
import { signInAttempts, type Attempts } from '../access/attempts.ts';
import { grantsOf, type Grants } from '../access/grants.ts';
import { people, type People } from '../access/people.ts';
import { sessionStore, type Sessions } from '../access/sessions.ts';
import { signer, type Signer } from '../access/signing.ts';
import { tokenStore, type Tokens } from '../access/tokens.ts';
import { agreementStore, type AgreementStore } from '../data/agreements.ts';
import { alternateStore, type AlternateStore } from '../work/alternates.ts';
import { assetStore, type AssetStore } from '../data/assets.ts';
import { blobStore, type BlobStore } from '../data/blobs.ts';
import { openDatabase, type Database } from '../data/database.ts';
import { designStore, type DesignStore } from '../data/designs.ts';
import { editionStore, type EditionStore } from '../data/editions.ts';
import { facetStore, type FacetStore } from '../data/facets.ts';
import { itemStore, type ItemStore } from '../data/items.ts';
import { liveLog, type LiveLog } from '../data/live.ts';
import { noticeStore, simulatedCourier, type Courier, type NoticeStore } from '../data/notices.ts';
import { valueRenaming, type ValueRenaming } from '../work/renaming.ts';
import { replacing, type Replacing } from '../work/replacing.ts';
import { textChanges } from '../work/rewriting.ts';
import { copyMerging, type CopyMerging } from '../work/sharing.ts';
import { sourceStore, type SourceStore } from '../work/sources.ts';
import { useStore, type UseStore } from '../data/uses.ts';
import { variableStore, type VariableStore } from '../work/variables.ts';
import { libraryPackages, type LibraryPackages } from '../work/packages.ts';
import { prepareText } from '../data/preparing.ts';
import { sanitiseImage } from '../media/image.ts';
import { imageStoring, type ImageStoring } from '../media/storing.ts';
import { drafting, type Drafting } from '../live/drafting.ts';
import type { Threads } from '../threads/pool.ts';
import { notificationSender, type SendNotifications } from './notifications.ts';

/** Everything that routes and workers need, made once for each process. */
export interface Services {
  readonly settings: Settings;
  readonly database: Database;
  readonly blobs: BlobStore;
  /** Stores an uploaded image, video or sound under its detected media type. */
  readonly storeImage: ImageStoring;
  readonly people: People;
  readonly sessions: Sessions;
  readonly attempts: Attempts;
  readonly grants: Grants;
  readonly signer: Signer;
  readonly tokens: Tokens;
  readonly notices: NoticeStore;
  readonly courier: Courier;
  readonly sendNotifications: SendNotifications;
  readonly items: ItemStore;
  readonly assets: AssetStore;
  readonly editions: EditionStore;
  readonly designs: DesignStore;
  readonly facets: FacetStore;
  readonly renameValue: ValueRenaming;
  readonly uses: UseStore;
  readonly replacing: Replacing;
  readonly mergeCopies: CopyMerging;
  readonly variables: VariableStore;
  readonly alternates: AlternateStore;
  readonly agreements: AgreementStore;
  readonly live: LiveLog;
  readonly drafting: Drafting;
  readonly packages: LibraryPackages;
  readonly sources: SourceStore;
  /** Folder of an impression's files. */
  readonly impressionFolder: (id: string) => string;
  /** The file in which an edition was last proofed as a whole. */
  readonly proofFile: (edition: string) => string;
}

export interface Settings {
  readonly databaseUrl: string;
  /** Where images and impressions are kept; in its `sources` lie folders that can be linked. */
  readonly dataFolder: string;
}

export interface ServiceOptions {
  /** Connections to the database, at most. */
  readonly connections?: number;
  /**
   * Where long texts and large drawings are worked on; in the thread that asks where there is none.
   */
  readonly threads?: Omit<Threads, 'close'>;
}

export function makeServices(
  settings: Settings,
  { connections, threads = { prepareText, sanitiseImage, drafting } }: ServiceOptions = {},
): Services {
  const { databaseUrl, dataFolder } = settings;
  const database = openDatabase(databaseUrl, connections);
  const blobs = blobStore(join(dataFolder, 'blobs'), join(dataFolder, 'temporary'));
  const editions = editionStore(database);
  const facets = facetStore(database);
  const designs = designStore(database);
  const agreements = agreementStore(database);
  const agreedIn = async (project: string, transaction?: Transaction) => ({
    facets: (await facets.read(project, transaction)).facets,
    rules: (await agreements.read(project, transaction)).rules,
  });
  const items = itemStore(database, agreedIn, threads.prepareText);
  const assets = assetStore(database);
  const live = liveLog(database, items);
  const changeTexts = textChanges(database, items, live);
  const notices = noticeStore(database);
  const courier = simulatedCourier(database);
  const persons = people(database);
  const sessions = sessionStore(database);
  const tokens = tokenStore(database);
  return {
    settings,
    database,
    blobs,
    storeImage: imageStoring(blobs, threads.sanitiseImage),
    people: persons,
    sessions,
    tokens,
    attempts: signInAttempts(database),
    grants: grantsOf(persons, sessions, tokens),
    signer: signer(join(dataFolder, 'secret.key')),
    notices,
    courier,
    sendNotifications: notificationSender(notices, courier),
    items,
    assets,
    editions,
    designs,
    facets,
    agreements,
    live,
    drafting: threads.drafting,
    renameValue: valueRenaming(database, facets, changeTexts),
    uses: useStore(database),
    replacing: replacing(database, items, changeTexts),
    mergeCopies: copyMerging(database, items, changeTexts),
    variables: variableStore(database, changeTexts),
    alternates: alternateStore(database, items, changeTexts),
    packages: libraryPackages(database, { items, assets, editions, designs, facets, blobs }),
    sources: sourceStore(database, items, changeTexts, join(dataFolder, 'sources')),
    impressionFolder: (id) => join(dataFolder, 'impressions', id),
    proofFile: (edition) => join(dataFolder, 'proofs', `${edition}.pdf`),
  };
}
