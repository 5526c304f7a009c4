import { cross, distance, dot, normalize, sub, type Vec3 } from '../../math/vec3';
import type { Mesh } from '../mesh';
import { chain, topologyOf, vertexAt, type MeshLine, type Topology } from './topology';
import { cos } from '../../math/portable';

/** Borders: edges with a face on one side only, run with their face on the left; longest first. */
export function borders(mesh: Mesh): MeshLine[] {
  const t = topologyOf(mesh);
  const pieces: [number, number][] = [];
  for (let e = 0; e * 2 < t.edges.length; e++) {
    if (t.faces[e * 2 + 1] === -1) pieces.push([t.edges[e * 2], t.edges[e * 2 + 1]]);
  }
  return longestFirst(t, chain(pieces));
}

/** Edges where the faces turn by more than `angle` radians, put together to lines; longest first. */
export function featureEdges(mesh: Mesh, angle: number): MeshLine[] {
  const t = topologyOf(mesh);
  const limit = cos(angle);
  const open: [number, number][] = [];
  for (let e = 0; e * 2 < t.edges.length; e++) {
    const [f, g] = [t.faces[e * 2], t.faces[e * 2 + 1]];
    if (g < 0 || dot(faceNormal(mesh, f), faceNormal(mesh, g)) < limit) {
      open.push([t.edges[e * 2], t.edges[e * 2 + 1]]);
    }
  }
  return longestFirst(t, straightestLines(t, open));
}

/** The border, feature or edge loop through the edge nearest to a place; null for a mesh without edges. */
export function edgeLoop(mesh: Mesh, near: Vec3): MeshLine | null {
  const t = topologyOf(mesh);
  let best = { e: -1, d: Infinity };
  for (let e = 0; e * 2 < t.edges.length; e++) {
    const d = toSegment(near, vertexAt(t, t.edges[e * 2]), vertexAt(t, t.edges[e * 2 + 1]));
    if (d < best.d) best = { e, d };
  }
  if (best.e < 0) return null;
  const used = new Set([best.e]);
  const ids = [t.edges[best.e * 2], t.edges[best.e * 2 + 1]];
  const grow = (): boolean => {
    for (;;) {
      const [before, at] = ids.slice(-2);
      const next = straightOn(t, before, at, used);
      if (!next) return false;
      used.add(next.edge);
      if (next.to === ids[0]) return true;
      ids.push(next.to);
    }
  };
  if (grow()) return lineOf(t, { ids, closed: true });
  ids.reverse();
  const closed = grow();
  return lineOf(t, { ids: ids.reverse(), closed });
}

function toSegment(p: Vec3, a: Vec3, b: Vec3): number {
  const d = sub(b, a);
  const l2 = dot(d, d);
  const u = l2 > 0 ? Math.min(1, Math.max(0, dot(sub(p, a), d) / l2)) : 0;
  return distance(p, [a[0] + d[0] * u, a[1] + d[1] * u, a[2] + d[2] * u]);
}

/** The edge that goes on straightest, turning by less than 60°; edges across a flat face (diagonals) go last. */
function straightOn(t: Topology, before: number, at: number, used: Set<number>) {
  const way = normalize(sub(vertexAt(t, at), vertexAt(t, before)));
  let best: { edge: number; to: number; straight: number } | null = null;
  for (const edge of t.around[at]) {
    if (used.has(edge)) continue;
    const to = t.edges[edge * 2] === at ? t.edges[edge * 2 + 1] : t.edges[edge * 2];
    const straight = dot(way, normalize(sub(vertexAt(t, to), vertexAt(t, at))));
    if (straight > 0.5 && (!best || straight > best.straight)) best = { edge, to, straight };
  }
  return best;
}

/** Undirected edges as lines that go straight on where more than two meet. */
function straightestLines(t: Topology, edges: [number, number][]): { ids: number[]; closed: boolean }[] {
  const at = new Map<number, number[]>();
  edges.forEach(([a, b], i) => {
    for (const v of [a, b]) {
      if (!at.has(v)) at.set(v, []);
      at.get(v)!.push(i);
    }
  });
  const used = new Uint8Array(edges.length);
  const next = (before: number, v: number): number => {
    const way = normalize(sub(vertexAt(t, v), vertexAt(t, before)));
    let best = { i: -1, straight: -Infinity };
    for (const i of at.get(v)!) {
      if (used[i]) continue;
      const to = edges[i][0] === v ? edges[i][1] : edges[i][0];
      const straight = dot(way, normalize(sub(vertexAt(t, to), vertexAt(t, v))));
      if (straight > best.straight) best = { i, straight };
    }
    // At a crossing of many only what goes on straight belongs to the same line.
    return at.get(v)!.length > 2 && best.straight < 0.5 ? -1 : best.i;
  };
  const out: { ids: number[]; closed: boolean }[] = [];
  edges.forEach((e, i) => {
    if (used[i]) return;
    used[i] = 1;
    const ids = [...e];
    const grow = (): boolean => {
      for (;;) {
        const [before, v] = ids.slice(-2);
        const k = next(before, v);
        if (k < 0) return false;
        used[k] = 1;
        const to = edges[k][0] === v ? edges[k][1] : edges[k][0];
        if (to === ids[0]) return true;
        ids.push(to);
      }
    };
    if (grow()) return out.push({ ids, closed: true });
    ids.reverse();
    const closed = grow();
    return out.push({ ids: ids.reverse(), closed });
  });
  return out;
}

function faceNormal(mesh: Mesh, f: number): Vec3 {
  const p = [0, 1, 2].map((k) => {
    const v = mesh.indices[f * 3 + k] * 3;
    return [mesh.positions[v], mesh.positions[v + 1], mesh.positions[v + 2]] as Vec3;
  });
  return normalize(cross(sub(p[1], p[0]), sub(p[2], p[0])));
}

const lineOf = (t: Topology, { ids, closed }: { ids: number[]; closed: boolean }): MeshLine => ({
  points: ids.map((v) => vertexAt(t, v)),
  closed,
  vertices: Uint32Array.from(ids.flatMap((v) => [t.first[v], t.first[v]])),
  weights: new Float64Array(ids.length),
  faces: Int32Array.from({ length: closed ? ids.length : ids.length - 1 }, (_, i) => {
    const to = ids[(i + 1) % ids.length];
    const edge = t.around[ids[i]].find((e) => t.edges[e * 2] === to || t.edges[e * 2 + 1] === to);
    return edge === undefined ? -1 : t.faces[edge * 2];
  }),
});

const lengthOf = (l: MeshLine) =>
  l.points.reduce((sum, p, i) => (i ? sum + distance(p, l.points[i - 1]) : 0), 0);

function longestFirst(t: Topology, chains: { ids: number[]; closed: boolean }[]): MeshLine[] {
  const lines = chains.filter((c) => c.ids.length > 1).map((c) => lineOf(t, c));
  return lines
    .map((l) => ({ l, d: lengthOf(l) }))
    .sort((a, b) => b.d - a.d)
    .map(({ l }) => l);
}
