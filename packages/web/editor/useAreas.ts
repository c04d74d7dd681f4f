import type { PlacedArea, Point, Shape } from '@ukiyo/core/imagemaps';
import { overlap, readAreas } from '@ukiyo/core/imagemaps';
import type { Element } from '@ukiyo/core/markup';
import { computed, ref, shallowRef, type Ref } from 'vue';

export type Tool = 'choose' | Shape['kind'];

const smallest = 4;
/** A polygon is closed by a click this near to its first corner. */
const closing = 10;

export function moved(shape: Shape, dx: number, dy: number): Shape {
  const at = ({ x, y }: Point): Point => ({ x: x + dx, y: y + dy });
  if (shape.kind === 'rect') return { ...shape, from: at(shape.from), to: at(shape.to) };
  if (shape.kind === 'circle') return { ...shape, centre: at(shape.centre) };
  return { ...shape, corners: shape.corners.map(at) };
}
/**
 * Points by which a shape is pulled larger or smaller, and what it becomes when one is pulled
 * somewhere.
 */
export function handlesOf(
  shape: Shape,
): { readonly at: Point; readonly pulled: (to: Point) => Shape }[] {
  if (shape.kind === 'circle') {
    const { centre, radius } = shape;
    return [
      {
        at: { x: centre.x + radius, y: centre.y },
        pulled: (to) => ({
          ...shape,
          radius: Math.max(smallest, Math.hypot(to.x - centre.x, to.y - centre.y)),
        }),
      },
    ];
  }
  if (shape.kind === 'poly')
    return shape.corners.map((at, index) => ({
      at,
      pulled: (to) => ({ ...shape, corners: shape.corners.with(index, to) }),
    }));
  const { from, to } = shape;
  return [
    { at: from, pulled: (at) => between(at, to) },
    { at: to, pulled: (at) => between(from, at) },
    {
      at: { x: to.x, y: from.y },
      pulled: (at) => between({ x: from.x, y: at.y }, { x: at.x, y: to.y }),
    },
    {
      at: { x: from.x, y: to.y },
      pulled: (at) => between({ x: at.x, y: from.y }, { x: to.x, y: at.y }),
    },
  ];
}
/** The rectangle that has these two corners. */
const between = (a: Point, b: Point): Shape => ({
  kind: 'rect',
  from: { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y) },
  to: { x: Math.max(a.x, b.x), y: Math.max(a.y, b.y) },
});
const isLargeEnough = (shape: Shape): boolean =>
  shape.kind === 'circle'
    ? shape.radius >= smallest
    : shape.kind === 'rect'
      ? shape.to.x - shape.from.x >= smallest && shape.to.y - shape.from.y >= smallest
      : shape.corners.length >= 3;

/** A shape in the middle of an image, to be moved from there. */
function inMiddle(kind: Shape['kind'], size: Size): Shape {
  const [x, y] = [size.width / 2, size.height / 2];
  const reach = Math.min(size.width, size.height) / 8;
  if (kind === 'circle') return { kind, centre: { x, y }, radius: reach };
  if (kind === 'rect')
    return { kind, from: { x: x - reach, y: y - reach }, to: { x: x + reach, y: y + reach } };
  return {
    kind,
    corners: [
      { x, y: y - reach },
      { x: x + reach, y: y + reach },
      { x: x - reach, y: y + reach },
    ],
  };
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A shape while it is drawn: not an area yet. @param made is given what is finished */
function useDrawing(tool: Ref<Tool>, made: (shape: Shape) => void) {
  const drawing = shallowRef<Shape>();
  function finish(): void {
    const shape = drawing.value;
    drawing.value = undefined;
    if (shape) made(shape);
  }
  /**
   * A press begins a shape; corners of a polygon come one by one.
   * @returns false where the tool draws nothing
   */
  function press(at: Point): boolean {
    if (tool.value === 'rect') drawing.value = { kind: 'rect', from: at, to: at };
    else if (tool.value === 'circle') drawing.value = { kind: 'circle', centre: at, radius: 0 };
    else if (tool.value === 'poly') {
      const corners = drawing.value?.kind === 'poly' ? drawing.value.corners : [];
      const [first] = corners;
      if (first && corners.length >= 3 && Math.hypot(first.x - at.x, first.y - at.y) <= closing)
        finish();
      else drawing.value = { kind: 'poly', corners: [...corners, at] };
    } else return false;
    return true;
  }
  function draw(start: Point, at: Point): void {
    if (drawing.value?.kind === 'rect') drawing.value = between(start, at);
    else if (drawing.value?.kind === 'circle')
      drawing.value = { ...drawing.value, radius: Math.hypot(at.x - start.x, at.y - start.y) };
  }
  return { drawing, press, draw, finish };
}

/** The areas of one image map while they are drawn, moved and named. */
export function useAreas(imagemap: Element, size: Size) {
  const areas = shallowRef<readonly PlacedArea[]>(readAreas(imagemap));
  const chosen = ref(areas.value.length > 0 ? 0 : -1);
  const tool = ref<Tool>(areas.value.length > 0 ? 'choose' : 'rect');
  const { drawing, press, draw, finish } = useDrawing(tool, add);
  const current = computed(() => areas.value[chosen.value]);
  const overlaps = computed(() =>
    areas.value.map(
      ({ shape }, index) =>
        areas.value.slice(0, index).find((other) => overlap(other.shape, shape))?.name,
    ),
  );

  function add(shape: Shape): void {
    if (!isLargeEnough(shape)) return;
    const name = `Area ${areas.value.length + 1}`;
    areas.value = [...areas.value, { shape, name, tooltip: '', target: '', inNewWindow: false }];
    chosen.value = areas.value.length - 1;
    tool.value = 'choose';
  }
  function change(index: number, part: Partial<PlacedArea>): void {
    const area = areas.value[index];
    if (area) areas.value = areas.value.with(index, { ...area, ...part });
  }
  function remove(index: number): void {
    areas.value = areas.value.toSpliced(index, 1);
    chosen.value = Math.min(index, areas.value.length - 1);
  }
  /** Arrows move the chosen area; with Shift they pull its last handle. */
  function nudge(dx: number, dy: number, isPull: boolean): void {
    const area = current.value;
    if (!area) return;
    const handle = handlesOf(area.shape)[area.shape.kind === 'rect' ? 1 : 0]!;
    change(chosen.value, {
      shape: isPull
        ? handle.pulled({ x: handle.at.x + dx, y: handle.at.y + dy })
        : moved(area.shape, dx, dy),
    });
  }
  return {
    areas,
    chosen,
    current,
    tool,
    drawing,
    overlaps,
    change,
    remove,
    nudge,
    draw,
    finish,
    /** For those who draw by keys. */
    addInMiddle: (kind: Shape['kind']) => add(inMiddle(kind, size)),
    /** A press on the image where no area is. */
    begin: (at: Point) => {
      if (!press(at)) chosen.value = -1;
    },
  };
}
