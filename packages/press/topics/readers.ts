import {
  allPlaces,
  type IndexEntry,
  type AlternateContent,
  type Place,
  type Publication,
  type ResolvedElement,
} from '@ukiyo/core/compose';
import { shortDescriptionIn } from '@ukiyo/core/library';
import type { OpenFacet, OpenValue, When } from '@ukiyo/core/facets';
import { isElement, type Node } from '@ukiyo/core/markup';
import { tag, text, type Html } from '../html/index.ts';

/** What readers of a site may set, as its edition says. */
export interface ReaderChoice {
  readonly facet: string;
  /** Instead of that of the facet, where it is not empty. */
  readonly label: string;
  readonly pick: 'one' | 'many';
  /** Values that are set before a reader says otherwise; none means all. */
  readonly preset: readonly string[];
}

/**
 * Words of which some are for some readers only: with the numbers of the conditions under which
 * these are shown.
 */
export type ReaderWords =
  string | readonly (string | readonly [words: string, ...conditions: number[]])[];

/**
 * What a site knows of its readers: each condition of the publication has a number, and what
 * depends on it the class `w` with that number.
 */
export interface SiteReaders {
  /** By their numbers. */
  readonly conditions: readonly When[];
  numbersOf(when: readonly When[] | undefined): readonly number[];
  classOf(when: readonly When[] | undefined): string | undefined;
  /** Words on one line. @param outer what decides on all of them */
  said(nodes: readonly Node[], outer?: readonly When[]): ReaderWords;
  /** The heading of a place. */
  headingOf(place: Place): ReaderWords;
  /** What it is called in contents and navigation. */
  labelOf(place: Place): ReaderWords;
  /** What it is called among search results. */
  searchTitleOf(place: Place): ReaderWords;
  /** Its short description. */
  leadOf(place: Place): ReaderWords;
  /** What the topic at a place is called, where that depends on the reader. */
  titleAt(anchor: string): ReaderWords | undefined;
  /** A number that is counted anew for each reader. */
  number(anchor: string, number: string): Html;
  /** The conditions of a place, or of something in it. */
  whenAt(anchor: string): readonly When[];
  /**
   * Who gets what is said there: a topic, where it is one of several at its place, or something in
   * it.
   */
  whenIn(anchor: string): readonly When[];
}

const classNames = (numbers: readonly number[]): string | undefined =>
  numbers.length === 0 ? undefined : numbers.map((number) => `w${number}`).join(' ');

export const wordsHtml = (said: ReaderWords): Html =>
  typeof said === 'string'
    ? text(said)
    : said.map((part) =>
        typeof part === 'string'
          ? text(part)
          : tag('span', { class: classNames(part.slice(1) as number[]) }, text(part[0])),
      );

/** The conditions under which readers get a place. */
export const whenOfPlace = ({ when = [], content }: Place): readonly When[] => [
  ...when,
  ...(content?.when ?? []),
];

/** One of the topics that can stand at a place. */
export type Form = Omit<AlternateContent, 'content'> & { readonly content?: ResolvedElement };

/** What stands at a place: its topic, and what some readers get in its place. */
export function formsOf({
  others = [],
  otherwise,
  anchor,
  title,
  label,
  navigationTitle,
  searchTitle,
  shortDescription,
  origin,
  content,
}: Place): readonly { readonly form: Form; readonly when: readonly When[] }[] {
  const own = {
    anchor,
    title,
    label,
    shortDescription,
    origin,
    ...(navigationTitle ? { navigationTitle } : {}),
    ...(searchTitle ? { searchTitle } : {}),
    ...(content ? { content } : {}),
  };
  return [
    ...others.map((other) => ({ form: other, when: other.content.when ?? [] })),
    { form: own, when: otherwise ? [otherwise] : [] },
  ];
}

/** Conditions by their numbers: the same one has the same number everywhere. */
class Conditions {
  readonly all: When[] = [];
  readonly #numbers = new Map<string, number>();

