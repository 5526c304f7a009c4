import { asResult, circlePoints, compiled, points } from './paths';
import { newEntry, newRun } from '../scene/defaults';
import { quatRotate, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import type { Placements } from '../arrange/result';
import type { ArrangeContext } from '../arrange/context';
import { evaluateRun } from '../arrange/run/evaluate';
import type { Run } from '../arrange/run/schema';

/** Runs on paths whose every place is known. */

const bounds = { min: [-0.2, 0, -0.25] as Vec3, max: [0.2, 1, 0.25] as Vec3 };
export const line = compiled(
  points('corner', [
    [0, 0, 0],
    [12, 0, 0],
  ]),
);
const square = compiled(
  points('corner', [
    [0, 0, 0],
    [6, 0, 0],
    [6, 0, -6],
    [0, 0, -6],
  ]),
  true,
);
export const circle = compiled(circlePoints(5, 16), true);
const steep = compiled(
  points('smooth', [
    [0, 0, 0],
    [0, 4, 0],
    [3, 4, 1],
    [3, 0, 1],
  ]),
);
const two = asResult(
  line,
  compiled(
    points('corner', [
      [0, 0, 4],
      [6, 0, 4],
    ]),
  ),
);
const PATHS: Record<string, ReturnType<typeof asResult>> = {
  line: asResult(line),
  square: asResult(square),
  circle: asResult(circle),
  steep: asResult(steep),
  two,
};
export const CONTEXT: ArrangeContext = {
  path: (id) => PATHS[id],
  prop: (id) => ('abcd'.includes(id) ? { state: 'ready', bounds } : undefined),
};

export function run(path: string, change: (r: Run) => void = () => {}, props = ['a']): Run {
  const r = newRun(
    'run1',
    'Run',
    'madder',
    path,
    props.map((p, i) => newEntry(`e${i}`, { kind: 'prop', prop: p })),
  );
  change(r);
  return r;
}
export const placed = (path: string, change: (r: Run) => void = () => {}, context = CONTEXT) =>
  evaluateRun(run(path, change), context).placements;
export const at = (p: Placements, i: number): Vec3 => [
  p.position[i * 3],
  p.position[i * 3 + 1],
  p.position[i * 3 + 2],
];
export const front = (p: Placements, i: number) =>
  quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 0, 1]);
