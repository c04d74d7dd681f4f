import { combineLenses, innermostValues, isFor, lensOfChosen, type OpenValue, type ValuesByFacet } from '@ukiyo/core/facets';
import { childElements, childNamed, isElement, readXml, walk, type Element, type Node } from '@ukiyo/core/markup';
import { describe, expect, it } from 'vitest';
import { composeDemo, demo, demoAssets } from '../testing/demo.ts';
import { numbersFor, type CountedData } from './counting.ts';
import { siteFiles, type ReaderChoice } from './index.ts';
import type { ReadersData } from './readers.ts';

const names = ['product', 'platform', 'country'];
const choices: ReaderChoice[] = names.map((facet) => ({ facet, label: '', pick: 'one', preset: [] }));
const lens = demo.lenses.find(({ id }) => id === 'reader-chooses')!;
const delivered = { deliveryTargets: ['site'] };
const open = composeDemo('help', lens.id, {}, { ...delivered, open: names });

const textsOf = (files: Iterable<readonly [string, string | Uint8Array]>): Map<string, string> =>
  new Map([...files].flatMap(([path, content]) => (typeof content === 'string' ? [[path, content] as const] : [])));
const pagesOf = (files: ReadonlyMap<string, string>): [string, string][] => [...files].filter(([path]) => path.endsWith('.html'));
const dataOf = (script: string): unknown => JSON.parse(/=(\{.*\}|\[.*\]);\n$/su.exec(script)![1]!);

const whole = textsOf(siteFiles(open, demoAssets, { choices }).files);
const { conditions, facets } = dataOf(whole.get('readers-data.js')!) as ReadersData;
const counted = dataOf(whole.get('counted-data.js')!) as CountedData;

/** Our own pages are as strict as XML, but for elements without an end and attributes without a value. */
const bodyOf = (page: string): Element =>
  readXml(
    /<body.*<\/body>/su
      .exec(page)![0]
      .replace(/<(img|br|input|hr|area|source|col)\b([^>]*)>/gu, '<$1$2/>')
      .replace(/(<[^<>]*) (hidden|controls)(?=[ />])/gu, '$1 $2=""'),
  ).document!.root;
const classesOf = ({ attributes }: Element): string[] => (attributes['class'] ?? '').split(' ');
const isSeenOf = ({ name, attributes }: Element): boolean => ['article', 'h1'].includes(name) || ['home', 'all-contents', 'inside', 'related'].includes(attributes['class'] ?? '');

/** What a reader sees of a page, in words and images: what his style sheet hides, and the numbers that his browser counts. */
function seenBy(body: Element, holds: readonly boolean[] = [], numbers: ReadonlyMap<string, string> = new Map()): string {
  const isHidden = (one: Element): boolean => classesOf(one).some((name) => /^w\d+$/u.test(name) && holds[Number(name.slice(1))] === false);
  /** A list of links of which none is for them goes with its heading. */
  const isEmptyList = (one: Element): boolean => ['inside', 'related'].includes(one.attributes['class'] ?? '') && childElements(childNamed(one, 'ul')!).every(isHidden);
  const words = (node: Node): string => {
    if (!isElement(node)) return typeof node === 'string' ? node : '';
    if (isHidden(node) || isEmptyList(node)) return '';
    const number = numbers.get(node.attributes['data-n'] ?? '');
    return number ?? `${node.name === 'img' ? ` [${node.attributes['src']}] ` : ''}${node.children.map(words).join('')}`;
  };
  const parts: string[] = [];
  walk(body, (one) => void (isSeenOf(one) && parts.push(words(one))));
  return parts.join(' ').replace(/\s+/gu, ' ').trim();
}
const bodies = new Map(pagesOf(whole).map(([path, page]) => [path, bodyOf(page)]));
/** Pages on which nothing depends on a reader need not be read again. */
const plainly = (page: string): string => page.replace(/<span data-n="[^"]*">([^<]*)<\/span>/gu, '$1').replace(/^[\s\S]*?<main[^>]*>(<p id="not-for-you".*?<\/p>)?|<nav class="way"[\s\S]*$/gu, '');

const offered = (values: readonly OpenValue[]): OpenValue[] => values.flatMap((value) => [value, ...offered(value.values)]);
/** Every choice that readers of the demo can make: of each facet all, or one value at any depth. */
const combinations = open.open.reduce<ValuesByFacet[]>(
  (made, facet) => made.flatMap((one) => [innermostValues(facet), ...offered(facet.values).map(({ innermost }) => innermost)].map((values) => ({ ...one, [facet.name]: values }))),
  [{}],
);
const builtFor = (chosen: ValuesByFacet): Map<string, string> => {
  const theirs = composeDemo('help', '', {}, { ...delivered, lens: combineLenses('', [lens, lensOfChosen(chosen, demo.facets)], demo.facets) });
  return textsOf(siteFiles(theirs, demoAssets).files);
};

describe('what a reader chooses', () => {
  it('is offered in the order and the words of the facets, nested values in theirs', () => {
    expect(facets.map(({ t, values }) => [t, values.map((value) => value.t)])).toEqual([
      ['Model', ['Tern Q', 'Tern D']],
      ['Power', ['Mains', 'Solar']],
      ['Country', ['Nordlund', 'Velmark', 'Kisara']],
    ]);
    expect(facets[1]!.values[1]).toEqual({
      v: 'solar',
      t: 'Solar',
      i: ['solar-40', 'solar-90'],
      c: [
        { v: 'solar-40', t: 'Solar, 40 W' },
        { v: 'solar-90', t: 'Solar, 90 W' },
      ],
    });
    expect(combinations).toHaveLength(3 * 5 * 4);
  });
  it.each(
    combinations.map(
      (chosen) =>
        [
          Object.values(chosen)
            .map((values) => values.join('+'))
            .join(', '),
          chosen,
        ] as const,
    ),
  )('shows what a build for them gives: %s', (_name, chosen) => {
    const built = builtFor(chosen);
    const holds = conditions.map((when) => isFor(when, chosen));
    const numbers = numbersFor(counted, (whose) => whose.every((number) => holds[number]));
    const isTheirs = ({ attributes }: Element): boolean => (attributes['data-for'] ?? '').split(' ').every((number) => number === '' || holds[Number(number)]);
    const pages = [...bodies].filter(([, body]) => isTheirs(body));
    expect(pages.map(([path]) => path).sort()).toEqual(
      pagesOf(built)
        .map(([path]) => path)
        .sort(),
    );
    for (const [path, body] of pages) if (plainly(whole.get(path)!) !== plainly(built.get(path)!)) expect(seenBy(body, holds, numbers), path).toBe(seenBy(bodyOf(built.get(path)!)));
  });
});
