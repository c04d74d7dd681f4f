import { isElement, type Element, type Node } from '@ukiyo/core/markup';
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

function cleanElement(element: Element): Element {
  const attributes = Object.fromEntries(
    Object.entries(element.attributes).flatMap(([name, value]) => {
      const clean = cleanAttribute(name, value);
      return clean === undefined ? [] : [[name, clean]];
    }),
  );
  const isStyle = element.name.replace(/^svg:/u, '') === 'style';
  const children = isStyle
    ? [
        safeStyles(
          element.children.filter((child) => typeof child === 'string').join(''),
          'stylesheet',
        ),
      ]
    : element.children.flatMap((child): Node[] => {
        if (typeof child === 'string') return [child];
        const isDrawing = isElement(child) && drawing.has(child.name.replace(/^svg:/u, ''));
        return isDrawing ? [cleanElement(child)] : [];
      });
  return { name: element.name, attributes, children };
}

/** An SVG tree without anything that could act or fetch. */
export function cleanSvg(root: Element): Element {
  const clean = cleanElement(root);
  return { ...clean, attributes: { ...clean.attributes, xmlns: svgNamespace } };
}
