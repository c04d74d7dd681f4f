import { labelOf } from '../grammar/index.ts';
import { walk, type Element } from '../markup/index.ts';
import { problem, withFix, type Fix, type Path, type Problem } from '../problems/index.ts';
import { facetValuesOf, type Facet, type FacetValue } from './lens.ts';

/** All values of a facet, nested ones after the one they are nested in. */
export function allValues(values: readonly FacetValue[]): FacetValue[] {
  return values.flatMap((value) => [value, ...allValues(value.values ?? [])]);
}

/**
 * A list with one value, wherever it is nested, given up for others: itself changed, itself with
 * more beside it, or nothing.
 */
export function replaceInList(
  values: readonly FacetValue[],
  name: string,
  change: (value: FacetValue) => readonly FacetValue[],
): FacetValue[] {
  return values.flatMap((value) => {
    if (value.name === name) return change(value);
    if (!value.values) return [value];
    const { values: nested, ...rest } = value;
    const inside = replaceInList(nested, name, change);
    return [inside.length > 0 ? { ...rest, values: inside } : rest];
  });
}

/**
 * The list with a value moved up or down among those beside it; at the end of them nothing changes.
 */
export function moveInList(
  values: readonly FacetValue[],
  name: string,
  offset: 1 | -1,
): FacetValue[] {
  const at = values.findIndex((value) => value.name === name);
  if (at === -1)
    return values.map((value) =>
      value.values ? { ...value, values: moveInList(value.values, name, offset) } : value,
    );
  const moved = values.toSpliced(at, 1);
  return moved.toSpliced(Math.max(0, at + offset), 0, values[at]!);
}

/** Letters and digits alone: “Tern_Q” and “tern q” mean the same to the people who type them. */
const plain = (text: string): string => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');

/** A value that is written in another way becomes the one that it means; any other goes. */
function fixFor(facet: Facet, value: string, found: Element, path: Path): Fix {
  const meant = allValues(facet.values).find(({ name, label }) =>
    [plain(name), plain(label)].includes(plain(value)),
  );
  const edit = {
    kind: 'value' as const,
    path: [...path],
    element: found.name,
    facet: facet.name,
    from: value,
  };
  return meant
    ? { label: `Make it “${meant.label}”`, edit: { ...edit, to: meant.name } }
    : { label: `Take “${value}” away`, edit };
}

/**
 * Finds values that their facet does not have, and facets that the project does not have. A project
 * without facets has no closed lists to check against.
 * @returns problems `facet.unknown-value`, with a fix, and `facet.unknown`, each with the path of
 * its element
 */
export function checkFacetValues(root: Element, facets: readonly Facet[]): Problem[] {
  if (facets.length === 0) return [];
  const known = new Map(
    facets.map((facet) => [
      facet.name,
      { facet, values: new Set(allValues(facet.values).map(({ name }) => name)) },
    ]),
  );
  const problems: Problem[] = [];
  walk(root, (found, path) => {
    for (const [name, values] of facetValuesOf(found.attributes)) {
      // Where content may be delivered is a matter of the standard, not of the team (DITA 1.3,
      // 2.4.3).
      if (name === 'deliveryTarget') continue;
      const entry = known.get(name);
      const where = {
        path: [...path],
        attribute: found.attributes[name] === undefined ? 'props' : name,
      };
      if (!entry) {
        problems.push(
          problem(
            'warning',
            'facet.unknown',
            `“${labelOf(found.name)}” varies by “${name}”, which is not a facet of this project.`,
            where,
          ),
        );
        continue;
      }
      for (const value of values) {
        if (!entry.values.has(value))
          problems.push(
            withFix(
              problem(
                'warning',
                'facet.unknown-value',
                `“${value}” is not a value of the facet “${entry.facet.label}”.`,
                where,
              ),
              fixFor(entry.facet, value, found, path),
            ),
          );
      }
    }
  });
  return problems;
}
