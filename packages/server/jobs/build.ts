import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rm, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { outputs, type Edition, type Progress } from '@ukiyo/contracts';
import { allPlaces, compose, composeMemory, pageTexts, withChangeBars, wordsIn, type ComposeMemory, type Composition, type PeerEdition, type Publication } from '@ukiyo/core/compose';
import { lensOf } from '@ukiyo/core/facets';
import { textLibrary, type Library, type TextLibrary } from '@ukiyo/core/library';
import { bySeverity, problem, type Problem } from '@ukiyo/core/problems';
import { numberingFor, shippedLooks, usualNumbering, type Numbering } from '@ukiyo/core/styles';
import { createPrintEngine, epub, onePage, printPublication, siteAddress, siteFiles, usualDesign, type AssetSource, type SiteOptions, type PrintDesign, type PrintEngine } from '@ukiyo/press';
import { Zip, ZipDeflate } from 'fflate';
import type { Services } from '../app/services.ts';
import type { AssetRow, ImpressionRow } from '../data/models.ts';
import { gatherInputs, gatherLibrary, recordInputs, type Inputs, type Written } from './inputs.ts';

export interface BuildOutcome {
  readonly problems: readonly Problem[];
  readonly figures: ImpressionRow['figures'];
  readonly inputs: Record<string, number>;
  readonly fingerprint: string;
  /** False when there is nothing to open. */
  readonly hasFiles: boolean;
}

/** In the folder of an impression. */
export const inputsFile = 'inputs.json.gz';
export const pagesFile = 'pages.json';
/** Of every file in an archive: what is the same has the same bytes. The day is the first that zip files can tell. */
const alwaysTheSame = new Date(1980, 0, 1);

/** What a builder keeps between builds, so that the second is quicker than the first. */
export interface Workbench {
  readonly memory: ComposeMemory;
  engine?: PrintEngine;
  /** The last library of each project: a text that has not changed is not read again. */
  readonly libraries: Map<string, TextLibrary>;
  /** What editions were at the impression since which changes have bars, by what they are made of. */
  readonly earlier: Map<string, { readonly made: string; readonly before: Publication; readonly of: Publication; readonly barred: Publication }>;
}

export function workbench(): Workbench {
  return { memory: composeMemory(), libraries: new Map(), earlier: new Map() };
}

/**
 * Builds one edition into a folder: `manual.pdf`, or `site/` with `site.zip` beside it; what went in and what stands on its pages are kept there too.
 * Bad content is left out and reported; the rest is built.
 */
export async function buildEdition(services: Services, project: string, inputs: Inputs, folder: string, bench: Workbench, tell: (progress: Progress) => void): Promise<BuildOutcome> {
  const started = performance.now();
  const { edition } = inputs;
  tell({ step: 'Composing', done: 0, total: inputs.texts.length });
  const { publication, design, look, texts, rows } = await composeInputs(inputs, project, bench);
  const source = assetsOf(services, rows);

  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const wears: SiteOptions = {
    sheet: design.sheet,
    look,
    choices: edition.choices,
    address: edition.address,
    onPage: (done, total) => (done % 20 === 0 || done === total) && tell({ step: 'Writing pages', done, total }),
  };
  const make: Record<Edition['output'], () => Promise<Made>> = {
    print: () => printInto(folder, publication, source, design, bench, tell),
    site: () => siteInto(folder, publication, source, wears),
    page: async () => {
      const { html, problems } = onePage(publication, source, wears);
      return { ...(await fileInto(folder, 'page', html)), pages: 1, problems };
    },
    epub: async () => {
      const { bytes, pageCount, problems } = epub(publication, source, { ...wears, id: edition.id });
      return { ...(await fileInto(folder, 'epub', bytes)), pages: pageCount, problems };
    },
  };
  const made = await make[edition.output]();
  tell({ step: 'Keeping what went in', done: 0, total: 0 });
  await recordInputs(join(folder, inputsFile), inputs);
  const pages = pageTexts(publication);
  await writeFile(join(folder, pagesFile), JSON.stringify(pages));
  await nameWhatWasBuilt(services, project, edition, publication, texts);
  const topics = Object.values(publication.targets).filter(({ kind }) => kind === 'topic').length;
  return {
    problems: bySeverity([...publication.problems, ...made.problems]),
    figures: { pages: made.pages, topics, words: wordsIn(pages, publication.locale), bytes: made.bytes, milliseconds: Math.round(performance.now() - started) },
    inputs: Object.fromEntries(texts.map(({ id, version }) => [id, version])),
    fingerprint: made.fingerprint,
    hasFiles: made.bytes > 0,
  };
}

