import { checkLanguage, checkReadiness, type ReadyFact } from '../library/index.ts';
import { element } from '../markup/index.ts';
import { atItem, problemKey, type Problem } from '../problems/index.ts';
import type { ComposeContext } from './context.ts';
import type { ExpandedMap } from './expand/map.ts';
import { readPublicationFacts } from './facts.ts';
import { buildIndex } from './indexing.ts';
import { fillKeys, variablesOf } from './keys.ts';
import type { LinkedMap } from './link.ts';
import {
  allPlaces,
  type GlossaryEntry,
  type Place,
  type Publication,
  type PublicationFacts,
} from './publication.ts';
import type { ResolvedMap } from './resolve/map.ts';

/** The results of the earlier passes. */
export interface Passed {
  readonly expanded: ExpandedMap;
  readonly resolved: ResolvedMap;
  readonly linked: LinkedMap;
}

/** What released topics need, and facts that override those of the map. */
export interface Release {
  readonly ready?: readonly ReadyFact[];
  readonly sourceLocale?: string;
  readonly facts?: Partial<PublicationFacts>;
}

/**
 * Puts the publication together: its facts, glossary, index and lists, and all that was found on
 * the way. The last pass of composing.
 * @returns the publication with problems `fact.*`, `locale.*` and `index.*` added to those before
 */
export function collectPublication(
  { expanded, resolved, linked }: Passed,
  release: Release,
  context: ComposeContext,
): Publication {
  const { locale, lens, facets, variables, numbering } = context;
  const { places, figures, tables, targets, links } = linked;
  const topics = linked.topics.map(({ topic }) => topic);
  const index = buildIndex(
    topics.flatMap(({ indexTerms }) => indexTerms),
    locale,
  );
  const reading = { lens, facets, open: [] };
  const { root } = expanded;
  const said = fillKeys(root.children, { scope: expanded.scope, variables }, reading);
  return {
    facts: { ...readPublicationFacts(element(root.name, root.attributes, said)), ...release.facts },
    locale,
    variables: variablesOf({ scope: expanded.scope, variables }),
    places,
    figures,
    tables,
    index: index.groups,
    glossary: glossaryOf(places, locale),
    targets,
    links,
    assets: [...new Set(topics.flatMap(({ assets }) => [...assets]))],
    drawings: Object.fromEntries(topics.flatMap(({ drawings }) => [...drawings])),
    open: context.openThrough(lens),
    numbering,
    problems: distinct([
      ...expanded.problems,
      ...resolved.problems,
      ...unready(places, release, context),
      ...linked.problems,
      ...index.problems,
    ]),
    why: [...expanded.why, ...resolved.why],
  };
}

/** All glossary entries, in the collation order of the locale. */
function glossaryOf(places: readonly Place[], locale: string): readonly GlossaryEntry[] {
  const collator = new Intl.Collator(locale);
  return allPlaces(places)
    .flatMap(({ anchor, role, label, content }) =>
      content && (role === 'glossaryentry' || content.name === 'glossentry')
        ? [{ anchor, term: label, content }]
        : [],
    )
    .sort((a, b) => collator.compare(a.term, b.term));
}

/** Problems of topics that are not ready to be released, once for each topic. */
function unready(
  places: readonly Place[],
  { ready = [], sourceLocale }: Release,
  { library, locale }: ComposeContext,
): Problem[] {
  const contents = allPlaces(places).flatMap(({ content, others = [] }) => [
    ...(content ? [content] : []),
    ...others.map((other) => other.content),
  ]);
  return [...new Set(contents.map(({ origin }) => origin.item))].flatMap((item) => {
    const root = library.item(item)?.root;
    return root
      ? atItem(item, [...checkReadiness(root, ready), ...checkLanguage(root, locale, sourceLocale)])
      : [];
  });
}

/** A passage borrowed or a topic used twice reports the same thing twice; people need it once. */
const distinct = (problems: readonly Problem[]): Problem[] =>
  [
    ...new Map(problems.toReversed().map((found) => [problemKey(found), found])).values(),
  ].toReversed();
