import { mergedMeshes } from '../../mesh/merged';
import type { Mesh } from '../../mesh/mesh';
import { placedMeshes } from '../../evaluate/placedMeshes';
import type { Assets, SceneResult } from '../../evaluate/scene';
import { wornAmong } from '../../scene/worn';
import type { Scene } from '../../scene/schema';
import { WornMeshes } from '../wornMeshes';
import { FileError } from '../limits';

/** How what is shown is written as whole meshes, without instances. */
export interface MergedOptions {
  /** So many times smaller than it is: 200 for 1:200. */
  scale: number;
  /** The axis that is up in the file. */
  up: 'y' | 'z';
  /** Whether surfaces go along. */
  surfaces: boolean;
}

/** All that one arrangement has placed, or one surface, in the units and axes of the file. */
export interface MergedPart {
  name: string;
  mesh: Mesh;
}

/** More triangles than this would be a file of a gigabyte, and more than a printer's program opens. */
const MOST_TRIANGLES = 10_000_000;

/**
 * What is shown, a part an arrangement and surface, in the order of the lists.
 * @param perMetre units of the file in a metre @throws FileError where it is more than such a file can hold
 */
export function mergedParts(
  scene: Scene,
  result: SceneResult,
  assets: Assets,
  { scale, up, surfaces }: MergedOptions,
  perMetre: number,
): MergedPart[] {
  const worn = new WornMeshes(scene, assets);
  const wornBy = wornAmong(scene.arrangements);
  const props = new Map(scene.props.map((p) => [p.id, p]));
  const looks = {
    prop: (id: string) => {
      const prop = props.get(id);
      // A stamp has no body that could be printed.
      const mesh = prop && prop.mesh.source !== 'stamp' ? assets.mesh(prop.mesh) : undefined;
      return prop && mesh ? { prop, mesh } : undefined;
    },
    wears: (...of: Parameters<typeof wornBy>) => wornBy(...of) ?? undefined,
  };
  const shown = [
    ...scene.arrangements.flatMap((a, i) =>
      a.visible ? [{ name: a.name, parts: placedMeshes(a.id, result.arrangements[i], looks) }] : [],
    ),
    ...scene.surfaces.flatMap((s, i) => {
      const { mesh, matrix } = result.surfaces[i];
      const wears = s.material ?? undefined;
      return surfaces && s.visible && mesh
        ? [{ name: s.name, parts: [{ mesh, matrix, wears, of: s.id }] }]
        : [];
    }),
  ];
  const triangles = shown.reduce(
    (n, { parts }) => parts.reduce((k, { mesh }) => k + mesh.indices.length / 3, n),
    0,
  );
  if (triangles > MOST_TRIANGLES)
    throw new FileError(
      `All that is shown has ${triangles} triangles; such a file holds ${MOST_TRIANGLES}. Hide a part of it, or send out a .glb with instances.`,
    );
  const k = perMetre / scale;
  return shown.flatMap(({ name, parts }) => {
    if (parts.every((p) => p.mesh.indices.length === 0)) return [];
    const mesh = worn.wearing(mergedMeshes(parts), null);
    return [{ name, mesh: inUnits(mesh, k, up) }];
  });
}

/** A mesh of the scene, metres and Y up, in other units and with another axis up. */
function inUnits(mesh: Mesh, k: number, up: 'y' | 'z'): Mesh {
  const turned = (from: Float32Array, by: number) => {
    const out = new Float32Array(from.length);
    for (let o = 0; o < from.length; o += 3) {
      out[o] = from[o] * by;
      // Y up to Z up: a quarter turn about X.
      out[o + 1] = (up === 'z' ? -from[o + 2] : from[o + 1]) * by;
      out[o + 2] = (up === 'z' ? from[o + 1] : from[o + 2]) * by;
    }
    return out;
  };
  return { ...mesh, positions: turned(mesh.positions, k), normals: turned(mesh.normals, 1) };
}
