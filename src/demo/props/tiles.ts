import { cos, sin } from '@/core/math/portable';
import type { Vec3 } from '@/core/math/vec3';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';

/** What is laid on walls, roofs and hulls. They lie flat: Y away from the surface, Z up it, the origin on it. */

/** A plate of an outline (x to the left, z up, counter-clockwise from above), thicker at its lower end. */
function plate(
  s: Shape,
  outline: [number, number][],
  thick: (z: number) => number,
  top: string,
  side: string,
): void {
  const n = outline.length;
  const high = ([x, z]: [number, number]): Vec3 => [x, thick(z), z];
  const low = ([x, z]: [number, number]): Vec3 => [x, 0, z];
  // Strips across: long plates bend without long thin faces.
  s.face(outline.map(high), top);
  s.face([...outline].reverse().map(low), side);
  outline.forEach((p, i) => {
    const q = outline[(i + 1) % n];
    s.face([low(p), low(q), high(q), high(p)], side);
  });
}

/** A roof or wall tile with a round lower end. */
export function scallopTile(): Mesh {
  const s = new Shape();
  const [r, top] = [0.17, 0.27];
  // From above, X to the right and Z down the page, this order runs counter-clockwise.
  const outline: [number, number][] = [
    [-r, top],
    [r, top],
  ];
  const steps = 12;
  for (let k = 0; k <= steps; k++) {
    const a = (Math.PI * k) / steps;
    outline.push([r * cos(a), -r * 0.95 * sin(a) - 0.02]);
  }
  plate(s, outline, (z) => 0.032 - 0.055 * (z + 0.2), C.madder, C.wood);
  return s.mesh();
}

/** A wooden shingle, a little narrower at its top. */
export function shingle(): Mesh {
  const s = new Shape();
  const outline: [number, number][] = [
    [-0.125, 0.24],
    [0.125, 0.24],
    [0.135, -0.18],
    [-0.135, -0.18],
  ];
  plate(s, outline, (z) => 0.026 - 0.045 * (z + 0.18), C.paleWood, C.wood);
  return s.mesh();
}

/** A lozenge as deep as a wall is thick: what pierces it. */
export function lozenge(): Mesh {
  const s = new Shape();
  const outline: [number, number][] = [
    [0.2, 0],
    [0, -0.3],
    [-0.2, 0],
    [0, 0.3],
  ];
  plate(s, outline, () => 0.9, C.paleWood, C.wood);
  return s.mesh();
}

/** A compass rose in a ring, raised a little: an emblem for a hull or a wall. */
export function emblem(): Mesh {
  const s = new Shape();
  const ring = 48;
  const at = (r: number, k: number, n: number, y: number): Vec3 => {
    const a = (2 * Math.PI * k) / n;
    return [r * sin(a), y, r * cos(a)];
  };
  for (let k = 0; k < ring; k++) {
    const wall = (r: number, out: boolean) => {
      const q = [at(r, k, ring, 0), at(r, k + 1, ring, 0), at(r, k + 1, ring, 0.03), at(r, k, ring, 0.03)];
      s.face(out ? q : q.reverse(), C.weld);
    };
    s.face(
      [
        at(0.5, k, ring, 0.03),
        at(0.6, k, ring, 0.03),
        at(0.6, k + 1, ring, 0.03),
        at(0.5, k + 1, ring, 0.03),
      ],
      C.weld,
    );
    wall(0.6, true);
    wall(0.5, false);
  }
  for (let k = 0; k < 8; k++) {
    const long = k % 2 === 0 ? 0.48 : 0.3;
    const tip = at(long, k, 8, 0.012);
    const [left, right] = [at(0.17, k + 0.5, 8, 0.012), at(0.17, k - 0.5, 8, 0.012)];
    const middle: Vec3 = [0, 0.05, 0];
    s.face([middle, tip, left], k % 2 === 0 ? C.linen : C.woad);
    s.face([middle, right, tip], k % 2 === 0 ? C.woad : C.linen);
  }
  return s.mesh();
}
