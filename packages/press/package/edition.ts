import type { Facet, Lens } from '@ukiyo/core/facets';
import { writeCanonical } from '@ukiyo/core/grammar';
import { definitionElement, definitionsOf, reachOf, type Library } from '@ukiyo/core/library';
import { element, isElement, type Element } from '@ukiyo/core/markup';
import { ditaFiles, type PackagedAsset, type PackagedItem } from './dita.ts';

export interface EditionSources {
  readonly map: string;
  readonly library: Library;
  /** Of the whole library; those that the edition does not reach are left out. */
  readonly items: readonly PackagedItem[];
  readonly assets: readonly PackagedAsset[];
  readonly lens?: (Lens & { readonly id: string }) | undefined;
  readonly facets: readonly Facet[];
  /** Images that its look and page plan show. */
  readonly designImages?: readonly string[];
  /** Texts that the edition gives to keys. */
  readonly variables: Readonly<Record<string, string>>;
}

/**
 * All that an edition is made of as standard DITA (1.3), without the rest of the library. What its
 * lens drops is in it: for whom things are is part of the source. The variables of the edition
 * stand in its map.
 */
export function editionPackage({
  map,
  library,
  items,
  assets,
  lens,
  facets,
  designImages = [],
  variables,
}: EditionSources): Map<string, Uint8Array> {
  const reach = reachOf(library, map);
  const lenses = [
    ...new Map([
      ...(lens ? [[lens.id, lens] as const] : []),
      ...[...reach.lenses].flatMap((id) => {
        const found = library.lens(id);
        return found ? [[id, { ...found, id }] as const] : [];
      }),
    ]).values(),
  ];
  const root = library.item(map)?.root;
  const inside = items
    .filter(({ id }) => reach.items.has(id))
    .map((item) =>
      item.id === map && root && Object.keys(variables).length > 0
        ? { ...item, text: writeCanonical(withVariables(root, variables)) }
        : item,
    );
  return ditaFiles(
    inside,
    assets.filter(({ id }) => reach.assets.has(id) || designImages.includes(id)),
    lenses,
    facets,
  );
}

/**
 * The map with these texts for keys: in the place of what it says itself; else they go before what
 * the maps in it say (DITA 1.3, 2.4.4.3).
 */
function withVariables(map: Element, variables: Readonly<Record<string, string>>): Element {
  const left = new Set(Object.keys(variables));
  const defined = (key: string): Element => {
    left.delete(key);
    return definitionElement({ key, text: [variables[key]!], choices: [], conditions: {} });
  };
  const children = map.children.flatMap((child) => {
    if (!isElement(child) || child.name !== 'keydef') return [child];
    const given = definitionsOf(child);
    if (!given.some(({ key }) => variables[key] !== undefined)) return [child];
    return given.flatMap((one) =>
      variables[one.key] === undefined
        ? [definitionElement(one)]
        : left.has(one.key)
          ? [defined(one.key)]
          : [],
    );
  });
  return element(map.name, map.attributes, [...children, ...[...left].map(defined)]);
}
