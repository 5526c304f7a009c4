import { Vector3, type OrthographicCamera, type PerspectiveCamera } from 'three';
import { onDisc } from './samples';

/** A lens that is not a point: what is nearer or farther than its plane of focus becomes blurred over the frames. */
export interface Lens {
  /** Metres to the plane that is sharp. */
  distance: number;
  /** Of the opening, metres: focal length over twice the f-number. */
  radius: number;
}

const [right, up, back] = [new Vector3(), new Vector3(), new Vector3()];

/**
 * Does something with the camera at the n-th place of its lens. Whoever draws shifts the picture by as many pixels as it
 * is told, so that the plane of focus stays where it is.
 * @param height of the whole picture, pixels
 */
export function throughLens(
  lens: Lens | null,
  camera: PerspectiveCamera | OrthographicCamera,
  height: number,
  n: number,
  work: (shift: [number, number]) => void,
): void {
  if (!lens || !('fov' in camera)) return work([0, 0]);
  const [x, y] = onDisc(n, [0, 0, 0], [0, 0, 1], lens.radius);
  const was = camera.position.clone();
  camera.matrixWorld.extractBasis(right, up, back);
  // A disc that looks along z has x to its right and y up.
  camera.position.addScaledVector(right, x).addScaledVector(up, y);
  camera.updateMatrixWorld();
  const pixels = height / (2 * lens.distance * Math.tan((camera.fov * Math.PI) / 360));
  work([-x * pixels, y * pixels]);
  camera.position.copy(was);
  camera.updateMatrixWorld();
}
