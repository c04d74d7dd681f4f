import {
  Counting,
  isCounted,
  ordinalsIn,
  type Captioned,
  type Place,
  type PlaceRole,
  type ResolvedElement,
} from '@ukiyo/core/compose';
import type { When } from '@ukiyo/core/facets';
import { isElement } from '@ukiyo/core/markup';
import type { Numbering } from '@ukiyo/core/styles';
import { formsOf, whenOfPlace, type HtmlContext } from '../topics/index.ts';

/** The readers who get it, as numbers of conditions. */
type Whose = readonly number[];

/** A place with what is counted in it. */
interface CountedPlace {
  readonly a: string;
  readonly r: PlaceRole;
  readonly l: number;
  /** Whether it counts among those beside it. */
  readonly s: boolean;
  readonly w: Whose;
  readonly k: readonly (readonly [kind: Captioned, anchor: string, whose: Whose])[];
  /**
   * Steps and list entries before which some stand that not everybody gets; absent where there are
   * none.
   */
  readonly o?: readonly (readonly [anchor: string, number: number, varied: readonly Whose[]])[];
  readonly c: readonly CountedPlace[];
}
export interface CountedData {
  readonly numbering: Numbering;
  readonly places: readonly CountedPlace[];
}

/** What has a number in a site, so that its readers' browsers can count what is for them. */
export function countedData({ publication, readers }: HtmlContext): CountedData {
  const captions = (element: ResolvedElement, outer: readonly When[]): CountedPlace['k'] => {
    const when = [...outer, ...(element.when ?? [])];
    const { anchor } = element;
    const target = anchor === undefined ? undefined : publication.targets[anchor];
    const inner = element.children.flatMap((child) =>
      isElement(child) ? captions(child as ResolvedElement, when) : [],
    );
    const { kind, number } = target ?? {};
    const isCounted =
      number !== undefined && (kind === 'figure' || kind === 'table' || kind === 'example');
    return isCounted ? [...inner, [kind, anchor!, readers.numbersOf(when)]] : inner;
  };
  const ordinals = (place: Place): Pick<CountedPlace, 'o'> => {
    const all = formsOf(place).flatMap(({ form }) =>
      form.content ? ordinalsIn(form.content) : [],
    );
    const found = all.filter(
      ({ anchor, varied }) => varied.length > 0 && publication.targets[anchor],
    );
    return found.length === 0
      ? {}
      : {
          o: found.map(({ anchor, number, varied }) => [
            anchor,
            number,
            varied.map((when) => readers.numbersOf(when)),
          ]),
        };
  };
  const counted = (place: Place): CountedPlace => ({
    a: place.anchor,
    r: place.role,
    l: place.level,
    s: isCounted(place),
    w: readers.numbersOf(whenOfPlace(place)),
    k: formsOf(place)
      .toReversed()
      .flatMap(({ form, when }) => (form.content ? captions(form.content, when) : [])),
    ...ordinals(place),
    c: place.children.map(counted),
  });
  return { numbering: publication.numbering, places: publication.places.map(counted) };
}

/**
 * The numbers of what some readers get, by anchor, counted as when a publication is made for them.
 */
export function numbersFor(
  { numbering, places }: CountedData,
  isFor: (whose: Whose) => boolean,
): Map<string, string> {
  const count = new Counting(numbering);
  const numbers = new Map<string, string>();
  const give = (anchor: string, number: string | undefined): void =>
    void (number !== undefined && numbers.set(anchor, number));
  const go = (all: readonly CountedPlace[], parent: string | undefined): void => {
    let ordinal = 0;
    for (const place of all) {
      if (!isFor(place.w)) {
        go(place.c, parent);
        continue;
      }
      if (place.s && place.r === 'section') ordinal += 1;
      const number = place.s
        ? count.place({ role: place.r, level: place.l, parent, ordinal })
        : undefined;
      give(place.a, number);
      for (const [kind, anchor, whose] of place.k)
        if (isFor(whose)) give(anchor, count.caption(kind));
      for (const [anchor, of, varied] of place.o ?? [])
        give(anchor, `${of - varied.filter((whose) => !isFor(whose)).length}`);
      go(place.c, number);
    }
  };
  go(places, undefined);
  return numbers;
}
