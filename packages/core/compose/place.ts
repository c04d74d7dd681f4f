import { whenOf, type OpenFacet, type When, type Lens } from '../facets/index.ts';
import { shortDescriptionIn } from '../library/index.ts';
import { childNamed, type Node } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { wordsFor } from '../words/index.ts';
import type { Branch } from './branches.ts';
import type { ComposeContext } from './context.ts';
import type { MapNode } from './expand/node.ts';
import type { KeyScope } from './keys.ts';
import { inheritedMetadata, reconciled } from './metadata.ts';
import { plainLine } from './plain.ts';
import type { Origin, AlternateContent, Place, PlaceRole, ResolvedElement } from './publication.ts';
import type { ResolvedAlternate, ResolvedMap, ResolvedNode } from './resolve/map.ts';
import { withAudience, type OtherTitles, type ResolvedTopic } from './resolve/resolved.ts';

/** A topic and where it stands. */
export interface PlacedTopic {
  readonly topic: ResolvedTopic;
  /** Anchor of the place on whose page it stands. */
  readonly place: string;
  /** Links to these items lead to it: the item itself, and the base of an alternate. */
  readonly items: readonly string[];
  readonly branches: readonly Branch[];
  /** The keys that hold where it stands. */
  readonly scope: KeyScope;
  /** The name of the file that it becomes, where that is not the one it is read from. */
  readonly copyTo: string | undefined;
}

export interface PlacedMap {
  /** Without numbers, and without what leads to them. */
  readonly places: readonly Place[];
  /** In reading order; alternates behind what they stand in for. */
  readonly topics: readonly PlacedTopic[];
  /** Anchors of places that are linked to each other (DITA 1.3, `collection-type`). */
  readonly families: readonly (readonly string[])[];
  readonly problems: readonly Problem[];
}

/**
 * Makes a place of every entry, with title, page and audience. Topics nested in a topic come before
 * the entries below it in the map. A pass of composing.
 * @returns the places with problems `context.twice`
 */
export const placeTopics = (resolved: ResolvedMap, context: ComposeContext): PlacedMap =>
  new Placing(context).place(resolved);

/** What a place is made from. */
interface Placement {
  readonly entry: MapNode;
  readonly anchor: string;
  readonly topic: ResolvedTopic | undefined;
  readonly alternates: readonly ResolvedAlternate[];
  readonly below: readonly ResolvedNode[];
  readonly level: number;
  readonly isNested: boolean;
}

class Placing {
  readonly #locale: string;
  readonly #openThrough: (lens: Lens | undefined) => readonly OpenFacet[];
  readonly #topics: PlacedTopic[] = [];
  readonly #families: (readonly string[])[] = [];
  readonly #problems: Problem[] = [];
  /** For each context-help id the title of its place. */
  readonly #opened = new Map<string, string>();

  constructor({ locale, openThrough }: ComposeContext) {
    this.#locale = locale;
    this.#openThrough = openThrough;
  }

