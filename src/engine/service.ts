import { Evaluator, type ArrangementResult, type PathResult, type SceneResult } from '@/core/evaluate/scene';
import { countStates, type GapReason } from '@/core/evaluate/result';
import { writeCsv } from '@/core/formats/csv';
import { readGlb } from '@/core/formats/glbRead';
import { writeGlb, type GlbOptions } from '@/core/formats/glbWrite';
import { contentHash } from '@/core/formats/hash';
import { openScene, packScene, type OpenedScene } from '@/core/formats/sceneZip';
import { meshBounds, type Bounds, type Mesh } from '@/core/mesh/mesh';
import type { MeshRef, Scene } from '@/core/scene/schema';
import { builtMesh } from '@/demo/library';
import { drawBatches, type DrawBatch } from './drawing';

/** An arrangement's result with what the view draws from it. */
export interface ServedArrangement extends ArrangementResult {
  batches: DrawBatch[];
  counts: Record<GapReason, number>;
}

/** What has changed since the client's last scene; a node that is the same is named by its key only. */
export interface Served {
  paths: (PathResult | { id: string; key: string; same: true })[];
  arrangements: (ServedArrangement | { id: string; key: string; same: true })[];
  propBounds: Record<string, Bounds>;
  /** Faces of each surface whose mesh is at hand. */
  surfaceFaces: Record<string, number>;
  /** Milliseconds that the work took. */
  ms: number;
}

/** A file that was brought in, looked at. */
export interface BroughtIn {
  hash: string;
  fileName: string;
  bounds: Bounds;
  triangles: number;
  mesh: Mesh;
}

export type SendFormat =
  { kind: 'glb'; options: GlbOptions } | { kind: 'csv'; gaps: boolean } | { kind: 'clothesline' };

/** Evaluation and files as a service. The same one runs in a browser's worker and in Node. */
export class EngineService {
  private files = new Map<string, { bytes: Uint8Array; mesh: Mesh }>();
  private evaluator = new Evaluator({ mesh: (ref) => this.mesh(ref) });

  /** A mesh that is at hand; undefined for one that is not. */
  mesh(ref: MeshRef): Mesh | undefined {
    return ref.source === 'built' ? builtMesh(ref.name) : this.files.get(ref.hash)?.mesh;
  }

  /** @throws FileError for a file that cannot be read */
  async bringIn(bytes: Uint8Array, fileName: string): Promise<BroughtIn> {
    const mesh = await readGlb(bytes, fileName);
    const hash = contentHash(bytes);
    this.files.set(hash, { bytes, mesh });
    return { hash, fileName, bounds: meshBounds(mesh), triangles: mesh.indices.length / 3, mesh };
  }

  /** Opens a scene file and reads the meshes that came with it. */
  async open(bytes: Uint8Array, name: string): Promise<OpenedScene> {
    const opened = openScene(bytes, name);
    for (const [hash, file] of opened.files) {
      await this.bringIn(file, `${hash.slice(0, 8)}.glb in ${name}`);
    }
    return opened;
  }

  evaluateAll(scene: Scene, progress?: (done: number, name: string) => void): SceneResult {
    return this.evaluator.evaluate(scene, progress);
  }

  /** @param known keys of the results that the client still has, by node id */
  evaluate(
    scene: Scene,
    known: Record<string, string>,
    progress?: (done: number, name: string) => void,
  ): Served {
    const start = performance.now();
    const result = this.evaluator.evaluate(scene, progress);
    const same = <T extends { id: string; key: string }>(r: T) => known[r.id] === r.key;
    return {
      paths: result.paths.map((r) => (same(r) ? { id: r.id, key: r.key, same: true } : r)),
      arrangements: result.arrangements.map((r) =>
        same(r)
          ? { id: r.id, key: r.key, same: true }
          : { ...r, batches: drawBatches(r.placements), counts: countStates(r.placements) },
      ),
      propBounds: result.propBounds,
      surfaceFaces: this.surfaceFaces(scene),
      ms: performance.now() - start,
    };
  }

  private surfaceFaces(scene: Scene): Record<string, number> {
    const faces: Record<string, number> = {};
    for (const s of scene.surfaces) {
      const mesh = this.mesh(s.mesh);
      if (mesh) faces[s.id] = mesh.indices.length / 3;
    }
    return faces;
  }

  /** The scene as a file's bytes. */
  async sendOut(scene: Scene, format: SendFormat): Promise<Uint8Array> {
    if (format.kind === 'clothesline') return packScene(scene, (hash) => this.files.get(hash)?.bytes);
    const result = this.evaluator.evaluate(scene);
    if (format.kind === 'csv')
      return new TextEncoder().encode(writeCsv(scene, result, { gaps: format.gaps }));
    return writeGlb(scene, result, { mesh: (ref) => this.mesh(ref) }, format.options);
  }
}
