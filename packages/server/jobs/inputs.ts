import { readFile, writeFile } from 'node:fs/promises';
import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import type { Agreements, Edition } from '@ukiyo/contracts';
import type { Facet, KeptLens } from '@ukiyo/core/facets';
import type { HouseRule } from '@ukiyo/core/rules';
import type { Services } from '../app/services.ts';
import type { LibraryText } from '../data/revisions.ts';
import type { AssetRow } from '../data/models.ts';

/**
 * All that goes into the composing of an edition, as it is stored now or was then: what is made of
 * it depends on nothing else.
 */
export interface Inputs {
  readonly edition: Edition;
  readonly texts: readonly LibraryText[];
  readonly assets: readonly AssetRow[];
  readonly facets: readonly Facet[];
  readonly lenses: readonly KeptLens[];
  readonly rules: readonly HouseRule[];
  /** What the team wants said of every topic. */
  readonly facts: Agreements['facts'];
  /** By language: groups of synonyms for the search. */
  readonly synonyms: Agreements['synonyms'];
  readonly designs: Awaited<ReturnType<Services['designs']['read']>>;
  /** In which the project is written; null in what earlier versions recorded. */
  readonly sourceLocale: string | null;
  /** Of the whole project: links lead into their publications. */
  readonly editions: readonly Edition[];
  /**
   * The texts of the impression that change bars are measured against; empty if the edition names
   * none, or if it was deleted.
   */
  before(edition: Edition): Promise<readonly LibraryText[]>;
}

/** A text that is being written. */
export interface DraftText {
  readonly id: string;
  readonly text: string;
}

/**
 * What a library is made of.
 * @param written a text as it is being written, which need not be stored
 */
export async function gatherLibrary(
  services: Services,
  project: string,
  written?: DraftText,
): Promise<Pick<Inputs, 'texts' | 'assets' | 'facets' | 'lenses'>> {
  const [texts, assets, { facets }, lenses] = await Promise.all([
    services.items.texts(project),
    services.assets.rows(project),
    services.facets.read(project),
    services.editions.lenses(project),
  ]);
  return {
    texts: texts.map((one) => (one.id === written?.id ? { ...one, text: written.text } : one)),
    assets,
    facets,
    lenses,
  };
}

export async function gatherInputs(
  services: Services,
  project: string,
  edition: Edition,
  written?: DraftText,
): Promise<Inputs> {
  const [library, { rules, facts, synonyms }, designs, editions, row] = await Promise.all([
    gatherLibrary(services, project, written),
    services.agreements.read(project),
    services.designs.read(project),
    services.editions.editions(project),
    services.database.models.projects.findByPk(project),
  ]);
  const before = async ({ since }: Edition): Promise<readonly LibraryText[]> =>
    since === null
      ? []
      : services.items.textsAt(project, await services.editions.inputsOf(project, since));
  return {
    edition,
    ...library,
    rules,
    facts,
    synonyms,
    designs,
    editions,
    sourceLocale: row?.get().locale ?? null,
    before,
  };
}

const pack = promisify(gzip);
const unpack = promisify(gunzip);

/** Keeps what went into an impression beside its files. */
export async function recordInputs(path: string, { before, ...inputs }: Inputs): Promise<void> {
  const { edition, editions } = inputs;
  const made = [edition, ...editions.filter(({ id }) => edition.holds.includes(id))].filter(
    ({ since }) => since !== null,
  );
  const earlier = Object.fromEntries(
    await Promise.all(made.map(async (one) => [one.id, await before(one)] as const)),
  );
  await writeFile(path, await pack(JSON.stringify({ ...inputs, earlier })));
}

type Recorded = Omit<Inputs, 'before' | 'facts' | 'sourceLocale'> &
  Partial<Pick<Inputs, 'facts' | 'sourceLocale'>> & {
    readonly earlier: Readonly<Record<string, readonly LibraryText[]>>;
  };

/**
 * What went into an impression, as it was recorded; only files that `recordInputs` wrote are read.
 */
export async function recordedInputs(path: string): Promise<Inputs> {
  const recorded = JSON.parse((await unpack(await readFile(path))).toString('utf8')) as Recorded;
  // Earlier versions recorded neither facts nor the language of the project.
  const { earlier, ...inputs } = { facts: [], sourceLocale: null, ...recorded };
  return { ...inputs, before: ({ id }) => Promise.resolve(earlier[id] ?? []) };
}
