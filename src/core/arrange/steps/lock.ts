import { quatConjugate, quatMultiply, quatRotate, type Quat } from '../../math/quat';
import { add, distance, sub, type Vec3 } from '../../math/vec3';
import { placeOfPin, poseOn, turnTowards } from '../../mesh/pin';
import { pinOn } from '../../mesh/pinning';
import type { TriMesh } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import type { Misplaced } from './misplaced';
import type { HandCorrection } from './schema';

/** What a hand holds just so: in the scene, or from a place of a surface that moves. */

export type Lock = NonNullable<HandCorrection['lock']>;
/** A place of a surface's material, and how something stands as seen from there. */
export type LockOn = NonNullable<Lock['on']>;

/** How the frame of a place lies: square to the surface, from the triangle's first side. */
const BARE = { lift: 0, turnDeg: 0, lean: 1 };
/** What is farther from every surface, metres, stands on none. */
const NEAR = 0.5;

/** What something that stands there is held by: the nearest place of some surfaces; null where none is near. */
export function lockOn(
  surfaces: ReadonlyMap<string, TriMesh>,
  position: Vec3,
  rotation: Quat,
): LockOn | null {
  const pin = pinOn(surfaces, { at: position, front: [0, 0, 1], within: NEAR }, 'nearest');
  if (!pin) return null;
  const frame = poseOn(surfaces.get(pin.surface)!, pin, BARE);
  const to = quatConjugate(frame.rotation);
  return {
    pin: { ...pin, ...BARE },
    position: quatRotate(to, sub(position, frame.position)),
    rotation: quatMultiply(to, rotation),
  };
}

/**
 * Where a locked one stands now: with its material, or where it was where that is not to be found.
 * @param misplaced takes note of one that is on other faces than it was, or on none
 */
export function lockedNow(
  lock: Lock,
  slot: number,
  context: ArrangeContext,
  misplaced: Misplaced,
): { position: Vec3; rotation: Quat } {
  const { on } = lock;
  if (!on) return lock;
  const { surface } = on.pin;
  const triMesh = context.surface?.(surface);
  const place = triMesh && placeOfPin(on.pin, lock.position, triMesh);
  if (!place) {
    misplaced.isLost(surface, slot);
    return lock;
  }
  // Another face has another first side: then the frame is turned as it lay.
  const lay = quatMultiply(lock.rotation, quatConjugate(on.rotation));
  const turnDeg = place === on.pin ? 0 : turnTowards(triMesh, place, 1, quatRotate(lay, [0, 0, 1]));
  const frame = poseOn(triMesh, place, { ...BARE, turnDeg });
  const position = add(frame.position, quatRotate(frame.rotation, on.position));
  if (place !== on.pin) misplaced.foundAgain(surface, slot, distance(position, lock.position));
  return { position, rotation: quatMultiply(frame.rotation, on.rotation) };
}

/** The surfaces that locked ones are held to. */
export const surfacesOfLocks = (hand: Record<string, HandCorrection>): string[] => [
  ...new Set(Object.values(hand).flatMap(({ lock }) => (lock?.on ? [lock.on.pin.surface] : []))),
];
