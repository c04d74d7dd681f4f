import type { Edition } from '@ukiyo/contracts';
import {
  compose,
  ComposeMemory,
  withChangeBars,
  type Composition,
  type PeerEdition,
  type Publication,
} from '@ukiyo/core/compose';
import { lensOf } from '@ukiyo/core/facets';
import { textLibrary, type Library, type TextLibrary } from '@ukiyo/core/library';
import { problem } from '@ukiyo/core/problems';
import { numberingFor, shippedLooks, usualNumbering, type Numbering } from '@ukiyo/core/styles';
import {
  siteAddress,
  siteMemory,
  usualDesign,
  type AssetSource,
  type PrintDesign,
  type PrintEngine,
  type SiteMemory,
} from '@ukiyo/press';
import type { Services } from '../app/services.ts';
import type { AssetRow } from '../data/models.ts';
import type { KeptFolder } from './folders.ts';
import { gatherInputs, gatherLibrary, type Inputs, type DraftText } from './inputs.ts';

/** What a builder caches between builds, to make the second faster. */
export interface BuildCache {
  readonly memory: ComposeMemory;
  readonly topics: SiteMemory;
  /** The folders that were written last, by edition and output. */
  readonly folders: Map<string, KeptFolder>;
  engine?: PrintEngine;
  /** The last library of each project: a text that has not changed is not read again. */
  readonly libraries: Map<string, TextLibrary>;
  /**
   * What editions were at the impression since which changes have bars, by what they are made of.
   */
  readonly earlier: Map<
    string,
    {
      readonly made: string;
      readonly before: Publication;
      readonly of: Publication;
      readonly withBars: Publication;
    }
  >;
}

/** The project that is composed, and the results that are kept from earlier builds. */
export interface Workplace<Cache extends BuildCache = BuildCache> {
  readonly services: Services;
  readonly project: string;
  readonly cache: Cache;
}

export function newBuildCache(): BuildCache {
  return {
    memory: new ComposeMemory(),
    topics: siteMemory(),
    folders: new Map(),
    libraries: new Map(),
    earlier: new Map(),
  };
}

/** Images and media of a project by their ids. */
export function assetsOf(services: Services, rows: readonly AssetRow[]): AssetSource {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return (id) => {
    const row = byId.get(id);
    if (!row) return undefined;
    const { width, height } = row;
    return {
      id,
      name: row.name,
      mediaType: row.mediaType,
      bytes: services.blobs.getNow(row.hash),
      ...(width === null ? {} : { width }),
      ...(height === null ? {} : { height }),
    };
  };
}

/**
 * The library as it is stored now; texts that have not changed since the last time are not read
 * again.
 */
export async function readLibrary({ services, project, cache }: Workplace) {
  return libraryOf(await gatherLibrary(services, project), { project, cache });
}

function libraryOf(
  {
    texts,
    assets: rows,
    facets,
    lenses: kept,
  }: Pick<Inputs, 'texts' | 'assets' | 'facets' | 'lenses'>,
  { project, cache }: Omit<Workplace, 'services'>,
) {
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
  const library = textLibrary(texts, assets, { lenses, earlier: cache.libraries.get(project) });
  cache.libraries.set(project, library);
  return { library, texts, rows, facets, assets, lenses };
}

/** To which values of `deliveryTarget` each output answers; a package of sources answers to all. */
const deliveryTargets: Readonly<Partial<Record<Edition['output'], readonly string[]>>> = {
  print: ['print', 'pdf'],
  site: ['site', 'html', 'html5', 'xhtml'],
  page: ['page', 'html', 'html5', 'xhtml'],
  epub: ['epub', 'html', 'html5', 'xhtml'],
  markdown: ['markdown', 'html', 'html5', 'xhtml'],
};
const delivered = (output: Edition['output']): Pick<Composition, 'deliveryTargets'> => {
  const targets = deliveryTargets[output];
  return targets ? { deliveryTargets: targets } : {};
};

/**
 * How another map is published, for links into it: first the editions that are most like this one,
 * and of equal ones that which leaves least of its map out.
 */
