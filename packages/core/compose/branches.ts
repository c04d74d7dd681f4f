import { combineLenses, evaluateProfile, type Facet, type Lens } from '../facets/index.ts';
import { readReference, type Library } from '../library/index.ts';
import { childElements, childNamed, isElement, lineOf, type Element } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import type { Origin } from './publication.ts';

/**
 * A part of the map that is filtered by a lens of its own, and how what comes of it is named (DITA
 * 1.3, 2.4.3.4 “Branch filtering”).
 */
export interface Branch {
  /** The branch filter that makes it. */
  readonly origin: Origin;
  readonly lens: Lens | undefined;
  readonly prefix: string;
  readonly suffix: string;
  readonly scopePrefix: string;
  readonly scopeSuffix: string;
}

/**
 * The branches into which the filters directly in an element part it, each once; none where it has
 * no filter. What the lens of a branch keeps must also be kept by the lens around it.
 * @param origin of the element
 * @param outer the lens through which the element is seen
 * @returns the branches with problems `map.missing-lens`
 */
export function branchesOf(
  parent: Element,
  origin: Origin,
  outer: Lens | undefined,
  { library, facets }: { readonly library: Library; readonly facets: readonly Facet[] },
): { readonly branches: readonly Branch[]; readonly problems: readonly Problem[] } {
  const problems: Problem[] = [];
  const branches = parent.children.flatMap((child, index) => {
    const isFilter = isElement(child) && child.name === 'ditavalref';
    if (!isFilter || !evaluateProfile(child.attributes, outer, facets).kept) return [];
    const where = { item: origin.item, path: [...origin.path, index] };
    const href = child.attributes['href'];
    const reference = href === undefined ? undefined : readReference(href, origin.item);
    const own = reference?.kind === 'lens' ? library.lens(reference.id) : undefined;
    if (!own && href !== undefined)
      problems.push(
        problem(
          'error',
          'map.missing-lens',
          `The lens “${href}” of this branch is not in the library. The branch is not ` +
            'filtered by it.',
          where,
        ),
      );
    const lens =
      own && outer
        ? combineLenses(`${outer.name}, ${own.name}`, [outer, own], facets)
        : (own ?? outer);
    return [
      {
        origin: where,
        lens,
        prefix: nameFor(child, 'dvrResourcePrefix'),
        suffix: nameFor(child, 'dvrResourceSuffix'),
        scopePrefix: nameFor(child, 'dvrKeyscopePrefix'),
        scopeSuffix: nameFor(child, 'dvrKeyscopeSuffix'),
      },
    ];
  });
  return { branches, problems };
}

/** What a branch filter says of names, as it may stand in one. */
function nameFor(filter: Element, part: string): string {
  const meta = childNamed(filter, 'ditavalmeta');
  const found = meta && childElements(meta).find(({ name }) => name === part);
  const said = found ? lineOf(found) || (found.attributes['value'] ?? '') : '';
  return said.replace(/[^\p{L}\p{N}._-]+/gu, '-');
}

/** The name of something in nested branches, the outermost outside. */
export const nameIn = (branches: readonly Branch[], name: string): string =>
  branches.reduceRight((inner, { prefix, suffix }) => `${prefix}${inner}${suffix}`, name);

/** The scopes of a branch; a branch that only says how scopes are named is a scope of that name. */
export function scopesIn(
  { scopePrefix, scopeSuffix }: Branch,
  names: readonly string[],
): readonly string[] {
  const own = `${scopePrefix}${scopeSuffix}`;
  return names.length > 0
    ? names.map((name) => `${scopePrefix}${name}${scopeSuffix}`)
    : own === ''
      ? []
      : [own];
}

/** How many of the outer branches two places have in common. */
export function inCommon(one: readonly Branch[], other: readonly Branch[]): number {
  const parting = one.findIndex((branch, at) => branch !== other[at]);
  return parting === -1 ? one.length : parting;
}
