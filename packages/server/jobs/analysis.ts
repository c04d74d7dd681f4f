import {
  isPublication,
  type Appearances,
  type Contents,
  type CopyReport,
  type ElementStandings,
  type ReaderCheck,
  type StyleUses,
} from '@ukiyo/contracts';
import {
  allPlaces,
  appearances,
  checkEveryReader,
  explainElement,
  type Publication,
} from '@ukiyo/core/compose';
import { CopyIndex } from '@ukiyo/core/health';
import { baseOf } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import { bySeverity } from '@ukiyo/core/problems';
import { styleUses } from '@ukiyo/core/styles';
import type { Services } from '../app/services.ts';
import { composeEdition, readLibrary, newBuildCache, type BuildCache } from './composing.ts';

/** What is asked of a whole library at once. */
export type Question =
  | { readonly kind: 'appearances' }
  | { readonly kind: 'copies' }
  | { readonly kind: 'every-reader' | 'contents'; readonly edition: string }
  | { readonly kind: 'styles'; readonly sheet: string }
  | { readonly kind: 'why'; readonly item: string; readonly path: readonly number[] };
export type Answers = {
  readonly appearances: Appearances;
  readonly copies: CopyReport;
  readonly 'every-reader': ReaderCheck | undefined;
  readonly contents: Contents | undefined;
  readonly why: ElementStandings;
  readonly styles: StyleUses;
};

/** What is kept between questions. */
interface AnalysisCache extends BuildCache {
  readonly copies: Map<string, { readonly index: CopyIndex; readonly roots: Map<string, Element> }>;
}
export const newAnalysisCache = (): AnalysisCache => ({ ...newBuildCache(), copies: new Map() });

const mostGroups = 200;
const mostCopies = 100;
/** Only what has changed since the last time is compared again. */
async function findCopies(
  services: Services,
  project: string,
  cache: AnalysisCache,
): Promise<CopyReport> {
  const { library, texts } = await readLibrary(services, project, cache);
  const { index, roots } = cache.copies.get(project) ?? {
    index: new CopyIndex(),
    roots: new Map<string, Element>(),
  };
  cache.copies.set(project, { index, roots });
  const there = new Set(texts.map(({ id }) => id));
  for (const id of roots.keys())
    if (!there.has(id)) {
      index.remove(id);
      roots.delete(id);
    }
  for (const { id, kind } of texts) {
    const read = kind === 'topic' ? library.item(id)?.root : undefined;
    // That an alternate says much of what its base says is what it is for.
    const root = read && baseOf(read, id) === undefined ? read : undefined;
    if (!root || roots.get(id) === root) continue;
    index.set(id, root);
    roots.set(id, root);
  }
  const groups = index.groups();
  return {
    total: groups.length,
    groups: groups
      .slice(0, mostGroups)
      .map(({ copies, ...group }) => ({ ...group, copies: copies.slice(0, mostCopies) })),
  };
}

async function usesOf(
  services: Services,
  project: string,
  sheet: string,
  cache: AnalysisCache,
): Promise<StyleUses> {
  const { library, texts } = await readLibrary(services, project, cache);
  const topics = texts.flatMap(({ id, kind }) => {
    const root = kind === 'topic' ? library.item(id)?.root : undefined;
    return root ? [{ id, root }] : [];
  });
  const { worn, unstyled } = styleUses(await services.designs.sheet(project, sheet), topics);
  return { worn: { ...worn }, unstyled: [...unstyled] };
}

function contentsOf({ places, why }: Publication): Contents {
  return {
    places: allPlaces(places).map(({ number, label, level, inContents, content, entry }) => ({
      label,
      level,
      inContents,
      entry,
      ...(number === undefined ? {} : { number }),
      ...(content ? { item: content.origin.item } : {}),
    })),
    dropped: why
      .filter(({ kind }) => kind === 'dropped')
      .map(({ origin, detail }) => ({ entry: origin, detail })),
  };
}

/** Answers with what was composed before where nothing has changed since. */
export async function analyse(
  services: Services,
  project: string,
  question: Question,
  cache: AnalysisCache,
): Promise<Answers[Question['kind']]> {
  if (question.kind === 'appearances') {
    const editions: Appearances['editions'] = [];
    for (const edition of (await services.editions.editions(project)).filter(isPublication)) {
      const { publication, library, lens, agreed } = await composeEdition(
        services,
        project,
        edition,
        cache,
      );
      editions.push({
        id: edition.id,
        name: edition.name,
        cells: Object.fromEntries(
          appearances(publication, { library, map: edition.map, lens, facets: agreed.facets }),
        ),
      });
    }
    return { editions };
  }
  if (question.kind === 'why') {
    const standings: ElementStandings = [];
    for (const { id, name, ...rest } of (await services.editions.editions(project)).filter(
      isPublication,
    )) {
      const { publication, library, lens, agreed } = await composeEdition(
        services,
        project,
        { id, name, ...rest },
        cache,
      );
      const found = appearances(publication, {
        library,
        map: rest.map,
        lens,
        facets: agreed.facets,
      });
      standings.push({
        id,
        edition: name,
        ...explainElement(publication, question, found, library),
      });
    }
    return standings;
  }
  if (question.kind === 'copies') return findCopies(services, project, cache);
  if (question.kind === 'styles') return usesOf(services, project, question.sheet, cache);
  const edition = await services.editions.edition(project, question.edition);
  if (!edition) return undefined;
  if (question.kind === 'contents')
    return contentsOf((await composeEdition(services, project, edition, cache)).publication);
  const started = performance.now();
  const { library, lens, agreed } = await composeEdition(services, project, edition, cache);
  const problems = checkEveryReader({
    library,
    map: edition.map,
    facets: agreed.facets,
    variables: edition.variables,
    ...(lens ? { lens } : {}),
  });
  return { problems: bySeverity(problems), milliseconds: Math.round(performance.now() - started) };
}
