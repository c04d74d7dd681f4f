import { shippedPlans, shippedSheets, withValue } from '@ukiyo/core/styles';
import { expect, it } from 'vitest';
import { drawingsOf, type Drawings } from './drawings.ts';
import { createPrintEngine, proofPublication, specimen } from './index.ts';

/**
 * An image as the engine writes it: an element on each line, further in what is in something else.
 */
const lines = (depth: number, ...text: readonly string[]): string =>
  text
    .flatMap((one) => one.split('\n'))
    .map((line) => `${'    '.repeat(depth)}${line}`)
    .join('\n');
const within = (opening: string, ...children: readonly string[]): string =>
  [
    opening,
    ...children.map((child) => lines(1, child)),
    `</${/^<(\w+)/u.exec(opening)![1]!}>`,
  ].join('\n');
const glyph = (id: string, steps: string): string =>
  within(`<symbol id="${id}" overflow="visible">`, `<path d="M 0 0${steps}"/>`);
const use = (id: string, x: string, fill = '#111111'): string =>
  `<use xlink:href="#${id}" x="${x}" y="0" fill="${fill}" fill-rule="nonzero"/>`;
const text = (at: string, ...glyphs: readonly string[]): string =>
  within(`<g class="typst-text" transform="matrix(${at})">`, ...glyphs);
const image = (pages: readonly string[], ...definitions: readonly string[]): string =>
  within('<svg>', ...pages, within('<defs id="all">', ...definitions));
const drawn = ({ pages, shapes }: Drawings): (readonly [string | undefined, string])[][] =>
  pages.map((page) => page.map(({ shape, at }) => [shapes.get(shape), at] as const));

it('one outline stands for a run of glyphs in one colour, each moved to its place', () => {
  const made = drawn(
    drawingsOf(
      image(
        [
          within(
            '<g>',
            text(
              '1 0 0 -1 20 30',
              use('gA', '0'),
              use('gB', '5.4321099'),
              use('gA', '9', '#222222'),
            ),
          ),
        ],
        glyph('gA', 'm 1 2.00049999 h 3 Z '),
        glyph('gB', 'h 1 Z '),
      ),
    ),
  );
  const outlines =
    '<path d="M0 0m 1 2 h 3 Z M5.432 0h 1 Z " fill="#111111" fill-rule="nonzero"/>' +
    '<path d="M9 0m 1 2 h 3 Z " fill="#222222" fill-rule="nonzero"/>';
  expect(made).toEqual([[[`<g class="typst-text">${outlines}</g>`, '1 0 0 -1 20 30']]]);
});

it('flattens nested movements, wherever a page stands among the others', () => {
  const moved = within(
    '<g class="typst-group" transform="matrix(1 0 0 1 10 100)">',
    within(
      '<g>',
      '<rect width="4"/>',
      within('<g transform="matrix(0 -1 1 0 0 5)">', text('1 0 0 -1 7 3', use('gU', '0'))),
    ),
  );
  const [first, second] = drawn(
    drawingsOf(
      image(
        [within('<g>', moved), within('<g transform="matrix(1 0 0 1 0 842)">', moved)],
        glyph('gU', 'h 2 Z '),
      ),
    ),
  );
  expect(first!.map(([, at]) => at)).toEqual(['1 0 0 1 10 100', '0 -1 -1 0 13 98']);
  expect(second).toEqual(first);
});

it('leaves what is no outline or not relative as it is, and removes links', () => {
  const made = drawn(
    drawingsOf(
      image(
        [
          within(
            '<g>',
            text('1 0 0 1 0 0', use('gI', '0'), use('gL', '2')),
            within('<a href="x">', '<rect/>'),
          ),
        ],
        within('<symbol id="gI">', '<image href="data:x"/>'),
        glyph('gL', ' L 4 4 Z '),
      ),
    ),
  );
  const piece = made.flat(2).join('');
  for (const kept of [use('gI', '0'), use('gL', '2'), '<image href="data:x"/>', 'L 4 4 Z'])
    expect(piece).toContain(kept);
  expect(piece).not.toContain('rect');
});

it('keeps what is clipped as one piece with its clip, and nothing else', () => {
  const edge = (id: string, more = ''): string =>
    within(`<clipPath id="${id}">`, `<path d="M 1 1"${more}/>`);
  const { pages, shapes } = drawingsOf(
    image(
      [
        within(
          '<g>',
          within('<g clip-path="url(#cA)" transform="matrix(1 0 0 1 3 4)">', '<rect/>'),
        ),
      ],
      edge('cA', ' fill="url(#cB)"'),
      edge('cB'),
      edge('cC'),
    ),
  );
  expect(pages[0]!.map(({ at }) => at)).toEqual(['1 0 0 1 3 4']);
  expect([...[...shapes.values()][0]!.matchAll(/ id="([^"]+)"/gu)].map(([, id]) => id)).toEqual([
    'cA',
    'cB',
  ]);
});

it('of a specimen in which one style changes most pieces stay as they are', () => {
  const [engine, plan] = [
    createPrintEngine(),
    { ...shippedPlans['a5-pocket']!, cover: 'none' as const },
  ];
  const set = (size: string) =>
    proofPublication({
      publication: specimen('en'),
      asset: () => undefined,
      engine,
      design: {
        sheet: withValue(shippedSheets['workshop']!, 'code-block', {
          name: 'size',
          medium: 'print',
          value: size,
        }),
        plan,
      },
    });
  const [before, after] = [set('8pt'), set('8.5pt')];
  const fresh = [...after.shapes.keys()].filter((shape) => !before.shapes.has(shape));
  expect(after.shapes.size).toBeGreaterThan(60);
  expect(fresh.length).toBeGreaterThan(0);
  expect(fresh.length).toBeLessThan(after.shapes.size / 4);
  for (const shape of after.shapes.values()) expect(shape).not.toMatch(/<use|<symbol/u);
});
