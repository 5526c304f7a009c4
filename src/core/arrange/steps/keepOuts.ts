import { hypot } from '../../math/portable';
import type { CompiledPath } from '../../curve/compile';
import { nearestOnPath } from '../../curve/nearest';
import { polyline } from '../../curve/sample';
import type { Finding, Placements } from '../result';
import type { Vec3 } from '../../math/vec3';
import type { ArrangeContext } from '../context';
import { selfCrossing } from '../../mesh/scatter/crossing';
import { nearestPlaced } from './aim';
import { inKeepOut, rangesOn } from './gaps';
import type { KeepsOut } from './keepsOut';
import { keptOutByMask } from './masked';
import type { KeepOut } from './schema';

/** Whether a slot at length `s` and this place is kept out. @param slot its id */
export type KeptOut = (s: number, at: Vec3, slot: number) => boolean;

/** What keep-outs are worked out from. */
export function neededBy(keepOuts: readonly KeepOut[]): { paths: string[]; arrangements: string[] } {
  const paths: string[] = [];
  const arrangements: string[] = [];
  for (const k of keepOuts) {
    if (k.kind === 'region') paths.push(k.path);
    if (k.kind === 'into') arrangements.push(k.of);
    if (k.kind === 'near') (k.of.kind === 'path' ? paths : arrangements).push(k.of.id);
  }
  return { paths: [...new Set(paths)], arrangements: [...new Set(arrangements)] };
}

/** Regions and distances that hold for a whole arrangement, with what is wrong with them. */
export function keepOutsAround(
  { id, seed, gaps: { keepOuts } }: { id: string; seed: number; gaps: { keepOuts: readonly KeepOut[] } },
  context: ArrangeContext,
  say: (kind: Finding['kind'], detail: Finding['detail']) => void,
): KeepsOut[] {
  return keepOuts.flatMap((k) => {
    if (k.kind === 'range') return [];
    const missing = () => {
      say('keep-out-missing', { name: k.name });
      return [];
    };
    // What would reach into others is seen once it is posed.
    if (k.kind === 'into') return context.arrangement?.(k.of) ? [] : missing();
    if (k.kind === 'mask') {
      const masked = keptOutByMask(k.mask, { id, seed }, context);
      return masked ? [masked] : missing();
    }
    if (k.kind === 'region') {
      const compiled = context.path(k.path);
      if (!compiled?.ok) return missing();
      const rings = compiled.strokes.filter((s) => s.closed);
      if (rings.length === 0) {
        say('keep-out-open', { name: k.name, path: k.path });
        return [];
      }
      if (rings.some(selfCrossing)) say('keep-out-crosses', { name: k.name, path: k.path });
      const inside = insideRings(rings);
      return [(at: Vec3) => inside(at) === (k.where === 'inside')];
    }
    if (k.of.kind === 'path') {
      const compiled = context.path(k.of.id);
      if (!compiled?.ok) return missing();
      return [nearPath(compiled.strokes, k.distance)];
    }
    const placements = context.arrangement?.(k.of.id);
    return placements ? [nearProps(placements, k.distance)] : missing();
  });
}

/** Whether places, xyz each, are kept out; null where nothing is. @param slots the id of each */
export function keptOutAt(
  around: readonly KeepsOut[],
  position: Float64Array,
  slots: Float64Array,
): ((place: number) => boolean) | null {
  if (around.length === 0) return null;
  const tests = around.map((test): ((i: number) => boolean) => {
    if (!test.all) return (i) => test([position[i * 3], position[i * 3 + 1], position[i * 3 + 2]], slots[i]);
    let out: Uint8Array | null = null;
    return (i) => (out ??= test.all!(position, slots))[i] > 0;
  });
  return (i) => tests.some((test) => test(i));
}

/** Puts stretches of one stroke and what holds everywhere together. */
export function keptOutOn(
  keepOuts: readonly KeepOut[],
  around: readonly KeepsOut[],
  part: number,
  stroke: number,
  closed: boolean,
): KeptOut | null {
  const ranges = rangesOn(keepOuts, part, stroke);
  if (ranges.length === 0 && around.length === 0) return null;
  return (s, at, slot) =>
    ranges.some((k) => inKeepOut(k, s, closed)) || around.some((test) => test(at, slot));
}

/** Whether places lie inside one of some closed lines as seen from above (even–odd over each line's straight pieces). */
export function insideRings(rings: readonly CompiledPath[]): (at: Vec3) => boolean {
  const lines = rings.map((r) => polyline(r, 0.01).position);
  return ([x, , z]) =>
    lines.some((line) => {
      const n = line.length / 3;
      let inside = false;
      for (let i = 0, j = n - 1; i < n; j = i++) {
        const [zi, zj] = [line[i * 3 + 2], line[j * 3 + 2]];
        if (zi > z === zj > z) continue;
        const xi = line[i * 3];
        if (x < xi + ((z - zi) / (zj - zi)) * (line[j * 3] - xi)) inside = !inside;
      }
      return inside;
    });
}

/** Within a distance of a path. Places far from its box are passed over. */
function nearPath(strokes: CompiledPath[], distance: number): (at: Vec3) => boolean {
  const boxes = strokes.map((s) => {
    const low: Vec3 = [Infinity, Infinity, Infinity];
    const high: Vec3 = [-Infinity, -Infinity, -Infinity];
    for (let i = 0; i < s.controls.length; i++) {
      low[i % 3] = Math.min(low[i % 3], s.controls[i] - distance);
      high[i % 3] = Math.max(high[i % 3], s.controls[i] + distance);
    }
    return { low, high };
  });
  return (at) =>
    strokes.some(
      (s, i) =>
        at.every((v, a) => v >= boxes[i].low[a] && v <= boxes[i].high[a]) &&
        nearestOnPath(s, at).distance <= distance,
    );
}

function nearProps(p: Placements, distance: number): (at: Vec3) => boolean {
  return (at) => {
    const row = nearestPlaced(p, at);
    if (row < 0) return false;
    const d = [0, 1, 2].map((a) => p.position[row * 3 + a] - at[a]);
    return hypot(d[0], d[1], d[2]) <= distance;
  };
}
