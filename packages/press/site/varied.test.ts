import { allPlaces, compose, type Publication } from '@ukiyo/core/compose';
import { matches, lensOfChosen, type Facet, type ValuesByFacet } from '@ukiyo/core/facets';
import { libraryOf, mapText } from '@ukiyo/core/testing';
import { describe, expect, it } from 'vitest';
import {
  siteBody,
  combinationsOf,
  dataOf,
  elementName,
  pagesOf,
  seenBy,
  siteTexts,
} from '../testing/readers.ts';
import { numbersFor, type CountedData } from './counting.ts';
import { siteFiles } from './index.ts';
import type { ReadersData } from '../topics/index.ts';

const facets: Facet[] = [
  {
    name: 'product',
    label: 'Model',
    values: ['tern-q', 'tern-d'].map((name) => ({ name, label: name })),
  },
  {
    name: 'platform',
    label: 'Power',
    values: [
      { name: 'mains', label: 'Mains' },
      {
        name: 'solar',
        label: 'Solar',
        values: ['solar-40', 'solar-90'].map((name) => ({ name, label: name })),
      },
    ],
  },
];
const names = facets.map(({ name }) => name);
const key = (name: string, words: string, attributes: string): string =>
  `<keydef keys="${name}" ${attributes}><topicmeta><keywords><keyword>${words}</keyword>` +
  '</keywords></topicmeta></keydef>';
const term = (id: string, word: string, meaning: string, base?: string): string =>
  `<glossentry id="${id}"${base ? ' platform="solar"' : ''}><glossterm>${word}</glossterm>` +
  `<glossdef>${meaning}</glossdef>` +
  (base ? `<prolog><data name="alternate-of" href="topic:${base}"/></prolog>` : '') +
  '</glossentry>';
const alternate = (id: string, base: string, more: string, inner = ''): string =>
  `<concept id="${id}" platform="solar"><title>${id}</title>` +
  `<prolog>${more}<data name="alternate-of" href="topic:${base}"/></prolog><conbody><p>By ` +
  `the sun</p></conbody>${inner}</concept>`;
const library = libraryOf([
  mapText(
    [
      key('station', 'Tern Q', 'product="tern-q"'),
      key('station', 'Tern D', 'product="tern-d"'),
      key('station', 'Tern', ''),
      '<topichead><topicmeta><navtitle>Care of <ph keyref="station"/><ph platform="solar">, ' +
        'in the sun</ph></navtitle></topicmeta>',
      '<topicref href="topic:power"><topicmeta><navtitle>Power for <ph keyref="station"/>' +
        '</navtitle></topicmeta></topicref><topicref href="topic:fuse"/></topichead>',
      '<topicref href="topic:steps"/><glossref href="topic:float"/>',
    ].join(''),
  ),
  '<concept id="power"><title>power</title><prolog><resourceid appid="POWER"/></prolog>' +
    '<conbody><p>By <term href="topic:float">float</term></p></conbody></concept>',
  alternate(
    'power-solar',
    'power',
    '<resourceid appid="POWER"/><resourceid appid="SUN"/>',
    '<concept id="dusk"><title>After dusk</title><conbody><p>It waits.</p></conbody></concept>',
  ),
  '<concept id="fuse"><title>fuse</title><conbody><p><xref href="topic:steps/last"/> and ' +
    '<xref href="topic:steps/item"/></p></conbody><related-links>' +
    '<linkpool platform="solar"><link href="topic:steps" product="tern-q"/></linkpool>' +
    '<linklist><title>In order</title><link href="topic:steps" platform="mains"><linktext>by mains' +
    '</linktext></link><link href="topic:power"/></linklist></related-links></concept>',
  `<task id="steps"><title>Do</title><taskbody><steps>
      <step product="tern-q"><cmd>Hang</cmd></step>
      <stepsection platform="mains">Dead?</stepsection>
     <step platform="solar-40"><cmd>Turn</cmd></step><step id="last"><cmd>Read</cmd></step></steps>
     <result><ol><li product="tern-d">one</li><li id="item">two</li></ol></result>
      </taskbody></task>`,
  term('float', 'float', 'Rises'),
  term('float-solar', 'float', 'Rises, and charges', 'float'),
]);
const site = (publication: Publication): Map<string, string> =>
  siteTexts(
    siteFiles(publication, () => undefined, {
      choices: names.map((facet) => ({ facet, label: '', pick: 'one', preset: [] })),
    }).files,
  );
