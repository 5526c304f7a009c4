import { cos, sin } from '../../math/portable';
import { plainMaterial } from '../material';
import type { Mesh } from '../mesh';
import type { LineMesh } from '../meshRef';

/** What lines are made of: a tube, or a rope of twisted strands. Its front axis, +z, goes along the line. */

/** Rings in one lay of a rope: it is cut finer where it bends. */
const RINGS = 12;
/** Rings of a round end. */
const END = 4;

type Ring = { x: number; y: number; z: number; r: number }[];

/** Meshes that were made lately, so that the same numbers give the same mesh. */
const kept = new Map<string, Mesh>();
const MOST_KEPT = 64;

/**
 * The mesh of a line's body. One strand is a tube a metre long with round ends, to be stretched along a line; more are one
 * lay of a rope, in which they go round once, to be repeated: behind itself it goes on without a seam. Strands touch their
 * neighbours; the whole of it is as thick as asked, and closed.
 */
export function lineMesh(line: LineMesh): Mesh {
  const key = JSON.stringify(line);
  const have = kept.get(key);
  if (have) return have;
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  const made = line.strands === 1 ? tube(line) : rope(line);
  kept.set(key, made);
  return made;
}

/** How thick each strand is for a rope of a radius, and how far its middle is from that of the rope. */
function strandOf(radius: number, strands: number): { radius: number; away: number } {
  if (strands === 1) return { radius, away: 0 };
  const half = sin(Math.PI / strands);
  const away = radius / (1 + half);
  return { radius: away * half, away };
}

function tube({ radius, sides, color }: LineMesh): Mesh {
  // Its ends are half balls, but no longer than a quarter of the metre that it is.
  const end = Math.min(radius, 0.25);
  const cap = Array.from({ length: END }, (_, k) => {
    const a = (k * Math.PI) / (2 * END);
    return { x: 0, y: 0, z: end * (1 - cos(a)), r: radius * sin(a) };
  });
  const near = [...cap, { x: 0, y: 0, z: end, r: radius }];
  return meshOf([[...near, ...near.toReversed().map((ring) => ({ ...ring, z: 1 - ring.z }))]], sides, color);
}

function rope({ radius, strands, lay, sides, color }: LineMesh): Mesh {
  const one = strandOf(radius, strands);
  return meshOf(
    Array.from({ length: strands }, (_, s): Ring =>
      Array.from({ length: RINGS + 1 }, (__, i) => {
        // A whole turn ends on the very place that it began with.
        const a = 2 * Math.PI * (s / strands + (i % RINGS) / RINGS);
        return { x: one.away * cos(a), y: one.away * sin(a), z: (lay * i) / RINGS, r: one.radius };
      }),
    ),
    sides,
    color,
  );
}

/** Closed tubes through rings that lie square to z. */
function meshOf(tubes: Ring[], sides: number, color: string): Mesh {
  const count = tubes.reduce((sum, rings) => sum + rings.length * sides + 2, 0);
  const positions = new Float32Array(count * 3);
  const normals = new Float32Array(count * 3);
  const indices: number[] = [];
  let v = 0;
  const put = (x: number, y: number, z: number, normal: readonly number[]): number => {
    positions.set([x, y, z], v * 3);
    normals.set(normal, v * 3);
    return v++;
  };
  for (const rings of tubes) {
    const first = v;
    rings.forEach(({ x, y, z, r }, i) => {
      // Round ends are shaded as balls are; a rope's ends lie against the next lay.
      const [before, after] = [rings[Math.max(0, i - 1)], rings[Math.min(rings.length - 1, i + 1)]];
      const [along, in_] = [after.z - before.z, before.r - after.r];
      const l = Math.sqrt(along * along + in_ * in_) || 1;
      for (let k = 0; k < sides; k++) {
        const a = (2 * Math.PI * k) / sides;
        const [c, s] = [cos(a), sin(a)];
        put(x + r * c, y + r * s, z, [(c * along) / l, (s * along) / l, in_ / l]);
      }
    });
    const [start, end] = [rings[0], rings[rings.length - 1]];
    const [low, high] = [put(start.x, start.y, start.z, [0, 0, -1]), put(end.x, end.y, end.z, [0, 0, 1])];
    const last = first + (rings.length - 1) * sides;
    for (let k = 0; k < sides; k++) {
      const next = (k + 1) % sides;
      indices.push(low, first + next, first + k, high, last + k, last + next);
      for (let o = first; o < last; o += sides)
        indices.push(o + k, o + next, o + sides + next, o + k, o + sides + next, o + sides + k);
    }
  }
  return {
    positions,
    normals,
    indices: Uint32Array.from(indices),
    groups: [{ start: 0, count: indices.length, material: 0 }],
    materials: [plainMaterial('line', color, false)],
  };
}
