import {
  openMatchOf,
  type Facet,
  type Lens,
  type OpenFacet,
  type ValuesByFacet,
  type When,
} from '../facets/index.ts';
import type { Alternate, Library } from '../library/index.ts';
import { problem, type Problem } from '../problems/index.ts';

/** What is shown of a topic or image: an alternate that suits the readers, or itself. */
export interface ChosenAlternate {
  readonly id: string;
  /** Present where it is an alternate. */
  readonly alternate?: Alternate;
  /** What those get instead who have chosen so; who gets what is taken stands in `when`. */
  readonly others: readonly { readonly id: string; readonly when: When }[];
  readonly when?: When;
  readonly problems: readonly Problem[];
}
export type Choose = (id: string) => ChosenAlternate;

/**
 * Chooses among a topic, or an image, and its alternates: the alternate that is for all who look
 * through the lens and names their facet values most closely, otherwise the base. Where readers
 * decide on some facets, alternates that suit closer those who have chosen so stand beside it. Of
 * several that suit equally the first by id is taken, and that is said (`alternate.tie`); an
 * alternate of an alternate is never taken (`alternate.nested`).
 */
export function choosing(
  { alternates }: Library,
  lens: Lens | undefined,
  facets: readonly Facet[],
  open: readonly OpenFacet[] = [],
): Choose {
  const made = new Map<string, ChosenAlternate>();
  const choose = (id: string): ChosenAlternate => {
    const problems: Problem[] = [];
    const all = (alternates.get(id) ?? []).map((alternate) => ({
      alternate,
      ...openMatchOf(alternate.conditions, lens, facets, open),
    }));
    for (const { alternate } of all)
      for (const { id: inner } of alternates.get(alternate.id) ?? [])
        problems.push(
          problem(
            'error',
            'alternate.nested',
            `“${inner}” is an alternate of “${alternate.id}”, which is one itself. It is not used.`,
            { item: inner },
          ),
        );
    const suiting = all.filter(({ match }) => match > 0).toSorted((a, b) => b.match - a.match);
    const isTaken = ({ all: depending }: { all: ValuesByFacet }): boolean =>
      Object.keys(depending).length === 0;
    const at = suiting.findIndex(isTaken);
    const best = suiting[at];
    for (const { alternate, match, all: depending } of suiting) {
      const first = suiting.find(
        (one) => one.match === match && JSON.stringify(one.all) === JSON.stringify(depending),
      )!.alternate;
      if (first !== alternate)
        problems.push(
          problem(
            'warning',
            'alternate.tie',
            `“${alternate.id}” suits these readers as well as “${first.id}”, which is taken ` +
              `in the place of “${id}”.`,
            { item: alternate.id },
          ),
        );
    }
    const closer = at === -1 ? suiting : suiting.slice(0, at);
    const others = exclusiveAlternatives(
      closer.map(({ alternate, all: depending }) => ({ id: alternate.id, all: depending })),
    );
    return {
      id: best?.alternate.id ?? id,
      problems,
      others,
      ...(best ? { alternate: best.alternate } : {}),
      ...(others.length > 0
        ? { when: { unless: closer.map(({ all: depending }) => depending) } }
        : {}),
    };
  };
  return (id) => {
    const known = made.get(id) ?? choose(id);
    made.set(id, known);
    return known;
  };
}

/** Of several that suit those who have chosen so, the first. */
const exclusiveAlternatives = <Of extends { readonly all: ValuesByFacet }>(
  several: readonly Of[],
): (Omit<Of, 'all'> & { readonly when: When })[] =>
  several.map(({ all, ...rest }, at) => ({
    ...rest,
    when: { all, ...(at === 0 ? {} : { unless: several.slice(0, at).map((one) => one.all) }) },
  }));

/** For each alternate what it stands in for. */
export function basesAmong({ alternates }: Library): ReadonlyMap<string, string> {
  return new Map(
    [...alternates].flatMap(([base, all]) => all.map(({ id }) => [id, base] as const)),
  );
}
