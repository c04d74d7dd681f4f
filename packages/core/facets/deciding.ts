import { profilingAttributes } from '../grammar/index.ts';
import { isElement, type Attributes, type Element, type Node } from '../markup/index.ts';
import {
  facetGroupsOf,
  type Facet,
  type FacetValue,
  type Lens,
  type LensAction,
  type LensRule,
  type Verdict,
} from './lens.ts';
import { joinLooks, type MarkLook } from './looks.ts';

/** For each value the values it is nested in, nearest first. */
function ancestorsIn(facet: Facet | undefined, value: string): string[] {
  const search = (
    values: readonly FacetValue[],
    above: readonly string[],
  ): string[] | undefined => {
    for (const one of values) {
      if (one.name === value) return [...above];
      const inside = search(one.values ?? [], [one.name, ...above]);
      if (inside) return inside;
    }
    return undefined;
  };
  return (facet && search(facet.values, [])) ?? [];
}

/** The rule for what no other names: the facet's, else the lens's. */
const generalRule = (lens: Lens, facetName: string | undefined): LensRule | undefined =>
  lens.rules.find((one) => one.facet === facetName && one.value === undefined) ??
  lens.rules.find((one) => one.facet === undefined && one.value === undefined);

/**
 * A rule for the value itself goes before one for a value it is nested in, then the facet's, then
 * the lens's default.
 */
function ruleFor(
  lens: Lens,
  facetName: string | undefined,
  value: string | undefined,
  facets: readonly Facet[],
): LensRule | undefined {
  if (value !== undefined)
    for (const name of [
      value,
      ...ancestorsIn(
        facets.find((one) => one.name === facetName),
        value,
      ),
    ]) {
      const rule = lens.rules.find((one) => one.facet === facetName && one.value === name);
      if (rule) return rule;
    }
  return generalRule(lens, facetName);
}

/**
 * What a lens does with a value, with those of a facet that no rule names, or with everything else.
 */
export const actionOn = (
  lens: Lens,
  facet: string | undefined,
  value: string | undefined,
  facets: readonly Facet[],
): LensAction => ruleFor(lens, facet, value, facets)?.action ?? 'keep';
export const lookOn = (
  lens: Lens,
  facet: string | undefined,
  value: string | undefined,
  facets: readonly Facet[],
): MarkLook | undefined => ruleFor(lens, facet, value, facets)?.look;

/**
 * A rule of a lens, or none where there is no action: the value then follows what is more general.
 */
export interface Decision {
  readonly facet?: string | undefined;
  readonly value?: string | undefined;
  readonly action?: LensAction | undefined;
  readonly look?: MarkLook | undefined;
}

/** The lens with one decision made anew. */
export function withDecision<Named extends Lens>(
  lens: Named,
  { facet, value, action, look }: Decision,
): Named {
  const others = lens.rules.filter((rule) => rule.facet !== facet || rule.value !== value);
  const made: LensRule[] =
    action === undefined
      ? []
      : [
          {
            ...(facet === undefined ? {} : { facet }),
            ...(value === undefined ? {} : { value }),
            action,
            ...(action === 'mark' && look ? { look } : {}),
          },
        ];
  return { ...lens, rules: [...others, ...made] };
}

/** A group of which no rule speaks answers to the rules of its attribute (DITA 1.3, 2.4.3.3). */
const hasRuleFor = ({ rules }: Lens, group: string): boolean =>
  rules.some(({ facet }) => facet === group);

/** By revisions is marked alone, where a rule names them (DITA 1.3, 3.10.2 `revprop`). */
const revisionLooks = (rev: string, { rules }: Lens): MarkLook[] =>
  rev.split(/\s+/u).flatMap((revision) => {
    const rule =
      rules.find(({ facet, value }) => facet === 'rev' && value === revision) ??
      rules.find(({ facet, value }) => facet === 'rev' && value === undefined);
    return rule?.action === 'mark' ? [rule.look ?? {}] : [];
  });

const keptPlain: Verdict = { kept: true };

/**
 * Decides on an element by its profiling attributes: it is dropped when for any facet all its
 * values are dropped (DITA 1.3, 2.4.3.3 “Filtering and flagging logic”).
 */
export function evaluateProfile(
  attributes: Attributes,
  lens: Lens | undefined,
  facets: readonly Facet[] = [],
): Verdict {
  const { rev } = attributes;
  if (
    !lens ||
    (rev === undefined && !profilingAttributes.some((name) => attributes[name] !== undefined))
  )
    return keptPlain;
  const looks: MarkLook[] = rev === undefined ? [] : revisionLooks(rev, lens);
  let isMarked = looks.length > 0;
  for (const { facet: named, holder, values } of facetGroupsOf(attributes)) {
    const facet = holder !== undefined && !hasRuleFor(lens, named) ? holder : named;
    const actions = values.map((value) => actionOn(lens, facet, value, facets));
    if (actions.every((action) => action === 'drop')) return { kept: false, facet, values };
    values.forEach((value, at) => {
      if (actions[at] !== 'mark') return;
      isMarked = true;
      looks.push(lookOn(lens, facet, value, facets) ?? {});
    });
  }
  return isMarked ? { kept: true, marked: joinLooks(looks, lens.clash) } : keptPlain;
}

/**
 * The tree without what a lens drops, as it is written otherwise; undefined where nothing of it is
 * left.
 */
export function throughLens(
  root: Element,
  lens: Lens | undefined,
  facets: readonly Facet[] = [],
): Element | undefined {
  if (!evaluateProfile(root.attributes, lens, facets).kept) return undefined;
  const children = root.children.flatMap((child): Node[] => {
    const seen = isElement(child) ? throughLens(child, lens, facets) : child;
    return seen === undefined ? [] : [seen];
  });
  return children.length === root.children.length &&
    children.every((child, index) => child === root.children[index])
    ? root
    : { ...root, children };
}

/** The same for lenses that decide the same; used to remember results. */
export function lensKey(lens: Lens | undefined): string {
  return lens
    ? JSON.stringify([
        ...lens.rules.map(({ facet, value, action, look }) => [facet, value, action, look]).sort(),
        lens.clash,
      ])
    : '';
}
