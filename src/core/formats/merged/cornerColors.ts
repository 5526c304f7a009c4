import { shownChannel } from '../../math/color';
import type { Mesh } from '../../mesh/mesh';

/** The colours of a mesh corner by corner: those of its looks times those of its vertices. Pictures are not in them. */
export function cornerColors(mesh: Mesh): (corner: number) => [red: number, green: number, blue: number] {
  const look = new Uint32Array(mesh.indices.length);
  for (const { start, count, material } of mesh.groups) look.fill(material, start, start + count);
  return (corner) => {
    const { color, plain } = mesh.materials[look[corner]];
    const own = plain ? undefined : mesh.colors;
    const v = mesh.indices[corner] * 3;
    return [0, 1, 2].map((k) => shownChannel(color[k] * (own ? own[v + k] : 1))) as [number, number, number];
  };
}
