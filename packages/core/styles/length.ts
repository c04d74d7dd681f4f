/**
 * A length as people write it: `9.6pt`, `6mm`, `0.8em`. An em is the size of the letters where it
 * stands.
 */
export type Length = string;

const pattern = /^(-?\d+(?:\.\d+)?)(pt|mm|cm|in|em)$/u;
/** In points, 72 to the inch of 25.4 mm (ISO 80000-3; the point of PDF, ISO 32000-1, 8.3.2.3). */
const points = { pt: 1, mm: 72 / 25.4, cm: 720 / 25.4, in: 72 } as const;

export interface Measured {
  readonly value: number;
  readonly unit: keyof typeof points | 'em';
}

/** Undefined where the text is no length. */
export function readLength(text: string): Measured | undefined {
  const match = pattern.exec(text.trim());
  return match ? { value: Number(match[1]), unit: match[2] as Measured['unit'] } : undefined;
}

/** In points; lengths in em need the size of the letters. */
export function toPoints(length: Length, em = 0): number {
  const measured = readLength(length);
  if (!measured) return 0;
  return measured.value * (measured.unit === 'em' ? em : points[measured.unit]);
}

export const toMillimetres = (length: Length): number => (toPoints(length) * 25.4) / 72;
