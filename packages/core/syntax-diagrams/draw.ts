import { lineOf, type Attributes, type Element, type Node } from '../markup/index.ts';
import type { Syntax, SyntaxGroup, SyntaxRow } from './read.ts';

/**
 * A drawn part of a diagram, in px. A track enters it at the left, 0 0, and leaves it at the right
 * at the same height.
 */
interface Piece {
  readonly width: number;
  /** How far it reaches above the track, and below. */
  readonly up: number;
  readonly down: number;
  readonly marks: readonly Element[];
}

/** Words are set in 12 px, in a face whose letters are all 0.6 em wide. */
const letter = 7.2;
const padding = 9;
const half = 12;
/** Between parts that follow each other, and between tracks. */
const gap = 16;
const between = 8;
/** The width of a curve to another track. */
const rail = 20;
const bend = rail / 2;
/** Rows are broken beyond this width. */
const widest = 520;
const ink = '#22304a';

const mark = (name: string, attributes: Attributes, children: readonly Node[] = []): Element => ({
  name,
  attributes,
  children,
});
const track = (d: string): Element =>
  mark('path', { d, fill: 'none', stroke: ink, 'stroke-width': '1.5' });
const line = (from: number, to: number, y = 0): Element[] =>
  to > from ? [track(`M${from} ${y}H${to}`)] : [];
const moved = ({ marks }: Piece, x: number, y: number): Element =>
  mark('g', { transform: `translate(${x} ${y})` }, marks);

const nothing: Piece = { width: 0, up: 4, down: 4, marks: [] };

function words(text: string, look: Attributes): Element {
  return mark(
    'text',
    {
      'font-family': "'Source Code Pro', monospace",
      'font-size': '12',
      fill: ink,
      y: '4',
      // Faces of other widths are fitted into the box.
      textLength: (text.length * letter).toFixed(1),
      lengthAdjust: 'spacingAndGlyphs',
      ...look,
    },
    [text],
  );
}

/** Corners of the box, and the letters, by what is written. */
const looks: Readonly<Record<string, { corner: number; letters: Attributes }>> = {
  kwd: { corner: 2, letters: { 'font-weight': '600' } },
  var: { corner: half, letters: { 'font-style': 'italic' } },
};
const usualLook = { corner: 6, letters: {} };

function wordPiece(name: string, text: string): Piece {
  if (text === '') return nothing;
  const { corner, letters } = looks[name] ?? usualLook;
  const width = Math.ceil(text.length * letter) + 2 * padding;
  const box = { x: '0', y: `${-half}`, width: `${width}`, height: `${2 * half}` };
  const look = { fill: '#ffffff', stroke: ink, 'stroke-width': '1.5', rx: `${corner}` };
  // Bars tell names of fragments, which are drawn elsewhere.
  const bars = name === 'fragref' ? [`M4 ${-half}V${half}`, `M${width - 4} ${-half}V${half}`] : [];
  const marks = [
    mark('rect', { ...box, ...look }),
    ...bars.map(track),
    words(text, { x: `${padding}`, ...letters }),
  ];
  return { width, up: half, down: half, marks };
}

function inSequence(parts: readonly Piece[], space: number): Piece {
  const marks: Element[] = [];
  let x = 0;
  for (const [index, part] of parts.entries()) {
    if (index > 0) marks.push(...line(x, (x += space)));
    marks.push(moved(part, x, 0));
    x += part.width;
  }
  return {
    width: x,
    up: Math.max(0, ...parts.map(({ up }) => up)),
    down: Math.max(0, ...parts.map(({ down }) => down)),
    marks,
  };
}

/** Tracks below each other, of which one is taken. */
function inChoice(parts: readonly Piece[]): Piece {
  const inner = Math.max(0, ...parts.map(({ width }) => width));
  const width = inner + 2 * rail;
  const marks: Element[] = [];
  let y = 0;
  let below = 0;
  for (const [index, part] of parts.entries()) {
    if (index > 0) y += below + between + part.up;
    below = part.down;
    const end = width - rail;
    marks.push(
      moved(part, rail, y),
      ...line(rail + part.width, end, y),
      ...(index === 0
        ? [...line(0, rail), ...line(end, width)]
        : [
            track(`M0 0Q${bend} 0 ${bend} ${bend}V${y - bend}Q${bend} ${y} ${rail} ${y}`),
            track(
              `M${width} 0Q${width - bend} 0 ${width - bend} ${bend}V${y - bend}` +
                `Q${width - bend} ${y} ${end} ${y}`,
            ),
          ]),
    );
  }
  return { width, up: parts[0]?.up ?? 0, down: y + below, marks };
}

/** A part with a track back to its beginning, with the separator on that track. */
function repeated(part: Piece, separator: Piece): Piece {
  const inner = Math.max(part.width, separator.width);
  const width = inner + 2 * rail;
  const end = width - rail;
  const y = Math.max(part.down + between + separator.up, rail);
  const at = rail + (inner - separator.width) / 2;
  return {
    width,
    up: part.up,
    down: y + separator.down,
    marks: [
      moved(part, rail, 0),
      ...line(0, rail),
      ...line(rail + part.width, width),
      track(
        `M${end} 0Q${width - bend} 0 ${width - bend} ${bend}V${y - bend}` +
          `Q${width - bend} ${y} ${end} ${y}H${at + separator.width}`,
      ),
      track(`M${at} ${y}H${rail}Q${bend} ${y} ${bend} ${y - bend}V${bend}Q${bend} 0 ${rail} 0`),
      moved(separator, at, y),
      mark('path', { d: `M${bend - 4} ${y / 2 + 3}l4 -7l4 7z`, fill: ink }),
    ],
  };
}

