import { isElement, walk, type Element } from '../markup/index.ts';
import { problem, type Problem } from '../problems/index.ts';
import { readArea, type Point, type Shape } from './area.ts';

/** A circle counts as a polygon of this many sides. */
const sides = 32;

export function outlineOf(shape: Shape): readonly Point[] {
  if (shape.kind === 'poly') return shape.corners;
  if (shape.kind === 'rect')
    return [
      shape.from,
      { x: shape.to.x, y: shape.from.y },
      shape.to,
      { x: shape.from.x, y: shape.to.y },
    ];
  const { centre, radius } = shape;
  return Array.from({ length: sides }, (_, index) => {
    const angle = (2 * Math.PI * index) / sides;
    return { x: centre.x + radius * Math.cos(angle), y: centre.y + radius * Math.sin(angle) };
  });
}

const edgesOf = (corners: readonly Point[]): (readonly [Point, Point])[] =>
  corners.map((corner, index) => [corner, corners[(index + 1) % corners.length]!]);
/** On which side of a line a point lies. */
const side = (a: Point, b: Point, c: Point): number =>
  Math.sign((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x));
const cross = ([a, b]: readonly [Point, Point], [c, d]: readonly [Point, Point]): boolean =>
  side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;

/** Whether a point lies inside an outline: a ray from it crosses an odd number of edges. */
function holds(corners: readonly Point[], { x, y }: Point): boolean {
  return edgesOf(corners).reduce(
    (inside, [a, b]) =>
      a.y > y !== b.y > y && x < ((b.x - a.x) * (y - a.y)) / (b.y - a.y) + a.x ? !inside : inside,
    false,
  );
}
const middleOf = (corners: readonly Point[]): Point => ({
  x: corners.reduce((sum, { x }) => sum + x, 0) / corners.length,
  y: corners.reduce((sum, { y }) => sum + y, 0) / corners.length,
});

/** Whether two shapes share more than an edge. */
export function overlap(a: Shape, b: Shape): boolean {
  const [one, two] = [outlineOf(a), outlineOf(b)];
  if (edgesOf(one).some((edge) => edgesOf(two).some((other) => cross(edge, other)))) return true;
  // No edges cross: one lies wholly inside the other, or they lie apart.
  return holds(two, middleOf(one)) || holds(one, middleOf(two));
}

/**
 * Areas of image maps that cannot be drawn, and those that lie over one another: a reader would
 * reach only the first.
 * @returns problems `imagemap.shape` and `imagemap.overlap`, each with the path of its area
 */
export function checkImageMaps(root: Element): Problem[] {
  const problems: Problem[] = [];
  walk(root, (found, path) => {
    if (found.name !== 'imagemap') return;
    const before: { name: string; shape: Shape }[] = [];
    for (const [index, child] of found.children.entries()) {
      if (!isElement(child) || child.name !== 'area') continue;
      const where = { path: [...path, index] };
      const area = readArea(child);
      if (!area) {
        problems.push(
          problem('error', 'imagemap.shape', 'The numbers of this area make no shape.', where),
        );
        continue;
      }
      const other = before.find(({ shape }) => overlap(shape, area.shape));
      if (other)
        problems.push(
          problem(
            'warning',
            'imagemap.overlap',
            `The area “${area.name}” lies over “${other.name}”.`,
            where,
          ),
        );
      before.push({ name: area.name, shape: area.shape });
    }
  });
  return problems;
}
