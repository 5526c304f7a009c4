import { joined, sliceAlong, type Sliced } from './slice';

/**
 * The part of a mesh between two planes square to an axis (x, y, z: 0, 1, 2). Where it is cut it is closed again: each
 * loop of the cut is filled about its middle, in the look of the face beside it.
 * @returns the mesh itself where nothing lies beyond either plane
 */
export function clipAlong(mesh: Sliced, axis: 0 | 1 | 2, low: number, high: number): Sliced {
  let size = 0;
  let [least, most] = [Infinity, -Infinity];
  for (let i = 0; i < mesh.positions.length; i++) {
    size = Math.max(size, Math.abs(mesh.positions[i]));
    if (i % 3 !== axis) continue;
    least = Math.min(least, mesh.positions[i]);
    most = Math.max(most, mesh.positions[i]);
  }
  const hair = size * 1e-9;
  const planes = [low, high].filter((z) => z > least + hair && z < most - hair);
  if (planes.length === 0) return mesh;
  const cut = sliceAlong(mesh, axis, planes);
  const { positions: p } = cut;
  const along = (v: number) => p[v * 3 + axis];
  const parts: { material: number; faces: number[] }[] = [];
  for (const { start, count, material } of cut.groups) {
    const faces: number[] = [];
    for (let i = start; i < start + count; i += 3) {
      const face = [cut.indices[i], cut.indices[i + 1], cut.indices[i + 2]];
      const middle = (along(face[0]) + along(face[1]) + along(face[2])) / 3;
      if (middle > low - hair && middle < high + hair) faces.push(...face);
    }
    parts.push({ material, faces });
  }
  const caps = planes.flatMap((plane) => loopsAt(cut, parts, axis, plane, hair, size));
  const positions = [...p];
  const normals = [...cut.normals];
  const uvs = cut.uvs && [...cut.uvs];
  const colors = cut.colors && [...cut.colors];
  for (const { loop, part, outward } of caps) {
    const first = positions.length / 3;
    const middle = [0, 0, 0];
    for (const v of loop) for (let a = 0; a < 3; a++) middle[a] += p[v * 3 + a] / loop.length;
    const put = (at: number[], like: number) => {
      positions.push(...at);
      const n = [0, 0, 0];
      n[axis] = outward;
      normals.push(...n);
      uvs?.push(uvs[like * 2], uvs[like * 2 + 1]);
      colors?.push(colors[like * 3], colors[like * 3 + 1], colors[like * 3 + 2]);
    };
    put(middle, loop[0]);
    for (const v of loop) put([p[v * 3], p[v * 3 + 1], p[v * 3 + 2]], v);
    // The loop runs as its faces do; the cap runs the other way.
    loop.forEach((_, k) => parts[part].faces.push(first, first + 1 + ((k + 1) % loop.length), first + 1 + k));
  }
  return joined({ positions, normals, uvs, colors }, parts);
}

interface Loop {
  /** Vertices in the direction in which the faces beside them run. */
  loop: number[];
  /** Which group the faces are of. */
  part: number;
  outward: 1 | -1;
}

/** The loops of edges that a cut left open. */
function loopsAt(
  { positions: p }: Sliced,
  parts: { faces: number[] }[],
  axis: number,
  plane: number,
  hair: number,
  size: number,
): Loop[] {
  const on = (v: number) => Math.abs(p[v * 3 + axis] - plane) <= hair;
  // Vertices of flat faces lie together without being one.
  const fine = 1e6 / (size || 1);
  const spot = (v: number) => [0, 1, 2].map((a) => Math.round(p[v * 3 + a] * fine)).join(' ');
  const from = new Map<string, { vertex: number; to: string; part: number }>();
  let above = false;
  parts.forEach(({ faces }, part) => {
    for (let i = 0; i < faces.length; i += 3) {
      const face = [faces[i], faces[i + 1], faces[i + 2]];
      if (face.every(on)) continue;
      for (let k = 0; k < 3; k++) {
        const [a, b] = [face[k], face[(k + 1) % 3]];
        if (!on(a) || !on(b)) continue;
        above = p[face[(k + 2) % 3] * 3 + axis] > plane;
        from.set(spot(a), { vertex: a, to: spot(b), part });
      }
    }
  });
  const out: Loop[] = [];
  for (const begin of [...from.keys()]) {
    const loop: number[] = [];
    let part = 0;
    let at = begin;
    for (let edge = from.get(at); edge; edge = from.get(at)) {
      from.delete(at);
      loop.push(edge.vertex);
      part = edge.part;
      at = edge.to;
    }
    if (loop.length > 2 && at === begin) out.push({ loop, part, outward: above ? -1 : 1 });
  }
  return out;
}
