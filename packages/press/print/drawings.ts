import { createHash } from 'node:crypto';

/**
 * Something on a page: a run of letters, a rule, an image; `at` moves it to its place, as `matrix`
 * of SVG 2 (8.5) takes it.
 */
export interface Piece {
  readonly shape: string;
  readonly at: string;
}
/**
 * Pages by what is on them, in the order in which it is painted; shapes are SVG by a fingerprint of
 * each.
 */
export interface Drawings {
  readonly pages: readonly (readonly Piece[])[];
  readonly shapes: ReadonlyMap<string, string>;
}

type Matrix = readonly [number, number, number, number, number, number];
const still: Matrix = [1, 0, 0, 1, 0, 0];
/** What is moved by `inner` and then by `outer`. */
const within = ([a, b, c, d, e, f]: Matrix, [p, q, r, s, t, u]: Matrix): Matrix => [
  a * p + c * q,
  b * p + d * q,
  a * r + c * s,
  b * r + d * s,
  a * t + c * u + e,
  b * t + d * u + f,
];
const short = (number: number): number => Math.round(number * 1000) / 1000;
const shortened = (steps: string): string =>
  steps.replace(/-?\d+\.\d{4,}/gu, (number) => String(short(Number(number))));
const matrix = / transform="matrix\(([^)]*)\)"/u;
function matrixOf(tag: string): Matrix {
  const [a, b, c, d, e, f] = (matrix.exec(tag)?.[1] ?? '').split(/[\s,]+/u).map(Number);
  return a === undefined ||
    b === undefined ||
    c === undefined ||
    d === undefined ||
    e === undefined ||
    f === undefined
    ? still
    : [a, b, c, d, e, f];
}

/**
 * A glyph as the page engine defines it, once for all places: an outline in relative steps from its
 * own origin.
 */
const outline = /<path d="M 0 0 ?([^"MLHVCSQTA]*)"\s*\/>/u;
/** Glyphs of one run of text, one after the other in one colour. */
const use = '<use xlink:href="#[^"]+" x="[^"]+" y="0" ';
const run = new RegExp(`${use}(fill="[^"]+" fill-rule="[^"]+")/>\\s*(?:${use}\\1/>\\s*)*`, 'gu');
const glyph = /xlink:href="#([^"]+)" x="([^"]+)"/gu;
const reference = /(?:href="#|url\(#)([^")]+)/gu;

/** What was made of something that the engine wrote: most of a page is as it was a moment ago. */
const made = new Map<string, { readonly shape: string; readonly svg: string }>();
const mostMade = 20_000;

/**
 * What the page engine draws, piece by piece, so that only what is new has to be sent and built. A
 * run of text is one outline instead of one reference for each glyph, which browsers build several
 * times as fast. Reads only what the engine writes itself, an element on each line; what it does
 * not know it leaves as it is.
 */
export function drawingsOf(svg: string): Drawings {
  const lines = svg.split('\n');
  const definitions = definitionsOf(lines);
  if (made.size > mostMade) made.clear();
  const pages: Piece[][] = [];
  const shapes = new Map<string, string>();
  for (let at = 0; at < lines.length; at += 1) {
    if (!lines[at]!.startsWith(`${step}<g`)) continue;
    const end = endOf(lines, at);
    const page: Piece[] = [];
    // Where a page stands on the image of all is of no matter to it.
    for (const { text, place } of piecesIn(lines, at + 1, end, still)) {
      const { shape, svg: drawn } = shapeOf(text, definitions);
      shapes.set(shape, drawn);
      page.push({ shape, at: place.map(short).join(' ') });
    }
    pages.push(page);
    at = end;
  }
  return { pages, shapes };
}
/** How far the engine sets in what is in something else. */
const step = ' '.repeat(4);

const indentOf = (line: string): number => line.length - line.trimStart().length;
/** The line on which what begins on this one ends. */
function endOf(lines: readonly string[], from: number): number {
  const line = lines[from]!;
  if (line.endsWith('/>') || line.includes('</')) return from;
  const closing = `${' '.repeat(indentOf(line))}</`;
  let end = from + 1;
  while (end < lines.length - 1 && !lines[end]!.startsWith(closing)) end += 1;
  return end;
}

/**
 * The shapes on lines from `from` to before `to`. Groups only move what is in them, unless they
 * cut it off: such a group is a piece of its own.
 */
function* piecesIn(
  lines: readonly string[],
  from: number,
  to: number,
  place: Matrix,
): Generator<{ readonly text: string; readonly place: Matrix }> {
  for (let at = from; at < to; at += 1) {
    const line = lines[at]!.trimStart();
    const end = endOf(lines, at);
    const here = within(place, matrixOf(line));
    const isMove =
      line.startsWith('<g') && !line.includes('clip-path') && !line.includes('class="typst-text"');
    if (isMove) yield* piecesIn(lines, at + 1, end, here);
    // Links lead nowhere in an image.
    else if (!line.startsWith('<a ') && !line.startsWith('</')) {
      const [head, ...rest] = lines.slice(at, end + 1);
      const text = [head!.replace(matrix, ''), ...rest].map((one) => one.trimStart()).join('');
      yield { text, place: here };
    }
    at = end;
  }
}

/**
 * What the pieces refer to, by its id: outlines of glyphs, edges, grounds that change their colour.
 */
function definitionsOf(lines: readonly string[]): ReadonlyMap<string, string> {
  const found = new Map<string, string>();
  for (let at = 0; at < lines.length; at += 1) {
    const id = /^ {8}<\w+ id="([^"]+)"/u.exec(lines[at]!)?.[1];
    if (id === undefined) continue;
    const end = endOf(lines, at);
    found.set(
      id,
      lines
        .slice(at, end + 1)
        .map((one) => one.trimStart())
        .join(''),
    );
    at = end;
  }
  return found;
}

function shapeOf(
  text: string,
  definitions: ReadonlyMap<string, string>,
): { readonly shape: string; readonly svg: string } {
  const known = made.get(text);
  if (known) return known;
  const outlined = text.replace(run, (whole, look: string) => {
    const glyphs = [...whole.matchAll(glyph)].map(([, id, x]) => ({
      steps: outline.exec(definitions.get(id!) ?? '')?.[1],
      x: short(Number(x)),
    }));
    if (glyphs.some(({ steps }) => steps === undefined)) return whole;
    const path = glyphs.map(({ steps, x }) => `M${x} 0${shortened(steps!)}`).join('');
    return `<path d="${path}" ${look}/>`;
  });
  const needed = neededBy(outlined, definitions);
  const svg = needed.length === 0 ? outlined : `<g><defs>${needed.join('')}</defs>${outlined}</g>`;
  const shape = createHash('sha256').update(svg).digest('base64url').slice(0, 12);
  const one = { shape, svg };
  made.set(text, one);
  return one;
}

/** What a piece refers to, and what that refers to. */
function neededBy(piece: string, definitions: ReadonlyMap<string, string>): string[] {
  const needed = new Map<string, string>();
  const add = (text: string): void => {
    for (const [, id] of text.matchAll(reference)) {
      const found = definitions.get(id!);
      if (found === undefined || needed.has(id!)) continue;
      needed.set(id!, found);
      add(found);
    }
  };
  add(piece);
  return [...needed.values()];
}
