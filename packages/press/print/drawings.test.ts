import { shippedPlans, shippedSheets } from '@ukiyo/core/styles';
import { describe, expect, it } from 'vitest';
import { drawingsOf } from './drawings.ts';
import { createPrintEngine, proofPublication, specimen } from './index.ts';

const indent = ' '.repeat(4);
const symbol = (id: string, steps: string): string => `${indent}${indent}<symbol id="${id}" overflow="visible">\n <path d="M 0 0${steps}"/>\n${indent}${indent}</symbol>`;
const use = (id: string, x: string, fill = '#111111'): string => `<use xlink:href="#${id}" x="${x}" y="0" fill="${fill}" fill-rule="nonzero"/>`;
const image = (pages: readonly string[], definitions: string): string =>
  [
    '<svg>',
    ...pages.map((body, at) => `${indent}<g${at === 0 ? '' : ' transform="matrix(1 0 0 1 0 72)"'}>\n${body}\n${indent}</g>`),
    `${indent}<defs id="all">\n${definitions}\n${indent}</defs>`,
    '</svg>',
  ].join('\n');
const square = { width: 25.4, height: 25.4 };
const drawn = (body: string, definitions: string): string =>
  `<svg viewBox="0 0 72 72" xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"><g><g>${body}</g></g><defs>${definitions}</defs></svg>`;

describe('the image of the page engine, made lighter', () => {
  it('one outline stands for a run of glyphs in one colour, each moved to its place', () => {
    const [made] = drawingsOf(image([`${use('gA', '0')}\n  ${use('gB', '5.4321099')}${use('gA', '9', '#222222')}`], `${symbol('gA', 'm 1 2.00049999 h 3 Z ')}\n${symbol('gB', 'h 1 Z ')}`), [square]);
    expect(made).toBe(drawn('<path d="M0 0m 1 2 h 3 Z M5.432 0h 1 Z " fill="#111111" fill-rule="nonzero"/><path d="M9 0m 1 2 h 3 Z " fill="#222222" fill-rule="nonzero"/>', ''));
  });
  it('what is no outline, or not in relative steps, is left as it is', () => {
    const picture = `${indent}${indent}<symbol id="gI">\n<image href="x"/>\n${indent}${indent}</symbol>`;
    const [made] = drawingsOf(image([use('gI', '0') + use('gL', '2')], `${picture}\n${symbol('gL', ' L 4 4 Z ')}`), [square]);
    expect(made).toContain(use('gI', '0') + use('gL', '2'));
    expect(made).toContain('<image href="x"/>');
    expect(made).toContain('L 4 4 Z');
  });
  it('each page is an image of its own, with what it refers to and nothing else', () => {
    const clip = (id: string, within = ''): string => `${indent}${indent}<clipPath id="${id}">\n<path d="M 0 0"${within}/>\n${indent}${indent}</clipPath>`;
    const made = drawingsOf(image(['<g clip-path="url(#cA)"/>', '<rect/>'], [clip('cA', ' fill="url(#cB)"'), clip('cB'), clip('cC')].join('\n')), [square, { width: 50.8, height: 25.4 }]);
    expect(made.map((one) => [...one.matchAll(/ id="([^"]+)"/gu)].map(([, id]) => id))).toEqual([['cA', 'cB'], []]);
    expect(made[1]).toContain('viewBox="0 0 144 72"');
    expect(made[1]).toContain('<g><g><rect/></g></g>');
  });
  it('a whole specimen has no references to glyphs any more, and its pages differ', () => {
    const { pages } = proofPublication(specimen('en'), () => undefined, createPrintEngine(), { sheet: shippedSheets['workshop']!, plan: shippedPlans['a5-pocket']! });
    for (const { svg } of pages) expect(svg).not.toMatch(/<use|<symbol/u);
    expect(pages.flatMap(({ svg }) => svg.match(/<path/gu) ?? []).length).toBeGreaterThan(100);
    expect(new Set(pages.map(({ svg }) => svg)).size).toBe(pages.length);
  });
});