  numbersOf(when: readonly When[] = []): readonly number[] {
    return [...new Set(when.map((one) => this.#numberOf(one)))];
  }
  #numberOf(when: When): number {
    const key = JSON.stringify(when);
    const known = this.#numbers.get(key) ?? this.all.push(when) - 1;
    this.#numbers.set(key, known);
    return known;
  }
}

type SaidPart = string | [words: string, ...conditions: number[]];

/** The words of nodes, each run with the conditions around it. */
function partsOf(
  conditions: Conditions,
  nodes: readonly Node[],
  outer: readonly When[],
): SaidPart[] {
  return nodes.flatMap((node): SaidPart[] => {
    if (!isElement(node)) {
      const words = typeof node === 'string' ? node.replace(/\s+/gu, ' ') : '';
      if (words === '') return [];
      return [outer.length === 0 ? words : [words, ...conditions.numbersOf(outer)]];
    }
    if (['indexterm', 'fn', 'desc', 'alt'].includes(node.name)) return [];
    const when = (node as ResolvedElement).when ?? [];
    return partsOf(conditions, node.children, [...outer, ...when]);
  });
}

function saidIn(
  conditions: Conditions,
  nodes: readonly Node[],
  outer: readonly When[] = [],
): ReaderWords {
  const all = partsOf(conditions, nodes, outer);
  return all.every((part) => typeof part === 'string') ? all.join('').trim() : all;
}

/** What all forms at a place say, each for those who get it; once where they say the same. */
function saidAt(
  conditions: Conditions,
  place: Place,
  nodesOf: (form: Form) => readonly Node[],
): ReaderWords {
  const forms = formsOf(place);
  const [first, ...more] = forms.map(({ form }) => saidIn(conditions, nodesOf(form)));
  if (more.every((one) => JSON.stringify(one) === JSON.stringify(first))) return first!;
  return forms.flatMap(({ form, when }) => {
    const words = saidIn(conditions, nodesOf(form), when);
    return typeof words === 'string' ? [words] : words;
  });
}

/** The readers of each part, by anchor. */
interface Audience {
  /** What is said there. */
  readonly byAnchor: ReadonlyMap<string, readonly When[]>;
  /** Places at which one of several topics stands. */
  readonly atPlaces: ReadonlyMap<string, readonly When[]>;
}

/**
 * Gives every condition its number before the first page is made, so that pages can be made in any
 * order, and notes who gets what.
 */
function audienceOf(publication: Publication, conditions: Conditions): Audience {
  const byAnchor = new Map<string, readonly When[]>();
  const atPlaces = new Map<string, readonly When[]>();
  const walk = (element: ResolvedElement, outer: readonly When[]): void => {
    conditions.numbersOf(element.when);
    const when = element.when ? [...outer, ...element.when] : outer;
    if (element.anchor !== undefined && when.length > 0) byAnchor.set(element.anchor, when);
    for (const child of element.children)
      if (isElement(child)) walk(child as ResolvedElement, when);
  };
  const walkIndex = (entries: readonly IndexEntry[]): void => {
    for (const { locators, entries: inner } of entries) {
      for (const { when } of locators) conditions.numbersOf(when);
      walkIndex(inner);
    }
  };
  for (const place of allPlaces(publication.places)) {
    const { when: own = [], otherwise, related, others = [] } = place;
    conditions.numbersOf([
      ...own,
      ...(otherwise ? [otherwise] : []),
      ...related.flatMap(({ when = [] }) => when),
    ]);
    for (const { form, when } of formsOf(place))
      if (form.content) walk(form.content, [...own, ...when]);
    // Whatever of several stands there, the place is there.
    if (others.length > 0) atPlaces.set(place.anchor, whenOfPlace(place));
  }
  for (const { entries } of publication.index) walkIndex(entries);
  return { byAnchor, atPlaces };
}

/** A site whose readers choose nothing: everybody gets the same. */
const sameForAll: SiteReaders = {
  conditions: [],
  numbersOf: () => [],
  classOf: () => undefined,
  said: (nodes) => saidIn(new Conditions(), nodes),
  headingOf: ({ title }) => saidIn(new Conditions(), title),
  labelOf: ({ label }) => label,
  searchTitleOf: ({ searchTitle, title }) => saidIn(new Conditions(), searchTitle ?? title),
  leadOf: ({ shortDescription }) => shortDescription,
  titleAt: () => undefined,
  number: (_anchor, number) => text(number),
  whenAt: () => [],
  whenIn: () => [],
};

export function siteReaders(publication: Publication): SiteReaders {
  if (publication.open.length === 0) return sameForAll;
  const conditions = new Conditions();
  const { byAnchor, atPlaces } = audienceOf(publication, conditions);
  const titles = new Map(
    allPlaces(publication.places).flatMap((place): [string, ReaderWords][] => {
      const title = saidAt(conditions, place, (form) => form.title);
      return typeof title === 'string' ? [] : [[place.anchor, title]];
    }),
  );
  return {
    conditions: conditions.all,
    numbersOf: (when) => conditions.numbersOf(when),
    classOf: (when) => classNames(conditions.numbersOf(when)),
    said: (nodes, outer) => saidIn(conditions, nodes, outer),
    headingOf: (place) => saidAt(conditions, place, ({ title }) => title),
    labelOf: (place) =>
      saidAt(conditions, place, ({ navigationTitle, title }) => navigationTitle ?? title),
    searchTitleOf: (place) =>
      saidAt(conditions, place, ({ searchTitle, title }) => searchTitle ?? title),
    leadOf: (place) =>
      saidAt(conditions, place, ({ content, shortDescription }) => [
        (content && shortDescriptionIn(content)) ?? shortDescription,
      ]),
    titleAt: (anchor) => titles.get(anchor),
    number: (anchor, number) => tag('span', { 'data-n': anchor }, text(number)),
    whenAt: (anchor) => atPlaces.get(anchor) ?? byAnchor.get(anchor) ?? [],
    whenIn: (anchor) => byAnchor.get(anchor) ?? [],
  };
}

/** A value as readers see it. */
interface OfferedValue {
  readonly v: string;
  readonly t: string;
  /** Those that it stands for, where it stands for others. */
  readonly i?: readonly string[];
  readonly c?: readonly OfferedValue[];
}

const offered = ({ name, label, innermost, values }: OpenValue): OfferedValue => ({
  v: name,
  t: label,
  ...(innermost.length === 1 && innermost[0] === name ? {} : { i: innermost }),
  ...(values.length === 0 ? {} : { c: values.map(offered) }),
});

/** What the script of the page needs to know. */
export interface ReadersData {
  readonly facets: readonly {
    readonly f: string;
    readonly t: string;
    readonly many: boolean;
    readonly preset: readonly string[];
    readonly values: readonly OfferedValue[];
  }[];
  readonly conditions: readonly When[];
}

/**
 * @returns the data for the reader's browser. Facets that the publication does not leave open are
 * not offered.
 */
export function readersData(
  { open }: Publication,
  choices: readonly ReaderChoice[],
  { conditions }: SiteReaders,
): ReadersData {
  const facets = choices.flatMap(({ facet, label, pick, preset }) => {
    const found: OpenFacet | undefined = open.find(({ name }) => name === facet);
    return found
      ? [
          {
            f: facet,
            t: label || found.label,
            many: pick === 'many',
            preset,
            values: found.values.map(offered),
          },
        ]
      : [];
  });
  return { facets, conditions };
}