const open = compose({ library, map: 'm', facets, open: names });
const whole = site(open);
const { conditions } = dataOf(whole.get('readers-data.js')!) as ReadersData;
const counted = dataOf(whole.get('counted-data.js')!) as CountedData;
const builtFor = (chosen: ValuesByFacet): Publication =>
  compose({ library, map: 'm', facets, lens: lensOfChosen(chosen, facets) });

describe('what readers set', () => {
  it.each(combinationsOf(open.open).map((chosen) => [elementName(chosen), chosen] as const))(
    'reaches titles of the map, words of links, alternates and glossary: %s',
    (_name, chosen) => {
      const built = site(builtFor(chosen));
      const holds = conditions.map((when) => matches(when, chosen));
      const numbers = numbersFor(counted, (whose) => whose.every((number) => holds[number]));
      const inner = 'dusk.html';
      const paths = pagesOf(built).flatMap(([path]) =>
        path.endsWith(inner) || path === 'help.html' ? [] : [path],
      );
      expect(paths).toContain('glossary.html');
      const wholePage = (path: string): string =>
        whole.get(path.startsWith('care-of') ? 'care-of-tern-q-in-the-sun.html' : path)!;
      for (const path of paths)
        expect(seenBy(siteBody(wholePage(path)), holds, numbers), path).toBe(
          seenBy(siteBody(built.get(path)!)),
        );
      const dusk = pagesOf(whole).find(([path]) => path.endsWith(inner))!;
      const whose = (siteBody(dusk[1]).attributes['data-for'] ?? '').split(' ').map(Number);
      expect(whose.every((number) => holds[number])).toBe(
        [...built.keys()].some((path) => path.endsWith(inner)),
      );
      const opened = (files: ReadonlyMap<string, string>) =>
        JSON.parse(files.get('context-help.json')!) as Record<string, { page: string }>;
      for (const [id, { page }] of Object.entries(opened(built)))
        expect(opened(whole)[id]!.page).toBe(page);
    },
  );
  it('says so for each part of a title, in contents too', () => {
    expect(JSON.stringify(dataOf(whole.get('contents-data.js')!))).toContain(
      '"t":["Care of ",["Tern Q",',
    );
    expect(open.problems).toEqual([]);
    expect(allPlaces(open.places).map(({ label }) => label)).toContain('After dusk');
  });
  it('leaves no hint of a meaning that is not everybody’s', () => {
    expect(whole.get('power.html')).not.toContain('title="Rises');
    expect(site(builtFor({ platform: ['mains'] })).get('power.html')).toContain('title="Rises"');
  });
  it('decides on links of topics, and on those in a pool with it', () => {
    const links = (chosen: ValuesByFacet): readonly string[] =>
      [
        ...site(builtFor(chosen))
          .get('fuse.html')!
          .matchAll(/class="related.*?<\/section>/gsu),
      ].map(([part]) =>
        part
          .replace(/<[^>]+>|class="related">/gu, ' ')
          .replace(/\s+/gu, ' ')
          .trim(),
      );
    expect(links({ product: ['tern-q'], platform: ['solar-40'] })).toEqual([
      'Related topics Do',
      'In order power-solar',
    ]);
    expect(links({ product: ['tern-d'], platform: ['mains'] })).toEqual([
      'In order by mains power',
    ]);
  });
});
