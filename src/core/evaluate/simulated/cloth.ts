import type { CompiledPath } from '../../curve/compile';
import { samplePath } from '../../curve/sample';
import type { Vec3 } from '../../math/vec3';
import { Cloth, type ClothAround, type ClothSpec, type ClothWeather } from '../../mesh/cloth/cloth';
import { RATE } from '../../mesh/frames';
import type { Topology } from '../../mesh/lines/topology';
import type { Around, Rest } from '../surfaceRest';
import { inOrder, valueAtTime } from '../timed/moments';
import { AT_EVERY_FRAME, type Begun, type Beginning, type Of } from './simulation';

/** Cloth of a surface: what holds it, what it hangs on and what it falls on. */

type ClothDeformer = Of<'cloth'>;

/** What a cloth begins from, and how it is made. */
export function clothFrom(d: ClothDeformer, { what, around, topology }: Begun): Beginning<Cloth> {
  const { rest, context } = what;
  const first = around?.at(0);
  const still = d.collider && !around ? context.still?.(d.collider) : undefined;
  const collider = d.collider && first ? first.surface(d.collider) : still?.triMesh;
  const path = d.line ? (first ?? context).path(d.line) : undefined;
  const line = path?.ok ? path.path : undefined;
  const { mesh } = rest.whole ?? rest;
  const weather = weatherOf(d, what);
  return {
    stands: [around ? around.key : [still?.key, line && [...line.controls]], weather?.key],
    problems: [
      ...(d.collider && !collider ? [{ kind: 'cloth-collider-missing' as const, detail: {} }] : []),
      ...(d.line && !line ? [{ kind: 'cloth-line-missing' as const, detail: {} }] : []),
      ...(d.sides.length > 0 && !mesh.uvs ? [{ kind: 'cloth-no-uv' as const, detail: {} }] : []),
    ],
    make(start, was) {
      const { held, hung } = heldOf(d, topology, rest.whole ?? rest, start, line);
      const spec: ClothSpec = {
        ...d,
        start,
        topology,
        indices: mesh.indices,
        held,
        collider,
        ...(around && { around: follow(around, d, hung) }),
        ...(weather && { weather }),
      };
      if (!(was instanceof Cloth && was.isOf(spec))) return new Cloth(spec);
      was.last(d.seconds);
      return was;
    },
  };
}

/** The wind of a cloth where it changes with time. */
function weatherOf(d: ClothDeformer, { surface, context }: Begun['what']): ClothWeather | undefined {
  const known = AT_EVERY_FRAME.map((name) => {
    const moments = context.moments?.(surface.id, ['deformers', d.id, name]);
    return moments && inOrder(moments);
  });
  if (!known.some(Boolean)) return undefined;
  const [wind, windDeg, gusts] = AT_EVERY_FRAME.map((name, i) => (time: number) => {
    const moments = known[i];
    return moments ? valueAtTime(moments, time) : d[name];
  });
  return {
    key: JSON.stringify(known),
    at: (time) => ({
      wind: Math.max(0, wind(time)),
      windDeg: windDeg(time),
      gusts: Math.max(0, gusts(time)),
    }),
  };
}

const SIDES = { u0: [0, 0], u1: [0, 1], v0: [1, 0], v1: [1, 1] } as const;

/** How a cloth is carried along by what moves about it, frame by frame. */
function follow(around: Around, d: ClothDeformer, hung: Hung | null): ClothAround {
  return {
    key: around.key,
    at(frame) {
      const now = around.at(frame / RATE);
      const path = d.line && hung ? now.path(d.line) : undefined;
      return {
        ...(d.collider && { collider: now.surface(d.collider) }),
        ...(path?.ok && hung && { held: { particles: hung.particles, places: hung.on(path.path) } }),
      };
    },
  };
}

/** A side of cloth that hangs on a line. */
interface Hung {
  particles: Uint32Array;
  /** Where they are on the line, as that is now; xyz each. */
  on(line: CompiledPath): Float64Array;
}