/** Images and media of a project by their ids. */
export function assetsOf(services: Services, rows: readonly AssetRow[]): AssetSource {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return (id) => {
    const row = byId.get(id);
    if (!row) return undefined;
    const { width, height } = row;
    return { id, name: row.name, mediaType: row.mediaType, bytes: services.blobs.getNow(row.hash), ...(width === null ? {} : { width }), ...(height === null ? {} : { height }) };
  };
}

/** What went out can be found again: the texts of its map and topics, as they were, carry its name. */
async function nameWhatWasBuilt(services: Services, project: string, edition: Edition, publication: Publication, texts: readonly { readonly id: string; readonly version: number }[]): Promise<void> {
  const used = new Set([edition.map, ...allPlaces(publication.places).map(({ origin }) => origin.item)]);
  const versions = Object.fromEntries(texts.filter(({ id }) => used.has(id)).map(({ id, version }) => [id, version]));
  await services.items.nameRevisions(project, versions, `Built into “${edition.name}”`);
}

/** The library as it is stored now; texts that have not changed since the last time are not read again. */
export async function readLibrary(services: Services, project: string, bench: Workbench) {
  return libraryOf(await gatherLibrary(services, project), project, bench);
}

function libraryOf({ texts, assets: rows, facets, lenses: kept }: Pick<Inputs, 'texts' | 'assets' | 'facets' | 'lenses'>, project: string, bench: Workbench) {
  const assets = rows.map(({ id, name, mediaType, width, height, alternateOf, conditions }) => ({
    id,
    name,
    mediaType,
    conditions,
    ...(width === null ? {} : { width }),
    ...(height === null ? {} : { height }),
    ...(alternateOf === null ? {} : { alternateOf }),
  }));
  const lenses = kept.map(({ id }) => ({ ...lensOf(id, kept, facets)!, id }));
  const library = textLibrary(texts, assets, { lenses, earlier: bench.libraries.get(project) });
  bench.libraries.set(project, library);
  return { library, texts, rows, facets, assets, lenses };
}

/** To which values of `deliveryTarget` each output answers. */
const deliveryTargets: Readonly<Record<Edition['output'], readonly string[]>> = {
  print: ['print', 'pdf'],
  site: ['site', 'html', 'html5', 'xhtml'],
  page: ['page', 'html', 'html5', 'xhtml'],
  epub: ['epub', 'html', 'html5', 'xhtml'],
};

/**
 * How another map is published, for links into it: first the editions that are most like this one, and of equal ones that which leaves least of its
 * map out.
 */
function peerEditionsFor(edition: Edition, editions: readonly Edition[], library: Library, numberingOf: (edition: Edition) => Numbering): (map: string) => PeerEdition[] {
  const lensFor = ({ lens }: Edition) => (lens === null ? undefined : library.lens(lens));
  const likeness = (other: Edition): number => (other.output === edition.output ? 2 : 0) + (other.locale === edition.locale ? 1 : 0);
  const narrowness = (other: Edition): number => lensFor(other)?.rules.length ?? 0;
  return (map) =>
    editions
      .filter((other) => other.map === map && other.id !== edition.id)
      .toSorted((a, b) => likeness(b) - likeness(a) || narrowness(a) - narrowness(b))
      .map((peer) => {
        const { variables, facts, address, output, locale } = peer;
        const lens = lensFor(peer);
        const place = (publication: Publication, anchor: string): string | undefined => {
          if (address === '') return undefined;
          return output !== 'site' ? address : `${address.replace(/\/$/u, '')}/${siteAddress(publication, anchor) ?? ''}`;
        };
        return { variables, facts, locale, numbering: numberingOf(peer), deliveryTargets: deliveryTargets[output], address: place, ...(lens ? { lens } : {}) };
      });
}

/** Composes an edition from what is stored now, quicker where little has changed since the last time. */
export async function composeEdition(services: Services, project: string, edition: Edition, bench: Workbench, written?: Written) {
  return composeInputs(await gatherInputs(services, project, edition, written), project, bench);
}

