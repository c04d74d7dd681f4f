/** What is on the pages of a proof. */
interface Piece {
  readonly shape: string;
  readonly at: string;
}

const svgSpace = 'http://www.w3.org/2000/svg';
/** What the page engine draws with (SVG 2); everything else is left away. */
const elements = new Set([
  'g',
  'path',
  'rect',
  'image',
  'use',
  'defs',
  'clipPath',
  'symbol',
  'pattern',
  'linearGradient',
  'radialGradient',
  'stop',
]);
const isLocal = (address: string): boolean =>
  address.startsWith('#') || address.startsWith('data:image/');
const isKept = ({ name, value }: Attr): boolean =>
  !name.startsWith('on') &&
  name !== 'style' &&
  (!/(?:^|:)href$/u.test(name) || isLocal(value)) &&
  !/url\((?!#)/u.test(value);

function copied(source: Element): SVGElement | undefined {
  if (source.namespaceURI !== svgSpace || !elements.has(source.localName)) return undefined;
  const made = document.createElementNS(svgSpace, source.localName);
  for (const attribute of source.attributes)
    if (isKept(attribute))
      made.setAttribute(attribute.name.replace(/^xlink:/u, ''), attribute.value);
  for (const child of source.children) made.append(copied(child) ?? '');
  return made;
}
/**
 * Shapes as elements: read all at once, and copied as far as it is something that pages are drawn
 * with.
 */
function elementsOf(shapes: readonly string[]): (SVGElement | undefined)[] {
  const parsed = new DOMParser().parseFromString(
    `<svg xmlns="${svgSpace}" xmlns:xlink="http://www.w3.org/1999/xlink">` +
      `${shapes.map((shape) => `<g>${shape}</g>`).join('')}</svg>`,
    'image/svg+xml',
  );
  return [...parsed.documentElement.children].map(copied);
}

/**
 * What is drawn by now, in order: each piece has an element of its own, which is used again as long
 * as its shape is there.
 */
export function drawPage(
  page: SVGElement,
  pieces: readonly Piece[],
  shapes: Readonly<Record<string, string>>,
): void {
  const free = new Map<string, SVGElement[]>();
  for (const element of page.children as HTMLCollectionOf<SVGElement>) {
    const shape = element.dataset['shape'] ?? '';
    free.set(shape, [...(free.get(shape) ?? []), element]);
  }
  const placed = pieces.map(({ shape, at }) => ({ shape, at, element: free.get(shape)?.shift() }));
  const missing = [...new Set(placed.flatMap(({ shape, element }) => (element ? [] : [shape])))];
  const fresh = new Map(
    elementsOf(missing.map((shape) => shapes[shape] ?? '')).map((element, at) => [
      missing[at]!,
      element,
    ]),
  );
  for (const left of free.values()) for (const element of left) element.remove();
  let next = page.firstElementChild;
  for (const { shape, at, element } of placed) {
    const drawn = element ?? (fresh.get(shape)?.cloneNode(true) as SVGElement | undefined);
    if (!drawn) continue;
    if (!element) drawn.dataset['shape'] = shape;
    const place = `matrix(${at})`;
    if (drawn.getAttribute('transform') !== place) drawn.setAttribute('transform', place);
    if (next && drawn === next) next = next.nextElementSibling;
    else page.insertBefore(drawn, next);
  }
}
