import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { validate, writeCanonical } from '../grammar/index.ts';
import { element, readXml, type Element } from '../markup/index.ts';
import { checkImageMaps, overlap, readAreas, writeAreas, type Shape } from './index.ts';

const rect = (left: number, top: number, right: number, bottom: number): Shape => ({
  kind: 'rect',
  from: { x: left, y: top },
  to: { x: right, y: bottom },
});
const circle = (x: number, y: number, radius: number): Shape => ({
  kind: 'circle',
  centre: { x, y },
  radius,
});
const poly = (...numbers: number[]): Shape => ({
  kind: 'poly',
  corners: Array.from({ length: numbers.length / 2 }, (_, at) => ({
    x: numbers[2 * at]!,
    y: numbers[2 * at + 1]!,
  })),
});
const map = (areas: string): Element =>
  readXml(`<imagemap><title>M</title><image href="asset:i"/>${areas}</imagemap>`).document!.root;

describe('areas that lie over one another', () => {
  it.each<[string, Shape, Shape, boolean]>([
    ['two rectangles', rect(0, 0, 10, 10), rect(5, 5, 15, 15), true],
    ['rectangles side by side', rect(0, 0, 10, 10), rect(10, 0, 20, 10), false],
    ['one inside the other', rect(0, 0, 30, 30), circle(15, 15, 5), true],
    ['the same twice', rect(0, 0, 10, 10), rect(0, 0, 10, 10), true],
    ['a circle beside a corner', rect(0, 0, 10, 10), circle(14, 14, 5), false],
    ['a circle over a corner', rect(0, 0, 10, 10), circle(13, 13, 5), true],
    ['a cross', rect(0, 4, 12, 8), rect(4, 0, 8, 12), true],
    [
      'something in the bend of a polygon',
      poly(0, 0, 30, 0, 30, 10, 10, 10, 10, 30, 0, 30),
      rect(15, 15, 25, 25),
      false,
    ],
  ])('%s', (_what, a, b, expected) => {
    expect(overlap(a, b)).toBe(expected);
    expect(overlap(b, a)).toBe(expected);
  });
  it('are problems, and so are numbers that make no shape', () => {
    const area = (shape: string, coords: string, name: string): string =>
      `<area><shape>${shape}</shape><coords>${coords}</coords>` +
      `<xref href="topic:a">${name}</xref></area>`;
    const found = checkImageMaps(
      element('concept', {}, [
        map(
          area('rect', '0,0,10,10', 'A') +
            area('rect', '5 5 15 15', 'B') +
            area('circle', '1,2', 'C'),
        ),
      ]),
    );
    expect(
      found.map(({ code, message, where }) => `${where.path!.join('.')} ${code} ${message}`),
    ).toEqual([
      '0.3 imagemap.overlap The area “B” lies over “A”.',
      '0.4 imagemap.shape The numbers of this area make no shape.',
    ]);
  });
});

describe('areas of an image map', () => {
  it('are read and written with all that they carry', () => {
    const before = map(
      '<area id="x"><shape>rect</shape><coords>10,20,5,2</coords>' +
        '<xref audience="operator" href="topic:a/b">Lid<desc>Opens up</desc></xref></area>' +
        '<area><shape>poly</shape><coords>1,2</coords><xref href="topic:c">odd</xref></area>',
    );
    const [area] = readAreas(before);
    expect(area).toEqual({
      shape: rect(5, 2, 10, 20),
      name: 'Lid',
      tooltip: 'Opens up',
      target: 'topic:a/b',
      inNewWindow: false,
      was: 0,
    });
    const after = writeAreas(before, [
      { ...area!, target: 'https://tides.example/', tooltip: '', inNewWindow: true },
      { shape: circle(3, 4, 5), name: 'Dial', tooltip: '', target: '', inNewWindow: false },
    ]);
    expect(writeCanonical(after).replace(/\s*\n\s*/gu, '')).toBe(
      '<imagemap><title>M</title><image href="asset:i"/><area id="x"><shape>rect</shape>' +
        '<coords>5,2,10,20</coords>' +
        '<xref audience="operator" format="html" href="https://tides.example/" ' +
        'outputclass="new-window" scope="external">Lid</xref>' +
        '</area>' +
        '<area><shape>circle</shape><coords>3,4,5</coords><xref>Dial</xref></area><area>' +
        '<shape>poly</shape><coords>1,2</coords><xref href="topic:c">odd</xref></area>' +
        '</imagemap>',
    );
  });
  it('come back as they were drawn, and are valid', () => {
    const number = fc.integer({ min: 0, max: 900 });
    const shape = fc.oneof(
      fc
        .tuple(number, number, number, number)
        .map(([a, b, c, d]) =>
          rect(Math.min(a, c), Math.min(b, d), Math.max(a, c), Math.max(b, d)),
        ),
      fc
        .tuple(number, number, fc.integer({ min: 1, max: 300 }))
        .map(([x, y, radius]) => circle(x, y, radius)),
      fc
        .array(fc.tuple(number, number), { minLength: 3, maxLength: 7 })
        .map((corners) => poly(...corners.flat())),
    );
    fc.assert(
      fc.property(fc.array(shape, { maxLength: 4 }), (shapes) => {
        const areas = shapes.map((one, at) => ({
          shape: one,
          name: `n${at}`,
          tooltip: at % 2 === 0 ? 'tip' : '',
          target: 'topic:a',
          inNewWindow: at % 2 === 1,
        }));
        const written = writeAreas(map(''), areas);
        expect(readAreas(written)).toEqual(areas.map((area, was) => ({ ...area, was })));
        expect(validate(written)).toEqual([]);
      }),
    );
  });
});
