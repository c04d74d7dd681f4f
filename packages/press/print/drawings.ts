import type { Sheet } from './engine.ts';

/** What the page engine writes on the uppermost level of its image: pages, and what they refer to. */
const part = /^ {4}<(g|defs)\b[^>]*(?:\/>|>[^]*?^ {4}<\/\1>)/gmu;
const defined = /^ {8}<(\w+) id="([^"]+)"[^]*?^ {8}<\/\1>/gmu;
const reference = /(?:href="#|url\(#)([^")]+)/gu;
/** A page of the image stands below those before it. */
const moved = /^(\s*<g) transform="[^"]*"/u;
/** A glyph as the page engine defines it, once for all places: an outline in relative steps from its own origin. */
const outline = /<path d="M 0 0 ?([^"MLHVCSQTA]*)"\s*\/>/u;
/** Glyphs of one run of text, one after the other in one colour. */
const run = /(?:<use xlink:href="#[^"]+" x="[^"]+" y="0" (fill="[^"]+" fill-rule="[^"]+")\/>\s*)(?:<use xlink:href="#[^"]+" x="[^"]+" y="0" \1\/>\s*)*/gu;
const glyph = /xlink:href="#([^"]+)" x="([^"]+)"/gu;

const short = (number: string): string => String(Math.round(Number(number) * 1000) / 1000);

/** Outlines by what the engine calls them, which is a fingerprint of each: they are the same in every drawing. */
const outlines = new Map<string, string>();
const mostOutlines = 20_000;

/**
 * The one image of all pages as an image of each, with one outline for each run of text instead of one reference for each glyph: browsers build it
 * several times as fast, need not build again the pages that stay as they are, and it looks the same.
 * Takes only what the engine writes itself; what it does not know it leaves as it is.
 */
export function drawingsOf(svg: string, sheets: readonly Sheet[]): string[] {
  if (outlines.size > mostOutlines) outlines.clear();
  const parts = (svg.match(part) ?? []).map((text) => text.trimStart());
  const definitions = new Map(parts.filter((text) => text.startsWith('<defs')).flatMap((text) => [...text.matchAll(defined)].map(([whole, , id]) => [id!, whole.trim()] as const)));
  for (const [id, text] of definitions) {
    const steps = text.startsWith('<symbol') && !outlines.has(id) ? outline.exec(text)?.[1] : undefined;
    if (steps !== undefined) outlines.set(id, steps.replace(/-?\d+\.\d{4,}/gu, short));
  }
  return parts
    .filter((text) => text.startsWith('<g'))
    .map((text, at) => {
      const { width, height } = sheets[at] ?? { width: 0, height: 0 };
      const body = lighter(text.replace(moved, '$1'));
      const drawn = `<g>${body}</g><defs>${neededBy(body, definitions).map(lighter).join('')}</defs>`;
      return `<svg viewBox="0 0 ${points(width)} ${points(height)}" xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink">${drawn}</svg>`.replace(/>\s+</gu, '><');
    });
}
const points = (millimetres: number): string => short(String((millimetres * 72) / 25.4));

const lighter = (text: string): string =>
  text.replace(run, (whole, look: string) => {
    const glyphs = [...whole.matchAll(glyph)].map(([, id, x]) => ({ steps: outlines.get(id!), x: short(x!) }));
    if (glyphs.some(({ steps }) => steps === undefined)) return whole;
    return `<path d="${glyphs.map(({ steps, x }) => `M${x} 0${steps!}`).join('')}" ${look}/>`;
  });

/** What a drawing refers to, and what that refers to. */
function neededBy(drawing: string, definitions: ReadonlyMap<string, string>): string[] {
  const needed = new Map<string, string>();
  const add = (text: string): void => {
    for (const [, id] of text.matchAll(reference)) {
      const found = definitions.get(id!);
      if (found === undefined || needed.has(id!)) continue;
      needed.set(id!, found);
      add(lighter(found));
    }
  };
  add(drawing);
  return [...needed.values()];
}
