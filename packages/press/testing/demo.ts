import { join } from 'node:path';
import { compose, type Composition, type Publication } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { readFolder, readPackage, type PackageContent } from '@ukiyo/intake';
import type { AssetFile, AssetSource } from '../index.ts';

export const demo: PackageContent = readPackage(
  await readFolder(join(import.meta.dirname, '../../../demo/library')),
);
const files = new Map(demo.assets.map((asset): [string, AssetFile] => [asset.id, asset]));

export const demoLibrary = textLibrary(demo.items, demo.assets, { lenses: demo.lenses });

export const demoAssets: AssetSource = (id) => files.get(id);

/** A map of the demo library through one of its lenses. */
export function composeDemo(
  map: string,
  lens: string,
  variables: Record<string, string> = {},
  more: Partial<Composition> = {},
): Publication {
  const chosen = demo.lenses.find(({ id }) => id === lens);
  return compose({
    library: demoLibrary,
    map,
    variables,
    facets: demo.facets,
    ...(chosen ? { lens: chosen } : {}),
    ...more,
  });
}
