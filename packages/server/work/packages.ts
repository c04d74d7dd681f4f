import { isAttachment } from '@ukiyo/core/media';
import type { FacetList, ImportReport } from '@ukiyo/contracts';
import { lensOf, type Facet } from '@ukiyo/core/facets';
import { problem, type Problem } from '@ukiyo/core/problems';
import { publishingFile, readPackage, type ImportedAsset, type PackageFiles } from '@ukiyo/intake';
import { ditaFiles, packagePath } from '@ukiyo/press';
import type { AssetStore } from '../data/assets.ts';
import type { BlobStore } from '../data/blobs.ts';
import type { Database } from '../data/database.ts';
import type { DesignStore } from '../data/designs.ts';
import type { EditionStore } from '../data/editions.ts';
import type { FacetStore } from '../data/facets.ts';
import { sanitiseImage } from '../media/image.ts';
import type { StoredImage } from '../media/storing.ts';
import { nameForType } from '../media/types.ts';
import type { ItemStore } from '../data/items.ts';
import { takePublishing, writePublishing } from './packaged.ts';

/** A whole library in and out as files of standard DITA. */
export interface LibraryPackages {
  /** Writes what can be read; everything or, after a failure of the database, nothing. */
  take(project: string, files: PackageFiles, author: string): Promise<ImportReport>;
  /** Files by their paths; those of images are read one after the other. */
  give(project: string): Promise<Iterable<readonly [path: string, content: Uint8Array]>>;
}

/** After more new topics than this the database counts its rows anew. */
const manyItems = 500;

type Named = { readonly folder: string; readonly name: string };

interface Stores {
  readonly items: ItemStore;
  readonly assets: AssetStore;
  readonly editions: EditionStore;
  readonly designs: DesignStore;
  readonly facets: FacetStore;
  readonly blobs: BlobStore;
}

/** An image of a package as its row will be. */
type PackagedImage = Omit<ImportedAsset, 'bytes' | 'mediaType'> & StoredImage;

/** A file as it may be stored, or why not; attached files are checked where they are read. */
const checkedFile = ({ bytes, mediaType }: ImportedAsset): ReturnType<typeof sanitiseImage> =>
  isAttachment(mediaType) ? { bytes, mediaType } : sanitiseImage(bytes, mediaType);

/** Stores what can be shown or linked to, one after the other, under names of what they are. */
async function storeImages(
  found: readonly ImportedAsset[],
  blobs: BlobStore,
  problems: Problem[],
): Promise<PackagedImage[]> {
  const stored: PackagedImage[] = [];
  for (const asset of found) {
    const sanitised = checkedFile(asset);
    if ('refusal' in sanitised) {
      const message = `“${asset.name}”: ${sanitised.refusal} It is left out.`;
      problems.push(problem('error', 'image.unreadable', message));
      continue;
    }
    const { bytes, ...image } = sanitised;
    const { id, folder, alternateOf, conditions } = asset;
    stored.push({
      id,
      folder,
      ...(alternateOf === undefined ? {} : { alternateOf }),
      ...(conditions === undefined ? {} : { conditions }),
      ...image,
      name: nameForType(asset.name, image.mediaType),
      hash: await blobs.put(bytes),
      size: bytes.byteLength,
    });
  }
  return stored;
}

/** Passes on what is not in the library yet, and says what is. */
const newOnly = (taken: Set<string>, problems: Problem[]) => (entry: Named) => {
  const path = packagePath(entry);
  if (!taken.has(path)) {
    taken.add(path);
    return true;
  }
  const message = `“${path}” is in the library already. It is left as it is.`;
  problems.push(problem('warning', 'package.exists', message));
  return false;
};

/** Facets that the project has not; of the others their values are left as they are. */
function newFacets(present: FacetList, found: readonly Facet[], problems: Problem[]) {
  const known = new Set(present.facets.map(({ name }) => name));
  for (const { name, label } of found.filter((facet) => known.has(facet.name))) {
    const message =
      `The project has the facet “${label}” (${name}) already. Its values are left as they ` +
      'are.';
    problems.push(problem('info', 'package.exists', message));
  }
  return found
    .filter(({ name }) => !known.has(name))
    .map((facet) => ({ ...facet, values: [...facet.values] }));
}

export function libraryPackages(database: Database, stores: Stores): LibraryPackages {
  const { items, assets, editions, designs, facets, blobs } = stores;
  return {
    async take(project, files, author) {
      const content = readPackage(files, await items.ids(project));
      const problems: Problem[] = [...content.problems];
      const images = await storeImages(content.assets, blobs, problems);
      const paths = await items.paths(project);
      const taken = new Set([...paths.keys(), ...(await assets.rows(project)).map(packagePath)]);
      const isNew = newOnly(taken, problems);
      const freshItems = content.items.filter(isNew);
      const freshImages = images.filter(isNew);
      const freshFacets = newFacets(await facets.read(project), content.facets, problems);
      // What was there already is what its path leads to.
      const idOf = (path: string): string | undefined => paths.get(path) ?? content.ids.get(path);
      const published = await database.sequelize.transaction(async (transaction) => {
        // First: what is wrong with a topic also depends on them.
        await facets.add(project, freshFacets, transaction);
        await items.createAll(project, freshItems, author, transaction);
        for (const image of freshImages) await assets.create(project, image, transaction);
        for (const { rules, ...lens } of content.lenses)
          await editions.saveLens(
            project,
            { ...lens, rules: [...rules], through: [] },
            transaction,
          );
        return takePublishing(project, content.publishing, idOf, {
          editions,
          designs,
          transaction,
        });
      });
      // Else the database plans for some time as if they had not come.
      if (freshItems.length > manyItems)
        await database.sequelize.query('ANALYZE items, item_uses, facet_uses');
      return {
        items: freshItems.length,
        assets: freshImages.length,
        lenses: content.lenses.length,
        editions: published.count,
        problems: [...problems, ...published.problems],
      };
    },
    async give(project) {
      const rows = await assets.rows(project);
      const hashes = new Map(rows.map((row) => [packagePath(row), row.hash]));
      const list = (await facets.read(project)).facets;
      const lenses = await editions.lenses(project);
      const seen = lenses.flatMap(({ id }) => ({ ...lensOf(id, lenses, list)!, id }));
      const paths = new Map([...(await items.paths(project))].map(([path, id]) => [id, path]));
      const all = await editions.editions(project);
      const images = rows.map((row) => ({ ...row, bytes: new Uint8Array() }));
      const files = ditaFiles(await items.texts(project), images, seen, list).set(
        publishingFile,
        writePublishing(all, await designs.read(project), all, (id) => paths.get(id)),
      );
      return (function* () {
        for (const [path, content] of files) {
          const hash = hashes.get(path);
          yield [path, hash === undefined ? content : blobs.getNow(hash)] as const;
        }
      })();
    },
  };
}