  place({ nodes }: ResolvedMap): PlacedMap {
    const places = this.#nodes(nodes, 1);
    return { places, topics: this.#topics, families: this.#families, problems: this.#problems };
  }

  #nodes(nodes: readonly ResolvedNode[], level: number): readonly Place[] {
    return nodes.map(({ entry, anchor, topic, alternates, children }) =>
      this.#placed({
        // A chapter has nothing above it that it could join.
        entry: level <= 1 ? { ...entry, isChunked: false, hasHeading: true } : entry,
        anchor,
        topic,
        alternates,
        below: children,
        level: entry.role === 'part' ? 0 : Math.max(1, level),
        isNested: false,
      }),
    );
  }

  #placed(standing: Placement): Place {
    const { entry, anchor, topic, alternates, level, isNested } = standing;
    this.#register(standing);
    const title = topicTitle(topic) ?? entry.title ?? listTitle(entry.role, this.#locale);
    const otherTitles = otherTitlesOf(topic, entry);
    const label = plainLine(otherTitles.navigationTitle ?? title);
    const contextIds = this.#openedBy(
      [entry, topic, ...alternates.map((one) => one.topic)].flatMap((one) => one?.contextIds ?? []),
      plainLine(title) || label,
      entry.origin,
    );
    const nested = this.#nested(standing);
    const below = this.#nodes(standing.below, level + 1);
    if (entry.isFamily) this.#families.push(familyOf(below));
    const open = this.#openThrough(entry.lens);
    const when = entry.conditions.flatMap((attributes) => whenOf(attributes, open) ?? []);
    const others = alternates.map((one) => otherOf(one, entry));
    const place: { -readonly [Key in keyof Place]: Place[Key] } = {
      anchor,
      role: entry.role,
      level,
      title,
      label,
      isLinked: entry.isLinked,
      entry: entry.origin,
      isChunked: entry.isChunked,
      hasHeading: entry.hasHeading,
      isNested,
      inContents: entry.inContents && entry.hasHeading && entry.role !== 'glossaryentry',
      shortDescription: topic ? plainDescription(topic.content) : '',
      contextIds,
      origin: topic ? topic.content.origin : entry.origin,
      related: [],
      children: [...nested, ...below],
    };
    if (!entry.isSearched) place.isSearched = false;
    if (when.length > 0) place.when = when;
    if (others.length > 0) place.others = others;
    if (entry.when) place.otherwise = entry.when;
    if (entry.linkText) place.linkText = entry.linkText;
    if (topic) {
      place.content = topic.content;
      const metadata = reconciled(topic.metadata, entry.metadata, entry.isMetadataFirst);
      if (Object.keys(metadata).length > 0) place.metadata = metadata;
    }
    return Object.assign(place, otherTitles);
  }

  #register({ entry, anchor, topic, alternates }: Placement): void {
    const { item, base, branches, scope, copyTo } = entry;
    const items = [item, base === item ? undefined : base].filter((id) => id !== undefined);
    const register = (shown: ResolvedTopic, ids: readonly string[]): unknown =>
      this.#topics.push({ topic: shown, place: anchor, items: ids, branches, scope, copyTo });
    if (topic) register(topic, items);
    // Links to their parts lead to those of the topic for which they stand in.
    for (const one of alternates) register(one.topic, [one.id]);
  }

  /** The topics nested in a topic, and in what stands in for it. */
  #nested({ entry, topic, alternates, level }: Placement): readonly Place[] {
    const { title: _title, searchTitle: _searchTitle, linkText: _, when: _when, ...inner } = entry;
    const nestedEntry: MapNode = {
      ...inner,
      role: 'section',
      isChunked: entry.chunksNested,
      hasHeading: true,
      metadata: inheritedMetadata(entry.metadata),
      contextIds: [],
      children: [],
      others: [],
    };
    const nestedIn = (outer: ResolvedTopic | undefined, when: When | undefined): readonly Place[] =>
      (outer?.nested ?? []).map((one) =>
        this.#placed({
          entry: nestedEntry,
          anchor: one.anchor,
          topic: { ...one, content: withAudience(one.content, when) },
          alternates: [],
          below: [],
          level: level + 1,
          isNested: true,
        }),
      );
    return [
      ...nestedIn(topic, entry.when),
      ...alternates.flatMap((other) => nestedIn(other.topic, other.when)),
    ];
  }

  /** The first place with a context-help id keeps it. */
  #openedBy(ids: readonly string[], title: string, where: Origin): readonly string[] {
    return [...new Set(ids)].filter((id) => {
      const first = this.#opened.get(id);
      if (first === undefined) this.#opened.set(id, title);
      else
        this.#problems.push(
          problem(
            'warning',
            'context.twice',
            `The context-help id “${id}” opens “${first}” already. It does not open “${title}”.`,
            where,
          ),
        );
      return first === undefined;
    });
  }
}

const topicTitle = (topic: ResolvedTopic | undefined): readonly Node[] | undefined =>
  topic && childNamed(topic.content, 'title', 'glossterm')?.children;

const familyOf = (places: readonly Place[]): readonly string[] =>
  places
    .filter(({ isLinked, content }) => isLinked && content !== undefined)
    .map(({ anchor }) => anchor);

/** What a map that locks its title says goes before what the topic says itself. */
function otherTitlesOf(topic: ResolvedTopic | undefined, entry: MapNode): OtherTitles {
  const searchTitle = entry.searchTitle ?? topic?.otherTitles.searchTitle;
  const navigationTitle =
    topic === undefined
      ? undefined
      : ((entry.isTitleLocked ? entry.title : undefined) ?? topic.otherTitles.navigationTitle);
  return {
    ...(navigationTitle ? { navigationTitle } : {}),
    ...(searchTitle ? { searchTitle } : {}),
  };
}

function otherOf({ topic, when }: ResolvedAlternate, entry: MapNode): AlternateContent {
  const { anchor, content } = topic;
  const title = topicTitle(topic) ?? entry.title ?? [];
  const otherTitles = otherTitlesOf(topic, entry);
  return {
    anchor,
    title,
    label: plainLine(otherTitles.navigationTitle ?? title),
    ...otherTitles,
    shortDescription: plainDescription(content),
    origin: content.origin,
    content: withAudience(content, when),
  };
}

/** The headings of generated lists. */
function listTitle(role: PlaceRole, locale: string): readonly string[] {
  const words = wordsFor(locale);
  const titles: Partial<Record<PlaceRole, string>> = {
    toc: words.contents,
    figurelist: words.figures,
    tablelist: words.tables,
    glossarylist: words.glossary,
    indexlist: words.index,
  };
  const title = titles[role];
  return title === undefined ? [] : [title];
}

const plainDescription = (content: ResolvedElement): string =>
  plainLine(shortDescriptionIn(content)?.children ?? []);
