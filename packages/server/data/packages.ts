import type { ImportReport } from '@ukiyo/contracts';
import { lensOf } from '@ukiyo/core/facets';
import { problem, type Problem } from '@ukiyo/core/problems';
import { publishingFile, readPackage } from '@ukiyo/intake';
import { ditaFiles, packagePath } from '@ukiyo/press';
import type { AssetStore } from './assets.ts';
import type { BlobStore } from './blobs.ts';
import type { Database } from './database.ts';
import type { DesignStore } from './designs.ts';
import type { EditionStore } from './editions.ts';
import type { FacetStore } from './facets.ts';
import { settleImage } from '../media/image.ts';
import { nameForType } from '../media/types.ts';
import type { ItemStore } from './items.ts';
import { takePublishing, writePublishing } from './packaged.ts';

/** A whole library in and out as files of standard DITA. */
export interface LibraryPackages {
  /** Writes what can be read; everything or, after a failure of the database, nothing. */
  take(
    project: string,
    files: ReadonlyMap<string, Uint8Array>,
    author: string,
  ): Promise<ImportReport>;
  give(project: string): Promise<Map<string, Uint8Array>>;
}

const manyItems = 500;

interface Stores {
  readonly items: ItemStore;
  readonly assets: AssetStore;
  readonly editions: EditionStore;
  readonly designs: DesignStore;
  readonly facets: FacetStore;
  readonly blobs: BlobStore;
}

export function libraryPackages(
  database: Database,
  { items, assets, editions, designs, facets, blobs }: Stores,
): LibraryPackages {
  return {
    async take(project, files, author) {
      const content = readPackage(files, await items.ids(project));
      const problems: Problem[] = [...content.problems];
      const images = content.assets.flatMap((asset) => {
        const settled = settleImage(asset.bytes, asset.mediaType);
        if ('refusal' in settled) {
          problems.push(
            problem(
              'error',
              'image.unreadable',
              `“${asset.name}”: ${settled.refusal} It is left out.`,
            ),
          );
          return [];
        }
        const name = nameForType(asset.name, settled.mediaType);
        return [{ ...asset, ...settled, name }];
      });
      const paths = await items.paths(project);
      const taken = new Set([...paths.keys(), ...(await assets.rows(project)).map(packagePath)]);
      const isFree = (entry: { folder: string; name: string }): boolean => {
        const path = packagePath(entry);
        if (!taken.has(path)) {
          taken.add(path);
          return true;
        }
        problems.push(
          problem(
            'warning',
            'package.exists',
            `“${packagePath(entry)}” is in the library already. It is left as it is.`,
          ),
        );
        return false;
      };
      const fresh = content.items.filter(isFree);
      const freshImages = images.filter(isFree);
      const facetsThere = new Set((await facets.read(project)).facets.map(({ name }) => name));
      for (const { name, label } of content.facets.filter((facet) => facetsThere.has(facet.name)))
        problems.push(
          problem(
            'info',
            'package.exists',
            `The project has the facet “${label}” (${name}) already. Its values are left as they are.`,
          ),
        );
      const freshFacets = content.facets
        .filter(({ name }) => !facetsThere.has(name))
        .map((facet) => ({ ...facet, values: [...facet.values] }));
      await database.sequelize.transaction(async (transaction) => {
        // First: what is wrong with a topic also depends on them.
        await facets.add(project, freshFacets, transaction);
        await items.createAll(project, fresh, author, transaction);
        for (const image of freshImages) await assets.create(project, image, transaction);
        for (const lens of content.lenses)
          await editions.saveLens(
            project,
            { ...lens, rules: [...lens.rules], through: [] },
            transaction,
          );
      });
      // Else the database plans for some time as if they had not come.
      if (fresh.length > manyItems)
        await database.sequelize.query('ANALYZE items, item_uses, facet_uses');
      // What was there already is what its path leads to.
      const published = await takePublishing(
        project,
        content.publishing,
        (path) => paths.get(path) ?? content.ids.get(path),
        { editions, designs },
      );
      return {
        items: fresh.length,
        assets: freshImages.length,
        lenses: content.lenses.length,
        editions: published.count,
        problems: [...problems, ...published.problems],
      };
    },
    async give(project) {
      const files = await Promise.all(
        (await assets.rows(project)).map(async (row) => ({
          ...row,
          bytes: await blobs.get(row.hash),
        })),
      );
      const list = (await facets.read(project)).facets;
      const lenses = await editions.lenses(project);
      const seen = lenses.flatMap(({ id }) => ({ ...lensOf(id, lenses, list)!, id }));
      const paths = new Map([...(await items.paths(project))].map(([path, id]) => [id, path]));
      const all = await editions.editions(project);
      return ditaFiles(await items.texts(project), files, seen, list).set(
        publishingFile,
        writePublishing(all, await designs.read(project), all, (id) => paths.get(id)),
      );
    },
  };
}
