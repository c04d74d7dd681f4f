/** The help site of a synthetic library: `npm run bench -- site`. */
import { mkdtempSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { compose, composeMemory } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { siteFiles, type AssetFile } from '@ukiyo/press';
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
const buildSite = (): void => write(join(folder, 'site'), siteFiles(publication, (id) => files.get(id)).files);
report('the first in a new process', (await measure(buildSite)).cpu, 's CPU');
report('memory of the process after it', residentMegabytes(), 'MB', 500);
const paths = [...siteFiles(publication, (id) => files.get(id)).files].map(([path]) => path);
const copySite = (): void =>
  write(
    join(folder, 'copy'),
    paths.map((path): [string, Uint8Array] => [path, readFileSync(join(folder, 'site', path))]),
  );
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

// A builder that stays keeps what has not changed.
const memory = composeMemory();
const library = textLibrary(items, assets);
const again = (): void => write(join(folder, 'site'), siteFiles(compose({ library, map: 'map', lens }, memory), (id) => files.get(id)).files);
again();
let turn = 0;
const changed = await median(5, () => {
  turn += 1;
  library.set({ ...items[20]!, text: items[20]!.text.replace('</title>', ` ${turn}</title>`) });
  again();
});
report('one topic changed: composing and all files, on the clock', changed.wall * 1000, 'ms', 500);
report('… in processor time', changed.cpu * 1000, 'ms');
rmSync(folder, { recursive: true });
