import { OrthographicCamera, PerspectiveCamera } from 'three';
import { fovOf } from '../framing';
import type { Lens } from '../develop/lens';
import type { StillSpec } from './spec';

/** The camera of a still picture. */

const NEAR = 0.1;
const FAR = 1200;
/** Seen straight on, things behind the eye are seen too: it only says from which side. */
const BEHIND = -1000;
const BEFORE = 3000;

/** Where a picture is seen from. */
export function eyeOf({ from, width, height }: StillSpec): PerspectiveCamera | OrthographicCamera {
  const { straight } = from;
  const half = (straight?.high ?? 0) / 2;
  const wide = (half * width) / height;
  const camera = straight
    ? new OrthographicCamera(-wide, wide, half, -half, BEHIND, BEFORE)
    : new PerspectiveCamera(fovOf(from.focal), width / height, NEAR, FAR);
  if (straight) camera.up.set(...straight.up);
  camera.position.set(...from.eye);
  camera.lookAt(...from.aim);
  camera.updateMatrixWorld();
  return camera;
}

/** The lens of a viewpoint; null where all is sharp. Its frame is 24 mm high. */
export const lensOf = ({ focal, focus }: StillSpec['from']): Lens | null =>
  focus && { distance: focus.distance, radius: focal / 1000 / 2 / focus.aperture };
