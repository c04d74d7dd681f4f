/**
 * Numbers that look random and are the same again for the same seed (mulberry32, by T. Ettinger,
 * public domain; from memory).
 */
export function randomFrom(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return Math.floor((((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296) * below);
  };
}

/** Pieces at which readers have stumbled elsewhere. */
const pieces = [
  '<',
  '>',
  '</',
  '/>',
  '&',
  '&#0;',
  '&#x110000;',
  ']]>',
  '<!--',
  '<![CDATA[',
  '<?xml version="1.1"?>',
  '<!DOCTYPE a [<!ENTITY b "c">]>',
  '"',
  "'",
  '{',
  '[',
  '\\',
  '\0',
  '\ufeff',
  '\ud800',
  '\u202e',
  '1e999',
  '-1',
  'NaN',
  '99999999999999999999',
  '__proto__',
  'constructor',
  '../',
  'url(',
  '@import',
  'javascript:',
  '<a>'.repeat(300),
  'x'.repeat(70_000),
].map((piece) => Buffer.from(piece));

/** One of the seeds, or two of them joined, changed in a few places. */
export function mutated(seeds: readonly Uint8Array[], random: (below: number) => number): Buffer {
  const one = (): Buffer => Buffer.from(seeds[random(seeds.length)]!);
  let bytes = one();
  if (random(10) === 0) bytes = Buffer.concat([bytes.subarray(0, random(bytes.length + 1)), one()]);
  for (let changes = 1 + random(6); changes > 0; changes -= 1) {
    const at = random(bytes.length + 1);
    const length = random(Math.min(40, bytes.length - at + 1));
    const [before, part, after] = [
      bytes.subarray(0, at),
      bytes.subarray(at, at + length),
      bytes.subarray(at + length),
    ];
    const kind = random(6);
    if (kind === 0) bytes = Buffer.concat([before, after]);
    else if (kind === 1) bytes = Buffer.concat([before, part, part, part, after]);
    else if (kind === 2)
      bytes = Buffer.concat([before, pieces[random(pieces.length)]!, part, after]);
    else if (kind === 3) bytes = Buffer.concat([before, pieces[random(pieces.length)]!, after]);
    else if (kind === 4 && bytes.length > 0) bytes[random(bytes.length)] = random(256);
    else {
      const other = one();
      const from = random(other.length);
      bytes = Buffer.concat([before, other.subarray(from, from + random(60)), after]);
    }
  }
  return bytes;
}
