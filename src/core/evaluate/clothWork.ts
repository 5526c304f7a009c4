import type { CompiledPath } from '../curve/compile';
import { samplePath } from '../curve/sample';
import { Cloth, RATE, type ClothAround, type ClothSpec } from '../mesh/cloth/cloth';
import { goRound } from '../mesh/deform/goRound';
import { deform, type Strength } from '../mesh/deform/deform';
import type { Deformer } from '../mesh/deform/schema';
import { topologyOf, type Topology } from '../mesh/lines/topology';
import { through, throughInverse } from '../mesh/surface';
import type { Vec3 } from '../math/vec3';
import type { Surface } from '../mesh/surfaceSchema';
import type { Finding } from '../arrange/result';
import type { Around, Rest, SurfaceContext } from './surfaceRest';

type ClothDeformer = Extract<Deformer, { kind: 'cloth' }>;

/** The deformers of a surface that make cloth of it. */
export const clothsOf = (surface: Surface): ClothDeformer[] =>
  surface.deformers.filter((d): d is ClothDeformer => d.on && d.kind === 'cloth');

/** What a surface is, for deforming it. */
export interface Deforming {
  surface: Surface;
  rest: Rest;
  /** From its own frame to the scene. */
  place: Float64Array;
  context: SurfaceContext;
  restKey: string;
  /** How much of each deformer counts at each vertex; absent: all of it. */
  strength?: Strength;
  /** Keys of the masks that say so. */
  masksKey: unknown[];
}

/** Runs the deformers of one surface, with the cloth among them; keeps what was simulated. */
export class ClothWork {
  private key = '';
  private cloth: Cloth | null = null;
  private problems: { kind: Finding['kind']; detail: Finding['detail'] }[] = [];

  /** @param positions xyz a vertex in the surface's own frame; changed in place @param time seconds */
  deform(positions: Float64Array, what: Deforming, time: number, progress?: (done: number) => void): void {
    const { surface, rest, strength } = what;
    const [d] = clothsOf(surface);
    const { positions: at0, normals, mesh } = rest;
    const shape = { positions: at0, normals, indices: mesh.indices, uvs: mesh.uvs };
    // Cloth begins as what comes before it is at time 0.
    this.problems = goRound(positions, shape, surface.deformers, d ? 0 : time).map(({ way }) => ({
      kind: 'pulley-open',
      detail: { way },
    }));
    if (!d) return deform(positions, rest.normals, surface.deformers, time, strength);
    const at = surface.deformers.indexOf(d);
    const before = surface.deformers.slice(0, at);
    const { whole = { ...rest, vertex: null } } = rest;
    const own = wholeOf(positions, whole);
    deform(own, whole.normals, before, 0, ofWhole(strength, whole));
    const topology = topologyOf(whole.mesh);
    const cloth = this.clothOf(own, d, before, topology, what);
    const now = new Float64Array(topology.position.length);
    cloth.at(time, now, progress);
    for (let v = 0; v < topology.weld.length; v++) {
      const o = topology.weld[v] * 3;
      const p = throughInverse(what.place, [now[o], now[o + 1], now[o + 2]]);
      own.set(p, v * 3);
    }
    if (whole.vertex) whole.vertex.forEach((v, i) => positions.set(own.subarray(v * 3, v * 3 + 3), i * 3));
    // A surface has one cloth at the most; a second one would begin where this one moves.
    deform(positions, rest.normals, surface.deformers.slice(at + 1), time, strength);
  }

  findings(surface: Surface): Finding[] {
    return this.problems.map(({ kind, detail }) => ({
      kind,
      severity: 'warning',
      node: surface.id,
      detail: { surface: surface.id, ...detail },
    }));
  }

  private clothOf(
    positions: Float64Array,
    d: ClothDeformer,
    before: Deformer[],
    topology: Topology,
    { surface, rest, place, context, restKey, masksKey }: Deforming,
  ): Cloth {
    const around = context.around?.(surface) ?? null;
    const first = around?.at(0);
    const still = d.collider && !around ? context.still?.(d.collider) : undefined;
    const collider = d.collider && first ? first.surface(d.collider) : still?.triMesh;
    const path = d.line ? (first ?? context).path(d.line) : undefined;
    const line = path?.ok ? path.path : undefined;
    const { mesh } = rest.whole ?? rest;
    if (d.collider && !collider) this.problems.push({ kind: 'cloth-collider-missing', detail: {} });
    if (d.line && !line) this.problems.push({ kind: 'cloth-line-missing', detail: {} });
    if (d.sides.length > 0 && !mesh.uvs) this.problems.push({ kind: 'cloth-no-uv', detail: {} });
    const stands = around ? around.key : [still?.key, line && [...line.controls]];
    const key = JSON.stringify([restKey, before, d, [...place], stands, masksKey]);
    if (key !== this.key || !this.cloth) {
      this.key = key;
      const start = new Float64Array(topology.position.length);
      for (let v = 0; v < topology.weld.length; v++) {
        const o = v * 3;
        start.set(through(place, [positions[o], positions[o + 1], positions[o + 2]]), topology.weld[v] * 3);
      }
      const { held, hung } = heldOf(d, topology, rest.whole ?? rest, start, line);
      const spec: ClothSpec = {
        ...d,
        start,
        topology,
        indices: mesh.indices,
        held,
        collider,
        ...(around && { around: follow(around, d, hung) }),
      };
      // Much that is set of a surface moves no thread of it: then what was simulated stays, and goes on.
      if (this.cloth?.isOf(spec)) this.cloth.last(d.seconds);
      else this.cloth = new Cloth(spec);
    }
    if (this.cloth.seconds < d.seconds - 0.1)
      this.problems.push({ kind: 'cloth-short', detail: { seconds: Number(this.cloth.seconds.toFixed(1)) } });
    return this.cloth;
  }
}

const SIDES = { u0: [0, 0], u1: [0, 1], v0: [1, 0], v1: [1, 1] } as const;

/** Places of the vertices that cloth is made of: of those of parted faces one each. */
function wholeOf(
  positions: Float64Array,
  { positions: rest, vertex }: { positions: Float64Array; vertex: Uint32Array | null },
): Float64Array {
  if (!vertex) return positions;
  const out = rest.slice();
  vertex.forEach((v, i) => out.set(positions.subarray(i * 3, i * 3 + 3), v * 3));
  return out;
}

/** The same strengths at the vertices that cloth is made of. */
function ofWhole(
  strength: Strength | undefined,
  { positions, vertex }: { positions: Float64Array; vertex: Uint32Array | null },
): Strength | undefined {
  if (!strength || !vertex) return strength;
  return (d) => {
    const held = strength(d);
    const out = held && new Float64Array(positions.length / 3);
    if (held && out) vertex.forEach((v, i) => (out[v] = held[i]));
    return out;
  };
}

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
