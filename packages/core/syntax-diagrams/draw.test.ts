import { expect, it } from 'vitest';
import { findAll, readXml, textOf, type Element } from '../markup/index.ts';
import { drawSyntax } from './draw.ts';
import { readSyntax } from './read.ts';

const parsed = (inner: string): Element =>
  readXml(`<syntaxdiagram id="s">${inner}</syntaxdiagram>`).document!.root;
const drawn = (inner: string): Element => drawSyntax(readSyntax(parsed(inner)))!;
const seen = (drawing: Element): string[] =>
  findAll(drawing, ({ name }) => name === 'text').map(textOf);
const word = (name: string, count: number): string => `<${name}>buoy</${name}>`.repeat(count);

/** The positions of all boxes in the drawing, from the transforms of the groups around them. */
function boxes(drawing: Element): { words: string; x: number; y: number; right: number }[] {
  const found: { words: string; x: number; y: number; right: number }[] = [];
  const look = (element: Element, x: number, y: number): void => {
    const move = /translate\(([-\d.]+) ([-\d.]+)\)/u.exec(element.attributes['transform'] ?? '');
    const [left, top] = [x + Number(move?.[1] ?? 0), y + Number(move?.[2] ?? 0)];
    const inner = element.children.filter((node): node is Element => typeof node === 'object');
    const box = inner.find(({ name }) => name === 'rect');
    const words = inner.find(({ name }) => name === 'text');
    if (box && words)
      found.push({
        words: textOf(words),
        x: left,
        y: top,
        right: left + Number(box.attributes['width']),
      });
    for (const one of inner) look(one, left, top);
  };
  look(drawing, 0, 0);
  return found;
}

it('draws words one after the other, on one track', () => {
  const [first, second] = boxes(drawn('<groupseq><kwd>light</kwd><var>name</var></groupseq>'));
  expect(first).toMatchObject({ words: 'light' });
  expect(second!.words).toBe('name');
  expect(second!.y).toBe(first!.y);
  expect(second!.x).toBeGreaterThan(first!.right);
});

it('draws choices below each other, and what is optional below an empty track', () => {
  const choices = boxes(drawn('<groupchoice><kwd>on</kwd><kwd>off</kwd></groupchoice>'));
  expect(choices[1]!.y).toBeGreaterThan(choices[0]!.y);
  expect(choices[1]!.x).toBe(choices[0]!.x);
  const [one, optional] = boxes(drawn('<kwd>on</kwd><kwd importance="optional">now</kwd>'));
  expect(optional!.y).toBeGreaterThan(one!.y);
});

it('draws separators of repetitions below them, and parts of a composite side by side', () => {
  const [part, between] = boxes(drawn('<groupseq><var>a</var><repsep>,</repsep></groupseq>'));
  expect(between!.words).toBe(',');
  expect(between!.y).toBeGreaterThan(part!.y);
  const [left, right] = boxes(drawn('<groupcomp><kwd>depth</kwd><oper>=</oper></groupcomp>'));
  expect(right!.x).toBe(left!.right);
});

it('breaks a long row, and holds all of it within its size', () => {
  const drawing = drawn(`<groupseq>${word('kwd', 30)}</groupseq>`);
  const all = boxes(drawing);
  expect(all).toHaveLength(30);
  expect(new Set(all.map(({ y }) => y)).size).toBeGreaterThan(3);
  const { width, height } = drawing.attributes;
  expect(Number(width)).toBeLessThan(600);
  for (const { right, y } of all) {
    expect(right).toBeLessThan(Number(width));
    expect(y).toBeLessThan(Number(height));
  }
});

it('draws fragments in rows of their own, below their titles, and refers to them by these', () => {
  const drawing = drawn(
    '<kwd>sound</kwd><fragref href="#a/t"/>' +
      '<fragment id="t"><title>Times</title><var>from</var></fragment>',
  );
  expect(seen(drawing)).toEqual(['sound', 'Times', 'from', 'Times']);
});

it('leaves notes to the text, and draws nothing where there is no part', () => {
  expect(seen(drawn('<kwd>sound</kwd><synnote>In fog.</synnote>'))).toEqual(['sound']);
  expect(drawSyntax(readSyntax(parsed('<title>Sound</title>')))).toBeUndefined();
  expect(drawSyntax(readSyntax(parsed('<synnote>In fog.</synnote>')))).toBeUndefined();
});
