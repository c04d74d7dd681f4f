import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Publication } from '@ukiyo/core/compose';
import { readFolder, readPackage, type PackageContent } from '@ukiyo/intake';
import { siteFiles, type AssetSource, type SiteOptions } from '@ukiyo/press';

/** A new folder for sites. */
export const newFolder = (): string => mkdtempSync(join(tmpdir(), 'ukiyo-site-'));

/** A site in a folder of its own, opened without any server. */
export function folderOf(
  publication: Publication,
  asset: AssetSource = () => undefined,
  options: SiteOptions = {},
  folder = newFolder(),
): { readonly address: string; readonly paths: string[] } {
  const paths: string[] = [];
  for (const [path, bytes] of siteFiles(publication, asset, options).files) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), bytes);
    paths.push(path);
  }
  return { address: pathToFileURL(folder).href, paths };
}

export const demoContent = async (): Promise<PackageContent> =>
  readPackage(await readFolder(join(import.meta.dirname, '../demo/library')));
