import type { Sliced } from '../../mesh/slice';

/** What lies along a line, made as long as that is: its front axis goes along it. */

export interface Body {
  mesh: Sliced;
  /** Where it begins and ends along its front. */
  low: number;
  high: number;
}

/**
 * A mesh for a line of a length. Stretched, its ends keep their shape: as far in from either as it is wide there it only
 * moves, and what is between grows. Repeated, it is as many behind each other as come nearest to their own length.
 * @param length of the line, metres @param size what it is multiplied with across
 */
export function along(mesh: Sliced, fit: 'stretch' | 'repeat', length: number, size: number): Body {
  const p = mesh.positions;
  let [low, high, wide] = [Infinity, -Infinity, 0];
  for (let o = 0; o < p.length; o += 3) {
    low = Math.min(low, p[o + 2]);
    high = Math.max(high, p[o + 2]);
    wide = Math.max(wide, Math.abs(p[o]), Math.abs(p[o + 1]));
  }
  const own = high - low;
  if (!(own > 1e-9) || !(length > 0)) return { mesh, low, high: low + (own || 1) };
  if (fit === 'repeat') {
    const count = Math.max(1, Math.round(length / (own * size)));
    return { mesh: repeated(mesh, count, own), low, high: low + own * count };
  }
  // In metres of the line an end is as long as it is in itself; of a short line both ends take half.
  const end = Math.min(wide, own / 2);
  const kept = Math.min(end * size, length / 2) / length;
  const share = (z: number): number => {
    const [from, to] = [z - low, high - z];
    if (from <= end) return (from / end) * kept;
    if (to <= end) return 1 - (to / end) * kept;
    return kept + ((from - end) / (own - 2 * end)) * (1 - 2 * kept);
  };
  const positions = p.slice();
  for (let o = 2; o < p.length; o += 3) positions[o] = low + share(p[o]) * own;
  return { mesh: { ...mesh, positions }, low, high };
}

/** A mesh so many times behind itself along its front. */
function repeated(mesh: Sliced, count: number, own: number): Sliced {
  if (count === 1) return mesh;
  const n = mesh.positions.length;
  const positions = new Float64Array(n * count);
  const normals = new Float64Array(n * count);
  for (let k = 0; k < count; k++) {
    positions.set(mesh.positions, n * k);
    for (let o = n * k + 2; o < n * (k + 1); o += 3) positions[o] += own * k;
    normals.set(mesh.normals, n * k);
  }
  const again = (a: Float32Array | undefined) => {
    if (!a) return undefined;
    const out = new Float32Array(a.length * count);
    for (let k = 0; k < count; k++) out.set(a, a.length * k);
    return out;
  };
  const [uvs, colors] = [again(mesh.uvs), again(mesh.colors)];
  // Faces of one material stay behind each other.
  const groups: Sliced['groups'] = [];
  const indices = new Uint32Array(mesh.indices.length * count);
  let at = 0;
  for (const group of mesh.groups) {
    const start = at;
    for (let k = 0; k < count; k++)
      for (let i = group.start; i < group.start + group.count; i++)
        indices[at++] = mesh.indices[i] + (n / 3) * k;
    groups.push({ ...group, start, count: at - start });
  }
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices, groups };
}
