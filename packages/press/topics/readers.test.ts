import { combineLenses, matches, lensOfChosen, type ValuesByFacet } from '@ukiyo/core/facets';
import type { Element } from '@ukiyo/core/markup';
import { describe, expect, it } from 'vitest';
import { composeDemo, demo, demoAssets } from '../testing/demo.ts';
import {
  siteBody,
  combinationsOf,
  dataOf,
  elementName,
  pagesOf,
  seenBy,
  siteTexts,
} from '../testing/readers.ts';
import { numbersFor, type CountedData } from '../site/counting.ts';
import { siteFiles, type ReaderChoice } from '../site/index.ts';
import type { ReadersData } from './readers.ts';

const names = ['product', 'platform', 'country'];
const choices: ReaderChoice[] = names.map((facet) => ({
  facet,
  label: '',
  pick: 'one',
  preset: [],
}));
const lens = demo.lenses.find(({ id }) => id === 'reader-chooses')!;
const delivered = { deliveryTargets: ['site'] };
const open = composeDemo('help', lens.id, {}, { ...delivered, open: names });

const whole = siteTexts(siteFiles(open, demoAssets, { choices }).files);
const { conditions, facets } = dataOf(whole.get('readers-data.js')!) as ReadersData;
const counted = dataOf(whole.get('counted-data.js')!) as CountedData;

const bodies = new Map(pagesOf(whole).map(([path, page]) => [path, siteBody(page)]));
/** Pages on which nothing depends on a reader need not be read again. */
const plainly = (page: string): string =>
  page
    .replace(/<span data-n="[^"]*">([^<]*)<\/span>/gu, '$1')
    .replace(/^[\s\S]*?<main[^>]*>(<p id="not-for-you".*?<\/p>)?|<nav class="way"[\s\S]*$/gu, '');

const combinations = combinationsOf(open.open);
const builtFor = (chosen: ValuesByFacet): Map<string, string> => {
  const theirs = composeDemo(
    'help',
    '',
    {},
    {
      ...delivered,
      lens: combineLenses('', [lens, lensOfChosen(chosen, demo.facets)], demo.facets),
    },
  );
  return siteTexts(siteFiles(theirs, demoAssets).files);
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
  it.each(combinations.map((chosen) => [elementName(chosen), chosen] as const))(
    'shows what a build for them gives: %s',
    (_name, chosen) => {
      const built = builtFor(chosen);
      const holds = conditions.map((when) => matches(when, chosen));
      const numbers = numbersFor(counted, (whose) => whose.every((number) => holds[number]));
      const isTheirs = ({ attributes }: Element): boolean =>
        (attributes['data-for'] ?? '')
          .split(' ')
          .every((number) => number === '' || holds[Number(number)]);
      const pages = [...bodies].filter(([, body]) => isTheirs(body));
      expect(pages.map(([path]) => path).sort()).toEqual(
        pagesOf(built)
          .map(([path]) => path)
          .sort(),
      );
      for (const [path, body] of pages)
        if (plainly(whole.get(path)!) !== plainly(built.get(path)!))
          expect(seenBy(body, holds, numbers), path).toBe(seenBy(siteBody(built.get(path)!)));
    },
  );
});
