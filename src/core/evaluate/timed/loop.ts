import { kindOf, travelOf } from '../../arrange/registry';
import { travelLoops } from '../../arrange/travel/loops';
import type { SpacingFacts } from '../../arrange/result';
import { whole } from '../../math/whole';
import type { Scene } from '../../scene/schema';
import { isSimulated } from '../simulated/simulation';
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
  why: 'noise' | 'cloth' | 'sag' | 'wind' | 'clip' | 'leaves' | 'moments' | 'falls';
}

/**
 * What has to become another number so that the scene is at `span` seconds as it is at 0.
 * @param factsOf what the spacing of a run has come to @param roundOf metres once round a closed path; null for an open one
 * @param roundOfSurface metres once round a surface by u or v; null where it does not close that way
 */
export function loopOver(
  scene: Scene,
  span: number,
  factsOf: (run: string) => SpacingFacts | undefined,
  roundOf: (path: string) => number | null,
  roundOfSurface: (surface: string, way: 'u' | 'v') => number | null,
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
      else if (d.kind === 'pulley' && d.speed !== 0) {
        const once = roundOfSurface(node, d.way);
        if (once === null) seams.push({ node, why: 'leaves' });
        else change(node, field('speed'), d.speed, (whole((d.speed * span) / once) * once) / span);
      } else if (isSimulated(d) && !d.settled) seams.push({ node, why: d.kind });
      else if ('sway' in d && d.sway > 0)
        change(node, field('period'), d.period, span / whole(span / d.period));
    }
  }
  for (const { id: node, source } of scene.paths)
    if (source.kind === 'points' && (source.hang?.wind?.strength ?? 0) > 0) seams.push({ node, why: 'wind' });
  const isClosed = (path: string): boolean => scene.paths.find((p) => p.id === path)?.closed ?? false;
  for (const a of scene.arrangements) {
    if (a.release?.on) seams.push({ node: a.id, why: 'falls' });
    const travel = travelOf(a);
    for (const comes of [
      kindOf(a).loops?.(a, { span, facts: factsOf(a.id), isClosed }),
      travel && travelLoops(travel, { span, lengthOf: roundOf }),
    ])
      if (comes === 'leaves') seams.push({ node: a.id, why: 'leaves' });
      else if (comes) change(a.id, comes.field, comes.now, comes.value);
  }
  for (const { node, moments } of scene.timed) {
    const sorted = inOrder(moments);
    const same = sorted[0].value === sorted[sorted.length - 1].value;
    if (!same || sorted[0].at < 0 || sorted[sorted.length - 1].at > span)
      seams.push({ node, why: 'moments' });
  }
  return { changes, seams };
}
