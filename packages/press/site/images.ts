import type { ResolvedElement } from '@ukiyo/core/compose';
import { readArea } from '@ukiyo/core/imagemaps';
import { childElements, childNamed, lineOf, type Element } from '@ukiyo/core/markup';
import type { PageContext } from './context.ts';
import { join, raw, tag, text, type Html } from './html.ts';

const altOf = (element: Element): string => {
  const child = childNamed(element, 'alt');
  return child ? lineOf(child) : (element.attributes['alt'] ?? '');
};

/** @param map the name of the areas on it */
export const imageHtml = (
  { around, words, isSite, idOf }: PageContext,
  element: Element,
  map?: string,
): Html => {
  const href = element.attributes['href'] ?? '';
  const asset = href.startsWith('asset:') ? around.asset(href.slice('asset:'.length)) : undefined;
  if (!asset)
    return tag(
      'span',
      { class: 'missing', role: 'img', 'aria-label': altOf(element) || words.figure },
      text(altOf(element) || '—'),
    );
  return tag('img', {
    src: asset.href,
    alt: altOf(element),
    width: asset.width,
    height: asset.height,
    id: idOf(element),
    usemap: map === undefined ? undefined : `#${map}`,
    loading: isSite ? 'lazy' : undefined,
  });
};

/**
 * A figure with its title and the areas on its image that lead somewhere.
 * @param rest what else is in it
 */
export function figureHtml(
  context: PageContext,
  element: Element,
  titled: Html | undefined,
  rest: (part: Element) => Html,
): Html {
  const { around, idOf, forWhom } = context;
  const id = idOf(element);
  const picture = childNamed(element, 'image');
  const areas = childElements(element).filter((part) => part.name === 'area');
  const isMap = areas.length > 0 && picture !== undefined;
  const mapName = `map-${id ?? 'x'}`;
  const content = childElements(element)
    .filter((part) => !['title', 'desc', 'area'].includes(part.name))
    .map((part) =>
      part === picture
        ? tag(
            'div',
            { class: ['picture', forWhom(part)].filter(Boolean).join(' ') },
            imageHtml(context, part, isMap ? mapName : undefined),
          )
        : rest(part),
    );
  const area = (one: Element): Html => {
    const reference = childNamed(one, 'xref') as ResolvedElement | undefined;
    const link = reference?.link === undefined ? undefined : around.link(reference.link);
    const href =
      link?.kind === 'target'
        ? around.href(link.anchor)
        : link?.kind === 'external' || link?.kind === 'peer'
          ? link.href
          : undefined;
    const shape =
      { rect: 'rect', circle: 'circle', poly: 'poly' }[lineOf(childNamed(one, 'shape') ?? one)] ??
      'rect';
    const coords = lineOf(childNamed(one, 'coords') ?? one)
      .split(',')
      .map(Number);
    if (href === undefined || coords.some(Number.isNaN)) return raw('');
    const read = readArea(one);
    const label =
      read !== undefined && read.name !== ''
        ? read.name
        : link?.kind === 'target' || link?.kind === 'peer'
          ? link.text
          : href;
    const beside = read?.inNewWindow === true ? { target: '_blank', rel: 'noopener' } : {};
    return tag('area', {
      class: forWhom(one),
      shape,
      coords: coords.join(','),
      href,
      alt: label,
      title: read?.tooltip || label,
      ...beside,
    });
  };
  return tag(
    'figure',
    { id },
    ...content,
    ...(isMap ? [tag('map', { name: mapName }, join(areas.map(area)))] : []),
    ...(titled === undefined ? [] : [tag('figcaption', {}, titled)]),
  );
}
