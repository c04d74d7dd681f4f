import { readArea, signPlace } from '@ukiyo/core/imagemaps';
import { childElements, childNamed, lineOf, type Element } from '@ukiyo/core/markup';
import type { Media } from '@ukiyo/core/media';
import { writtenNumber } from '@ukiyo/core/styles';
import { printable, wantedSize } from '../shared/index.ts';
import type { BlockOf } from '../blocks/index.ts';
import type { Context, PrintAssets, Typesetting } from './context.ts';
import type { PrintBlock, Inline, Hotspot } from './document.ts';

/** Of a QR code, in millimetres: telephones read it at arm’s length (common practice). */
const codeWidth = '24';

/** The id of a file of the library; undefined for any other address. */
const assetIdOf = (href = ''): string | undefined =>
  href.startsWith('asset:') ? href.slice('asset:'.length) : undefined;

export const sourceOf = (element: Element, assets: PrintAssets): string | undefined => {
  const id = assetIdOf(element.attributes['href']);
  return id === undefined ? undefined : assets.path(id);
};
const sizeOf = (element: Element, assets: PrintAssets): ReturnType<PrintAssets['size']> => {
  const id = assetIdOf(element.attributes['href']);
  return id === undefined ? undefined : assets.size(id);
};
export const altOf = (element: Element): string => {
  const child = childNamed(element, 'alt');
  return printable(child ? lineOf(child) : (element.attributes['alt'] ?? ''));
};
/** An image of the web is not on paper: its address stands in its place. */
export const outsideImage = (element: Element): Inline | undefined => {
  const href = element.attributes['href'] ?? '';
  return /^https?:/iu.test(href)
    ? { t: 'url', href, c: [altOf(element) || printable(href)] }
    : undefined;
};

/** In millimetres; the height where the width does not say it. */
export const sized = (element: Element, assets: PrintAssets): { w?: string; h?: string } => {
  const { width, height, isForced } = wantedSize(element.attributes, sizeOf(element, assets));
  return {
    ...(width === undefined ? {} : { w: `${width}` }),
    ...(height !== undefined && (width === undefined || isForced) ? { h: `${height}` } : {}),
  };
};

export const imageBlock = (
  context: Context,
  element: Element,
  spots: readonly Hotspot[] = [],
): PrintBlock[] => {
  const src = sourceOf(element, context.assets);
  const outside = outsideImage(element);
  if (outside) return [...context.marksOf(element), { t: 'p', c: [outside] }];
  return [
    ...context.marksOf(element),
    {
      t: 'img',
      src: src ?? '',
      alt: altOf(element),
      ...sized(element, context.assets),
      ...(src === undefined ? { missing: true } : {}),
      ...(spots.length === 0 ? {} : { spots }),
    },
  ];
};

/**
 * On paper nothing can be pointed at: areas have letters, which a list under the image explains.
 * None where one of them cannot be placed.
 */
export function areaSigns(
  typesetting: Typesetting,
  { areas, picture }: BlockOf<'figure'>,
): { readonly spots: readonly Hotspot[]; readonly legend: readonly PrintBlock[] } {
  const [image] = picture?.images ?? [];
  const spots = image ? hotspotsOf(typesetting, areas, image) : [];
  if (spots.length === 0) return { spots, legend: [] };
  const items = spots.map(({ sign }, at) => ({
    sign,
    c: typesetting.inlines(childElements(areas[at]!).filter(({ name }) => name === 'xref')),
  }));
  return { spots, legend: [{ t: 'legend', items }] };
}

function hotspotsOf(
  { assets }: Context,
  areas: readonly Element[],
  picture: Element,
): readonly Hotspot[] {
  const size = sizeOf(picture, assets);
  const read = areas.map(readArea);
  if (!size || read.some((area) => area === undefined)) return [];
  return read.map((area, at) => {
    const { x, y } = signPlace(area!.shape);
    return { sign: writtenNumber('A', at + 1)!, x: x / size.width, y: y / size.height };
  });
}

/** On paper: its poster, what it shows, and where it can be played. */
export const mediaBlocks = ({ assets, words }: Context, media: Media): PrintBlock[] => {
  const posterId = assetIdOf(media.poster);
  const poster = posterId === undefined ? undefined : assets.path(posterId);
  const isOnWeb = /^https?:/iu.test(media.source);
  const address: Inline[] = isOnWeb
    ? [' ', { t: 'url', href: media.source, c: [media.source] }]
    : [];
  const description: Inline = {
    t: 'i',
    c: [`${words[media.kind]}: `, printable(media.description)],
  };
  const code: PrintBlock[] = isOnWeb
    ? [{ t: 'img', src: assets.code(media.source), alt: media.source, w: codeWidth }]
    : [];
  return [
    ...(poster === undefined
      ? []
      : [{ t: 'img' as const, src: poster, alt: printable(media.description) }]),
    { t: 'p', c: [description, ...address] },
    ...code,
  ];
};
