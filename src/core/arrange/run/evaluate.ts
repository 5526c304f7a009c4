import type { Vec3 } from '../../math/vec3';
import { quatRotate } from '../../math/quat';
import type { CompiledPath } from '../../curve/compile';
import { alongPoints } from '../../curve/sample';
import { framesAlong, type Frames } from '../../curve/frames';
import type { ArrangeContext } from '../context';
import { headingRotation, outwardSide, turnTipRoll } from '../steps/facing';
import { markGaps, decidedByHand } from '../steps/gaps';
import { orderSlots } from '../steps/order';
import { MAX_SLOTS, spaceSlots, type SlotRow } from '../steps/spacing';
import { vary, varies, type Varied } from '../steps/variation';
import {
  allocatePlacements,
  STATE,
  type Finding,
  type Placements,
  type RunFacts,
  type RunResult,
} from '../../evaluate/result';
import type { Run } from './schema';

/** A run's pitch where none is set: this many times the longest of its props, so that there is air between them. */
export const AUTO_PITCH_FACTOR = 1.5;

interface PropSize {
  ids: string[];
  /** Length along the front axis, metres; 0 where the mesh is not at hand. */
  lengths: number[];
  longest: number;
}

/** The run's props in order of first use, with what is wrong with them. */
function gatherProps(run: Run, context: ArrangeContext, findings: Finding[]): PropSize {
  const ids: string[] = [];
  const lengths: number[] = [];
  for (const entry of run.order.entries) {
    if (entry.item.kind !== 'prop' || ids.includes(entry.item.prop)) continue;
    const id = entry.item.prop;
    const facts = context.prop(id);
    ids.push(id);
    if (facts?.state === 'ready') lengths.push(facts.bounds.max[2] - facts.bounds.min[2]);
    else {
      lengths.push(0);
      const kind = facts ? facts.state : 'prop-missing';
      findings.push({ kind, severity: 'error', node: run.id, detail: { prop: id } });
    }
  }
  const widest = Math.max(0, ...lengths) * run.facing.size;
  return { ids, lengths, longest: widest > 1e-6 ? widest : 1 };
}

/** A pitch that reads well: two digits of the footprint's multiple. */
export function autoPitch(longest: number): number {
  return Number((longest * AUTO_PITCH_FACTOR).toPrecision(2));
}

interface Lane {
  part: number;
  pathId: string;
  path: CompiledPath;
  slots: SlotRow;
}

/**
 * Works a run out: slots, order, gaps, position, facing, variation, size, in that order for every slot.
 * Nothing throws for what the schema admits: what cannot be done is a finding, the rest goes on.
 */
export function evaluateRun(run: Run, context: ArrangeContext): RunResult {
  const findings: Finding[] = [];
  const sizes = gatherProps(run, context, findings);
  const asked = run.spacing.pitch ?? autoPitch(sizes.longest);
  const facts: RunFacts = { length: 0, usable: 0, pitch: 0, askedPitch: asked, loose: 0 };
  const lanes = layOut(run, context, asked, facts, findings);
  const total = lanes.reduce((sum, lane) => sum + lane.slots.id.length, 0);
  const placements = allocatePlacements(total, sizes.ids);
  const hand = decidedByHand(run.hand);
  const result: RunResult = { placements, findings, facts, parts: [] };
  if (run.order.entries.length === 0) {
    findings.push({ kind: 'no-props', severity: 'error', node: run.id, detail: {} });
  }
  let at = 0;
  for (const lane of lanes) {
    const { slots, path, part } = lane;
    const order = orderSlots(run.order, slots.id, run.seed);
    if (order.empty && run.order.entries.length > 0 && at === 0) {
      findings.push({ kind: 'order-empty', severity: 'error', node: run.id, detail: {} });
    }
    const end = at + slots.id.length;
    placements.slot.set(slots.id, at);
    placements.s.set(slots.s, at);
    const items = run.order.entries.map((e) =>
      e.item.kind === 'prop' ? sizes.ids.indexOf(e.item.prop) : -1,
    );
    for (let i = 0; i < slots.id.length; i++)
      placements.prop[at + i] = order.entry[i] < 0 ? -1 : items[order.entry[i]];
    const from = at;
    markGaps(
      run.gaps,
      { id: slots.id, s: slots.s, isRest: (i) => placements.prop[from + i] < 0 },
      { part, closed: path.closed, seed: run.seed, hand },
      placements.state.subarray(at, end),
    );
    place(run, path, placements, at, end);
    result.parts.push({ part, path: lane.pathId, start: at, end, length: path.length, closed: path.closed });
    at = end;
  }
  checkTight(run, result, sizes.lengths);
  return result;
}

