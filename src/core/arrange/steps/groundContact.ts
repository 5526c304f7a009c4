import type { Vec3 } from '../../math/vec3';
import { buildBvh } from '../../mesh/bvh';
import { Fall } from '../../mesh/contact/fall';
import type { Resting } from '../../mesh/contact/rests';
import type { PropShape } from '../../mesh/contact/support';
import type { TriMesh } from '../../mesh/triMesh';
import type { Placements } from '../result';

/** Which of a prop touches the ground, when, and how it comes to rest. */

/** Rows of the 3 × 3 matrix that turns and sizes the prop of a row about its foot. */
export function matrixOf(
  { rotation, scale }: Placements,
  row: number,
  out = new Float64Array(9),
): Float64Array {
  const x = rotation[row * 4];
  const y = rotation[row * 4 + 1];
  const z = rotation[row * 4 + 2];
  const w = rotation[row * 4 + 3];
  const sx = scale[row * 3];
  const sy = scale[row * 3 + 1];
  const sz = scale[row * 3 + 2];
  out[0] = (1 - 2 * (y * y + z * z)) * sx;
  out[1] = 2 * (x * y - z * w) * sy;
  out[2] = 2 * (x * z + y * w) * sz;
  out[3] = 2 * (x * y + z * w) * sx;
  out[4] = (1 - 2 * (x * x + z * z)) * sy;
  out[5] = 2 * (y * z - x * w) * sz;
  out[6] = 2 * (x * z - y * w) * sx;
  out[7] = 2 * (y * z + x * w) * sy;
  out[8] = (1 - 2 * (x * x + y * y)) * sz;
  return out;
}

/** What props fall onto: its triangles, and how they are asked. */
export interface Footing {
  fall: Fall;
  triMeshes: readonly Pick<TriMesh, 'tree'>[];
}

/** The surfaces as a footing. */
export const footingOf = (triMeshes: readonly TriMesh[]): Footing => ({
  fall: new Fall(triMeshes.map((t) => t.tree())),
  triMeshes,
});

/** The level floor under something that reaches no further from `at`. @param reach metres */
export function floorUnder(at: Vec3, reach: number): Footing {
  const r = Math.max(4 * reach, 1e-3);
  const corner = (x: number, z: number) => [at[0] + x * r, at[1], at[2] + z * r];
  const tree = buildBvh(
    Float64Array.from([...corner(-1, -1), ...corner(-1, 1), ...corner(1, 1), ...corner(1, -1)]),
    Uint32Array.of(0, 1, 2, 0, 2, 3),
  );
  return { fall: new Fall([tree]), triMeshes: [{ tree: () => tree }] };
}

/** Where something meets the ground. */
export interface Met {
  at: Vec3;
  /** The way that it was looked for, unit. */
  direction: Vec3;
  /** Absent where only the foot touches. */
  footing?: Footing;
  /** Unit: what it leans to. */
  normal: Vec3;
  /** Unit, of the ground there. */
  ground: Vec3;
  /** What was found where many came to rest together, as {@link FOUND} says. */
  found?: Float64Array;
}

/** The pose whose room was found: nine numbers. */
export const foundPose = (found: Float64Array): Float64Array => found.subarray(3, 12);

/** A row as it is to come to rest; its matrix is good until the next is asked for. */
export const restingRow = (
  out: Placements,
  row: number,
  at: Vec3,
  d: Vec3,
  up: Vec3,
  slope: Vec3,
): Resting => ({
  m: matrixOf(out, row, upright),
  size: sizeOf(out, row),
  ...{ at, d, up, slope },
});

/**
 * How far along `d` the prop of a row goes from where its foot is `at`, until it touches.
 * @param normal unit, of the ground about there @param known what a job has found of it
 */
export function dropOf(
  { fall }: Footing,
  shape: PropShape,
  out: Placements,
  row: number,
  at: Vec3,
  d: Vec3,
  normal: Vec3,
  known?: Float64Array,
): number {
  fall.from(at, d, normal);
  const faller = shape.faller();
  if (known) fall.learn(faller, foundPose(known), known[12]);
  const room = fall.room(faller, matrixOf(out, row, posed));
  return room < Infinity ? room : 0;
}

const upright = new Float64Array(9);
const posed = new Float64Array(9);

/** The greatest of a row's sizes. */
export const sizeOf = ({ scale }: Placements, row: number): number =>
  Math.max(Math.abs(scale[row * 3]), scale[row * 3 + 1], scale[row * 3 + 2]);
