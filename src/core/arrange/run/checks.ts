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
  const { position, scale, prop, state, slot } = p;
  // The last one that is placed: its row, half its length, its foot.
  let last = -1;
  let a = 0;
  let px = 0;
  let py = 0;
  let pz = 0;
  for (let i = from; i < to; i++) {
    if (state[i] !== STATE.placed) continue;
    const o = i * 3;
    const b = (lengths[prop[i]] * scale[o + 2]) / 2;
    const x = position[o] - px;
    const y = position[o + 1] - py;
    const z = position[o + 2] - pz;
    const square = x * x + y * y + z * z;
    // However they are turned they reach no further than both of their halves.
    if (last >= 0 && square <= (a + b) * (a + b)) {
      const reach = a * shown(p, last, x, y, z) + b * shown(p, i, x, y, z);
      if (square === 0 ? a + b > 0 : square < reach * (1 - 1e-9)) slots.push(slot[i]);
    }
    last = i;
    a = b;
    px = position[o];
    py = position[o + 1];
    pz = position[o + 2];
  }
}

/** How far the front of a row shows along a direction, as a share of its length squared. */
function shown({ rotation }: Placements, row: number, x: number, y: number, z: number): number {
  const q = row * 4;
  const qx = rotation[q];
  const qy = rotation[q + 1];
  const qz = rotation[q + 2];
  const qw = rotation[q + 3];
  return Math.abs(
    2 * (qx * qz + qw * qy) * x + 2 * (qy * qz - qw * qx) * y + (1 - 2 * (qx * qx + qy * qy)) * z,
  );
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
