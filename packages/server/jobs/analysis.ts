import {
  isPublication,
  type Appearances,
  type Contents,
  type CopyReport,
  type Edition,
  type ElementUses,
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
import {
  composeEdition,
  newBuildCache,
  readLibrary,
  type BuildCache,
  type Workplace,
} from './composing.ts';

/** What is asked of a whole library at once. */
export type AnalysisQuestion =
  | { readonly kind: 'appearances' }
  | { readonly kind: 'copies' }
  | { readonly kind: 'every-reader' | 'contents'; readonly edition: string }
  | { readonly kind: 'styles'; readonly sheet: string }
  | { readonly kind: 'why'; readonly item: string; readonly path: readonly number[] };
export type AnalysisAnswers = {
  readonly appearances: Appearances;
  readonly copies: CopyReport;
  readonly 'every-reader': ReaderCheck | undefined;
  readonly contents: Contents | undefined;
  readonly why: ElementUses;
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
async function findCopies(at: Workplace<AnalysisCache>): Promise<CopyReport> {
  const { project, cache } = at;
  const { library, texts } = await readLibrary(at);
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
    // Alternates are left out: they are meant to repeat much of their base.
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

async function usesOf(at: Workplace, sheet: string): Promise<StyleUses> {
  const { library, texts } = await readLibrary(at);
  const topics = texts.flatMap(({ id, kind }) => {
    const root = kind === 'topic' ? library.item(id)?.root : undefined;
    return root ? [{ id, root }] : [];
  });
  const { uses, unstyled } = styleUses(await at.services.designs.sheet(at.project, sheet), topics);
  return { uses: { ...uses }, unstyled: [...unstyled] };
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

/** Every publication of the project, composed, with how its items appear in it. */
async function* composedEditions(at: Workplace) {
  for (const edition of (await at.services.editions.editions(at.project)).filter(isPublication)) {
    const { publication, library, lens, agreed } = await composeEdition(at, edition);
    const { facets } = agreed;
    const found = appearances(publication, { library, map: edition.map, lens, facets });
    yield { edition, publication, library, found };
  }
}

async function appearancesIn(at: Workplace): Promise<Appearances> {
  const editions: Appearances['editions'] = [];
  for await (const { edition, found } of composedEditions(at))
    editions.push({ id: edition.id, name: edition.name, cells: Object.fromEntries(found) });
  return { topics: await at.services.items.topicTitles(at.project), editions };
}

async function explain(
  at: Workplace,
  question: AnalysisQuestion & { readonly kind: 'why' },
): Promise<ElementUses> {
  const uses: ElementUses = [];
  for await (const { edition, publication, library, found } of composedEditions(at))
    uses.push({
      id: edition.id,
      edition: edition.name,
      ...explainElement(publication, question, found, library),
    });
  return uses;
}

async function checkReaders(at: Workplace, edition: Edition): Promise<ReaderCheck> {
  const started = performance.now();
  const { library, lens, agreed } = await composeEdition(at, edition);
  const problems = checkEveryReader({
    library,
    map: edition.map,
    facets: agreed.facets,
    variables: edition.variables,
    ...(lens ? { lens } : {}),
  });
  return { problems: bySeverity(problems), milliseconds: Math.round(performance.now() - started) };
}

/** Answers with what was composed before where nothing has changed since. */
export async function analyse(
  at: Workplace<AnalysisCache>,
  question: AnalysisQuestion,
): Promise<AnalysisAnswers[AnalysisQuestion['kind']]> {
  if (question.kind === 'appearances') return appearancesIn(at);
  if (question.kind === 'why') return explain(at, question);
  if (question.kind === 'copies') return findCopies(at);
  if (question.kind === 'styles') return usesOf(at, question.sheet);
  const edition = await at.services.editions.edition(at.project, question.edition);
  if (!edition) return undefined;
  return question.kind === 'contents'
    ? contentsOf((await composeEdition(at, edition)).publication)
    : checkReaders(at, edition);
}
