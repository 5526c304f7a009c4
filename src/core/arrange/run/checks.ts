import { metricsOf } from '../../curve/metrics';
import { STATE, type Finding, type Placements } from '../result';
import type { Lane } from './lane';
import type { PropSizes } from './sizes';
import type { Run } from './schema';

/** What a careful artist would look for in a run. */

/** A corner sharper than this (radians) is a hairpin. */
const SHARP = 2.6;

/** What is wrong with a run that is placed: neighbours too tight, hairpins of its path. */
export function checkRun(
  run: Run,
  lanes: Lane[],
  starts: number[],
  placements: Placements,
  sizes: PropSizes,
): Finding[] {
  return [
    ...tight(run, lanes, starts, placements, sizes.lengths),
    ...hairpins(run, lanes, sizes),
    ...uneven(run, lanes),
  ];
}

/** Neighbours of one row whose lengths reach into each other. Those laid end to end just touch. */
function tight(run: Run, lanes: Lane[], starts: number[], p: Placements, lengths: number[]): Finding[] {
  const slots: number[] = [];
  lanes.forEach((lane, k) => {
    if (!lane.touch || run.spacing.clearance < 0)
      findTight(p, starts[k], starts[k] + lane.id.length, lengths, slots);
  });
  if (slots.length === 0) return [];
  return [{ kind: 'too-tight', severity: 'warning', node: run.id, slots, detail: { count: slots.length } }];
}

/** Pushes the slots of rows that reach into the one before: each half as long as its front shows towards the other. */
function findTight(p: Placements, from: number, to: number, lengths: number[], slots: number[]): void {
  const { position, rotation, scale, prop, state } = p;
  let last = -1;
  let half = 0;
  for (let i = from; i < to; i++) {
    if (state[i] !== STATE.placed) continue;
    const j = last;
    const a = half;
    last = i;
    half = (lengths[prop[i]] * scale[i * 3 + 2]) / 2;
    if (j < 0) continue;
    const x = position[i * 3] - position[j * 3];
    const y = position[i * 3 + 1] - position[j * 3 + 1];
    const z = position[i * 3 + 2] - position[j * 3 + 2];
    const square = x * x + y * y + z * z;
    // Most are further apart than they are long, however they face.
    if (square >= (a + half) * (a + half)) continue;
    const reach = a * frontTowards(rotation, j, x, y, z) + half * frontTowards(rotation, i, x, y, z);
    if (square === 0 ? a + half > 0 : square < reach * (1 - 1e-9)) slots.push(p.slot[i]);
  }
}

/** How far the front axis of the rotation in row `i` goes along a vector, either way. */
function frontTowards(rotation: Float64Array, i: number, vx: number, vy: number, vz: number): number {
  const x = rotation[i * 4];
  const y = rotation[i * 4 + 1];
  const z = rotation[i * 4 + 2];
  const w = rotation[i * 4 + 3];
  return Math.abs(2 * (x * z + w * y) * vx + 2 * (y * z - w * x) * vy + (1 - 2 * (x * x + y * y)) * vz);
}

/** Places where the path bends tighter than half the longest prop, or turns back sharply; one finding a stroke. */
function hairpins(run: Run, lanes: Lane[], sizes: PropSizes): Finding[] {
  const half = (Math.max(0, ...sizes.lengths) * run.facing.size) / 2;
  if (!(half > 0)) return [];
  return lanes.flatMap((lane): Finding[] => {
    if (lane.row > 0) return [];
    const m = metricsOf(lane.path);
    const bend = m.tightestBend < half ? { s: m.tightestBendS, radius: m.tightestBend } : null;
    const corner = m.sharpest > SHARP ? { s: m.sharpestS, radius: 0 } : null;
    const found =
      corner ??
      bend ??
      (lane.touch?.hairpins.length ? { s: lane.touch.hairpins[0], radius: m.tightest } : null);
    if (!found) return [];
    return [
      {
        kind: 'hairpin',
        severity: 'warning',
        node: run.id,
        slots: nearestSlot(lane, found.s),
        detail: { path: lane.pathId, s: found.s, radius: found.radius, length: half * 2 },
      },
    ];
  });
}

/** Rows laid end to end that no common size makes come out even; one finding a stroke. */
const uneven = (run: Run, lanes: Lane[]): Finding[] =>
  lanes.flatMap(({ touch, row, pathId }): Finding[] =>
    touch?.uneven && row === 0
      ? [
          {
            kind: 'touch-uneven',
            severity: 'warning',
            node: run.id,
            detail: { path: pathId, count: touch.count },
          },
        ]
      : [],
  );

function nearestSlot(lane: Lane, s: number): number[] {
  let best = -1;
  for (let i = 0; i < lane.at.length; i++)
    if (best < 0 || Math.abs(lane.at[i] - s) < Math.abs(lane.at[best] - s)) best = i;
  return best >= 0 ? [lane.id[best]] : [];
}
