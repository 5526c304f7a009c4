import type { CompiledPath } from '../curve/compile';
import { samplePath } from '../curve/sample';
import { Cloth, type ClothSpec } from '../mesh/cloth/cloth';
import { deform } from '../mesh/deform/deform';
import type { Deformer } from '../mesh/deform/schema';
import { topologyOf, type Topology } from '../mesh/lines/topology';
import { through, throughInverse } from '../mesh/surface';
import type { Vec3 } from '../math/vec3';
import type { Surface } from '../mesh/surfaceSchema';
import type { Finding } from '../arrange/result';
import type { Rest, SurfaceContext } from './surfaceRest';

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
}

/** Runs the deformers of one surface, with the cloth among them; keeps what was simulated. */
export class ClothWork {
  private key = '';
  private cloth: Cloth | null = null;
  private problems: { kind: Finding['kind']; detail: Finding['detail'] }[] = [];

  /** @param positions xyz a vertex in the surface's own frame; changed in place @param time seconds */
  deform(positions: Float64Array, what: Deforming, time: number, progress?: (done: number) => void): void {
    const { surface, rest } = what;
    const [d] = clothsOf(surface);
    this.problems = [];
    if (!d) return deform(positions, rest.normals, surface.deformers, time);
    const at = surface.deformers.indexOf(d);
    const before = surface.deformers.slice(0, at);
    // Cloth begins as what comes before it is at time 0.
    deform(positions, rest.normals, before, 0);
    const topology = topologyOf(rest.mesh);
    const cloth = this.clothOf(positions, d, before, topology, what);
    const now = new Float64Array(topology.position.length);
    cloth.at(time, now, progress);
    for (let v = 0; v < topology.weld.length; v++) {
      const o = topology.weld[v] * 3;
      const p = throughInverse(what.place, [now[o], now[o + 1], now[o + 2]]);
      positions.set(p, v * 3);
    }
    // A surface has one cloth at the most; a second one would begin where this one moves.
    deform(positions, rest.normals, surface.deformers.slice(at + 1), time);
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
    { rest, place, context, restKey }: Deforming,
  ): Cloth {
    const collider = d.collider ? context.still?.(d.collider) : undefined;
    const path = d.line ? context.path(d.line) : undefined;
    const line = path?.ok ? path.path : undefined;
    if (d.collider && !collider) this.problems.push({ kind: 'cloth-collider-missing', detail: {} });
    if (d.line && !line) this.problems.push({ kind: 'cloth-line-missing', detail: {} });
    if (d.sides.length > 0 && !rest.mesh.uvs) this.problems.push({ kind: 'cloth-no-uv', detail: {} });
    const key = JSON.stringify([restKey, before, d, [...place], collider?.key, line && [...line.controls]]);
    if (key !== this.key || !this.cloth) {
      this.key = key;
      const start = new Float64Array(topology.position.length);
      for (let v = 0; v < topology.weld.length; v++) {
        const o = v * 3;
        start.set(through(place, [positions[o], positions[o + 1], positions[o + 2]]), topology.weld[v] * 3);
      }
      const held = heldOf(d, topology, rest, start, line);
      const { gravity, wind, windDeg, gusts, weight, stiffness, give, drag, thickness, seconds, seed } = d;
      const spec: ClothSpec = {
        ...{ gravity, wind, windDeg, gusts, weight, stiffness, give, drag, thickness, seconds, seed },
        start,
        topology,
        indices: rest.mesh.indices,
        held,
        collider: collider?.triMesh,
      };
      // Much that is set of a surface moves no thread of it: then what was simulated stays, and goes on.
      if (this.cloth?.isOf(spec)) this.cloth.last(seconds);
      else this.cloth = new Cloth(spec);
    }
    if (this.cloth.seconds < d.seconds - 0.1)
      this.problems.push({ kind: 'cloth-short', detail: { seconds: Number(this.cloth.seconds.toFixed(1)) } });
    return this.cloth;
  }
}

const SIDES = { u0: [0, 0], u1: [0, 1], v0: [1, 0], v1: [1, 1] } as const;

/** Particles that are held; those of the first side are moved onto the line, where there is one. */
function heldOf(
  d: ClothDeformer,
  topology: Topology,
  rest: Rest,
  start: Float64Array,
  line: CompiledPath | undefined,
): Uint8Array {
  const held = new Uint8Array(start.length / 3);
  const { uvs } = rest.mesh;
  if (uvs)
    d.sides.forEach((side, i) => {
      const along = sideOf(uvs, topology, SIDES[side]);
      if (along.length === 0) return;
      const kept = d.cornersOnly ? [along[0], along[along.length - 1]] : along;
      for (const { particle } of kept) held[particle] = 1;
      if (i === 0 && line) hang(start, along, line);
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
  return held;
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
 */
function hang(start: Float64Array, side: { particle: number; share: number }[], line: CompiledPath): void {
  let long = 0;
  side.forEach(({ particle: a }, i) => {
    const b = side[Math.max(0, i - 1)].particle;
    const d = [0, 1, 2].map((k) => start[a * 3 + k] - start[b * 3 + k]);
    long += Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
  });
  const over = Math.min(long, line.length);
  const from = (line.length - over) / 2;
  const places = (back: boolean) =>
    samplePath(
      line,
      side.map(({ share }) => from + (back ? 1 - share : share) * over),
    ).position;
  const far = (to: Float64Array) =>
    side.reduce((sum, { particle }, i) => {
      const d: Vec3 = [0, 1, 2].map((k) => start[particle * 3 + k] - to[i * 3 + k]) as Vec3;
      return sum + Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
    }, 0);
  const [there, back] = [places(false), places(true)];
  const to = far(there) <= far(back) ? there : back;
  side.forEach(({ particle }, i) => start.set(to.subarray(i * 3, i * 3 + 3), particle * 3));
}
