import { newAt } from './map';
import type { Chart } from '../../mesh/chart/chart';
import { cross, dot, normalize, type Vec3 } from '../../math/vec3';
import { uvChart } from '../../mesh/chart/uvChart';
import type { SurfaceStates } from '../context';
import type { Sheet, SheetMatch } from './schema';

/** Places along each side where the surface is looked at. */
const PLACES = 3;

/** How a sheet meets its surface: as it is set, or as it most likely does. */
export function matchOf(sheet: Sheet, { rest, size, place }: SurfaceStates): SheetMatch {
  const { match, over } = sheet;
  if (!match.guess) return match;
  // By the surface at rest where it stands: what deforms it, or moves, turns no sheet over.
  const chart = over.kind === 'uv' ? uvChart(rest, rest, size, over) : null;
  return chart ? guessMatch(chart, place) : PLAIN;
}

const PLAIN: SheetMatch = { guess: true, flipU: false, flipV: false, swap: false, otherSide: false };

/**
 * How a sheet most likely meets a surface: its outside out, not mirrored, and up as nearly up as it can be (away from
 * the viewer, where the surface is level). Decided by the directions and normals at a few places.
 */
function guessMatch(chart: Chart, place: Float64Array): SheetMatch {
  const none = PLAIN;
  let best: SheetMatch = none;
  let most = -Infinity;
  for (let k = 0; k < 8; k++) {
    const match = { ...none, swap: k >= 4, flipU: (k & 1) > 0, flipV: (k & 2) > 0 };
    const score = agreement(chart, match, place);
    // Of those alike the plainest stays.
    if (score > most + 1e-6) [most, best] = [score, match];
  }
  return best;
}

/** How well up is up, over a few places; a mirrored match is never better than one that is not. */
function agreement(chart: Chart, { swap, flipU, flipV }: SheetMatch, m: Float64Array): number {
  const here = newAt();
  let [rising, away, steep] = [0, 0, 0];
  let mirrored = 0;
  for (let i = 0; i < PLACES; i++)
    for (let j = 0; j < PLACES; j++) {
      const at = (range: [number, number], n: number) =>
        range[0] + ((range[1] - range[0]) * (n + 0.5)) / PLACES;
      if (!chart.at(at(chart.u, i), at(chart.v, j), here)) continue;
      const read = (o: number, flipped: boolean): Vec3 => {
        const k = flipped ? -1 : 1;
        const [x, y, z] = [here[o] * k, here[o + 1] * k, here[o + 2] * k];
        return normalize([0, 1, 2].map((r) => m[r] * x + m[4 + r] * y + m[8 + r] * z) as Vec3, [0, 0, 0]);
      };
      const [du, dv, n] = [read(6, flipU), read(9, flipV), read(3, false)];
      const [across, up] = swap ? [dv, du] : [du, dv];
      if (Math.abs(n[1]) < 0.97) steep++;
      rising += up[1];
      away -= up[2];
      if (dot(across, cross(up, n)) < 0) mirrored++;
    }
  // Only where all of it is level does away from the viewer count as up.
  return (steep > 0 ? rising : away) - 10 * mirrored;
}
