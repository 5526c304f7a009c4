import { hypot } from '../math/portable';
import type { Vec3 } from '../math/vec3';
import { nearestPlace, noHit } from '../mesh/bvhQuery';
import { flatPiece } from '../mesh/lines/flatPiece';
import { shortestWay } from '../mesh/lines/shortestWay';
import type { MaskField } from '../mesh/mask/field';
import type { MaskGround } from '../mesh/mask/places';
import { shadesOf, type MaskShades } from '../mesh/mask/shades';
import { mergedMeshes, type PlacedMesh } from '../mesh/merged';
import { meshBounds, type Bounds } from '../mesh/mesh';
import { solidFacts, type SolidFacts } from '../mesh/solid/facts';
import type { Scene } from '../scene/schema';
import { bakeJob, type BakeHost } from './baking/job';
import type { Plan } from './plan';
import { carried } from './surfaceRest';
import type { SurfaceWork } from './surfaces';

/** What is looked up in the scene that was evaluated last. */
interface LookupHost {
  scene(): Scene | null;
  plan(): Plan | null;
  surface(id: string): SurfaceWork | undefined;
  mask(id: string): MaskField | undefined;
  /** A surface as masks read it. */
  ground(id: string): MaskGround | undefined;
  /** The meshes that a node has in the scene. */
  parts(id: string): PlacedMesh[] | undefined;
  arranged: BakeHost['arranged'];
}

/** What may be asked of the scene that was evaluated last, beside its results: each is worked out when it is asked for. */
export class Lookups {
  constructor(private host: LookupHost) {}

  /** A mask of the last scene over one of its surfaces, to be looked at; null where either is not there. */
  shades(mask: string, surface: string): MaskShades | null {
    const field = this.host.mask(mask);
    const ground = this.host.ground(surface);
    return field && ground ? shadesOf(field, ground) : null;
  }

  /**
   * The face of a surface of the last scene that is nearest to a place, with the flat piece about it; nothing where the
   * surface is not there. @param single the face alone
   */
  facesAt(surface: string, [x, y, z]: Vec3, single: boolean): number[] {
    const mesh = this.host.surface(surface)?.triMesh;
    const hit = noHit();
    if (!mesh || !nearestPlace(mesh.tree(), x, y, z, Infinity, hit)) return [];
    return single ? [hit.face] : flatPiece(mesh, hit.face);
  }

  /** A surface of the last scene as it is drawn, in the scene; null where it is not there. */
  meshInScene(surface: string): { positions: Float64Array; indices: Uint32Array } | null {
    const { mesh, matrix } = this.host.surface(surface)?.result ?? {};
    return mesh && matrix
      ? { positions: carried(mesh.positions, matrix, true), indices: mesh.indices }
      : null;
  }

  /** The box about all that some arrangements and surfaces of the last scene have of meshes; null where that is nothing. */
  boxAbout(ids: readonly string[]): Bounds | null {
    const parts = ids.flatMap((id) => this.host.parts(id) ?? []).filter((p) => p.mesh.indices.length > 0);
    return parts.length > 0 ? meshBounds(mergedMeshes(parts)) : null;
  }

  /** Ids of the surfaces of the last scene that are shown, and of those that things land on unless they name some. */
  shown(): string[] {
    const seen = (this.host.scene()?.surfaces ?? []).flatMap((s) => (s.visible ? [s.id] : []));
    return [...new Set([...seen, ...(this.host.plan()?.grounds ?? [])])];
  }

  /** What lies on a surface of the last scene, to be baked; null where it is not there, or has no texture coordinates. */
  bakeJob(
    surface: string,
    of: readonly string[],
    files: Pick<BakeHost, 'stampMaps' | 'wardrobe' | 'decode'>,
  ) {
    return bakeJob(surface, of, {
      ...files,
      scene: this.host.scene()!,
      triMesh: (id) => this.host.surface(id)?.triMesh,
      mesh: (id) => this.host.surface(id)?.result?.mesh,
      parts: (id) => this.host.parts(id),
      arranged: (id) => this.host.arranged(id),
    });
  }

  /** What a surface of the last scene, as it is drawn, is as a body; null where it is not there. */
  solidOf(surface: string): SolidFacts | null {
    const { mesh, matrix: m } = this.host.surface(surface)?.result ?? {};
    return mesh && m ? solidFacts(mesh, hypot(m[0], m[1], m[2])) : null;
  }

  /** The shortest way along a surface of the last scene that two places lie on; null where none leads there. */
  alongSurface(a: Vec3, b: Vec3): { surface: string; length: number } | null {
    let best: { surface: string; length: number } | null = null;
    for (const { id, visible } of this.host.scene()?.surfaces ?? []) {
      const mesh = visible ? this.host.surface(id)?.triMesh : undefined;
      const length = mesh ? shortestWay(mesh, a, b) : null;
      if (length !== null && !(best && best.length <= length)) best = { surface: id, length };
    }
    return best;
  }
}
