import { isElement, readXml, writeXml, type Element, type Node } from '@ukiyo/core/markup';

export interface SettledImage {
  readonly mediaType: string;
  readonly bytes: Uint8Array;
  readonly width?: number;
  readonly height?: number;
}

/** Elements of SVG 1.1 and 2 that only draw. Scripts, animation, foreign content and links are not among them. */
const drawing = new Set(
  'svg g defs symbol use title desc metadata style path rect circle ellipse line polyline polygon text tspan textPath image marker pattern mask clipPath linearGradient radialGradient stop filter feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting feDisplacementMap feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feMerge feMergeNode feMorphology feOffset feSpecularLighting feTile feTurbulence feDistantLight fePointLight feSpotLight switch view'.split(
    ' ',
  ),
);
const localReference = /^(#|data:image\/(png|jpeg|gif|webp);base64,)/iu;
const outsideStyle =
  /@import|expression\s*\(|javascript:|url\s*\(\s*['"]?(?!['"]?(#|data:image\/(png|jpeg|gif|webp);base64,))/iu;

/** An SVG tree with everything that could act or fetch taken out. */
function cleanSvg(root: Element): Element {
  const clean = (element: Element): Element => ({
    name: element.name,
    attributes: Object.fromEntries(
      Object.entries(element.attributes).filter(([name, value]) => {
        if (/^on/iu.test(name)) return false;
        if (/(^|:)(href|src)$/iu.test(name)) return localReference.test(value.trim());
        return !outsideStyle.test(value);
      }),
    ),
    children: element.children.flatMap((child): Node[] => {
      if (typeof child === 'string')
        return [element.name === 'style' && outsideStyle.test(child) ? '' : child];
      return isElement(child) && drawing.has(child.name.replace(/^svg:/u, ''))
        ? [clean(child)]
        : [];
    }),
  });
  return clean(root);
}

/**
 * What an uploaded file really is: its type by its first bytes, its size in pixels, SVG cleaned.
 * @returns the image as it may be stored, or one sentence that says why not
 */
export function settleImage(
  bytes: Uint8Array,
  claimed: string,
): SettledImage | { readonly refusal: string } {
  const view = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.subarray(0, 4).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47])) && view.length > 24)
    return {
      mediaType: 'image/png',
      bytes,
      width: view.readUInt32BE(16),
      height: view.readUInt32BE(20),
    };
  if (view[0] === 0xff && view[1] === 0xd8)
    return { mediaType: 'image/jpeg', bytes, ...jpegSize(view) };
  if (view.subarray(0, 4).toString('latin1') === 'GIF8')
    return {
      mediaType: 'image/gif',
      bytes,
      width: view.readUInt16LE(6),
      height: view.readUInt16LE(8),
    };
  if (
    view.subarray(0, 4).toString('latin1') === 'RIFF' &&
    view.subarray(8, 12).toString('latin1') === 'WEBP'
  )
    return { mediaType: 'image/webp', bytes };
  if (view.subarray(4, 8).toString('latin1') === 'ftyp') return { mediaType: 'video/mp4', bytes };
  if (
    view.subarray(0, 4).equals(Buffer.from([0x1a, 0x45, 0xdf, 0xa3])) &&
    view.subarray(0, 64).includes('webm')
  )
    return { mediaType: 'video/webm', bytes };
  if (
    view.subarray(0, 3).toString('latin1') === 'ID3' ||
    (view[0] === 0xff && ((view[1] ?? 0) & 0xe0) === 0xe0)
  )
    return { mediaType: 'audio/mpeg', bytes };
  if (
    claimed === 'image/svg+xml' ||
    /^\s*(<\?xml|<svg|<!--|<!DOCTYPE svg)/u.test(view.subarray(0, 200).toString('utf8'))
  )
    return settleSvg(view);
  return {
    refusal:
      'This is not an image, video or sound that can be shown (PNG, JPEG, GIF, WebP, SVG, MP4, WebM or MP3).',
  };
}

function settleSvg(view: Buffer): SettledImage | { refusal: string } {
  const { document, problems } = readXml(view.toString('utf8'));
  if (!document) return { refusal: problems[0]?.message ?? 'The drawing cannot be read.' };
  if (document.root.name !== 'svg') return { refusal: 'This is XML, but not an SVG drawing.' };
  const root = cleanSvg(document.root);
  const [, , boxWidth, boxHeight] = (root.attributes['viewBox'] ?? '').split(/[\s,]+/u).map(Number);
  const width = Number.parseFloat(root.attributes['width'] ?? '') || boxWidth;
  const height = Number.parseFloat(root.attributes['height'] ?? '') || boxHeight;
  return {
    mediaType: 'image/svg+xml',
    bytes: Buffer.from(writeXml(root)),
    ...(width && height ? { width, height } : {}),
  };
}

/** Reads the frame header of a JPEG file (ITU T.81, B.2.2). */
function jpegSize(view: Buffer): { width?: number; height?: number } {
  for (let at = 2; at + 9 < view.length;) {
    if (view[at] !== 0xff) return {};
    const marker = view[at + 1] ?? 0;
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { height: view.readUInt16BE(at + 5), width: view.readUInt16BE(at + 7) };
    at += 2 + view.readUInt16BE(at + 2);
  }
  return {};
}
