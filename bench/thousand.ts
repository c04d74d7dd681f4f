/**
 * A manual of 1,000 pages in a process of its own, as a builder is: `npm run bench -- thousand`.
 */
import { compose } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { printPublication, type AssetFile } from '@ukiyo/press';
import { measure, megabytes, report } from './measure.ts';
import { lens, syntheticLibrary } from './synthetic.ts';

console.log('PDF of about 1,000 pages');
const { items, assets } = syntheticLibrary(640);
const pictures = new Map(assets.map((asset): [string, AssetFile] => [asset.id, asset]));
let pages = 0;
const whole = await measure(async () => {
  const result = await printPublication(
    compose({ library: textLibrary(items, assets), map: 'map', lens }),
    (id) => pictures.get(id),
  );
  pages = result.pageCount;
  for (const found of result.problems) console.log(found.message);
});
report('pages', pages, '');
report('library to file', whole.wall, 's');
report(
  'memory of the process at its highest',
  megabytes(process.resourceUsage().maxRSS * 1024),
  'MB',
  2560,
);
