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
import { fieldsOf, type PagePlan } from '@ukiyo/core/styles';
import {
  asProof,
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
import type { Services } from '../app/services.ts';
import {
  assetsOf,
  composeEdition,
  composeInputs,
  newBuildCache,
  type BuildCache,
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
const proofOf = (
  pages: ProofPages,
  has: readonly string[] | undefined,
  started: number,
  isPlaced: boolean,
): Proof => ({
  pages: pages.pages.map((page) => ({ ...page, pieces: [...page.pieces] })),
  shapes: without(pages.shapes, new Set(has)),
  places: pages.traces.map(({ path, sheet, y, says }) => ({
    path: pathOf(path),
    page: sheet,
    y,
    says,
  })),
  placed: isPlaced,
  problems: [...pages.problems],
  milliseconds: Math.round(performance.now() - started),
  engineMilliseconds: Math.round(pages.engineMilliseconds),
});

/**
 * A whole layout is made once nobody has asked for this long, in milliseconds: it takes the process
 * for seconds.
 */
const restBefore = 1200;

/**
 * Sets what is asked for, without writing anything.
 * A topic is set alone, and stands as the last layout of the whole says; that layout is made again
 * when there is time for it.
 */
export async function proof(
  services: Services,
  project: string,
  question: ProofQuestion,
  cache: ProofCache,
): Promise<Proof | WholeProof | SiteProof | string | Uint8Array | undefined> {
  const started = performance.now();
  const engine = (cache.engine ??= createPrintEngine());
  clearTimeout(cache.later);
  if (question.kind === 'specimen') {
    const { locale, sheet } = question;
    const key = JSON.stringify([locale, sheet.numbering]);
    const publication = cache.specimens.get(key) ?? specimen(locale, sheet.numbering);
    // One is enough: the next order is most likely like this one.
    cache.specimens.clear();
    cache.specimens.set(key, publication);
    const rows = await services.assets.rows(project);
    return proofOf(
      proofPublication(
        withNames(publication, question.plan),
        assetsOf(services, rows),
        engine,
        question,
      ),
      question.has,
      started,
      true,
    );
  }
  const edition = await services.editions.edition(project, question.edition);
  if (!edition) return undefined;
  if (question.kind === 'site')
    return asProof(
      question.path === '' ? 'index.html' : question.path,
      await siteFile(
        services,
        project,
        { ...edition, output: 'site', look: question.look },
        question.path,
        cache,
      ),
    );
  if (question.kind === 'sitePage')
    return sitePage(services, project, { ...edition, output: 'site' }, question, cache);
  if (question.kind === 'whole')
    return whole(services, project, edition, question, cache, engine, started);
  const written =
    question.text === undefined ? undefined : { id: question.item, text: question.text };
  const { publication, design, rows } = await composeEdition(
    services,
    project,
    edition,
    cache,
    written,
  );
  const place = standingOn(publication, question.item);
  const layout = cache.layouts.get(edition.id);
  const pages =
    place &&
    proofTopic(
      publication,
      place.anchor,
      layout?.pages ?? [],
      assetsOf(services, rows),
      engine,
      design,
    );
  // What goes wrong there goes wrong again when the topic is asked for, and is said then.
  cache.later = setTimeout(
    () => void layOut(services, project, edition, cache, engine).catch(() => undefined),
    restBefore,
  );
  if (!pages)
    return {
      pages: [],
      shapes: {},
      places: [],
      placed: false,
      problems: [],
      milliseconds: Math.round(performance.now() - started),
      engineMilliseconds: 0,
    };
  return proofOf(pages, question.has, started, layout !== undefined);
}

/**
 * A file of the site as the edition would give it now. What a page brings with it is of the site as
 * it was when the page was asked for.
 */
async function siteFile(
  services: Services,
  project: string,
  edition: Edition,
  path: string,
  cache: ProofCache,
): Promise<string | Uint8Array | undefined> {
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
  const { publication, design, look, rows } = await composeInputs(inputs, project, cache);
  const site = siteFiles(
    publication,
    assetsOf(services, rows),
    siteDesignOptions(edition, { design, look }, inputs.synonyms),
  );
  cache.sites.set(key, { made, site });
  return site.file(wanted);
}

async function sitePage(
  services: Services,
  project: string,
  edition: Edition,
  { item, text }: ProofQuestion & { readonly kind: 'sitePage' },
  cache: ProofCache,
): Promise<SiteProof> {
  const { publication, design, look, rows } = await composeEdition(
    services,
    project,
    edition,
    cache,
    text === undefined ? undefined : { id: item, text },
  );
  const place = standingOn(publication, item);
  const path = place && siteAddress(publication, place.anchor, edition)?.split('#')[0];
  if (path === undefined) return { path: null, html: '', conditions: '' };
  const site = siteFiles(publication, assetsOf(services, rows), {
    ...siteDesignOptions(edition, { design, look }),
    traced: item,
  });
  const conditions = createHash('sha256')
    .update(Buffer.from(site.file('readers-data.js') ?? ''))
    .digest('hex');
  return { path, html: String(site.file(path)), conditions };
}

/** The place at which a topic stands, itself or in the place of another. */
const standingOn = (publication: Publication, item: string): Place | undefined =>
  allPlaces(publication.places).find(
    ({ content, origin }) => content?.origin.item === item || origin.item === item,
  );

/** A specimen has no map: a variable shows its name. */
const withNames = (publication: Publication, plan: PagePlan): Publication => ({
  ...publication,
  variables: Object.fromEntries(
    fieldsOf(plan).flatMap((field) => (field.field === 'variable' ? [[field.key, field.key]] : [])),
  ),
});

/** Sets an edition as it is stored into a file, and tells where the topic stands in it. */
async function whole(
  services: Services,
  project: string,
  edition: Edition,
  { item, file }: ProofQuestion & { readonly kind: 'whole' },
  cache: ProofCache,
  engine: PrintEngine,
  started: number,
): Promise<WholeProof> {
  const { publication, design, rows } = await composeEdition(services, project, edition, cache);
  const place = item === undefined ? undefined : standingOn(publication, item);
  const made = proofWhole(publication, place?.anchor, assetsOf(services, rows), engine, design);
  const took = (): number => Math.round(performance.now() - started);
  if (!('pdf' in made))
    return {
      sheets: [],
      first: 1,
      last: 1,
      places: [],
      shown: [],
      problems: [...made.problems],
      milliseconds: took(),
    };
  const { pdf, sheets, pages, traces, first, last, problems } = made;
  await mkdir(dirname(file), { recursive: true });
  // Whoever reads the last one meanwhile reads it to its end.
  await writeFile(`${file}.new`, pdf);
  await rename(`${file}.new`, file);
  const shown = new Map(pages.map(({ sheet, shown: number }) => [sheet, number]));
  return {
    sheets: [...sheets],
    first,
    last,
    places: traces.map(({ path, sheet, y, says }) => ({
      path: pathOf(path),
      page: sheet,
      y,
      says,
    })),
    shown: sheets.map((_, at) => shown.get(at + 1) ?? ''),
    problems: [...problems],
    milliseconds: took(),
  };
}

/** Sets an edition as it is stored as a whole, unless nothing has changed since. */
async function layOut(
  services: Services,
  project: string,
  edition: Edition,
  cache: ProofCache,
  engine: PrintEngine,
): Promise<void> {
  const { publication, design, rows } = await composeEdition(services, project, edition, cache);
  if (cache.layouts.get(edition.id)?.publication === publication) return;
  const pages = layoutOf(publication, assetsOf(services, rows), engine, design);
  cache.layouts.set(edition.id, { pages, publication });
}
