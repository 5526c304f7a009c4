import type { Vec3 } from '../../math/vec3';
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

/**
 * Neighbours of one row whose lengths reach into each other: each half as long as its front axis shows towards the
 * other. Those laid end to end just touch.
 */
function tight(run: Run, lanes: Lane[], starts: number[], p: Placements, lengths: number[]): Finding[] {
  const { position, scale, prop, state } = p;
  const slots: number[] = [];
  const front: Vec3 = [0, 0, 0];
  const before: Vec3 = [0, 0, 0];
  lanes.forEach((lane, k) => {
    if (lane.touch && run.spacing.clearance >= 0) return;
    let last = -1;
    let half = 0;
    // Whose front stands in `front`: that of the last one is asked for again by the next.
    let known = -1;
    for (let i = starts[k]; i < starts[k] + lane.id.length; i++) {
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
      if (known !== j) writeFront(p.rotation, j, front);
      before[0] = front[0];
      before[1] = front[1];
      before[2] = front[2];
      writeFront(p.rotation, (known = i), front);
      const reach =
        a * Math.abs(before[0] * x + before[1] * y + before[2] * z) +
        half * Math.abs(front[0] * x + front[1] * y + front[2] * z);
      if (square === 0 ? a + half > 0 : square < reach * (1 - 1e-9)) slots.push(p.slot[i]);
    }
  });
  if (slots.length === 0) return [];
  return [{ kind: 'too-tight', severity: 'warning', node: run.id, slots, detail: { count: slots.length } }];
}

/** Writes the front axis of the rotation in row `i`. */
function writeFront(rotation: Float64Array, i: number, out: Vec3): void {
  const x = rotation[i * 4];
  const y = rotation[i * 4 + 1];
  const z = rotation[i * 4 + 2];
  const w = rotation[i * 4 + 3];
  out[0] = 2 * (x * z + w * y);
  out[1] = 2 * (y * z - w * x);
  out[2] = 1 - 2 * (x * x + y * y);
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
