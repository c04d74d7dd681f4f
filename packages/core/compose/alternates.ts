import { matchOf, type Facet, type Lens } from '../facets/index.ts';
import type { Alternate, Library } from '../library/index.ts';
import { problem, type Problem } from '../problems/index.ts';

/** What is shown of a topic or image: an alternate that suits the readers, or itself. */
interface Choice {
  readonly id: string;
  /** Present where it is an alternate. */
  readonly alternate?: Alternate;
  readonly problems: readonly Problem[];
}
export type Choose = (id: string) => Choice;

/**
 * Chooses among a topic, or an image, and its alternates: the alternate that is for all who look through the lens and names their facet values most closely,
 * otherwise the base. Of several that suit equally the first by id is taken, and that is said (`alternate.tie`); an alternate of an alternate is never taken (`alternate.nested`).
 */
export function choosing({ alternates }: Library, lens: Lens | undefined, facets: readonly Facet[]): Choose {
  const made = new Map<string, Choice>();
  const choose = (id: string): Choice => {
    const problems: Problem[] = [];
    const all = (alternates.get(id) ?? []).map((alternate) => ({ alternate, match: matchOf(alternate.conditions, lens, facets) }));
    for (const { alternate } of all)
      for (const { id: inner } of alternates.get(alternate.id) ?? [])
        problems.push(problem('error', 'alternate.nested', `“${inner}” is an alternate of “${alternate.id}”, which is one itself. It is not used.`, { item: inner }));
    const closest = Math.max(0, ...all.map(({ match }) => match));
    const [best, ...equal] = closest > 0 ? all.filter(({ match }) => match === closest) : [];
    for (const { alternate } of equal)
      problems.push(problem('warning', 'alternate.tie', `“${alternate.id}” suits these readers as well as “${best!.alternate.id}”, which is taken in the place of “${id}”.`, { item: alternate.id }));
    return { id: best?.alternate.id ?? id, problems, ...(best ? { alternate: best.alternate } : {}) };
  };
  return (id) => {
    const known = made.get(id) ?? choose(id);
    made.set(id, known);
    return known;
  };
}

/** For each alternate what it stands in for. */
export function basesAmong({ alternates }: Library): ReadonlyMap<string, string> {
  return new Map([...alternates].flatMap(([base, all]) => all.map(({ id }) => [id, base] as const)));
}
