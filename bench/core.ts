/** Composing and pressing a synthetic library: `npm run bench -- core`. */
import { mkdtempSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { compose, composeMemory } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { createPrintEngine, printPublication, siteFiles, type AssetFile } from '@ukiyo/press';
import { measure, median, report, residentMegabytes } from './measure.ts';
import { syntheticLibrary } from './synthetic.ts';

const lens = { name: 'q', rules: [{ facet: 'product', value: 'tern-d', action: 'drop' as const }] };

for (const count of [100, 1000]) {
  const { items, assets } = syntheticLibrary(count);
  const bytes = items.reduce((sum, { text }) => sum + text.length, 0);
  console.log(`\n${count} topics, ${(bytes / 1024 / 1024).toFixed(1)} MB of text`);
  const sample = () => compose({ library: textLibrary(items, assets), map: 'map', lens });
  sample();
  const first = await median(3, sample);
  report('compose, texts in memory', first.cpu, 's CPU', count === 1000 ? 1.5 : undefined);

  const memory = composeMemory();
  const library = textLibrary(items, assets);
  compose({ library, map: 'map', lens }, memory);
  let turn = 0;
  const again = await median(5, () => {
    const changed = items[20]!;
    turn += 1;
    library.set({ ...changed, text: changed.text.replace('</title>', ` ${turn}</title>`) });
    compose({ library, map: 'map', lens }, memory);
  });
  report('compose again, one topic changed, of the first', again.cpu / first.cpu, '', count === 1000 ? 0.1 : undefined);
}

const { items, assets } = syntheticLibrary(1000);
const files = new Map(assets.map((asset): [string, AssetFile] => [asset.id, asset]));
const publication = compose({ library: textLibrary(items, assets), map: 'map', lens });

console.log('\nhelp site of 1,000 topics');
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
const before = residentMegabytes();
const build = await measure(() => write(join(folder, 'site'), siteFiles(publication, (id) => files.get(id)).files));
const after = residentMegabytes();
const paths = [...siteFiles(publication, (id) => files.get(id)).files].map(([path]) => path);
const copy = await median(3, () =>
  write(
    join(folder, 'copy'),
    paths.map((path): [string, Uint8Array] => [path, readFileSync(join(folder, 'site', path))]),
  ),
);
report('build, of the time to copy its files', build.cpu / copy.cpu, '×', 6);
report('memory, whole process', after, 'MB', 500);
report('memory, above what was there before', after - before, 'MB');
rmSync(folder, { recursive: true });

console.log('\nPDF of about 300 pages');
const book = syntheticLibrary(190);
const pictures = new Map(book.assets.map((asset): [string, AssetFile] => [asset.id, asset]));
const engine = createPrintEngine();
let pages = 0;
let engineSeconds = 0;
const whole = await measure(() => {
  const result = printPublication(compose({ library: textLibrary(book.items, book.assets), map: 'map', lens }), (id) => pictures.get(id), engine);
  pages = result.pageCount;
  engineSeconds = result.engineMilliseconds / 1000;
  for (const found of result.problems) console.log(found.message);
});
report('pages', pages, '');
report('library to file, of the engine’s own time', whole.wall / engineSeconds, '×', 1.3);
report('engine, seconds on the clock', engineSeconds, 's');