export async function composeInputs(inputs: Inputs, project: string, bench: Workbench) {
  const { edition, designs } = inputs;
  const { library, texts, rows, facets, assets, lenses } = libraryOf(inputs, project, bench);
  const agreed = { facets, rules: inputs.rules };
  const lens = edition.lens === null ? undefined : library.lens(edition.lens);
  const { sheets, plans, looks } = designs;
  // Those that ship where its own are gone.
  const design: PrintDesign = { sheet: sheets.find(({ id }) => id === edition.sheet)?.content ?? usualDesign.sheet, plan: plans.find(({ id }) => id === edition.plan)?.content ?? usualDesign.plan };
  const look = looks.find(({ id }) => id === edition.look)?.content ?? shippedLooks['harbour']!;
  const numberingOf = ({ sheet, locale }: Edition): Numbering => numberingFor(sheets.find(({ id }) => id === sheet)?.content.numbering ?? usualNumbering, locale);
  const composition = {
    library,
    map: edition.map,
    ...agreed,
    variables: edition.variables,
    facts: edition.facts,
    locale: edition.locale,
    numbering: numberingOf(edition),
    deliveryTargets: deliveryTargets[edition.output],
    open: edition.output === 'site' ? edition.choices.map(({ facet }) => facet) : [],
    peerEditions: peerEditionsFor(edition, inputs.editions, library, numberingOf),
    ...(lens ? { lens } : {}),
  };
  const composed = compose(composition, bench.memory);
  const publication = edition.since === null ? composed : await barred(composed, inputs, composition, { assets, lenses }, bench);
  return { publication, design, look, library, lens, agreed, texts, rows };
}

/** With bars beside what is not in an earlier impression of the edition, or otherwise; without them where that is gone. */
async function barred(
  composed: Publication,
  inputs: Inputs,
  composition: Composition,
  { assets, lenses }: Pick<ReturnType<typeof libraryOf>, 'assets' | 'lenses'>,
  bench: Workbench,
): Promise<Publication> {
  const { edition } = inputs;
  const made = JSON.stringify([edition, composition.facets, composition.rules, composition.numbering, lenses]);
  const known = bench.earlier.get(edition.id);
  if (known?.made === made && known.of === composed) return known.barred;
  const then = async (): Promise<Publication> => {
    const texts = await inputs.before();
    const gone = problem('warning', 'edition.since', 'The impression since which changes are to have bars is not there any more.', { item: edition.map });
    return texts.length === 0 ? { ...composed, problems: [...composed.problems, gone] } : compose({ ...composition, library: textLibrary(texts, assets, { lenses }) });
  };
  const before = known?.made === made ? known.before : await then();
  // Where there is nothing to compare with, what was found out about that is all there is.
  const publication = before.facts === composed.facts ? before : withChangeBars(composed, before);
  bench.earlier.set(edition.id, { made, before, of: composed, barred: publication });
  return publication;
}

interface Made {
  readonly pages: number;
  readonly bytes: number;
  /** SHA-256 of what is downloaded. */
  readonly fingerprint: string;
  readonly problems: readonly Problem[];
}

async function printInto(folder: string, publication: Publication, source: AssetSource, design: PrintDesign, bench: Workbench, tell: (progress: Progress) => void): Promise<Made> {
  tell({ step: 'Setting pages', done: 0, total: 0 });
  bench.engine ??= createPrintEngine();
  const { pdf, pageCount, problems } = await printPublication(publication, source, bench.engine, design);
  return { ...(pdf ? await fileInto(folder, 'print', pdf) : { bytes: 0, fingerprint: '' }), pages: pageCount, problems };
}

async function fileInto(folder: string, output: Edition['output'], content: string | Uint8Array): Promise<Pick<Made, 'bytes' | 'fingerprint'>> {
  const bytes = Buffer.from(content);
  await writeFile(join(folder, outputs[output].file), bytes);
  return { bytes: bytes.byteLength, fingerprint: createHash('sha256').update(bytes).digest('hex') };
}

async function siteInto(folder: string, publication: Publication, source: AssetSource, options: SiteOptions): Promise<Made> {
  const site = siteFiles(publication, source, options);
  const archive = createWriteStream(join(folder, 'site.zip'));
  const hash = createHash('sha256');
  const zip = new Zip((error, chunk) => {
    if (error) {
      archive.destroy(error);
      return;
    }
    hash.update(chunk);
    archive.write(chunk);
  });
  const encoder = new TextEncoder();
  const made = new Set<string>();
  for (const [path, content] of site.files) {
    const bytes = typeof content === 'string' ? encoder.encode(content) : content;
    const file = join(folder, 'site', path);
    if (!made.has(dirname(file))) await mkdir(dirname(file), { recursive: true });
    made.add(dirname(file));
    await writeFile(file, bytes);
    const entry = new ZipDeflate(path, { level: 6 });
    entry.mtime = alwaysTheSame;
    zip.add(entry);
    entry.push(bytes, true);
  }
  zip.end();
  await new Promise<void>((resolve, reject) => archive.on('error', reject).end(resolve));
  const { size } = await stat(join(folder, 'site.zip'));
  return { pages: site.pageCount, bytes: size, fingerprint: hash.digest('hex'), problems: site.problems };
}