/** Particles that are held; those of the first side are moved onto the line, where there is one. */
function heldOf(
  d: ClothDeformer,
  topology: Topology,
  rest: Pick<Rest, 'mesh' | 'positions'>,
  start: Float64Array,
  line: CompiledPath | undefined,
): { held: Uint8Array; hung: Hung | null } {
  const held = new Uint8Array(start.length / 3);
  let hung: Hung | null = null;
  const { uvs } = rest.mesh;
  if (uvs)
    d.sides.forEach((side, i) => {
      const along = sideOf(uvs, topology, SIDES[side]);
      if (along.length === 0) return;
      const kept = d.cornersOnly ? [along[0], along[along.length - 1]] : along;
      for (const { particle } of kept) held[particle] = 1;
      if (i === 0 && line) hung = hang(start, along, line, new Set(kept.map((p) => p.particle)));
    });
  for (const hold of d.holds) {
    let best = -1;
    let least = Infinity;
    for (let v = 0; v < topology.weld.length; v++) {
      const o = v * 3;
      const p = rest.positions;
      const [x, y, z] = [p[o] - hold[0], p[o + 1] - hold[1], p[o + 2] - hold[2]];
      const away = x * x + y * y + z * z;
      if (away < least) [best, least] = [v, away];
    }
    if (best >= 0) held[topology.weld[best]] = 1;
  }
  return { held, hung };
}

/** Particles of a side with their share along it, in order. */
function sideOf(
  uvs: Float32Array,
  topology: Topology,
  [axis, end]: readonly [0 | 1, 0 | 1],
): { particle: number; share: number }[] {
  let low = Infinity;
  let high = -Infinity;
  for (let i = axis; i < uvs.length; i += 2) {
    low = Math.min(low, uvs[i]);
    high = Math.max(high, uvs[i]);
  }
  const at = end === 0 ? low : high;
  const near = (high - low) * 1e-4;
  const found = new Map<number, number>();
  for (let v = 0; v < topology.weld.length; v++)
    if (Math.abs(uvs[v * 2 + axis] - at) <= near) found.set(topology.weld[v], uvs[v * 2 + 1 - axis]);
  const list = [...found].map(([particle, share]) => ({ particle, share })).sort((a, b) => a.share - b.share);
  const [first, last] = [list[0]?.share ?? 0, list.at(-1)?.share ?? 1];
  return list.map((p) => ({ ...p, share: last > first ? (p.share - first) / (last - first) : 0 }));
}

/**
 * Lays a side along the middle of a path at its own length, or along all of a path that is shorter, in whichever way it
 * lies nearer.
 * @param kept those that stay there
 */
function hang(
  start: Float64Array,
  side: { particle: number; share: number }[],
  line: CompiledPath,
  kept: ReadonlySet<number>,
): Hung {
  let long = 0;
  side.forEach(({ particle: a }, i) => {
    const b = side[Math.max(0, i - 1)].particle;
    const d = [0, 1, 2].map((k) => start[a * 3 + k] - start[b * 3 + k]);
    long += Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
  });
  const on = (now: CompiledPath, of: typeof side, back: boolean) => {
    const over = Math.min(long, now.length);
    const from = (now.length - over) / 2;
    return samplePath(
      now,
      of.map(({ share }) => from + (back ? 1 - share : share) * over),
    ).position;
  };
  const far = (to: Float64Array) =>
    side.reduce((sum, { particle }, i) => {
      const d: Vec3 = [0, 1, 2].map((k) => start[particle * 3 + k] - to[i * 3 + k]) as Vec3;
      return sum + Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
    }, 0);
  const [there, back] = [on(line, side, false), on(line, side, true)];
  const turned = far(there) > far(back);
  const to = turned ? back : there;
  side.forEach(({ particle }, i) => start.set(to.subarray(i * 3, i * 3 + 3), particle * 3));
  const stay = side.filter(({ particle }) => kept.has(particle));
  return {
    particles: Uint32Array.from(stay, (p) => p.particle),
    on: (now) => on(now, stay, turned),
  };
}