function peerEditionsFor(
  edition: Edition,
  editions: readonly Edition[],
  library: Library,
  numberingOf: (edition: Edition) => Numbering,
): (map: string) => PeerEdition[] {
  const lensFor = ({ lens }: Edition) => (lens === null ? undefined : library.lens(lens));
  const likeness = (other: Edition): number =>
    (other.output === edition.output ? 2 : 0) + (other.locale === edition.locale ? 1 : 0);
  const narrowness = (other: Edition): number => lensFor(other)?.rules.length ?? 0;
  return (map) =>
    editions
      .filter((other) => other.map === map && other.id !== edition.id)
      .toSorted((a, b) => likeness(b) - likeness(a) || narrowness(a) - narrowness(b))
      .map((peer) => {
        const { variables, facts, output, locale, locales } = peer;
        // Where there are several languages each has a folder of its own.
        const address =
          output === 'site' && locales.length > 0 && peer.address !== ''
            ? `${peer.address.replace(/\/$/u, '')}/${locale}`
            : peer.address;
        const lens = lensFor(peer);
        const place = (publication: Publication, anchor: string): string | undefined => {
          if (address === '') return undefined;
          return output !== 'site'
            ? address
            : `${address.replace(/\/$/u, '')}/${siteAddress(publication, anchor, peer) ?? ''}`;
        };
        return {
          variables,
          facts,
          locale,
          numbering: numberingOf(peer),
          ...delivered(output),
          address: place,
          ...(lens ? { lens } : {}),
        };
      });
}

/**
 * Composes an edition from what is stored now, quicker where little has changed since the last
 * time.
 */
export async function composeEdition(at: Workplace, edition: Edition, written?: DraftText) {
  return composeInputs(await gatherInputs(at.services, at.project, edition, written), at);
}

export async function composeInputs(inputs: Inputs, at: Omit<Workplace, 'services'>) {
  const { edition, designs } = inputs;
  const { cache } = at;
  const { library, texts, rows, facets, assets, lenses } = libraryOf(inputs, at);
  const agreed = { facets, rules: inputs.rules, ready: inputs.facts };
  const lens = edition.lens === null ? undefined : library.lens(edition.lens);
  const { sheets, plans, looks } = designs;
  // Those that ship where its own are gone.
  const design: PrintDesign = {
    sheet: sheets.find(({ id }) => id === edition.sheet)?.content ?? usualDesign.sheet,
    plan: plans.find(({ id }) => id === edition.plan)?.content ?? usualDesign.plan,
  };
  const look = looks.find(({ id }) => id === edition.look)?.content ?? shippedLooks['harbour']!;
  const numberingOf = ({ sheet, locale }: Edition): Numbering =>
    numberingFor(
      sheets.find(({ id }) => id === sheet)?.content.numbering ?? usualNumbering,
      locale,
    );
  const composition = {
    library,
    map: edition.map,
    ...agreed,
    variables: edition.variables,
    facts: edition.facts,
    locale: edition.locale,
    ...(inputs.sourceLocale === null ? {} : { sourceLocale: inputs.sourceLocale }),
    numbering: numberingOf(edition),
    ...delivered(edition.output),
    open: edition.output === 'site' ? edition.choices.map(({ facet }) => facet) : [],
    peerEditions: peerEditionsFor(edition, inputs.editions, library, numberingOf),
    ...(lens ? { lens } : {}),
  };
  const composed = compose(composition, cache.memory);
  const publication =
    edition.since === null
      ? composed
      : await withBars(composed, inputs, { ...composition, assets, lenses }, cache);
  return { publication, design, look, library, lens, agreed, texts, rows };
}

/**
 * Adds change bars for differences from an earlier impression of the edition; none if that
 * impression was deleted.
 */
async function withBars(
  composed: Publication,
  inputs: Inputs,
  {
    assets,
    lenses,
    ...composition
  }: Composition & Pick<ReturnType<typeof libraryOf>, 'assets' | 'lenses'>,
  cache: BuildCache,
): Promise<Publication> {
  const { edition } = inputs;
  const made = JSON.stringify([
    edition,
    composition.facets,
    composition.rules,
    composition.numbering,
    lenses,
  ]);
  const known = cache.earlier.get(edition.id);
  if (known?.made === made && known.of === composed) return known.withBars;
  const composeBefore = async (): Promise<Publication> => {
    const texts = await inputs.before(edition);
    const gone = problem(
      'warning',
      'edition.since',
      'The impression since which changes are to have bars is not there any more.',
      { item: edition.map },
    );
    return texts.length === 0
      ? { ...composed, problems: [...composed.problems, gone] }
      : compose({ ...composition, library: textLibrary(texts, assets, { lenses }) });
  };
  const before = known?.made === made ? known.before : await composeBefore();
  // Where there is nothing to compare with, what was found out about that is all there is.
  const publication = before.facts === composed.facts ? before : withChangeBars(composed, before);
  cache.earlier.set(edition.id, { made, before, of: composed, withBars: publication });
  return publication;
}
