import type { ArrangementResult } from '../../arrange/result';
import type { BakeJob } from '../../mesh/bake/baking';
import { thingsOf } from '../../mesh/bake/things';
import { dressed, materialFor, type Wardrobe } from '../../mesh/dressed';
import type { MeshMaterial, Picture } from '../../mesh/material';
import type { GreyPicture } from '../../mesh/make/picture';
import type { Mesh } from '../../mesh/mesh';
import type { PlacedMesh } from '../../mesh/merged';
import type { Stamp } from '../../mesh/meshRef';
import { STAMP_STRIDE } from '../../mesh/stamp/laid';
import { stampLayers, type StampsLaid } from '../../mesh/stamp/layers';
import type { StampMaps } from '../../mesh/stamp/maps';
import type { TriMesh } from '../../mesh/triMesh';
import type { Scene } from '../../scene/schema';
import type { ArrangementStamps } from '../stamps/laidRows';

/** What a bake is put together from. */
export interface BakeHost {
  scene: Pick<Scene, 'surfaces' | 'props'>;
  triMesh(surface: string): TriMesh | undefined;
  mesh(surface: string): Mesh | undefined;
  parts(arrangement: string): PlacedMesh[] | undefined;
  arranged(id: string): (ArrangementResult & { stamps?: ArrangementStamps | undefined }) | undefined;
  stampMaps(stamp: Stamp): StampMaps;
  wardrobe: Wardrobe;
  /** Pixels of a picture; undefined for one that cannot be read. */
  decode(picture: Picture): GreyPicture | undefined;
}

/** A job with the names of the props by their numbers, from 1. */
export interface NamedJob {
  job: BakeJob;
  names: string[];
}

/** @returns null where the surface is not there, or has no texture coordinates @param of arrangements */
export function bakeJob(surface: string, of: readonly string[], host: BakeHost): NamedJob | null {
  const { scene, wardrobe } = host;
  const tri = host.triMesh(surface);
  const mesh = host.mesh(surface);
  const node = scene.surfaces.find((s) => s.id === surface);
  if (!tri?.uvs || !mesh || !node) return null;
  const numbers = new Map<string, number>();
  const numberOf = (prop: string) => {
    if (!numbers.has(prop)) numbers.set(prop, numbers.size + 1);
    return numbers.get(prop)!;
  };
  const stamps = new Set(scene.props.filter((p) => p.mesh.source === 'stamp').map((p) => p.id));
  const propOf = (part: PlacedMesh) => part.of.slice(part.of.lastIndexOf(' ') + 1);
  const parts = of.flatMap((id) => host.parts(id) ?? []).filter((part) => !stamps.has(propOf(part)));
  const things = thingsOf(
    parts.map((part) => inMaterial(part, wardrobe)),
    parts.map((part) => numberOf(propOf(part))),
  );
  const asked = (node.material !== null && wardrobe.material(node.material)) || null;
  const looks = mesh.materials.map((look) => {
    const m = materialFor(look, asked, wardrobe);
    return m ? dressed(look, m, wardrobe, true) : look;
  });
  const shown = <K extends 'color' | 'normal'>(map: K) => {
    const found = looks.map((l) => l.maps?.[map]).find((m) => m);
    const picture = found && host.decode(found.picture);
    return picture && { ...picture, ...(found.transform && { transform: found.transform }) };
  };
  return {
    job: {
      surface: { ...tri, uvs: tri.uvs },
      own: ownColors(mesh, looks, tri.indices.length / 3),
      picture: shown('color'),
      relief: shown('normal'),
      things,
      stamps: stampsOn(surface, of, host, numberOf),
    },
    names: [...numbers.keys()].map((id) => scene.props.find((p) => p.id === id)?.name ?? id),
  };
}

/** A part whose looks are those of the material that it wears. */
function inMaterial(part: PlacedMesh, from: Wardrobe): PlacedMesh {
  const asked = (part.wears !== undefined && from.material(part.wears)) || null;
  const materials = part.mesh.materials.map((look) => {
    const m = materialFor(look, asked, from);
    return m ? dressed(look, m, from, part.mesh.uvs !== undefined) : look;
  });
  // One look each of what has the same name: those in another material are others.
  return { ...part, mesh: { ...part.mesh, materials }, of: `${part.of} ${part.wears ?? ''}` };
}

/** Of the faces that things can stand on, which are a mesh’s first. */
function ownColors(
  { indices, colors, groups }: Mesh,
  looks: readonly MeshMaterial[],
  faces: number,
): Float32Array {
  const own = new Float32Array(faces * 9);
  for (const { start, count, material } of groups) {
    const { color, plain } = looks[material];
    for (let i = start; i < Math.min(start + count, faces * 3); i++)
      for (let k = 0; k < 3; k++)
        own[i * 3 + k] = color[k] * (colors && !plain ? colors[indices[i] * 3 + k] : 1);
  }
  return own;
}

/** The stamps of arrangements that lie on a surface, with their maps. */
function stampsOn(
  surface: string,
  of: readonly string[],
  { arranged, stampMaps }: BakeHost,
  numberOf: (prop: string) => number,
): BakeJob['stamps'] {
  const maps: StampMaps[] = [];
  const owners: number[] = [];
  const laid: StampsLaid[] = [];
  for (const id of of) {
    const result = arranged(id);
    const on = result?.stamps?.on.filter((o) => o.surface === surface) ?? [];
    if (!result?.stamps || on.length === 0) continue;
    const { stamps } = result.stamps;
    const pictures = stamps.map((s, k) => {
      if (!s) return -1;
      owners.push(numberOf(result.placements.props[k]));
      return maps.push(stampMaps(s)) - 1;
    });
    for (const { numbers } of on) laid.push({ numbers, pictures, layers: stamps.map((s) => s?.layer ?? 0) });
  }
  if (laid.length === 0) return undefined;
  const layers = stampLayers(laid);
  return { layers, maps, owner: (stamp) => owners[layers.numbers[stamp * STAMP_STRIDE + 6]] };
}
