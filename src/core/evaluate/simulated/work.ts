import { goRound } from '../../mesh/deform/goRound';
import { deform, type Strength } from '../../mesh/deform/deform';
import type { Deformer } from '../../mesh/deform/schema';
import { topologyOf, type Topology } from '../../mesh/lines/topology';
import { through, throughInverse } from '../../mesh/surface';
import type { Surface } from '../../mesh/surfaceSchema';
import type { Finding } from '../../arrange/result';
import { clothFrom } from './cloth';
import { sagFrom } from './sag';
import { simulatedOf, type Deforming, type Problem, type Simulated, type Simulation } from './simulation';

/** Runs the deformers of one surface, with what has a history among them; keeps what was simulated. */
export class DeformWork {
  private key = '';
  private simulation: Simulation | null = null;
  private problems: Problem[] = [];

  /** @param positions xyz a vertex in the surface's own frame; changed in place @param time seconds */
  deform(positions: Float64Array, what: Deforming, time: number, progress?: (done: number) => void): void {
    const { surface, rest, strength } = what;
    const [d] = simulatedOf(surface);
    const { positions: at0, normals, mesh } = rest;
    const shape = { positions: at0, normals, indices: mesh.indices, uvs: mesh.uvs };
    // What is simulated begins as what comes before it is at time 0.
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
    const simulation = this.simulationOf(own, d, before, topology, what);
    if (simulation) {
      const now = new Float64Array(topology.position.length);
      simulation.at(d.settled ? d.seconds : time, now, progress);
      for (let v = 0; v < topology.weld.length; v++) {
        const o = topology.weld[v] * 3;
        const p = throughInverse(what.place, [now[o], now[o + 1], now[o + 2]]);
        own.set(p, v * 3);
      }
    }
    if (whole.vertex) whole.vertex.forEach((v, i) => positions.set(own.subarray(v * 3, v * 3 + 3), i * 3));
    // A surface has one history at the most; a second one would begin where this one moves.
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

  private simulationOf(
    positions: Float64Array,
    d: Simulated,
    before: Deformer[],
    topology: Topology,
    what: Deforming,
  ): Simulation | null {
    const { surface, place, context, restKey, masksKey } = what;
    const begun = { what, around: context.around?.(surface) ?? null, topology };
    const { stands, problems, make } = d.kind === 'cloth' ? clothFrom(d, begun) : sagFrom(d, begun);
    this.problems.push(...problems);
    const key = JSON.stringify([restKey, before, d, [...place], stands, masksKey]);
    if (key !== this.key) {
      this.key = key;
      const start = new Float64Array(topology.position.length);
      for (let v = 0; v < topology.weld.length; v++) {
        const o = v * 3;
        start.set(through(place, [positions[o], positions[o + 1], positions[o + 2]]), topology.weld[v] * 3);
      }
      this.simulation = make(start, this.simulation);
    }
    const { simulation } = this;
    if (simulation && simulation.seconds < d.seconds - 0.1)
      this.problems.push({ kind: 'cloth-short', detail: { seconds: Number(simulation.seconds.toFixed(1)) } });
    return simulation;
  }
}

/** Places of the vertices that are simulated: of those of parted faces one each. */
function wholeOf(
  positions: Float64Array,
  { positions: rest, vertex }: { positions: Float64Array; vertex: Uint32Array | null },
): Float64Array {
  if (!vertex) return positions;
  const out = rest.slice();
  vertex.forEach((v, i) => out.set(positions.subarray(i * 3, i * 3 + 3), v * 3));
  return out;
}

/** The same strengths at the vertices that are simulated. */
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
