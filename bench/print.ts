/** A long manual as PDF: `npm run bench -- print`. */
import { compose, ComposeMemory } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { createPrintEngine, printPublication, type AssetFile } from '@ukiyo/press';
import { measure, megabytes, report } from './measure.ts';
import { lens, syntheticLibrary } from './synthetic.ts';

console.log('PDF of about 300 pages');
const { items, assets } = syntheticLibrary(190);
const pictures = new Map(assets.map((asset): [string, AssetFile] => [asset.id, asset]));
const engine = createPrintEngine();
let pages = 0;
let engineSeconds = 0;
const whole = await measure(async () => {
  const result = await printPublication(
    compose({ library: textLibrary(items, assets), map: 'map', lens }),
    (id) => pictures.get(id),
    engine,
  );
  pages = result.pageCount;
  engineSeconds = result.engineMilliseconds / 1000;
  for (const found of result.problems) console.log(found.message);
});
report('pages', pages, '');
report('library to file, of the engine’s own time', whole.wall / engineSeconds, '×', 1.3);
report('engine, seconds on the clock', engineSeconds, 's');
const middle = items.filter(({ kind }) => kind === 'topic')[95]!;
const changed = items.map((item) =>
  item === middle
    ? { ...item, text: item.text.replace('</shortdesc>', ' One sentence more.</shortdesc>') }
    : item,
);
const memory = new ComposeMemory();
const library = textLibrary(items, assets);
const before = (
  await printPublication(
    compose({ library, map: 'map', lens }, memory),
    (id) => pictures.get(id),
    engine,
  )
).pdf!;
let after = before;
const again = await measure(async () => {
  after = (
    await printPublication(
      compose(
        { library: textLibrary(changed, assets, { earlier: library }), map: 'map', lens },
        memory,
      ),
      (id) => pictures.get(id),
      engine,
    )
  ).pdf!;
});
if (Buffer.compare(before, after) === 0) throw new Error('What was changed is not in the manual.');
report('one paragraph changed, to file again, warm', again.wall, 's', 2.5);
// A builder runs all of this in its own process, as here.
report(
  'memory of the process at its highest',
  megabytes(process.resourceUsage().maxRSS * 1024),
  'MB',
  1024,
);
