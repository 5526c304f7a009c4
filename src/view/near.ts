import { Box3, Frustum, Matrix4 } from 'three';
import type { ViewHandle } from './handle';

/** Leaves out what cannot be near a pixel, many at a time: a pointer among a hundred thousand props looks at few. */

const square = new Matrix4();
const seen = new Matrix4();

/**
 * What of space is seen within so many pixels of a pixel: a narrow pyramid, a beam where the view has no perspective.
 * @param x pixels from the view's left @param y pixels from its top
 */
export function pickFrustum(view: ViewHandle, x: number, y: number, pixels: number): Frustum {
  const { camera, size } = view;
  // The square around the pixel takes the place of the whole view.
  const [sx, sy] = [size.width / 2 / pixels, size.height / 2 / pixels];
  const [cx, cy] = [(x / size.width) * 2 - 1, 1 - (y / size.height) * 2];
  square.set(sx, 0, 0, -cx * sx, 0, sy, 0, -cy * sy, 0, 0, 1, 0, 0, 0, 0, 1);
  seen.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse).premultiply(square);
  return new Frustum().setFromProjectionMatrix(seen);
}

/** Places one behind the other that share a box. */
const SHARE = 16;

/** Boxes around stretches of a list, and one around all of it. */
interface Boxes {
  all: Box3;
  parts: Box3[];
}

const known = new WeakMap<ArrayLike<number>, Boxes>();

/** Boxes around each so many places of a list, each with the first of the next. */
function boxesOf(places: ArrayLike<number>): Boxes {
  let boxes = known.get(places);
  if (boxes) return boxes;
  const parts: Box3[] = [];
  const n = Math.floor(places.length / 3);
  for (let start = 0; start < n; start += SHARE) {
    const box = new Box3();
    const { min, max } = box;
    // A line goes on to the next box without a hole.
    for (let i = start * 3; i <= Math.min(start + SHARE, n - 1) * 3; i += 3) {
      min.set(Math.min(min.x, places[i]), Math.min(min.y, places[i + 1]), Math.min(min.z, places[i + 2]));
      max.set(Math.max(max.x, places[i]), Math.max(max.y, places[i + 1]), Math.max(max.z, places[i + 2]));
    }
    parts.push(box);
  }
  boxes = { all: parts.reduce((all, box) => all.union(box), new Box3()), parts };
  known.set(places, boxes);
  return boxes;
}

/**
 * Whether anything of a line may be within what a pixel means; often true of what is not, never false of what is.
 * @param within as of {@link pickFrustum}
 * @param places xyz each, never written over
 */
export function mayBeNear(within: Frustum, places: ArrayLike<number>): boolean {
  const { all, parts } = boxesOf(places);
  return within.intersectsBox(all) && parts.some((box) => within.intersectsBox(box));
}

/** Calls `visit` with the number of every place that may be near, and of some that are not. */
export function eachNear(within: Frustum, places: ArrayLike<number>, visit: (i: number) => void): void {
  const { all, parts } = boxesOf(places);
  if (!within.intersectsBox(all)) return;
  parts.forEach((box, b) => {
    if (!within.intersectsBox(box)) return;
    const end = Math.min((b + 1) * SHARE, places.length / 3);
    for (let i = b * SHARE; i < end; i++) visit(i);
  });
}
