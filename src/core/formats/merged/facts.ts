import { meshBounds } from '../../mesh/mesh';
import { solidFacts } from '../../mesh/solid/facts';
import type { Assets, SceneResult } from '../../evaluate/scene';
import type { Scene } from '../../scene/schema';
import { mergedParts, type MergedOptions } from './parts';

/** What such a file will hold. */
export interface MergedFacts {
  parts: number;
  triangles: number;
  /** Names of the parts that are not closed; null where they are too many to be looked at meanwhile. */
  open: string[] | null;
  /** Metres along x, y, z of the file, smaller by its scale. */
  size: [number, number, number];
}

/** More triangles than this are not looked at edge by edge while somebody chooses. */
const LOOKED_AT = 400_000;

/** @throws FileError where it is more than such a file can hold */
export function mergedFacts(
  scene: Scene,
  result: SceneResult,
  assets: Assets,
  options: MergedOptions,
): MergedFacts {
  const parts = mergedParts(scene, result, assets, options, 1);
  const triangles = parts.reduce((n, { mesh }) => n + mesh.indices.length / 3, 0);
  const boxes = parts.map(({ mesh }) => meshBounds(mesh));
  const reach = (a: number) =>
    Math.max(...boxes.map((b) => b.max[a])) - Math.min(...boxes.map((b) => b.min[a]));
  return {
    parts: parts.length,
    triangles,
    open:
      triangles > LOOKED_AT
        ? null
        : parts.flatMap(({ name, mesh }) => (solidFacts(mesh).closed ? [] : [name])),
    size: parts.length > 0 ? [reach(0), reach(1), reach(2)] : [0, 0, 0],
  };
}
