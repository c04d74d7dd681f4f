import { isElement, type Element, type Node } from '../markup/index.ts';
import { isLocalReference, isSafeAttribute, safeStyles } from './css.ts';

/**
 * Elements of SVG 1.1 and 2 that only draw. Scripts, animation, foreign content and links are not
 * among them.
 */
const drawing = new Set(
  [
    'svg g defs symbol use title desc metadata style path rect circle ellipse line polyline ' +
      'polygon',
    'text tspan textPath image marker pattern mask clipPath linearGradient radialGradient ' +
      'stop filter',
    'feBlend feColorMatrix feComponentTransfer feComposite feConvolveMatrix feDiffuseLighting',
    'feDisplacementMap feDropShadow feFlood feFuncA feFuncB feFuncG feFuncR feGaussianBlur feMerge',
    'feMergeNode feMorphology feOffset feSpecularLighting feTile feTurbulence feDistantLight',
    'fePointLight feSpotLight switch view',
  ]
    .join(' ')
    .split(' '),
);
const svgNamespace = 'http://www.w3.org/2000/svg';

/** An attribute as it may stay; undefined when it must go. */
function cleanAttribute(name: string, value: string): string | undefined {
  if (/^on/iu.test(name)) return undefined;
  if (/(^|:)(href|src)$/iu.test(name)) return isLocalReference(value) ? value : undefined;
  if (name === 'style') return safeStyles(value, 'declarationList');
  if (/^(aria-|data-|xmlns(:|$))/iu.test(name)) return value;
  return isSafeAttribute(value) ? value : undefined;
}

/** The name without the prefix that a document may give to SVG. */
const localName = (name: string): string => name.replace(/^[^:]*:/u, '');

function cleanElement(element: Element): Element {
  const attributes = Object.fromEntries(
    Object.entries(element.attributes).flatMap(([name, value]) => {
      const clean = cleanAttribute(name, value);
      return clean === undefined ? [] : [[name, clean]];
    }),
  );
  const name = localName(element.name);
  const isStyle = name === 'style';
  const children = isStyle
    ? [
        safeStyles(
          element.children.filter((child) => typeof child === 'string').join(''),
          'stylesheet',
        ),
      ]
    : element.children.flatMap((child): Node[] => {
        if (typeof child === 'string') return [child];
        const isDrawing = isElement(child) && drawing.has(localName(child.name));
        return isDrawing ? [cleanElement(child)] : [];
      });
  return { name, attributes, children };
}

/** An SVG tree without anything that could act or fetch, and without prefixes. */
export function cleanSvg(root: Element): Element {
  const { name, attributes, children } = cleanElement(root);
  const own = Object.entries(attributes).filter(([one]) => !/^xmlns:(?!xlink$)/u.test(one));
  return { name, attributes: { ...Object.fromEntries(own), xmlns: svgNamespace }, children };
}

/** No screen or page is larger. */
const largestSide = 100_000;
const isSide = (value: number): boolean =>
  Number.isFinite(value) && value > 0 && value <= largestSide;

/** Width and height in pixels, where they can be used. */
export const usableSize = (width: number, height: number): { width?: number; height?: number } =>
  isSide(width) && isSide(height) ? { width, height } : {};

/** The size that a drawing says, else that of its view (SVG 2, 8.2); nothing where it says none. */
export function sizeOfSvg({ attributes }: Element): { width?: number; height?: number } {
  const [, , boxWidth = Number.NaN, boxHeight = Number.NaN] = (attributes['viewBox'] ?? '')
    .split(/[\s,]+/u)
    .map(Number);
  const own = (name: string): number => Number.parseFloat(attributes[name] ?? '');
  return usableSize(
    isSide(own('width')) ? own('width') : boxWidth,
    isSide(own('height')) ? own('height') : boxHeight,
  );
}
