import { createHash } from 'node:crypto';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import type {
  Edition,
  Proof,
  ProofOrder,
  SiteProof,
  SpecimenOrder,
  WholeProof,
  WholeProofOrder,
} from '@ukiyo/contracts';
import { allPlaces, type Place, type Publication } from '@ukiyo/core/compose';
import { planFields, type PagePlan } from '@ukiyo/core/styles';
import {
  createPrintEngine,
  layoutOf,
  siteAddress,
  siteFiles,
  type SiteResult,
  proofPublication,
  proofTopic,
  proofWhole,
  specimen,
  type PrintEngine,
  type ProofPages,
} from '@ukiyo/press';
import {
  assetsOf,
  composeEdition,
  composeInputs,
  newBuildCache,
  type BuildCache,
  type Workplace,
} from './composing.ts';
import { siteDesignOptions } from './rendering.ts';
import { gatherInputs } from './inputs.ts';

/** What one wants to see set. */
export type ProofQuestion =
  | ({ readonly kind: 'specimen' } & SpecimenOrder)
  | ({ readonly kind: 'topic'; readonly edition: string } & ProofOrder)
  /** The page of a topic that is being written. */
  | ({ readonly kind: 'sitePage'; readonly edition: string } & Omit<ProofOrder, 'has'>)
  /** One file of the help site of an edition. */
  | {
      readonly kind: 'site';
      readonly edition: string;
      readonly look: string;
      readonly path: string;
    }
  | ({ readonly kind: 'whole'; readonly edition: string; readonly file: string } & WholeProofOrder);
export interface ProofAnswers {
  readonly specimen: Proof;
  readonly topic: Proof | undefined;
  readonly whole: WholeProof | undefined;
  readonly site: string | Uint8Array | undefined;
  readonly sitePage: SiteProof | undefined;
}

type Layout = ReturnType<typeof layoutOf>;
/** What is kept between proofs. */
interface ProofCache extends BuildCache {
  /** Where everything stood when an edition was last set as a whole, and how that edition was. */
  readonly layouts: Map<string, { readonly pages: Layout; readonly publication: Publication }>;
  readonly specimens: Map<string, Publication>;
  /** The help site of each edition, by what it is made of. */
  readonly sites: Map<string, { readonly made: string; readonly site: SiteResult }>;
  /** Runs when nothing was asked for a while. */
  later: NodeJS.Timeout | undefined;
}
export const newProofCache = (): ProofCache => ({
  ...newBuildCache(),
  layouts: new Map(),
  specimens: new Map(),
  sites: new Map(),
  later: undefined,
});

const without = (
  shapes: ReadonlyMap<string, string>,
  has: ReadonlySet<string>,
): Record<string, string> => Object.fromEntries([...shapes].filter(([shape]) => !has.has(shape)));
const pathOf = (path: string): number[] => (path === '' ? [] : path.split('.').map(Number));
const placesOf = (traces: ProofPages['traces']): Proof['places'] =>
  traces.map(({ path, sheet, y, says }) => ({ path: pathOf(path), page: sheet, y, says }));

/** One proof: its project, and the time at which it was ordered. */
interface Proofing extends Workplace<ProofCache> {
  readonly engine: PrintEngine;
  /** By the clock of `performance.now`. */
  readonly started: number;
}
const sinceStart = ({ started }: Proofing): number => Math.round(performance.now() - started);

const proofOf = (
  at: Proofing,
  pages: ProofPages,
  has: readonly string[] | undefined,
  isPlaced: boolean,
): Proof => ({
  pages: pages.pages.map((page) => ({ ...page, pieces: [...page.pieces] })),
  shapes: without(pages.shapes, new Set(has)),
  places: placesOf(pages.traces),
  placed: isPlaced,
  problems: [...pages.problems],
  milliseconds: sinceStart(at),
  engineMilliseconds: Math.round(pages.engineMilliseconds),
});

/**
 * A whole layout is made after this many milliseconds without an order: it takes the process
 * for seconds.
 */
const restBefore = 1200;

type Asked<Kind extends ProofQuestion['kind']> = ProofQuestion & { readonly kind: Kind };

/**
 * Sets what is asked for, without writing anything.
 * @returns undefined where there is no such edition or file
 */
export async function proof(
  place: Workplace<ProofCache>,
  question: ProofQuestion,
): Promise<Proof | WholeProof | SiteProof | string | Uint8Array | undefined> {
  const { services, project, cache } = place;
  const engine = (cache.engine ??= createPrintEngine());
  const at = { ...place, engine, started: performance.now() };
  clearTimeout(cache.later);
  if (question.kind === 'specimen') return proofSpecimen(at, question);
  const edition = await services.editions.edition(project, question.edition);
  if (!edition) return undefined;
  if (question.kind === 'site')
    return siteFile(at, { ...edition, output: 'site', look: question.look }, question.path);
  if (question.kind === 'sitePage') return sitePage(at, { ...edition, output: 'site' }, question);
  return question.kind === 'whole'
    ? wholeProof(at, edition, question)
    : topicOf(at, edition, question);
}

async function proofSpecimen(at: Proofing, question: Asked<'specimen'>): Promise<Proof> {
  const { services, project, cache, engine } = at;
  const { locale, sheet, plan, has } = question;
  const key = JSON.stringify([locale, sheet.numbering]);
  const publication = cache.specimens.get(key) ?? specimen(locale, sheet.numbering);
  // One is enough: the next order is most likely like this one.
  cache.specimens.clear();
  cache.specimens.set(key, publication);
  const asset = assetsOf(services, await services.assets.rows(project));
  const pages = proofPublication({
    publication: withNames(publication, plan),
    asset,
    engine,
    design: { sheet, plan },
  });
  return proofOf(at, pages, has, true);
}

