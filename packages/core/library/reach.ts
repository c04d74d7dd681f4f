import { linksOf } from './derive.ts';
import type { Library } from './library.ts';
import { usesIn } from './uses.ts';

/** Ids of what a publication is made of. */
export interface PublicationReach {
  readonly items: ReadonlySet<string>;
  readonly assets: ReadonlySet<string>;
  readonly lenses: ReadonlySet<string>;
}

/**
 * All that a map is made of: what it and its maps place, what that borrows, shows and has for
 * alternates, the variables that hold everywhere, and topics to which links lead, since those say
 * their titles. Where another publication is linked to, that is reached as well.
 */
export function reachOf(library: Library, map: string): PublicationReach {
  const items = new Set<string>();
  const assets = new Set<string>();
  const lenses = new Set<string>();
  /** Only named by links: what they are made of is not reached. */
  const named = new Set<string>();
  const open = [map, ...library.commonSets];
  const show = (id: string): void => {
    if (assets.has(id)) return;
    assets.add(id);
    for (const alternate of library.alternates.get(id) ?? []) show(alternate.id);
  };
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    const item = items.has(id) ? undefined : library.item(id);
    if (!item) continue;
    items.add(id);
    open.push(...(library.alternates.get(id) ?? []).map((alternate) => alternate.id));
    if (!item.root) continue;
    for (const { manner, target } of usesIn(item.root, id)) {
      if (manner === 'shown') show(target);
      else if (manner === 'placed' || manner === 'borrowed' || manner === 'alternate')
        open.push(target);
      else if (manner === 'linked' && item.kind === 'map') open.push(target);
      else if (manner === 'linked') named.add(target);
    }
    for (const { target } of linksOf(item.root, id))
      if (target.kind === 'lens') lenses.add(target.id);
  }
  for (const id of named) if (library.item(id)) items.add(id);
  for (const id of assets) if (!library.asset(id)) assets.delete(id);
  return { items, assets, lenses };
}
