import { cos, sin } from '../../math/portable';
import { addScaled, cross, dot, length, normalize, sub, type Vec3 } from '../../math/vec3';
import type { MeshMaterial } from '../material';
import type { Mesh } from '../mesh';

/** Below this share of its length something has no direction. */
const HAIR = 1e-12;

/**
 * A closed tube around places that turn but little from one to the next: a ring a place, square to the way there, carried
 * on without a twist; flat at its ends, or round in a ring where it is closed.
 * @param places two at least, no two in a row the same
 */
export function closedTube(
  places: readonly Vec3[],
  radius: number,
  sides: number,
  closed: boolean,
  material: MeshMaterial,
): Mesh {
  const n = places.length;
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  let up: Vec3 | null = null;
  for (let i = 0; i < n; i++) {
    const front = tangent(
      places[i > 0 ? i - 1 : closed ? n - 1 : 0],
      places[i],
      places[i < n - 1 ? i + 1 : closed ? 0 : n - 1],
    );
    up = squareTo(front, up);
    const right = cross(front, up);
    for (let k = 0; k < sides; k++) {
      const a = (2 * Math.PI * k) / sides;
      const normal = [0, 1, 2].map((c) => up![c] * cos(a) + right[c] * sin(a));
      normals.push(...normal);
      positions.push(...normal.map((v, c) => places[i][c] + v * radius));
    }
  }
  const band = (from: number, to: number, shift: number) => {
    for (let k = 0; k < sides; k++) {
      const [a, b] = [from * sides + k, from * sides + ((k + 1) % sides)];
      const [c, d] = [to * sides + ((k + shift) % sides), to * sides + ((k + 1 + shift) % sides)];
      indices.push(a, b, c, b, d, c);
    }
  };
  for (let i = 0; i + 1 < n; i++) band(i, i + 1, 0);
  if (closed) band(n - 1, 0, nearestShift(positions, (n - 1) * sides, sides));
  else {
    cap(0, normalize(sub(places[0], places[1])), true);
    cap(n - 1, normalize(sub(places[n - 1], places[n - 2])), false);
  }
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    indices: Uint32Array.from(indices),
    groups: [{ start: 0, count: indices.length, material: 0 }],
    materials: [material],
  };

  function cap(ring: number, out: Vec3, first: boolean): void {
    const start = positions.length / 3;
    for (let k = 0; k < sides; k++) {
      const from = (ring * sides + k) * 3;
      positions.push(positions[from], positions[from + 1], positions[from + 2]);
      normals.push(...out);
    }
    positions.push(...places[ring]);
    normals.push(...out);
    for (let k = 0; k < sides; k++) {
      const [a, b] = [start + k, start + ((k + 1) % sides)];
      indices.push(...(first ? [b, a, start + sides] : [a, b, start + sides]));
    }
  }
}

/**
 * The way of the circle through three places, at the middle one; of what there is, at an end. The shorter side counts for
 * more, or rings a short way apart would tilt through each other.
 */
function tangent(before: Vec3, at: Vec3, after: Vec3): Vec3 {
  const [come, go] = [sub(at, before), sub(after, at)];
  const [l, m] = [length(come), length(go)];
  if (l === 0 || m === 0) return normalize(l === 0 ? go : come);
  return normalize(addScaled(come.map((v) => (v * m) / l) as Vec3, go, l / m));
}

/** A unit vector square to a way, as near as may be to one before; any, where there is none or it lies along. */
function squareTo(front: Vec3, before: Vec3 | null): Vec3 {
  for (const from of [before, [0, 1, 0], [1, 0, 0]] as (Vec3 | null)[]) {
    if (!from) continue;
    const left = addScaled(from, front, -dot(from, front));
    if (length(left) > 1e-3) return normalize(left);
  }
  return [0, 0, 1];
}

/** By how many corners the first ring has to be turned to lie nearest to the last. */
function nearestShift(p: readonly number[], last: number, sides: number): number {
  let [best, shift] = [Infinity, 0];
  for (let k = 0; k < sides; k++) {
    let square = 0;
    for (let c = 0; c < 3; c++) {
      const away = p[last * 3 + c] - p[k * 3 + c];
      square += away * away;
    }
    if (square < best - HAIR) [best, shift] = [square, k];
  }
  return shift;
}
