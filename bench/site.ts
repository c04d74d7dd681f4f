/** The help site of a synthetic library: `npm run bench -- site`. */
import { cpSync, mkdtempSync, mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { compose, ComposeMemory } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { siteFiles, siteMemory, type AssetFile } from '@ukiyo/press';
import { folderInto, type KeptFolder } from '../packages/server/jobs/folders.ts';
import { measure, median, middleOf, report, residentMegabytes, type Measured } from './measure.ts';
import { lens, syntheticLibrary } from './synthetic.ts';

const { items, assets } = syntheticLibrary(1000);
const files = new Map(assets.map((asset): [string, AssetFile] => [asset.id, asset]));
const publication = compose({ library: textLibrary(items, assets), map: 'map', lens });
const folder = mkdtempSync(join(tmpdir(), 'ukiyo-bench-'));
const write = (root: string, entries: Iterable<readonly [string, string | Uint8Array]>): void => {
  const made = new Set<string>();
  for (const [path, content] of entries) {
    const file = join(root, path);
    if (!made.has(dirname(file))) mkdirSync(dirname(file), { recursive: true });
    made.add(dirname(file));
    writeFileSync(file, content);
  }
};

console.log('help site of 1,000 topics');
// Each into a new folder, as builds are: writing over files waits for the disk.
let folders = 0;
const fresh = (): string => join(folder, String((folders += 1)));
let site = '';
const buildSite = (): void =>
  write((site = fresh()), siteFiles(publication, (id) => files.get(id)).files);
report('the first in a new process', (await measure(buildSite)).cpu, 's CPU');
report('memory of the process after it', residentMegabytes(), 'MB', 500);
const copySite = (): void => cpSync(site, fresh(), { recursive: true });
copySite();
// By turns, so that a busy moment of the machine meets both.
const builds: Measured[] = [];
const copies: Measured[] = [];
for (let turn = 0; turn < 7; turn += 1) {
  builds.push(await measure(buildSite));
  copies.push(await median(3, copySite));
}
const build = middleOf(builds);
const copy = middleOf(copies);
report('again, as a builder that stays does', build.cpu, 's CPU');
report('copying its files', copy.cpu, 's CPU');
report('building, of copying, processor', build.cpu / copy.cpu, '×');
report('building, of copying, on the clock', build.wall / copy.wall, '×', 6);

// A builder that stays keeps what has not changed; each build has a folder of its own, and an
// archive beside it.
const memory = new ComposeMemory();
const sites = siteMemory();
const kept: KeptFolder = new Map();
const library = textLibrary(items, assets);
let turn = 0;
const again = async (): Promise<void> => {
  turn += 1;
  const own = join(folder, `turn-${turn}`);
  mkdirSync(own);
  library.set({ ...items[20]!, text: items[20]!.text.replace('</title>', ` ${turn}</title>`) });
  const changed = siteFiles(compose({ library, map: 'map', lens }, memory), (id) => files.get(id), {
    memory: sites,
  });
  await folderInto(own, 'site', changed.files, kept);
};
report('with an archive: the first, on the clock', (await measure(again)).wall * 1000, 'ms');
await again();
const oneChanged = await median(5, again);
report(
  'one topic changed: composing, all files and the archive, on the clock',
  oneChanged.wall * 1000,
  'ms',
  500,
);
report('… in processor time', oneChanged.cpu * 1000, 'ms');
rmSync(folder, { recursive: true });
