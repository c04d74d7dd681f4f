import { actionOn, lookOn } from './deciding.ts';
import type { Facet, Lens, LensAction, LensRule } from './lens.ts';

/** A lens as the team keeps it. */
export interface KeptLens extends Lens {
  readonly id: string;
  /** Lenses through which one looks at the same time. */
  readonly through?: readonly string[];
}

const strength: Record<LensAction, number> = { keep: 0, mark: 1, drop: 2 };

/**
 * Several lenses held behind each other, as one: what any of them drops is dropped, and what any of
 * them marks is marked.
 * @param facets the lists, for values that are nested in others
 */
export function combineLenses(
  name: string,
  lenses: readonly Lens[],
  facets: readonly Facet[] = [],
): Lens {
  const named = new Map(
    lenses.flatMap(({ rules }) =>
      rules.map(({ facet, value }) => [JSON.stringify([facet, value]), { facet, value }] as const),
    ),
  );
  const rules = [...named.values()].map(({ facet, value }): LensRule => {
    const actions = lenses.map((lens) => actionOn(lens, facet, value, facets));
    const action = actions.reduce((strongest, one) =>
      strength[one] > strength[strongest] ? one : strongest,
    );
    const look =
      action === 'mark'
        ? lookOn(lenses[actions.indexOf('mark')]!, facet, value, facets)
        : undefined;
    return {
      ...(facet === undefined ? {} : { facet }),
      ...(value === undefined ? {} : { value }),
      action,
      ...(look ? { look } : {}),
    };
  });
  const clash = lenses.find((lens) => lens.clash)?.clash;
  return { name, rules, ...(clash ? { clash } : {}) };
}

/**
 * What one sees through a lens that the team keeps, with all that stand behind it. Lenses that are
 * no more, or that lead back, are passed over.
 */
export function lensOf(
  id: string,
  kept: readonly KeptLens[],
  facets: readonly Facet[] = [],
): Lens | undefined {
  const reached: KeptLens[] = [];
  const reach = (one: string): void => {
    const lens = kept.find((candidate) => candidate.id === one);
    if (!lens || reached.includes(lens)) return;
    reached.push(lens);
    lens.through?.forEach(reach);
  };
  reach(id);
  const [first, ...behind] = reached;
  return (
    first &&
    (behind.length === 0
      ? { name: first.name, rules: first.rules, ...(first.clash ? { clash: first.clash } : {}) }
      : combineLenses(first.name, reached, facets))
  );
}
