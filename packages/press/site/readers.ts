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
import { join, tag, text, type Html } from './html.ts';

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
export type Said = string | readonly (string | readonly [words: string, ...conditions: number[]])[];

/**
 * What a site knows of its readers: each condition of the publication has a number, and what
 * depends on it the class `w` with that number.
 */
export interface Readers {
  /** By their numbers. */
  readonly conditions: readonly When[];
  numbersOf(when: readonly When[] | undefined): readonly number[];
  classOf(when: readonly When[] | undefined): string | undefined;
  /** Words on one line. @param around what decides on all of them */
  said(nodes: readonly Node[], around?: readonly When[]): Said;
  /** What a place is called, for contents and navigation. */
  labelOf(place: Place): Said;
  /** Its short description. */
  leadOf(place: Place): Said;
  /** What the topic at a place is called, where that depends on the reader. */
  titleAt(anchor: string): Said | undefined;
  /** A number that is counted anew for each reader. */
  number(anchor: string, number: string): Html;
  /** Who gets a place or something in it. */
  whenAt(anchor: string): readonly When[];
  /**
   * Who gets what is said there: a topic, where it is one of several at its place, or something in
   * it.
   */
  whenIn(anchor: string): readonly When[];
}

const classNames = (numbers: readonly number[]): string | undefined =>
  numbers.length === 0 ? undefined : numbers.map((number) => `w${number}`).join(' ');

export const saidHtml = (said: Said): Html =>
  typeof said === 'string'
    ? text(said)
    : join(
        said.map((part) =>
          typeof part === 'string'
            ? text(part)
            : tag('span', { class: classNames(part.slice(1) as number[]) }, text(part[0])),
        ),
      );

/** Who gets a place at all. */
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
  mapTitle,
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
    ...(mapTitle ? { mapTitle } : {}),
    ...(content ? { content } : {}),
  };
  return [
    ...others.map((other) => ({ form: other, when: other.content.when ?? [] })),
    { form: own, when: otherwise ? [otherwise] : [] },
  ];
}

export function readersOf(publication: Publication): Readers {
  const conditions: When[] = [];
  const numbers = new Map<string, number>();
  const numberOf = (when: When): number => {
    const key = JSON.stringify(when);
    const known = numbers.get(key) ?? conditions.push(when) - 1;
    numbers.set(key, known);
    return known;
  };
  const numbersOf = (when: readonly When[] = []): readonly number[] => [
    ...new Set(when.map(numberOf)),
  ];

  const parts = (
    nodes: readonly Node[],
    around: readonly When[],
  ): (string | [string, ...number[]])[] =>
    nodes.flatMap((node): (string | [string, ...number[]])[] => {
      if (!isElement(node)) {
        const words = typeof node === 'string' ? node.replace(/\s+/gu, ' ') : '';
        return words === '' ? [] : [around.length === 0 ? words : [words, ...numbersOf(around)]];
      }
      if (['indexterm', 'fn', 'desc', 'alt'].includes(node.name)) return [];
      return parts(node.children, [...around, ...((node as ResolvedElement).when ?? [])]);
    });

  const byAnchor = new Map<string, readonly When[]>();
  /** Of places at which one of several topics stands. */
  const atPlaces = new Map<string, readonly When[]>();
  /**
   * Every condition has its number before the first page is made: pages can be made in any order.
   */
  const walk = (element: ResolvedElement, around: readonly When[]): void => {
    numbersOf(element.when);
    const when = element.when ? [...around, ...element.when] : around;
    if (element.anchor !== undefined && when.length > 0) byAnchor.set(element.anchor, when);
    for (const child of element.children)
      if (isElement(child)) walk(child as ResolvedElement, when);
  };
  const gatherIndex = (entries: readonly IndexEntry[]): void => {
    for (const { locators, entries: inner } of entries) {
      for (const { when } of locators) numbersOf(when);
      gatherIndex(inner);
    }
  };
  if (publication.open.length > 0) {
    for (const place of allPlaces(publication.places)) {
      numbersOf([
        ...(place.when ?? []),
        ...(place.otherwise ? [place.otherwise] : []),
        ...place.related.flatMap(({ when = [] }) => when),
      ]);
      for (const { form, when } of formsOf(place))
        if (form.content) walk(form.content, [...(place.when ?? []), ...when]);
      // Whatever of several stands there, the place is there.
      if ((place.others ?? []).length > 0) atPlaces.set(place.anchor, whenOfPlace(place));
    }
    for (const { entries } of publication.index) gatherIndex(entries);
  }

  const said = (nodes: readonly Node[], around: readonly When[] = []): Said => {
    const all = parts(nodes, around);
    return all.every((part) => typeof part === 'string') ? all.join('').trim() : all;
  };
  /** What all forms at a place say, each for those who get it; once where they say the same. */
  const saidAt = (place: Place, nodesOf: (form: Form) => readonly Node[]): Said => {
    const forms = formsOf(place);
    const [first, ...more] = forms.map(({ form }) => said(nodesOf(form)));
    if (more.every((one) => JSON.stringify(one) === JSON.stringify(first))) return first!;
    return forms.flatMap(({ form, when }) => {
      const words = said(nodesOf(form), when);
      return typeof words === 'string' ? [words] : words;
    });
  };
  const labelOf = (place: Place): Said => saidAt(place, ({ mapTitle, title }) => mapTitle ?? title);
  const titles = new Map(
    publication.open.length === 0
      ? []
      : allPlaces(publication.places).flatMap((place): [string, Said][] => {
          const title = saidAt(place, (form) => form.title);
          return typeof title === 'string' ? [] : [[place.anchor, title]];
        }),
  );

  return {
    conditions,
    numbersOf,
    classOf: (when) => classNames(numbersOf(when)),
    said,
    labelOf: publication.open.length === 0 ? ({ label }) => label : labelOf,
    leadOf:
      publication.open.length === 0
        ? ({ shortDescription }) => shortDescription
        : (place) =>
            saidAt(place, ({ content, shortDescription }) => [
              (content && shortDescriptionIn(content)) ?? shortDescription,
            ]),
    titleAt: (anchor) => titles.get(anchor),
    number: (anchor, number) =>
      publication.open.length === 0
        ? text(number)
        : tag('span', { 'data-n': anchor }, text(number)),
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
  { conditions }: Readers,
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
