import type { Attributes } from '@ukiyo/core/markup';

const unitsInMillimetres: Readonly<Record<string, number>> = {
  mm: 1,
  cm: 10,
  in: 25.4,
  pt: 25.4 / 72,
  pc: 25.4 / 6,
  px: 25.4 / 96,
  em: 3.4,
  '': 25.4 / 96,
};
const millimetreOfPixel = unitsInMillimetres['px']!;

/** A DITA or CALS length in millimetres; a bare number is pixels. */
export function millimetres(length: string | undefined): number | undefined {
  const match = /^\s*(\d+(?:\.\d+)?)\s*(mm|cm|in|pt|pc|px|em|)\s*$/u.exec(length ?? '');
  const value = match ? Number(match[1]) * unitsInMillimetres[match[2]!]! : 0;
  return value > 0 ? Math.round(value * 100) / 100 : undefined;
}

/** Whole CSS pixels, 96 to the inch (CSS Values and Units 3, 5.2). */
export const pixels = (length: number): number => Math.round(length / millimetreOfPixel);

/** Pixels of an image. */
export interface NaturalSize {
  readonly width?: number | undefined;
  readonly height?: number | undefined;
}

/** The size in which an image is wanted, in millimetres; without one it is as large as it is. */
export interface WantedSize {
  readonly width?: number;
  readonly height?: number;
  /** Whether both are written, so that its shape may be another than it has. */
  readonly isForced?: true;
  /** As wide as there is room. */
  readonly fits?: true;
}

/**
 * Reads `width`, `height`, `scale` and `scalefit` (DITA 1.3, 3.2.2.17, `image`): a size goes before
 * a scale, a scale before fitting; what is missing of a size follows from the shape.
 */
export function wantedSize(attributes: Attributes, natural: NaturalSize = {}): WantedSize {
  const width = millimetres(attributes['width']);
  const height = millimetres(attributes['height']);
  const share = natural.width && natural.height ? natural.height / natural.width : undefined;
  if (width !== undefined && height !== undefined) return { width, height, isForced: true };
  if (width !== undefined) return { width, ...(share ? { height: width * share } : {}) };
  if (height !== undefined) return { height, ...(share ? { width: height / share } : {}) };
  const scale = Number(attributes['scale']);
  if (scale > 0 && natural.width && share) {
    const scaled = (natural.width * millimetreOfPixel * scale) / 100;
    return { width: scaled, height: scaled * share };
  }
  return attributes['scalefit'] === 'yes' ? { fits: true } : {};
}
