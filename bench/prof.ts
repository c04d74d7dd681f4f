import { compose } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { siteFiles, type AssetFile } from '@ukiyo/press';
import { syntheticLibrary } from './synthetic.ts';
const { items, assets } = syntheticLibrary(1000);
const files = new Map(assets.map((asset): [string, AssetFile] => [asset.id, asset]));
if (process.argv[2] === 'c') { for (let i = 0; i < 3; i++) { const t = performance.now(); compose({ library: textLibrary(items, assets), map: 'map' }); console.log(performance.now() - t); } }
else { const p = compose({ library: textLibrary(items, assets), map: 'map' }); const t = performance.now(); let n = 0; for (const [, c] of siteFiles(p, (id) => files.get(id)).files) n += c.length; console.log('site', performance.now() - t, n); }
