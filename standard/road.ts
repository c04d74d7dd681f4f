import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { compose } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { plainPlan, shippedPlans } from '@ukiyo/core/styles';
import { readPackage, type PackageContent } from '@ukiyo/intake';
import {
  createPrintEngine,
  printPublication,
  siteFiles,
  usualDesign,
  type AssetFile,
  type PrintDesign,
  type SiteResult,
} from '@ukiyo/press';
import { sanitiseImage } from '../packages/server/media/image.ts';
import type { Case } from './case.ts';
import { pageOf, structureOf, type Page } from './reading.ts';

/** What has been published from a case. */
export interface Published {
  readonly pages: readonly Page[];
  readonly site: SiteResult;
  /** The structure tree of the manual as elements, its bookmarks, and the text of its pages. */
  readonly manual: {
    readonly structure: Element;
    readonly bookmarks: readonly string[];
    readonly text: string;
  };
  readonly problems: readonly string[];
}

const filterFile = 'filter.ditaval';
const mapFile = 'made.ditamap';
const bytesOf = (content: string | Uint8Array): Uint8Array =>
  typeof content === 'string' ? new TextEncoder().encode(content) : content;

/** The files of a case, with a map and its filter. */
function filesOf({ files, filter }: Case): Map<string, Uint8Array> {
  const all = new Map(Object.entries(files).map(([path, content]) => [path, bytesOf(content)]));
  if (![...all.keys()].some((path) => path.endsWith('map'))) {
    const entries = [...all.keys()]
      .filter((path) => path.endsWith('.dita'))
      .map((path) => `<topicref href="${path}"/>`);
    all.set(mapFile, bytesOf(`<map><title>Book</title>${entries.join('')}</map>`));
  }
  if (filter !== undefined) all.set(filterFile, bytesOf(filter));
  return all;
}

/** A manual that begins with its first topic: the standard says nothing of covers. */
const design: PrintDesign = {
  ...usualDesign,
  plan: { ...plainPlan, ...shippedPlans['a4-margin']!, cover: 'none', titlePage: false },
};
const folder = mkdtempSync(join(tmpdir(), 'ukiyo-standard-'));
const engine = createPrintEngine();
let printed = 0;

const run = (program: string, ...args: string[]): string =>
  execFileSync(program, args, {
    encoding: 'utf8',
    maxBuffer: 64 * 1024 * 1024,
    stdio: ['ignore', 'pipe', 'ignore'],
  });

interface Outline {
  readonly title: string;
  readonly kids: readonly Outline[];
}
const outlineLines = (entries: readonly Outline[], depth = 0): string[] =>
  entries.flatMap(({ title, kids }) => [
    `${'  '.repeat(depth)}${title}`,
    ...outlineLines(kids, depth + 1),
  ]);

function readManual(pdf: Uint8Array): Published['manual'] {
  const file = join(folder, `${(printed += 1)}.pdf`);
  writeFileSync(file, pdf);
  // Each by a program of its own, which is started where somebody asks.
  return {
    structure: structureOf(run('pdfinfo', '-struct-text', file)),
    get bookmarks() {
      const { outlines } = JSON.parse(run('qpdf', '--json', '--json-key=outlines', file)) as {
        outlines: readonly Outline[];
      };
      return outlineLines(outlines);
    },
    get text() {
      return run('pdftotext', file, '-');
    },
  };
}

/** The id of the map that a case is published from. */
function mapIdOf({ map }: Case, { ids, items }: PackageContent): string {
  const id = map === undefined ? items.find(({ kind }) => kind === 'map')?.id : ids.get(map);
  if (id === undefined) throw new Error('The package has no such map.');
  return id;
}

/** An image as the server stores it: cleaned, and measured. */
function storedImage(asset: PackageContent['assets'][number]): AssetFile {
  const { id, name, bytes, mediaType } = asset;
  const sanitised = sanitiseImage(bytes, mediaType);
  return { id, name, ...('refusal' in sanitised ? { bytes, mediaType } : sanitised) };
}

/** Takes the package of a case in, composes it, and makes a site and a manual of it. */
export async function publish(of: Case): Promise<Published> {
  const content = readPackage(filesOf(of));
  const { items, lenses, facets } = content;
  const assets = content.assets.map(storedImage);
  const lens = lenses.find(({ id }) => id === content.ids.get(filterFile));
  const library = textLibrary(items, assets, { lenses });
  const composed = (target: readonly string[]) =>
    compose({
      library,
      map: mapIdOf(of, content),
      facets,
      deliveryTargets: target,
      ...(lens ? { lens } : {}),
    });
  const asset = (id: string) => assets.find((one) => one.id === id);
  const online = composed(['site', 'html', 'html5', 'xhtml']);
  const onPaper = composed(['print', 'pdf']);
  const site = siteFiles(online, asset);
  const manual = await printPublication(onPaper, asset, engine, design);
  if (!manual.pdf) throw new Error(manual.problems.map(({ message }) => message).join('; '));
  const found = [content, online, onPaper, site, manual].flatMap(({ problems }) => problems);
  return {
    pages: site.paths
      .filter((path) => path.endsWith('.html'))
      .map((path) => pageOf(path, String(site.file(path)))),
    site,
    manual: readManual(manual.pdf),
    problems: [...new Set(found.map(({ code }) => code))].sort(),
  };
}
