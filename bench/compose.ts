/** Composing a synthetic library: `npm run bench -- compose`. */
import { compose, ComposeMemory } from '@ukiyo/core/compose';
import { textLibrary } from '@ukiyo/core/library';
import { median, report } from './measure.ts';
import { lens, syntheticLibrary } from './synthetic.ts';

for (const count of [100, 1000]) {
  const { items, assets } = syntheticLibrary(count);
  const bytes = items.reduce((sum, { text }) => sum + text.length, 0);
  console.log(`${count} topics, ${(bytes / 1024 / 1024).toFixed(1)} MB of text`);
  const sample = () => compose({ library: textLibrary(items, assets), map: 'map', lens });
  sample();
  const first = await median(5, sample);
  report('compose, texts in memory', first.cpu, 's CPU', count === 1000 ? 1.5 : undefined);

  const memory = new ComposeMemory();
  const library = textLibrary(items, assets);
  compose({ library, map: 'map', lens }, memory);
  let turn = 0;
  const again = await median(5, () => {
    const changed = items[20]!;
    turn += 1;
    library.set({ ...changed, text: changed.text.replace('</title>', ` ${turn}</title>`) });
    compose({ library, map: 'map', lens }, memory);
  });
  report(
    'compose again, one topic changed, of the first',
    again.cpu / first.cpu,
    '',
    count === 1000 ? 0.1 : undefined,
  );
}
