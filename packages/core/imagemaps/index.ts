/**
 * Areas of images that lead somewhere.
 * In: an `imagemap` element; out: its areas as shapes with a name and a target, the element with
 * other areas, and areas that lie over one another.
 */
export {
  coordinatesOf,
  newWindowStyle,
  readArea,
  readAreas,
  signPlace,
  writeAreas,
  type Area,
  type PlacedArea,
  type Point,
  type Shape,
} from './area.ts';
export { checkImageMaps, outlineOf, overlap } from './overlap.ts';
