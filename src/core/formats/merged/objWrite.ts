import type { Mesh } from '../../mesh/mesh';
import { cornerColors } from './cornerColors';
import type { MergedPart } from './parts';

/** What a name may be in a line of words. */
const word = (name: string): string => name.trim().replace(/\s+/g, '_') || 'part';

/**
 * A Wavefront OBJ: an object a part, with normals, texture coordinates where it has them, and the colour of each vertex
 * behind its place. Its looks are named by `usemtl`; pictures stay behind, as the format keeps them in files of their own.
 */
export function writeObj(parts: readonly MergedPart[], unit: string): Uint8Array {
  const lines = [`# Clothesline, ${unit}`];
  const from = { v: 1, vt: 1, vn: 1 };
  for (const { name, mesh } of parts) {
    const colors = vertexColors(mesh);
    lines.push(`o ${word(name)}`);
    const { positions: p, normals: n, uvs } = mesh;
    for (let i = 0; i < p.length; i += 3)
      lines.push(`v ${p[i]} ${p[i + 1]} ${p[i + 2]} ${colors[i]} ${colors[i + 1]} ${colors[i + 2]}`);
    for (let i = 0; uvs && i < uvs.length; i += 2) lines.push(`vt ${uvs[i]} ${1 - uvs[i + 1]}`);
    for (let i = 0; i < n.length; i += 3) lines.push(`vn ${n[i]} ${n[i + 1]} ${n[i + 2]}`);
    const corner = (i: number): string => {
      const v = mesh.indices[i];
      return `${v + from.v}/${uvs ? v + from.vt : ''}/${v + from.vn}`;
    };
    for (const { start, count, material } of mesh.groups) {
      lines.push(`usemtl ${word(mesh.materials[material].name || name)}`);
      for (let i = start; i < start + count; i += 3)
        lines.push(`f ${corner(i)} ${corner(i + 1)} ${corner(i + 2)}`);
    }
    from.v += p.length / 3;
    from.vn += n.length / 3;
    from.vt += (uvs?.length ?? 0) / 2;
  }
  return new TextEncoder().encode(`${lines.join('\n')}\n`);
}

/** Shown red, green, blue a vertex, to four places: as the last of its faces has it. */
function vertexColors(mesh: Mesh): Float64Array {
  const out = new Float64Array(mesh.positions.length).fill(1);
  const colorOf = cornerColors(mesh);
  mesh.indices.forEach((v, i) => out.set(colorOf(i), v * 3));
  return out.map((c) => Math.round(c * 1e4) / 1e4);
}
