import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { allPlaces } from '@ukiyo/core/compose';
import { diffArrays } from 'diff';
import { expect, it } from 'vitest';
import { createPrintEngine, printPublication, siteFiles } from './index.ts';
import { composeDemo, demoAssets } from './testing/demo.ts';

const countries = ['velmark', 'kisara'] as const;
const manuals = countries.map((country) =>
  composeDemo(
    'installation-manual',
    `quay-${country}`,
    { product: 'Tern Q' },
    { deliveryTargets: ['print'] },
  ),
);
/**
 * Topics that say something about a country, or show what a variable, an alternate or another topic
 * says of one.
 */
const ofACountry = [
  'connect-the-mains',
  'emergency-contacts',
  'power-and-radio',
  'radio-rules',
  'safety',
  'unpack-the-station',
];
/** What only one of the two may say. */
const ownWords = new RegExp(
  [
    'velmark|kisara|vk-13|k-a\\b|199|127|0140|0170|240\\s?v|100\\s?v|13\\s?a|15\\s?a',
    'sea watch|coast guard|channel|two pins|fused|at any hour|from [67] to|milliwatt|500 mw|1 w',
    '250 mw|licence|berth|emergency contacts|radio rules|small coastal|ministry|seal of',
    'first message|answer comes|weeks',
  ].join('|'),
  'iu',
);

it('makes the manuals of two countries from one map without a problem', () => {
  for (const [at, manual] of manuals.entries()) {
    expect(manual.problems).toEqual([]);
    const origins = allPlaces(manual.places).flatMap(({ content }) => content?.origin.item ?? []);
    expect(origins).toContain(`emergency-contacts-${countries[at]}`);
    expect(origins).not.toContain('emergency-contacts');
    expect(manual.assets).toContain(`plugs-${countries[at]}`);
    expect(manual.assets).not.toContain('plugs');
  }
  const anchors = manuals.map(({ places }) => allPlaces(places).map(({ anchor }) => anchor));
  expect(anchors[0]).toEqual(anchors[1]);
});

it('their sites differ on the pages of topics that are about a country, and on no others', () => {
  const [one, other] = manuals.map((manual) => new Map(siteFiles(manual, demoAssets).files));
  const body = (content: string | Uint8Array | undefined): string =>
    (
      /<article[\s\S]*<\/article>/u.exec(typeof content === 'string' ? content : '')?.[0] ?? ''
    ).replace(/<(nav|footer)[\s\S]*?<\/\1>/gu, '');
  const differing = [...one!.keys()].filter(
    (path) => path.endsWith('.html') && body(one!.get(path)) !== body(other!.get(path)),
  );
  expect(
    differing
      .filter((path) => !/^(index|contents|search|404|figures|tables|toc)/u.test(path))
      .map((path) => path.replace('.html', ''))
      .sort(),
  ).toEqual(ofACountry);
});

/** Against pdftotext (poppler-utils of Debian), on our own output. */
it('their PDFs differ in the lines that are about a country, and in no others', async () => {
  const engine = createPrintEngine();
  const [one, other] = await Promise.all(
    manuals.map(async (manual) => {
      const file = join(mkdtempSync(join(tmpdir(), 'ukiyo-countries-')), 'manual.pdf');
      writeFileSync(file, (await printPublication(manual, demoAssets, engine)).pdf!);
      return execFileSync('pdftotext', ['-raw', file, '-'], { encoding: 'utf8' })
        .split(/\s+/u)
        .filter((word) => word !== '');
    }),
  );
  const parts = diffArrays(one!, other!);
  const near = (value: readonly string[]): readonly string[] =>
    value.length > 16 ? [...value.slice(0, 8), ...value.slice(-8)] : value;
  const told = parts.flatMap(({ added, removed, value }, at) =>
    added || removed
      ? [
          {
            value,
            around: parts
              .slice(Math.max(0, at - 3), at + 4)
              .flatMap((part) => near(part.value))
              .join(' '),
          },
        ]
      : [],
  );
  expect(told.length).toBeGreaterThan(5);
  // The number of a page can move with a line more or less.
  for (const { value, around } of told)
    if (!value.every((word) => /^\d+,?$/u.test(word))) expect(around).toMatch(ownWords);
});