/** Slots of every path of the run, with what stands in the way of them. */
function layOut(
  run: Run,
  context: ArrangeContext,
  asked: number,
  facts: RunFacts,
  findings: Finding[],
): Lane[] {
  const lanes: Lane[] = [];
  let room = MAX_SLOTS;
  const say = (kind: Finding['kind'], severity: Finding['severity'], detail: Finding['detail']) =>
    findings.push({ kind, severity, node: run.id, detail });
  if (run.paths.length === 0) say('no-path', 'error', {});
  for (const { part, path: pathId } of run.paths) {
    const compiled = context.path(pathId);
    if (!compiled) say('path-missing', 'error', { path: pathId });
    else if (!compiled.ok) say(`path-${compiled.problem}`, 'error', { path: pathId });
    if (!compiled?.ok) continue;
    const path = compiled.path;
    for (const note of path.notes) {
      say(note.kind, 'warning', { path: pathId, point: note.pointId, amount: note.amount ?? 0 });
    }
    const slots = spaceSlots(run.spacing, {
      length: path.length,
      closed: path.closed,
      autoPitch: asked,
      seed: run.seed,
      part,
    });
    facts.length += path.length;
    facts.usable += slots.usable;
    if (slots.problem) {
      say(slots.problem, 'error', {
        path: pathId,
        wanted: slots.wanted ?? 0,
        limit: MAX_SLOTS,
        pitch: asked,
        least: slots.usable / MAX_SLOTS,
        length: path.length,
      });
      continue;
    }
    if ((room -= slots.id.length) < 0) {
      say('too-many-slots', 'error', {
        path: pathId,
        wanted: MAX_SLOTS - room,
        limit: MAX_SLOTS,
        pitch: asked,
        least: facts.usable / MAX_SLOTS,
        length: facts.length,
      });
      break;
    }
    if (slots.loose < run.spacing.looseBy && lanes.length === 0) {
      say('loose-limited', 'warning', { asked: run.spacing.looseBy, amount: slots.loose });
    }
    if (lanes.length === 0) Object.assign(facts, { pitch: slots.pitch, loose: slots.loose });
    lanes.push({ part, pathId, path, slots });
  }
  return lanes;
}

/** Position, facing, variation and size of the rows from `start` to `end`, which lie on one path. */
function place(run: Run, path: CompiledPath, out: Placements, start: number, end: number): void {
  const frames: Frames = framesAlong(path, out.s.subarray(start, end), run.facing.posture);
  const { facing, variation } = run;
  const outward = facing.heading === 'outward' ? outwardSide(path) : 1;
  const varied: Varied = { along: 0, side: 0, lift: 0, turnDeg: 0, tipDeg: 0, rollDeg: 0, size: 1 };
  const random = varies(variation);
  const sized = path.size.some((size) => size !== 1);
  const front: Vec3 = [0, 0, 1];
  const up: Vec3 = [0, 1, 0];
  for (let i = start; i < end; i++) {
    const r = (i - start) * 3;
    for (let a = 0; a < 3; a++) {
      front[a] = frames.front[r + a];
      up[a] = frames.up[r + a];
    }
    if (random) vary(variation, run.seed, out.slot[i], varied);
    const along = varied.along;
    const side = facing.side + varied.side;
    const lift = facing.lift + varied.lift;
    // Right of the way along is front × up.
    const right: Vec3 = [
      front[1] * up[2] - front[2] * up[1],
      front[2] * up[0] - front[0] * up[2],
      front[0] * up[1] - front[1] * up[0],
    ];
    for (let a = 0; a < 3; a++) {
      out.position[i * 3 + a] = frames.position[r + a] + front[a] * along + right[a] * side + up[a] * lift;
    }
    let q = headingRotation(facing, front, up, outward);
    q = turnTipRoll(q, facing.turnDeg, facing.tipDeg, facing.rollDeg);
    if (random) q = turnTipRoll(q, varied.turnDeg, varied.tipDeg, varied.rollDeg);
    out.rotation.set(q, i * 4);
    const size = facing.size * varied.size * (sized ? alongPoints(path, path.size, out.s[i]) : 1);
    out.scale.fill(size, i * 3, i * 3 + 3);
  }
}

/** Neighbours on the path whose lengths reach into each other, by their front axes. */
function checkTight(run: Run, result: RunResult, lengths: number[]): void {
  const { placements, parts } = result;
  const slots: number[] = [];
  for (const { start, end } of parts) {
    let last = -1;
    for (let i = start; i < end; i++) {
      if (placements.state[i] !== STATE.placed) continue;
      if (last >= 0) {
        const reach = halfReach(placements, last, i, lengths) + halfReach(placements, i, last, lengths);
        const d = Math.hypot(
          placements.position[i * 3] - placements.position[last * 3],
          placements.position[i * 3 + 1] - placements.position[last * 3 + 1],
          placements.position[i * 3 + 2] - placements.position[last * 3 + 2],
        );
        if (d < reach * (1 - 1e-9)) slots.push(placements.slot[i]);
      }
      last = i;
    }
  }
  if (slots.length > 0) {
    const shown = slots.slice(0, 1000);
    result.findings.push({
      kind: 'too-tight',
      severity: 'warning',
      node: run.id,
      slots: shown,
      detail: { count: slots.length },
    });
  }
}

/** Half the length that prop `i` shows towards `j`: its front axis, as far as it points that way. */
function halfReach(p: Placements, i: number, j: number, lengths: number[]): number {
  const way: Vec3 = [0, 1, 2].map((a) => p.position[j * 3 + a] - p.position[i * 3 + a]) as Vec3;
  const l = Math.hypot(...way);
  if (l === 0) return lengths[p.prop[i]] / 2;
  const front = quatRotate(
    [p.rotation[i * 4], p.rotation[i * 4 + 1], p.rotation[i * 4 + 2], p.rotation[i * 4 + 3]],
    [0, 0, 1],
  );
  const facing = Math.abs(front[0] * way[0] + front[1] * way[1] + front[2] * way[2]) / l;
  return (lengths[p.prop[i]] / 2) * p.scale[i * 3] * facing;
}
