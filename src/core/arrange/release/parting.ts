import type { RigidBody, World } from '@dimforge/rapier3d-deterministic-compat';

/** Moves what comes to rest out of what it was pressed into. */

/** What reaches less than this share of a thing's size into it has not been pressed. */
const PRESSED = 0.01;
/** Moves, at most: among several each may bring it nearer to another one. */
const MOVES = 16;
const NOWHERE = { x: 0, y: 0, z: 0 };

/**
 * A solver gives way a little between two that lie, and what lies does not move any more. So it is moved, without a step
 * of time, each time out of the deepest, as long as that makes the deepest less deep.
 * @param size of the body, metres
 * @returns how deep it still is in something, metres; 1 % of its size counts as not at all
 */
export function partFrom(world: World, body: RigidBody, size: number): number {
  let now = deepestOf(world, body, PRESSED * size);
  for (let k = 0; k < MOVES && now.depth > PRESSED * size; k++) {
    const { x, y, z } = body.translation();
    const { normal: n, depth } = now;
    body.setTranslation({ x: x - n.x * depth, y: y - n.y * depth, z: z - n.z * depth }, false);
    world.propagateModifiedBodyPositionsToColliders();
    now = deepestOf(world, body, PRESSED * size);
    if (now.depth >= depth) break;
  }
  return now.depth;
}

/** What a body is deepest in of all that it is in touch with, by where they are now. @param least less is nothing */
function deepestOf(world: World, body: RigidBody, least: number) {
  let found = { depth: least, normal: NOWHERE };
  for (let i = 0; i < body.numColliders(); i++) {
    const own = body.collider(i);
    world.contactPairsWith(own, (other) => {
      const met = own.contactCollider(other, 0);
      if (met && -met.distance > found.depth) found = { depth: -met.distance, normal: met.normal1 };
    });
  }
  return found;
}
