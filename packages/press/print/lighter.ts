/** A glyph as the page engine defines it, once for all places: an outline in relative steps from its own origin. */
const definition = /<symbol id="([^"]+)"[^>]*>\s*<path d="M 0 0 ?([^"MLHVCSQTA]*)"\s*\/>\s*<\/symbol>\s*/gu;
/** Glyphs of one run of text, one after the other in one colour. */
const run = /(?:<use xlink:href="#[^"]+" x="[^"]+" y="0" (fill="[^"]+" fill-rule="[^"]+")\/>\s*)(?:<use xlink:href="#[^"]+" x="[^"]+" y="0" \1\/>\s*)*/gu;
const glyph = /xlink:href="#([^"]+)" x="([^"]+)"/gu;

const short = (number: string): string => String(Math.round(Number(number) * 1000) / 1000);

/** Outlines by what the engine calls them, which is a fingerprint of each: they are the same in every drawing. */
const outlines = new Map<string, string>();
const mostOutlines = 20_000;

/**
 * The drawing of the page engine with one outline for each run of text instead of one reference for each glyph: browsers build such an image several
 * times as fast, and it looks the same. Takes only what the engine writes itself; what it does not know it leaves as it is.
 */
export function lighter(svg: string): string {
  if (outlines.size > mostOutlines) outlines.clear();
  const text = svg.replace(definition, (whole, id: string, steps: string) => {
    if (!outlines.has(id)) outlines.set(id, steps.replace(/-?\d+\.\d{4,}/gu, short));
    return whole;
  });
  const merged = text.replace(run, (whole, look: string) => {
    const glyphs = [...whole.matchAll(glyph)].map(([, id, x]) => ({ outline: outlines.get(id!), x: short(x!) }));
    if (glyphs.some(({ outline }) => outline === undefined)) return whole;
    return `<path d="${glyphs.map(({ outline, x }) => `M${x} 0${outline!}`).join('')}" ${look}/>`;
  });
  const wanted = new Set([...merged.matchAll(/href="#([^"]+)"/gu)].map(([, id]) => id));
  return merged.replace(definition, (whole, id: string) => (wanted.has(id) ? whole : '')).replace(/>\s+</gu, '><');
}
