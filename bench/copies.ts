/** Near copies in 10,000 topics: `npm run bench -- copies`. */
import { CopyIndex } from '@ukiyo/core/health';
import { countWords, textLibrary } from '@ukiyo/core/library';
import type { Element } from '@ukiyo/core/markup';
import { measure, report, residentMegabytes } from './measure.ts';
import { syntheticLibrary } from './synthetic.ts';

const count = 10_000;
const { items } = syntheticLibrary(count);
const library = textLibrary(items);
const topics = items
  .filter(({ kind }) => kind === 'topic')
  .map(({ id }) => ({ id, root: library.item(id)!.root! }));
/**
 * The last paragraph of every tenth topic is that of another one, with a word changed in half of
 * them.
 */
const withCopy = (root: Element, of: Element, isChanged: boolean): Element => {
  const text = JSON.stringify(of.children.at(-1));
  return {
    ...root,
    children: [
      ...root.children.slice(0, -1),
      JSON.parse(isChanged ? text.replace('station', 'stations') : text) as Element,
    ],
  };
};
const varied = topics.map(({ id, root }, at) => ({
  id,
  root:
    at % 10 === 9 && topics[at - 3]!.root.name === root.name
      ? withCopy(root, topics[at - 3]!.root, at % 20 === 9)
      : root,
}));
const words = varied.reduce((sum, { root }) => sum + countWords(root), 0);
const index = new CopyIndex();
let found = 0;
const first = await measure(() => {
  for (const { id, root } of varied) index.set(id, root);
  found = index.groups().length;
});
console.log(`${count} topics, ${(words / 1e6).toFixed(1)} million words, ${found} groups`);
report('near copies, the first time', first.wall, 's', 60);
const again = await measure(() => {
  index.set(varied[4711]!.id, varied[12]!.root);
  index.groups();
});
report('… after a change', again.wall, 's', 1);
report('memory of the process', residentMegabytes(), 'MB');