/**
 * A topic is set alone, and stands as the last layout of the whole says; that layout is made again
 * when there is time for it.
 */
async function topicOf(at: Proofing, edition: Edition, asked: Asked<'topic'>): Promise<Proof> {
  const { services, cache, engine } = at;
  const { item, text, has } = asked;
  const written = text === undefined ? undefined : { id: item, text };
  const { publication, design, rows } = await composeEdition(at, edition, written);
  const place = placeOf(publication, item);
  const layout = cache.layouts.get(edition.id);
  const asset = assetsOf(services, rows);
  const pages =
    place && proofTopic({ publication, asset, engine, design }, place.anchor, layout?.pages ?? []);
  // What goes wrong there goes wrong again when the topic is asked for, and is said then.
  cache.later = setTimeout(() => void layOut(at, edition).catch(() => undefined), restBefore);
  return proofOf(at, pages ?? noPages, has, pages !== undefined && layout !== undefined);
}
const noPages: ProofPages = {
  pages: [],
  shapes: new Map(),
  traces: [],
  problems: [],
  engineMilliseconds: 0,
};

/**
 * A file of the site as the edition would give it now. What a page brings with it is of the site as
 * it was when the page was asked for.
 */
async function siteFile(
  at: Proofing,
  edition: Edition,
  path: string,
): Promise<string | Uint8Array | undefined> {
  const { services, project, cache } = at;
  const wanted = path === '' ? 'index.html' : path;
  const key = `${edition.id}/${edition.look}`;
  const known = cache.sites.get(key);
  if (known && !wanted.endsWith('.html')) return known.site.file(wanted);
  const inputs = await gatherInputs(services, project, edition);
  const { texts, assets, before: _before, ...rest } = inputs;
  const made = JSON.stringify([
    texts.map(({ id, version }) => [id, version]),
    assets.map(({ id, hash }) => [id, hash]),
    rest,
  ]);
  if (known?.made === made) return known.site.file(wanted);
  const { publication, design, look, rows } = await composeInputs(inputs, at);
  const site = siteFiles(publication, assetsOf(services, rows), {
    ...siteDesignOptions(edition, { design, look }, inputs.synonyms),
    isProof: true,
  });
  cache.sites.set(key, { made, site });
  return site.file(wanted);
}

async function sitePage(
  at: Proofing,
  edition: Edition,
  { item, text }: Asked<'sitePage'>,
): Promise<SiteProof> {
  const written = text === undefined ? undefined : { id: item, text };
  const { publication, design, look, rows } = await composeEdition(at, edition, written);
  const place = placeOf(publication, item);
  const path = place && siteAddress(publication, place.anchor, edition)?.split('#')[0];
  if (path === undefined) return { path: null, html: '', conditions: '' };
  const site = siteFiles(publication, assetsOf(at.services, rows), {
    ...siteDesignOptions(edition, { design, look }),
    traced: item,
  });
  const conditions = createHash('sha256')
    .update(Buffer.from(site.file('readers-data.js') ?? ''))
    .digest('hex');
  return { path, html: String(site.file(path)), conditions };
}

/** The place at which a topic stands, itself or in the place of another. */
const placeOf = (publication: Publication, item: string): Place | undefined =>
  allPlaces(publication.places).find(
    ({ content, origin }) => content?.origin.item === item || origin.item === item,
  );

/** A specimen has no map: a variable shows its name. */
const withNames = (publication: Publication, plan: PagePlan): Publication => ({
  ...publication,
  variables: Object.fromEntries(
    planFields(plan).flatMap((field) =>
      field.field === 'variable' ? [[field.key, field.key]] : [],
    ),
  ),
});

/** Typesets an edition as it is stored into a file, and finds the pages of the topic. */
async function wholeProof(
  at: Proofing,
  edition: Edition,
  { item, file }: Asked<'whole'>,
): Promise<WholeProof> {
  const { services, engine } = at;
  const { publication, design, rows } = await composeEdition(at, edition);
  const place = item === undefined ? undefined : placeOf(publication, item);
  const asset = assetsOf(services, rows);
  const made = proofWhole({ publication, asset, engine, design }, place?.anchor);
  const nothing = { sheets: [], first: 1, last: 1, places: [], shown: [] };
  if (!('pdf' in made))
    return { ...nothing, problems: [...made.problems], milliseconds: sinceStart(at) };
  const { pdf, sheets, pages, traces, first, last, problems } = made;
  await mkdir(dirname(file), { recursive: true });
  // A reader that has the last file open reads it to its end.
  await writeFile(`${file}.new`, pdf);
  await rename(`${file}.new`, file);
  const shown = new Map(pages.map(({ sheet, shown: number }) => [sheet, number]));
  return {
    sheets: [...sheets],
    first,
    last,
    places: placesOf(traces),
    shown: sheets.map((_, sheet) => shown.get(sheet + 1) ?? ''),
    problems: [...problems],
    milliseconds: sinceStart(at),
  };
}

/** Sets an edition as it is stored as a whole, unless nothing has changed since. */
async function layOut(at: Proofing, edition: Edition): Promise<void> {
  const { services, cache, engine } = at;
  const { publication, design, rows } = await composeEdition(at, edition);
  if (cache.layouts.get(edition.id)?.publication === publication) return;
  const pages = layoutOf({ publication, asset: assetsOf(services, rows), engine, design });
  cache.layouts.set(edition.id, { pages, publication });
}
