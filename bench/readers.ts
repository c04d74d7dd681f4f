/** The check for every reader: `npm run bench -- readers`. */
import { join } from 'node:path';
import { checkEveryReader } from '@ukiyo/core/compose';
import type { Facet } from '@ukiyo/core/facets';
import { textLibrary, type StoredItem } from '@ukiyo/core/library';
import { readFolder, readPackage } from '@ukiyo/intake';
import { median, report } from './measure.ts';
import { syntheticLibrary } from './synthetic.ts';

const demo = readPackage(await readFolder(join(process.cwd(), 'demo/library')));
const readers = await median(5, () =>
  checkEveryReader({
    library: textLibrary(demo.items, demo.assets),
    map: 'help',
    facets: demo.facets,
  }),
);
report('every reader of the demo, texts in memory', readers.wall, 's', 2);

/** Six facets of four values each, in the places of the one that the synthetic library has. */
const names = ['product', 'platform', 'audience', 'otherprops', 'country', 'release'];
const facets = names.map((name): Facet => ({
  name,
  label: name,
  values: ['a', 'b', 'c', 'd'].map((value) => ({ name: value, label: value })),
}));
const { items, assets } = syntheticLibrary(1000);
let turn = 0;
const varied = items.map((item): StoredItem => ({
  ...item,
  text: item.text.replace(/ product="tern-[qd]"/gu, () => {
    turn += 1;
    return (
      ` ${names[turn % 6]}="${['a', 'b c', 'c', 'd a b'][turn % 4]}" ` +
      `${names[(turn + 1) % 6]}="${['b', 'a', 'd'][turn % 3]}"`
    );
  }),
}));
let found = 0;
const all = await median(
  3,
  () =>
    (found = checkEveryReader({ library: textLibrary(varied, assets), map: 'map', facets }).length),
);
console.log(`1,000 topics, ${turn} elements that vary by two of six facets; ${found} found`);
report('every reader of 1,000 topics, texts in memory', all.wall, 's', 20);
