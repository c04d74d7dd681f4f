import { shippedPlans, shippedSheets } from '@ukiyo/core/styles';
import { expect, it } from 'vitest';
import { createPrintEngine, proofPublication, specimen } from './index.ts';
import { lighter } from './lighter.ts';

const symbol = (id: string, steps: string): string => `<symbol id="${id}" overflow="visible">\n <path d="M 0 0${steps}"/>\n</symbol>`;
const use = (id: string, x: string, fill = '#111111'): string => `<use xlink:href="#${id}" x="${x}" y="0" fill="${fill}" fill-rule="nonzero"/>`;
const drawing = (body: string, defs: string): string => `<svg><g class="typst-text">${body}</g><defs id="glyph">${defs}</defs></svg>`;

it('one outline stands for a run of glyphs in one colour, each moved to its place', () => {
  const made = lighter(drawing(`${use('gA', '0')}\n  ${use('gB', '5.4321099')}${use('gA', '9', '#222222')}`, symbol('gA', 'm 1 2.00049999 h 3 Z ') + symbol('gB', 'h 1 Z ')));
  expect(made).toBe(
    '<svg><g class="typst-text"><path d="M0 0m 1 2 h 3 Z M5.432 0h 1 Z " fill="#111111" fill-rule="nonzero"/><path d="M9 0m 1 2 h 3 Z " fill="#222222" fill-rule="nonzero"/></g><defs id="glyph"></defs></svg>',
  );
});
it('what is no outline, or not in relative steps, is left as it is', () => {
  const image = '<symbol id="gI"><image href="x"/></symbol>';
  const absolute = symbol('gL', ' L 4 4 Z ');
  const made = lighter(drawing(use('gI', '0') + use('gL', '2'), image + absolute));
  expect(made).toContain(use('gI', '0') + use('gL', '2'));
  expect(made).toContain('<image href="x"/>');
  expect(made).toContain('L 4 4 Z');
});
it('a whole specimen has no references to glyphs any more', () => {
  const { svg } = proofPublication(specimen('en'), () => undefined, createPrintEngine(), { sheet: shippedSheets['workshop']!, plan: shippedPlans['a5-pocket']! });
  expect(svg).not.toContain('<use');
  expect(svg).not.toContain('<symbol');
  expect(svg.match(/<path/gu)!.length).toBeGreaterThan(100);
});
