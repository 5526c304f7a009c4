import { has } from '../../arrange/registry';
import type { SpacingFacts } from '../../arrange/result';
import type { Run } from '../../arrange/run/schema';
import type { Scene } from '../../scene/schema';
import { inOrder } from './moments';

/** Speeds and waves made whole ones over a stretch of time, so that its last frame meets its first. */

/** A number that becomes another one. */
export interface LoopChange {
  node: string;
  field: string[];
  value: number;
}

/** What cannot be made whole: it goes on as it is, and the loop shows a seam there. */
export interface LoopSeam {
  node: string;
  why: 'noise' | 'cloth' | 'wind' | 'clip' | 'leaves' | 'moments' | 'falls';
}

/** So many whole times, never none: what moves goes on moving. @param times how many it would be */
const whole = (times: number): number => Math.sign(times) * Math.max(1, Math.round(Math.abs(times)));

/**
 * What has to become another number so that the scene is at `span` seconds as it is at 0.
 * @param factsOf what the spacing of a run has come to
 */
export function loopOver(
  scene: Scene,
  span: number,
  factsOf: (run: string) => SpacingFacts | undefined,
): { changes: LoopChange[]; seams: LoopSeam[] } {
  const changes: LoopChange[] = [];
  const seams: LoopSeam[] = [];
  const change = (node: string, field: string[], now: number, value: number) => {
    if (Math.abs(now - value) > 1e-12 * Math.abs(now)) changes.push({ node, field, value });
  };
  for (const { id: node, deformers, plays } of scene.surfaces) {
    if (plays) seams.push({ node, why: 'clip' });
    for (const d of deformers) {
      if (!d.on) continue;
      const field = (name: string) => ['deformers', d.id, name];
      if (d.kind === 'wave' && d.speed !== 0)
        change(node, field('speed'), d.speed, (whole((d.speed * span) / d.length) * d.length) / span);
      else if (d.kind === 'noise' && d.speed !== 0) seams.push({ node, why: 'noise' });
      else if (d.kind === 'cloth') seams.push({ node, why: 'cloth' });
      else if ('sway' in d && d.sway > 0)
        change(node, field('period'), d.period, span / whole(span / d.period));
    }
  }
  for (const { id: node, source } of scene.paths)
    if (source.kind === 'points' && (source.hang?.wind?.strength ?? 0) > 0) seams.push({ node, why: 'wind' });
  for (const a of scene.arrangements) {
    if (a.release?.on) seams.push({ node: a.id, why: 'falls' });
    if (has(a, 'pulley')) pulleyLoops(a as Run, scene, span, factsOf(a.id), change, seams);
  }
  for (const { node, moments } of scene.timed) {
    const sorted = inOrder(moments);
    const same = sorted[0].value === sorted[sorted.length - 1].value;
    if (!same || sorted[0].at < 0 || sorted[sorted.length - 1].at > span)
      seams.push({ node, why: 'moments' });
  }
  return { changes, seams };
}

/** A run comes to itself by its whole path; where all its slots are alike by a pitch. */
function pulleyLoops(
  run: Run,
  scene: Scene,
  span: number,
  facts: SpacingFacts | undefined,
  change: (node: string, field: string[], now: number, value: number) => void,
  seams: LoopSeam[],
): void {
  const { speed, duration, ends } = run.pulley;
  if (speed === 0 && duration === null) return;
  const isLoop = run.paths.every(({ path }) => scene.paths.find((p) => p.id === path)?.closed);
  if (duration !== null) {
    // There and back is once.
    const once = !isLoop && ends === 'turn' ? 2 : 1;
    if (!isLoop && (ends === 'clip' || ends === 'stay'))
      return void seams.push({ node: run.id, why: 'leaves' });
    return change(run.id, ['pulley', 'duration'], duration, span / (once * whole(span / (once * duration))));
  }
  if (!facts || !(facts.pitch > 0) || run.paths.length !== 1 || (!isLoop && ends !== 'wrap'))
    return void seams.push({ node: run.id, why: 'leaves' });
  const way = isLoop && !isAlike(run) ? facts.length : facts.pitch;
  if (!isLoop && !isAlike(run)) return void seams.push({ node: run.id, why: 'leaves' });
  change(run.id, ['pulley', 'speed'], speed, (whole((speed * span) / way) * way) / span);
}

/** Whether every slot of a run looks like the next: one prop, no chance, no hand. */
const isAlike = ({ order, variation, gaps, hand, spacing }: Run): boolean =>
  order.entries.length === 1 &&
  !order.first &&
  !order.last &&
  !order.corner &&
  Object.keys(hand).length === 0 &&
  gaps.chance === 0 &&
  gaps.taken.share === 0 &&
  spacing.density.length === 0 &&
  spacing.looseBy === 0 &&
  [variation.turnDeg, variation.tipDeg, variation.rollDeg, variation.size].every(
    (range) => range[0] === range[1],
  ) &&
  variation.tint.colors.length === 0;
