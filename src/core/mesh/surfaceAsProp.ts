import { DEG, quatTurnTipRoll, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import { isOwnMesh, type Axis, type OwnMeshRef } from './meshRef';
import type { Prop } from './propSchema';
import { ownMatrix } from './surface';
import type { Surface } from './surfaceSchema';

/** The signed axis of a mesh that comes to lie along Z of the frame which its surface has. */
function towardsFront(surface: Pick<Surface, 'up'>): Axis {
  const m = ownMatrix({ up: surface.up, unitScale: 1 });
  const c = [0, 1, 2].findIndex((a) => Math.abs(m[a * 4 + 2]) > 0.5);
  return `${m[c * 4 + 2] > 0 ? '+' : '-'}${'xyz'[c]}` as Axis;
}

/**
 * A surface as a prop in its place: the same mesh, with the surface's own axes, and a peg that puts it where the surface
 * stands. @returns null for what a prop cannot be: a mesh that is made here, deformed or played
 */
export function surfaceAsProp(surface: Surface): {
  mesh: OwnMeshRef;
  lies: Pick<Prop, 'unitScale' | 'foot' | 'front' | 'up'>;
  place: { position: Vec3; rotation: Quat; scale: Vec3 };
} | null {
  const { mesh, deformers, plays, unitScale, up, position, turnDeg, tipDeg, rollDeg, size } = surface;
  if (!isOwnMesh(mesh) || deformers.length > 0 || plays) return null;
  return {
    mesh,
    lies: { unitScale, up, front: towardsFront(surface), foot: { at: 'origin' } },
    place: {
      position: [...position] as Vec3,
      rotation: quatTurnTipRoll(turnDeg * DEG, tipDeg * DEG, rollDeg * DEG),
      scale: [size, size, size],
    },
  };
}
