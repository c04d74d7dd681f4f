import { readXml, writeXml } from '@ukiyo/core/markup';
import { cleanSvg, sizeOfSvg, usableSize } from '@ukiyo/core/svg';

import { sniffedType, svgType } from './types.ts';

export interface SanitisedImage {
  readonly mediaType: string;
  readonly bytes: Uint8Array;
  /** In pixels; absent where the file does not say, or says what cannot be. */
  readonly width?: number;
  readonly height?: number;
}

/** Sanitises an image here, or in another thread. */
export type ImageSanitising = (
  bytes: Uint8Array,
  claimed: string,
) => MaybePromise<SanitisedImage | { readonly refusal: string }>;
type MaybePromise<Value> = Value | Promise<Value>;

/** Bytes of a drawing in SVG: far more than people draw, and read in a moment. */
export const largestDrawing = 4 * 1024 * 1024;

/**
 * What an uploaded file really is: its type by its first bytes, its size in pixels, SVG cleaned.
 * @returns the image as it may be stored, or one sentence that says why not
 */
export function sanitiseImage(
  bytes: Uint8Array,
  claimed: string,
): SanitisedImage | { readonly refusal: string } {
  const view = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const mediaType = sniffedType(view);
  if (mediaType !== undefined) return { mediaType, bytes, ...pixelSize(mediaType, view) };
  const head = view.subarray(0, 200).toString('utf8');
  if (claimed === svgType || /^\s*(<\?xml|<svg|<!--|<!DOCTYPE svg)/u.test(head))
    return sanitiseSvg(view);
  return {
    refusal:
      'This is not an image, video or sound that can be shown (PNG, JPEG, GIF, WebP, SVG, ' +
      'MP4, WebM or MP3).',
  };
}

function sanitiseSvg(view: Buffer): SanitisedImage | { refusal: string } {
  if (view.length > largestDrawing)
    return {
      refusal:
        `The drawing is larger than ${largestDrawing / 1024 / 1024} MB. Export it with fewer ` +
        'points, or as PNG.',
    };
  const { document, problems } = readXml(view.toString('utf8'));
  if (!document) return { refusal: problems[0]?.message ?? 'The drawing cannot be read.' };
  if (document.doctype?.includes('<!ENTITY'))
    return { refusal: 'The drawing declares entities. Export it as plain SVG.' };
  if (document.root.name !== 'svg') return { refusal: 'This is XML, but not an SVG drawing.' };
  const root = cleanSvg(document.root);
  return { mediaType: svgType, bytes: Buffer.from(writeXml(root)), ...sizeOfSvg(root) };
}

function pixelSize(mediaType: string, view: Buffer): { width?: number; height?: number } {
  if (mediaType === 'image/png' && view.length > 24)
    return usableSize(view.readUInt32BE(16), view.readUInt32BE(20));
  if (mediaType === 'image/gif' && view.length > 10)
    return usableSize(view.readUInt16LE(6), view.readUInt16LE(8));
  return mediaType === 'image/jpeg' ? jpegSize(view) : {};
}

/** Reads the frame header of a JPEG file (ITU T.81, B.2.2). */
function jpegSize(view: Buffer): { width?: number; height?: number } {
  for (let at = 2; at + 9 < view.length;) {
    if (view[at] !== 0xff) return {};
    const marker = view[at + 1] ?? 0;
    const isFrame = marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);
    if (isFrame) return usableSize(view.readUInt16BE(at + 7), view.readUInt16BE(at + 5));
    at += 2 + view.readUInt16BE(at + 2);
  }
  return {};
}
