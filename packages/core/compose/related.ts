import type { When } from '../facets/index.ts';
import { lineOf } from '../markup/index.ts';
import { webAddress } from '../rules/index.ts';
import { inCommon, type Branch } from './branches.ts';
import type { Place, Related } from './publication.ts';
import type { RelatedTopic, Relation } from './relations.ts';

/** Where items stand in the publication. */
export interface Standings {
  /** The anchors of the topics that show an item, in reading order. */
  readonly anchorsOf: (item: string) => readonly string[];
  /** That of them which is nearest to these branches. */
  readonly nearest: (item: string, around: readonly Branch[]) => string | undefined;
  readonly branchesOf: (anchor: string) => readonly Branch[];
}

/** Where a place leads, and for whom: each time all of that must hold. */
interface Lead {
  readonly related: Related;
  readonly ways: (readonly When[])[];
}

/** What places lead to, by their anchors, in the order in which that is found. */
class Leads {
  readonly #byPlace = new Map<string, Map<string, Lead>>();

  add(from: string, related: Related, when: readonly When[]): void {
    const known = this.#byPlace.get(from) ?? new Map<string, Lead>();
    this.#byPlace.set(from, known);
    const key = 'anchor' in related ? related.anchor : `${related.href} ${related.text}`;
    const lead = known.get(key) ?? { related, ways: [] };
    lead.ways.push(when);
    known.set(key, lead);
  }

  all(): ReadonlyMap<string, readonly Related[]> {
    return new Map(
      [...this.#byPlace].map(([from, leads]) => [
        from,
        [...leads.values()].map(({ related, ways }) => ({ ...related, ...inOneOf(ways) })),
      ]),
    );
  }
}

/**
 * For each place what its relationship-table rows name in other cells (DITA 1.3, 2.2.3.2), and the
 * places of its family.
 */
export function relatedPlaces(
  relations: readonly Relation[],
  families: readonly (readonly string[])[],
  standings: Standings,
): ReadonlyMap<string, readonly Related[]> {
  const leads = new Leads();
  for (const relation of relations) relate(relation, standings, leads);
  for (const family of families)
    for (const from of family)
      for (const anchor of family) if (anchor !== from) leads.add(from, { anchor }, []);
  return leads.all();
}

function relate({ cells, titles, when, branches }: Relation, standings: Standings, leads: Leads) {
  cells.forEach((cell, at) => {
    const others = cells.flatMap((topics, column) =>
      column === at ? [] : topics.map((topic) => ({ topic, title: titles[column] })),
    );
    for (const one of cell.filter(({ from }) => from))
      for (const anchor of one.target.kind === 'item' ? standings.anchorsOf(one.target.id) : []) {
        const around = standings.branchesOf(anchor);
        if (inCommon(around, branches) < branches.length) continue;
        for (const { topic, title = [] } of others) {
          const related = topic.to ? leadTo(topic, standings, around) : undefined;
          const group = lineOf({ name: 'title', attributes: {}, children: title });
          if (related)
            leads.add(anchor, { ...related, ...(group === '' ? {} : { group }) }, [
              ...when,
              ...one.when,
              ...topic.when,
            ]);
        }
      }
  });
}

function leadTo(
  { target, text }: RelatedTopic,
  { nearest }: Standings,
  around: readonly Branch[],
): Related | undefined {
  if (target.kind === 'external') {
    const href = webAddress(target.href);
    return href === undefined ? undefined : { href, text: text ?? target.href };
  }
  const anchor = nearest(target.id, around);
  return anchor === undefined ? undefined : { anchor };
}

/** For those for whom one of these holds. */
function inOneOf(ways: readonly (readonly When[])[]): { readonly when?: readonly When[] } {
  const [first, ...more] = new Map(ways.map((way) => [JSON.stringify(way), way])).values();
  if (!first || ways.some((way) => way.length === 0)) return {};
  return { when: more.length === 0 ? first : [{ either: [first, ...more] }] };
}

export const withRelated = (
  places: readonly Place[],
  related: ReadonlyMap<string, readonly Related[]>,
): Place[] =>
  places.map((place) => ({
    ...place,
    related: related.get(place.anchor) ?? [],
    children: withRelated(place.children, related),
  }));
