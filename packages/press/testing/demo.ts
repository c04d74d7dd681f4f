import { join } from 'node:path';
import { compose, type Composition, type Publication } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { readFolder, readPackage, type PackageContent } from '@ukiyo/intake';
import type { AssetFile, AssetSource } from '../index.ts';

const content: PackageContent = readPackage(await readFolder(join(import.meta.dirname, '../../../demo/library')));
const files = new Map(content.assets.map((asset): [string, AssetFile] => [asset.id, asset]));

export const demoAssets: AssetSource = (id) => files.get(id);

/** A map of the demo library through one of its lenses. */
export function composeDemo(map: string, lens: string, variables: Record<string, string> = {}, more: Partial<Composition> = {}): Publication {
  const chosen = content.lenses.find(({ id }) => id === lens);
  return compose({ library: textLibrary(content.items, content.assets, { lenses: content.lenses }), map, variables, facets: content.facets, ...(chosen ? { lens: chosen } : {}), ...more });
}
