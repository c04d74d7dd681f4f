import type { ResolvedElement, ResolvedLink } from '@ukiyo/core/compose';
import { readArea } from '@ukiyo/core/imagemaps';
import { childNamed, lineOf, type Element } from '@ukiyo/core/markup';
import type { BlockOf } from '../blocks/index.ts';
import { tag, text, type Html } from '../html/index.ts';
import { pixels, wantedSize, type WantedSize } from '../shared/index.ts';
import { classOf, type Rendering } from './context.ts';

const altOf = (element: Element): string => {
  const child = childNamed(element, 'alt');
  return child ? lineOf(child) : (element.attributes['alt'] ?? '');
};

/** The size of an image as attributes; browsers keep its shape unless that is told otherwise. */
function shownSize(
  { width, height, isForced, fits }: WantedSize,
  natural: { readonly width?: number; readonly height?: number },
) {
  if (width === undefined && height === undefined)
    return {
      width: natural.width,
      height: natural.height,
      style: fits ? 'width: 100%' : undefined,
    };
  const [wide, high] = [width, height].map((one) => (one === undefined ? undefined : pixels(one)));
  return {
    width: wide,
    height: high,
    style: isForced ? `aspect-ratio: ${wide} / ${high}` : undefined,
  };
}

/** @param map the name of the areas on it */
export const imageHtml = (
  { questions, words, isSite, isInLink, idOf }: Rendering,
  element: Element,
  map?: string,
): Html => {
  const href = element.attributes['href'] ?? '';
  const asset = href.startsWith('asset:')
    ? questions.asset(href.slice('asset:'.length))
    : undefined;
  if (/^https?:/iu.test(href))
    return tag(
      isInLink ? 'span' : 'a',
      { id: idOf(element), ...(isInLink ? {} : { href, class: 'external', rel: 'noopener' }) },
      text(altOf(element) || href),
    );
  if (!asset)
    return tag(
      'span',
      { class: 'missing', role: 'img', 'aria-label': altOf(element) || words.figure },
      text(altOf(element) || '—'),
    );
  return tag('img', {
    src: asset.href,
    alt: altOf(element),
    ...shownSize(wantedSize(element.attributes, asset), asset),
    id: idOf(element),
    usemap: map === undefined ? undefined : `#${map}`,
    loading: isSite ? 'lazy' : undefined,
  });
};

/**
 * A figure with its title and the areas on its image that lead somewhere.
 * @param caption its title with its number
 */
export function figureHtml(
  rendering: Rendering,
  { element, blocks, picture, areas }: BlockOf<'figure'>,
  caption: Html | undefined,
): Html {
  const id = rendering.idOf(element);
  const [image] = areas.length > 0 ? (picture?.images ?? []) : [];
  const { item, path } = element.origin;
  const map = `map-${id ?? [item, ...path].join('-')}`;
  const content = blocks.map((block) =>
    block === picture && image
      ? tag(
          'div',
          { class: classOf('picture', rendering.forWhom(image)) },
          imageHtml(rendering, image, map),
        )
      : rendering.blocks([block]),
  );
  return tag(
    'figure',
    { id },
    ...content,
    image
      ? tag(
          'map',
          { name: map },
          areas.map((area) => areaHtml(rendering, area)),
        )
      : [],
    caption === undefined ? [] : tag('figcaption', {}, caption),
  );
}

const shapes: ReadonlySet<string> = new Set(['rect', 'circle', 'poly']);

/** An area on an image; nothing where it leads nowhere or has no place. */
function areaHtml({ questions, forWhom }: Rendering, element: Element): Html {
  const reference = childNamed(element, 'xref') as ResolvedElement | undefined;
  const link = reference?.link === undefined ? undefined : questions.link(reference.link);
  const href = link && hrefOf(questions, link);
  const coords = lineOf(childNamed(element, 'coords') ?? element)
    .split(',')
    .map(Number);
  if (href === undefined || coords.some(Number.isNaN)) return [];
  const shape = lineOf(childNamed(element, 'shape') ?? element);
  const area = readArea(element);
  const label = area?.name || (link && 'text' in link ? link.text : href);
  return tag('area', {
    class: forWhom(element),
    shape: shapes.has(shape) ? shape : 'rect',
    coords: coords.join(','),
    href,
    alt: label,
    title: area?.tooltip || label,
    ...(area?.inNewWindow === true ? { target: '_blank', rel: 'noopener' } : {}),
  });
}

function hrefOf(questions: Rendering['questions'], link: ResolvedLink): string | undefined {
  if (link.kind === 'target') return questions.href(link.anchor);
  return link.kind === 'external' || link.kind === 'peer' ? link.href : undefined;
}
