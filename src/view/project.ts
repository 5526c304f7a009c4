import { Camera, Plane, Raycaster, Vector2, Vector3 } from 'three';
import type { Vec3 } from '@/core/math/vec3';
import type { ViewHandle } from '@/view/handle';

/** Between the scene's metres and the screen's pixels. Pixels count from the view's top left corner. */

export interface ScreenPoint {
  x: number;
  y: number;
  /** Whether it is in front of the camera. */
  ahead: boolean;
}

const scratch = new Vector3();

export function toScreen(view: ViewHandle, p: readonly number[]): ScreenPoint {
  scratch.set(p[0], p[1], p[2]).project(view.camera);
  return {
    x: ((scratch.x + 1) / 2) * view.size.width,
    y: ((1 - scratch.y) / 2) * view.size.height,
    ahead: scratch.z > -1 && scratch.z < 1,
  };
}

/** The ray through a pixel. */
export function rayAt(view: ViewHandle, x: number, y: number): Raycaster {
  const ray = new Raycaster();
  (ray as Raycaster & { firstHitOnly: boolean }).firstHitOnly = true;
  // What is drawn as points is met as what it is.
  ray.layers.enableAll();
  const at = new Vector2((x / view.size.width) * 2 - 1, 1 - (y / view.size.height) * 2);
  ray.setFromCamera(at, view.camera as never);
  return ray;
}

/** Where the ray through a pixel meets a plane; null where it runs along it or points away. */
export function onPlane(view: ViewHandle, x: number, y: number, normal: Vec3, through: Vec3): Vec3 | null {
  const { ray } = rayAt(view, x, y);
  const plane = new Plane().setFromNormalAndCoplanarPoint(new Vector3(...normal), new Vector3(...through));
  const hit = ray.intersectPlane(plane, new Vector3());
  return hit ? [hit.x, hit.y, hit.z] : null;
}

/** The direction in which the camera looks. */
export function viewNormal(camera: Camera): Vec3 {
  const d = camera.getWorldDirection(new Vector3());
  return [d.x, d.y, d.z];
}

/** How far along `axis` from `start` the pixel is: the place on the axis's line nearest to the pixel's ray. */
export function alongAxis(view: ViewHandle, x: number, y: number, start: Vec3, axis: Vec3): number | null {
  const { origin, direction } = rayAt(view, x, y).ray;
  const w = [start[0] - origin.x, start[1] - origin.y, start[2] - origin.z];
  const d = [direction.x, direction.y, direction.z];
  const dot = (a: ArrayLike<number>, b: ArrayLike<number>) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  const b = dot(axis, d);
  const denominator = 1 - b * b;
  if (denominator < 1e-6) return null;
  return (b * dot(d, w) - dot(axis, w)) / denominator;
}

/** Metres that one pixel covers at a place. */
export function metresPerPixel(view: ViewHandle, p: readonly number[]): number {
  const camera = view.camera as Camera & {
    isOrthographicCamera?: boolean;
    top: number;
    bottom: number;
    zoom: number;
    fov: number;
  };
  if (camera.isOrthographicCamera) return (camera.top - camera.bottom) / camera.zoom / view.size.height;
  const forward = camera.getWorldDirection(new Vector3());
  const depth = new Vector3(p[0], p[1], p[2]).sub(camera.position).dot(forward);
  return (2 * Math.max(0.01, depth) * Math.tan((camera.fov * Math.PI) / 360)) / view.size.height;
}

export interface Polyline {
  position: ArrayLike<number>;
  s: ArrayLike<number>;
}

/** Nearest place of a polyline to a pixel, measured on the screen. */
export function nearestOnScreen(
  view: ViewHandle,
  line: Polyline,
  x: number,
  y: number,
): { s: number; pixels: number } {
  let best = { s: 0, pixels: Infinity };
  let last: ScreenPoint | null = null;
  for (let i = 0; i < line.s.length; i++) {
    const p = toScreen(view, [line.position[i * 3], line.position[i * 3 + 1], line.position[i * 3 + 2]]);
    if (last && last.ahead && p.ahead) {
      const [dx, dy] = [p.x - last.x, p.y - last.y];
      const l2 = dx * dx + dy * dy;
      const u = l2 > 0 ? Math.min(1, Math.max(0, ((x - last.x) * dx + (y - last.y) * dy) / l2)) : 0;
      const pixels = Math.hypot(last.x + u * dx - x, last.y + u * dy - y);
      if (pixels < best.pixels) best = { s: line.s[i - 1] + u * (line.s[i] - line.s[i - 1]), pixels };
    }
    last = p;
  }
  return best;
}
