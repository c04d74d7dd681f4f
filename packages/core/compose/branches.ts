import { combineLenses, judge, type Facet, type Lens } from '../facets/index.ts';
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
 * no filter. What the lens of the branch keeps must also be kept by the lens around it.
 */
export function branchesOf(
  parent: Element,
  origin: Origin,
  around: Lens | undefined,
  library: Library,
  facets: readonly Facet[],
  report: (found: Problem) => void,
): Branch[] {
  return parent.children.flatMap((child, index) => {
    if (
      !isElement(child) ||
      child.name !== 'ditavalref' ||
      !judge(child.attributes, around, facets).kept
    )
      return [];
    const where = { item: origin.item, path: [...origin.path, index] };
    const href = child.attributes['href'];
    const reference = href === undefined ? undefined : readReference(href, origin.item);
    const own = reference?.kind === 'lens' ? library.lens(reference.id) : undefined;
    if (!own && href !== undefined)
      report(
        problem(
          'error',
          'map.missing-lens',
          `The lens “${href}” of this branch is not in the library. The branch is not ` +
            'filtered by it.',
          where,
        ),
      );
    const named = (name: string): string => {
      const meta = childNamed(child, 'ditavalmeta');
      const found = meta && childElements(meta).find((one) => one.name === name);
      return found
        ? (lineOf(found) || (found.attributes['value'] ?? '')).replace(/[^\p{L}\p{N}._-]+/gu, '-')
        : '';
    };
    const lens =
      own && around
        ? combineLenses(`${around.name}, ${own.name}`, [around, own], facets)
        : (own ?? around);
    return [
      {
        origin: where,
        lens,
        prefix: named('dvrResourcePrefix'),
        suffix: named('dvrResourceSuffix'),
        scopePrefix: named('dvrKeyscopePrefix'),
        scopeSuffix: named('dvrKeyscopeSuffix'),
      },
    ];
  });
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