/** A part below its title. */
function titled(part: Piece, title: string): Piece {
  if (title === '') return part;
  const up = part.up + 18;
  const head = words(title, { x: '0', y: `${5 - up + 6}`, 'font-size': '11' });
  const width = Math.max(part.width, Math.ceil(title.length * letter));
  return { ...part, up, width, marks: [...part.marks, ...line(part.width, width), head] };
}

/** Notes are only in the text form of the diagram. */
const isDrawn = ({ element }: Syntax): boolean =>
  element.name !== 'synnote' && element.name !== 'synnoteref';

const lineOfAll = (nodes: readonly Node[]): string =>
  lineOf({ name: '', attributes: {}, children: nodes });

function groupPiece({ kind, parts, separators, title }: SyntaxGroup): Piece {
  const drawn = parts.filter(isDrawn).map(pieceOf);
  const alone =
    kind === 'choice' && drawn.length > 1
      ? inChoice(drawn)
      : inSequence(drawn, kind === 'tight' ? 0 : gap);
  const [separator] = separators;
  const piece = separator
    ? repeated(alone, wordPiece('sep', lineOfAll(separator.children)))
    : alone;
  return titled(piece, title ? lineOf(title) : '');
}

function pieceOf(part: Syntax): Piece {
  const piece =
    'parts' in part ? groupPiece(part) : wordPiece(part.element.name, lineOfAll(part.nodes));
  return part.isOptional ? inChoice([nothing, piece]) : piece;
}

/** The parts of a row as far as they can be broken into lines. */
function steps({ parts }: Pick<SyntaxRow, 'parts'>): readonly Syntax[] {
  const [only] = parts;
  const isPlain =
    parts.length === 1 &&
    only?.kind === 'sequence' &&
    !only.isOptional &&
    only.separators.length === 0 &&
    !only.title;
  return isPlain ? only.parts : parts;
}

/** Pieces in lines that are no wider than a page, as far as they can be broken. */
function linesOf(pieces: readonly Piece[]): readonly (readonly Piece[])[] {
  const lines: Piece[][] = [];
  let width = Infinity;
  for (const piece of pieces) {
    if (width + gap + piece.width > widest) {
      lines.push([]);
      width = 0;
    }
    lines.at(-1)!.push(piece);
    width += gap + piece.width;
  }
  return lines;
}

/** A row from its first point to its last; where it is broken, the track leads back to the left. */
function rowPiece(row: SyntaxRow): Piece {
  const lines = linesOf(steps(row).filter(isDrawn).map(pieceOf)).map((one) => inSequence(one, gap));
  const marks: Element[] = [mark('circle', { cx: '4', cy: '0', r: '4', fill: ink })];
  const left = rail + 4;
  let y = 0;
  let width = 0;
  for (const [index, piece] of lines.entries()) {
    const next = lines[index + 1];
    const end = left + piece.width;
    marks.push(moved(piece, left, y), ...(index === 0 ? line(4, left) : []));
    width = Math.max(width, end + rail + 4);
    if (!next) {
      marks.push(...line(end, end + rail, y));
      marks.push(mark('circle', { cx: `${end + rail}`, cy: `${y}`, r: '4', fill: ink }));
      break;
    }
    const turn = y + Math.max(piece.down + between, rail);
    const below = turn + Math.max(next.up + between, rail);
    marks.push(
      track(
        `M${end} ${y}Q${end + bend} ${y} ${end + bend} ${y + bend}V${turn - bend}` +
          `Q${end + bend} ${turn} ${end} ${turn}H${left}` +
          `Q${left - bend} ${turn} ${left - bend} ${turn + bend}V${below - bend}` +
          `Q${left - bend} ${below} ${left} ${below}`,
      ),
    );
    y = below;
  }
  const up = lines[0]?.up ?? 0;
  return titled({ width, up, down: y + (lines.at(-1)?.down ?? 0), marks }, titleOfRow(row));
}
const titleOfRow = ({ title }: SyntaxRow): string => (title ? lineOf(title) : '');

/**
 * The rows of a diagram below each other, as an SVG tree.
 *
 * @param rows from `readSyntax`
 * @returns an `svg` element with its size in px; undefined where there is nothing to draw
 */
export function drawSyntax(rows: readonly SyntaxRow[]): Element | undefined {
  const pieces = rows.filter(({ parts }) => parts.some(isDrawn)).map(rowPiece);
  if (pieces.length === 0) return undefined;
  const marks: Element[] = [];
  let y = 0;
  for (const piece of pieces) {
    marks.push(moved(piece, 2, y + piece.up + 2));
    y += piece.up + piece.down + gap;
  }
  const width = Math.max(...pieces.map((piece) => piece.width)) + 4;
  const height = y - gap + 4;
  const size = { width: `${width}`, height: `${height}`, viewBox: `0 0 ${width} ${height}` };
  return mark('svg', { xmlns: 'http://www.w3.org/2000/svg', ...size }, marks);
}
