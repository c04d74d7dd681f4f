import type { ImportReport } from '@ukiyo/contracts';
import { problem, type Problem } from '@ukiyo/core/problems';
import { readPackage } from '@ukiyo/intake';
import { ditaFiles } from '@ukiyo/press';
import type { AssetStore } from './assets.ts';
import type { BlobStore } from './blobs.ts';
import type { Database } from './database.ts';
import type { EditionStore } from './editions.ts';
import { settleImage } from './images.ts';
import type { ItemStore } from './items.ts';

/** A whole library in and out as files of standard DITA. */
export interface LibraryPackages {
  /** Writes what can be read; everything or, after a failure of the database, nothing. */
  take(project: string, files: ReadonlyMap<string, Uint8Array>, author: string): Promise<ImportReport>;
  give(project: string): Promise<Map<string, Uint8Array>>;
}

export function libraryPackages(database: Database, items: ItemStore, assets: AssetStore, editions: EditionStore, blobs: BlobStore): LibraryPackages {
  return {
    async take(project, files, author) {
      const content = readPackage(files, await items.ids(project));
      const problems: Problem[] = [...content.problems];
      const images = content.assets.flatMap((asset) => {
        const settled = settleImage(asset.bytes, asset.mediaType);
        if ('refusal' in settled) {
          problems.push(problem('error', 'image.unreadable', `“${asset.name}”: ${settled.refusal} It is left out.`));
          return [];
        }
        return [{ ...asset, ...settled }];
      });
      const known = await database.models.items.findAll({ where: { projectId: project }, attributes: ['folder', 'name'] });
      const paths = new Set(known.map((row) => `${row.get().folder}/${row.get().name}`));
      const fresh = content.items.filter((item) => {
        const isFree = !paths.has(`${item.folder}/${item.name}`);
        if (!isFree) problems.push(problem('warning', 'package.exists', `“${item.folder}/${item.name}” is in the library already. It is left as it is.`));
        return isFree;
      });
      await database.sequelize.transaction(async (transaction) => {
        for (const item of fresh) await items.create(project, item, author, transaction);
        for (const image of images) await assets.create(project, image, transaction);
      });
      for (const lens of content.lenses) await editions.saveLens(project, { ...lens, rules: [...lens.rules] });
      return { items: fresh.length, assets: images.length, lenses: content.lenses.length, problems };
    },
    async give(project) {
      const files = await Promise.all((await assets.rows(project)).map(async (row) => ({ ...row, bytes: await blobs.get(row.hash) })));
      return ditaFiles(await items.texts(project), files, await editions.lenses(project));
    },
  };
}
