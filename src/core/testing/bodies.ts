import { makeMesh } from '../mesh/make';
import { shapeSchema } from '../mesh/make/schema';
import type { PlacedMesh } from '../mesh/merged';
import type { Mesh } from '../mesh/mesh';

/** Meshes as bodies, for tests. */

/** The mesh of a shape that needs no path. */
export function madeMesh(settings: object): Mesh {
  const mesh = makeMesh(shapeSchema.parse(settings), '#D8CDB6', { path: () => undefined });
  if (typeof mesh === 'string') throw new Error(mesh);
  return mesh;
}

/** A box without rounded edges, its base at the origin or its middle, as the shape has it. */
export const boxMesh = (width: number, height: number, depth: number): Mesh =>
  madeMesh({ shape: 'box', width, height, depth, fillet: 0 });

export const placedAt = (mesh: Mesh, x = 0, y = 0, z = 0, of = 'it'): PlacedMesh => ({
  mesh,
  matrix: Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1),
  wears: undefined,
  of,
});

/** Closed as a file for printing asks it: corners compared to the last bit, each way along an edge gone back as often. */
export function exactlyClosed({ positions, indices }: Pick<Mesh, 'positions' | 'indices'>): boolean {
  const corner = (i: number) => positions.subarray(indices[i] * 3, indices[i] * 3 + 3).join(' ');
  const ways = new Map<string, number>();
  for (let i = 0; i < indices.length; i++) {
    const [a, b] = [corner(i), corner(i % 3 === 2 ? i - 2 : i + 1)];
    if (a === b) continue;
    ways.set(`${a}|${b}`, (ways.get(`${a}|${b}`) ?? 0) + 1);
    ways.set(`${b}|${a}`, (ways.get(`${b}|${a}`) ?? 0) - 1);
  }
  return [...ways.values()].every((n) => n === 0);
}

/** What work comes to in the end. */
export function drained<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const next = work.next();
    if (next.done) return next.value;
  }
}
