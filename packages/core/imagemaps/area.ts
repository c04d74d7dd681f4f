import { stylesOf, withStyles } from '../grammar/index.ts';
import {
  childElements,
  childNamed,
  element,
  isElement,
  lineOf,
  type Attributes,
  type Element,
} from '../markup/index.ts';

export interface Point {
  readonly x: number;
  readonly y: number;
}
/** Where an area lies, in pixels of the image. */
export type Shape =
  | { readonly kind: 'rect'; readonly from: Point; readonly to: Point }
  | { readonly kind: 'circle'; readonly centre: Point; readonly radius: number }
  | { readonly kind: 'poly'; readonly corners: readonly Point[] };

/** A part of an image that leads somewhere. */
export interface Area {
  readonly shape: Shape;
  /** What it is called: the words of its link. */
  readonly name: string;
  /** Shown while one points at it; `''` shows the name. */
  readonly tooltip: string;
  /** An address of the library or of the web; `''` leads nowhere yet. */
  readonly target: string;
  readonly inNewWindow: boolean;
}

/** The style by which a link says that it opens beside what is read. */
export const newWindowStyle = 'new-window';

/**
 * The coordinates of an area as they are written: left, top, right, bottom; centre and radius; or
 * corner after corner (DITA 1.3, coords; HTML, 4.8.14).
 */
export function coordinatesOf(shape: Shape): number[] {
  if (shape.kind === 'rect')
    return [shape.from.x, shape.from.y, shape.to.x, shape.to.y].map(Math.round);
  if (shape.kind === 'circle')
    return [shape.centre.x, shape.centre.y, shape.radius].map(Math.round);
  return shape.corners.flatMap(({ x, y }) => [Math.round(x), Math.round(y)]);
}

/** Reads a shape; undefined when the numbers do not make one. */
function shapeFrom(kind: string, coordinates: string): Shape | undefined {
  const numbers = coordinates
    .split(/[\s,]+/u)
    .filter((part) => part !== '')
    .map(Number);
  const [a, b, c, d] = numbers as [number, number, number, number];
  if (numbers.some((one) => !Number.isFinite(one))) return undefined;
  if (kind === 'rect' || kind === '')
    return numbers.length === 4
      ? {
          kind: 'rect',
          from: { x: Math.min(a, c), y: Math.min(b, d) },
          to: { x: Math.max(a, c), y: Math.max(b, d) },
        }
      : undefined;
  if (kind === 'circle')
    return numbers.length === 3 && c > 0 ? { kind, centre: { x: a, y: b }, radius: c } : undefined;
  if (kind !== 'poly' || numbers.length < 6 || numbers.length % 2 === 1) return undefined;
  return {
    kind,
    corners: Array.from({ length: numbers.length / 2 }, (_, index) => ({
      x: numbers[2 * index]!,
      y: numbers[2 * index + 1]!,
    })),
  };
}

/** Reads an `area`; undefined for one that cannot be drawn. */
export function readArea(area: Element): Area | undefined {
  const shape = shapeFrom(
    lineOf(childNamed(area, 'shape') ?? ''),
    lineOf(childNamed(area, 'coords') ?? ''),
  );
  const link = childNamed(area, 'xref');
  if (!shape) return undefined;
  const desc = link && childNamed(link, 'desc');
  return {
    shape,
    name: link
      ? lineOf({ ...link, children: link.children.filter((child) => child !== desc) })
      : '',
    tooltip: desc ? lineOf(desc) : '',
    target: link?.attributes['href'] ?? '',
    inNewWindow: stylesOf(link?.attributes ?? {}).includes(newWindowStyle),
  };
}

function writeArea({ shape, name, tooltip, target, inNewWindow }: Area, before?: Element): Element {
  const link = before && childNamed(before, 'xref');
  const { href: _href, format: _format, scope: _scope, ...kept } = link?.attributes ?? {};
  const styles = [
    ...stylesOf(kept).filter((style) => style !== newWindowStyle),
    ...(inNewWindow ? [newWindowStyle] : []),
  ];
  const outside: Attributes = /^(https?|mailto):/iu.test(target)
    ? { format: 'html', scope: 'external' }
    : {};
  const attributes = withStyles(
    { ...kept, ...(target === '' ? {} : { href: target, ...outside }) },
    styles,
  );
  return element('area', before?.attributes ?? {}, [
    element('shape', {}, [shape.kind]),
    element('coords', {}, [coordinatesOf(shape).join(',')]),
    element('xref', attributes, [
      name,
      ...(tooltip === '' ? [] : [element('desc', {}, [tooltip])]),
    ]),
  ]);
}

export interface PlacedArea extends Area {
  /** Which `area` of the image map it was; absent for a new one. */
  readonly was?: number;
}

/** The areas of an `imagemap` that can be drawn. */
export function readAreas(imagemap: Element): PlacedArea[] {
  return childElements(imagemap)
    .filter(({ name }) => name === 'area')
    .flatMap((one, was) => {
      const area = readArea(one);
      return area ? [{ ...area, was }] : [];
    });
}

/**
 * The image map with these areas. What an area carries beside what is said here stays; one that
 * could not be drawn stays as it is.
 */
export function writeAreas(imagemap: Element, areas: readonly PlacedArea[]): Element {
  const before = childElements(imagemap).filter(({ name }) => name === 'area');
  const undrawn = before.filter((one) => !readArea(one));
  const others = imagemap.children.filter((child) => !isElement(child) || child.name !== 'area');
  return {
    ...imagemap,
    children: [
      ...others,
      ...areas.map((area) =>
        writeArea(area, area.was === undefined ? undefined : before[area.was]),
      ),
      ...undrawn,
    ],
  };
}

/**
 * Where a sign for an area stands best: in the upper left of a rectangle, in the middle of a
 * circle, at the first corner of any other shape.
 */
export function signPlace(shape: Shape): Point {
  if (shape.kind === 'circle') return shape.centre;
  return shape.kind === 'rect' ? shape.from : shape.corners[0]!;
}
