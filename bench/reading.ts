/** A help site as its readers have it, in Chromium, from a folder: `npm run bench -- reading`. */
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { gzipSync } from 'node:zlib';
import { chromium } from '@playwright/test';
import { compose } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { siteFiles, type AssetFile, type SiteOptions } from '@ukiyo/press';
import { report } from './measure.ts';
import { lens, syntheticLibrary } from './synthetic.ts';

const middle = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)]!;
const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
const folders: string[] = [];
function folderOf(files: Iterable<readonly [string, string | Uint8Array]>): string {
  const folder = mkdtempSync(join(tmpdir(), 'ukiyo-bench-'));
  for (const [path, content] of files) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), content);
  }
  folders.push(folder);
  return folder;
}

console.log('a help site of 1,000 topics');
const { items, assets } = syntheticLibrary(1000);
const images = new Map(assets.map((asset): [string, AssetFile] => [asset.id, asset]));
const files = new Map(
  siteFiles(compose({ library: textLibrary(items, assets), map: 'map', lens }), (id) =>
    images.get(id),
  ).files,
);
const sizeOf = (path: string): number => gzipSync(files.get(path)!).byteLength;
const first = [
  'index.html',
  'style.css',
  'look.css',
  'tablet.css',
  'phone.css',
  'sheet.css',
  'contents-data.js',
  'site.js',
  ...[...files.keys()].filter((path) => path.startsWith('fonts/') && !/italic|code/u.test(path)),
];
report(
  'its first page, compressed, without images',
  first.reduce((sum, path) => sum + sizeOf(path), 0) / 1024,
  'kB',
  120,
);
report(
  '… of that the two faces that it shows',
  first.filter((path) => path.startsWith('fonts/')).reduce((sum, path) => sum + sizeOf(path), 0) /
    1024,
  'kB',
);
const words = items.reduce((sum, { text }) => sum + text.length, 0);
report(
  'search index, of the text',
  (100 * String(files.get('search-index.js')).length) / words,
  '%',
  25,
);
report('… compressed', (100 * sizeOf('search-index.js')) / words, '%');
report('the program that searches, compressed', sizeOf('search.js') / 1024, 'kB');
const folder = folderOf(files);
const paints: number[] = [];
for (let turn = 0; turn < 7; turn += 1) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(pathToFileURL(join(folder, 'index.html')).href);
  paints.push(
    await page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          new PerformanceObserver((list) =>
            list
              .getEntriesByName('first-contentful-paint')
              .forEach(({ startTime }) => resolve(startTime)),
          ).observe({ type: 'paint', buffered: true });
        }),
    ),
  );
  await page.close();
}
report('first content, from disk', middle(paints), 'ms', 500);

const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(pathToFileURL(join(folder, 'index.html')).href);
await page.locator('#search').focus();
await page.waitForFunction(() => 'siteSearch' in window);
/** From a key to the results that stand on the page, in the browser's own time. */
const search = (query: string): Promise<number> =>
  page.evaluate(async (asked) => {
    const field = document.querySelector<HTMLInputElement>('#search')!;
    const results = document.querySelector('#results')!;
    results.replaceChildren();
    const began = performance.now();
    field.value = asked;
    field.dispatchEvent(new Event('input'));
    while (!results.querySelector('.count')) await new Promise((resolve) => setTimeout(resolve));
    return performance.now() - began;
  }, query);
const searches: number[] = [];
for (const query of [
  'valve',
  'pressure se',
  'b',
  'bo',
  'bol',
  'bolt',
  'tightening the',
  'calibrat',
  'station seven',
  'mains',
])
  searches.push(await search(query));
report('key to results, the middle', middle(searches), 'ms', 50);
report('… the longest', Math.max(...searches), 'ms');
await page.close();

console.log('a page of 3,000 elements on which readers choose');
const blocks = Array.from(
  { length: 1000 },
  (_, at) =>
    `<p product="${at % 2 === 0 ? 'q' : 'd'}">Paragraph ${at} with ` +
    `<ph country="${['n', 'v', 'k'][at % 3]}">words ${at}</ph> and ` +
    `<ph country="${['v', 'k', 'n'][at % 3]}">others ${at}</ph>.</p>`,
).join('');
const topic = {
  id: 'large',
  kind: 'topic' as const,
  text: `<concept id="large"><title>Large</title><conbody>${blocks}</conbody></concept>`,
};
const map = {
  id: 'map',
  kind: 'map' as const,
  text: '<map id="map"><title>Map</title><topicref href="topic:large"/></map>',
};
const valueOf = (name: string): { name: string; label: string } => ({ name, label: name });
const chosenBy = [
  { name: 'product', label: 'Model', values: ['q', 'd'].map(valueOf) },
  { name: 'country', label: 'Country', values: ['n', 'v', 'k'].map(valueOf) },
];
const choices: SiteOptions['choices'] = chosenBy.map(({ name }) => ({
  facet: name,
  label: '',
  pick: 'one',
  preset: [],
}));
const large = compose({
  library: textLibrary([topic, map], []),
  map: 'map',
  facets: chosenBy,
  open: ['product', 'country'],
});
const chooser = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await chooser.goto(
  pathToFileURL(join(folderOf(siteFiles(large, () => undefined, { choices }).files), 'large.html'))
    .href,
);
/** From the choice to the page laid out anew. */
const times = await chooser.evaluate(() => {
  const select = document.querySelector<HTMLSelectElement>('#readers select')!;
  return ['q', 'd', '', 'q', 'd', '', 'q', 'd', ''].map((value) => {
    const began = performance.now();
    select.value = value;
    select.dispatchEvent(new Event('change'));
    document.body.getBoundingClientRect();
    return performance.now() - began;
  });
});
report('choice to page, script and layout, the middle', middle(times), 'ms', 50);
report('… the longest', Math.max(...times), 'ms');
await browser.close();
for (const one of folders) rmSync(one, { recursive: true });
