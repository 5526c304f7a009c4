import * as Comlink from 'comlink';
import type { PathResult } from '@/core/evaluate/scene';
import type { OpenedScene } from '@/core/formats/sceneZip';
import type { Bounds, Mesh } from '@/core/mesh/mesh';
import type { MeshRef, Scene } from '@/core/scene/schema';
import type { Stroke } from '@/core/curve/compile';
import { isPng } from '@/core/formats/pngRead';
import type { ToPin } from '@/core/arrange/pegs/pinning';
import type { Pin } from '@/core/arrange/pegs/schema';
import type { Profile } from '@/core/arrange/steps/ground';
import type { Vec3 } from '@/core/math/vec3';
import type { DrawBatch } from './drawing';
import type { BroughtIn, SendFormat, ServedArrangement, ServedSurface } from './service';
import type { WorkerApi } from './worker';

/** The latest results, whole. */
export interface EngineResult {
  paths: Map<string, PathResult>;
  arrangements: Map<string, ServedArrangement>;
  propBounds: Record<string, Bounds>;
  surfaces: Map<string, ServedSurface>;
  /** Milliseconds that the last evaluation took in the worker. */
  ms: number;
}

export interface EngineState {
  result: EngineResult;
  /** The scene that `result` belongs to. */
  scene: Scene | null;
  busy: boolean;
  /** Questions beside evaluation that have no answer yet. */
  asked: number;
  /** Set when an evaluation takes longer than {@link SHOW_PROGRESS_MS}. */
  progress: { done: number; name: string; cancellable: boolean } | null;
  /** One sentence when the worker failed. */
  problem: string | null;
}

const SHOW_PROGRESS_MS = 150;
const CAN_CANCEL_MS = 1000;

export const NOTHING: EngineResult = {
  paths: new Map(),
  arrangements: new Map(),
  propBounds: {},
  surfaces: new Map(),
  ms: 0,
};

/**
 * Evaluation in a worker for the interface. Only the latest scene counts: while one is worked out, the next
 * waits, and those between are never worked out. Cancelling stops the worker for good and starts a new one.
 */
export class EngineClient {
  state: EngineState = { result: NOTHING, scene: null, busy: false, asked: 0, progress: null, problem: null };
  private worker!: Worker;
  private remote!: Comlink.Remote<WorkerApi>;
  private listeners = new Set<() => void>();
  private waiting: Scene | null = null;
  private running = false;
  private generation = 0;
  private files = new Map<string, { bytes: Uint8Array; fileName: string }>();
  private clips = new Map<string, BroughtIn['clips']>();
  private meshes = new Map<string, Promise<Mesh | undefined>>();

  constructor(private makeWorker: () => Worker) {
    this.start();
  }

  private start(): void {
    this.worker = this.makeWorker();
    this.remote = Comlink.wrap<WorkerApi>(this.worker);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private set(change: Partial<EngineState>): void {
    this.state = { ...this.state, ...change };
    this.listeners.forEach((l) => l());
  }

  /** Seconds at which scenes are worked out. Changing it asks for nothing by itself. */
  time = 0;

  /** Asks for a scene to be worked out. Returns at once; `state` tells when it is done. */
  evaluate(scene: Scene): void {
    this.waiting = scene;
    if (!this.state.busy) this.set({ busy: true });
    void this.run();
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    const generation = this.generation;
    while (this.waiting && generation === this.generation) {
      const scene = this.waiting;
      this.waiting = null;
      await this.once(scene, generation);
    }
    if (generation !== this.generation) return;
    this.running = false;
    this.set({ busy: false, progress: null });
  }

  private async once(scene: Scene, generation: number): Promise<void> {
    const known: Record<string, string> = {};
    const { paths, arrangements, surfaces } = this.state.result;
    for (const r of [...paths.values(), ...arrangements.values(), ...surfaces.values()]) known[r.id] = r.key;
    for (const s of surfaces.values()) if (s.rest) known[`faces ${s.id}`] = s.facesKey;
    const started = performance.now();
    let latest = { done: 0, name: '' };
    const tick = setInterval(() => {
      const ms = performance.now() - started;
      if (ms > SHOW_PROGRESS_MS) this.set({ progress: { ...latest, cancellable: ms > CAN_CANCEL_MS } });
    }, 100);
    const report = Comlink.proxy((done: number, name: string) => void (latest = { done, name }));
    try {
      const served = await this.remote.evaluate(scene, known, this.time, report);
      if (generation !== this.generation) return;
      const old = this.state.result;
      const take = <T extends { id: string; key: string }>(
        list: (T | { id: string; key: string; same: true })[],
        have: Map<string, T>,
      ) => new Map(list.map((r) => [r.id, 'same' in r ? have.get(r.id)! : r]));
      this.set({
        scene,
        problem: null,
        result: {
          paths: take(served.paths, old.paths),
          arrangements: take(served.arrangements, old.arrangements),
          propBounds: served.propBounds,
          surfaces: withFaces(take(served.surfaces, old.surfaces), old.surfaces),
          ms: served.ms,
        },
      });
    } catch (error) {
      if (generation !== this.generation) return;
      this.set({
        problem: `The placements could not be worked out (${message(error)}). Undo the last change.`,
      });
    } finally {
      clearInterval(tick);
    }
  }

  /** Gives the work under way up: the last results stay, and the next change starts afresh. */
  cancel(): void {
    this.generation++;
    this.worker.terminate();
    this.start();
    this.running = false;
    this.waiting = null;
    for (const { bytes, fileName } of this.files.values())
      void (isPng(bytes)
        ? this.remote.bringInPicture(bytes.slice(), fileName)
        : this.remote.bringIn(bytes.slice(), fileName));
    this.set({
      busy: false,
      asked: 0,
      progress: null,
      problem: 'Stopped. What you see is from before the last change.',
    });
  }

  /** Counts a question until it is answered, so that others know that something is still to come. */
  private async ask<T>(answer: Promise<T>): Promise<T> {
    const { generation } = this;
    this.set({ asked: this.state.asked + 1 });
    try {
      return await answer;
    } finally {
      // A worker that was stopped takes its questions along.
      if (generation === this.generation) this.set({ asked: this.state.asked - 1 });
    }
  }

  /** The animations of a mesh that was brought in; none where it is not at hand. */
  clipsOf(ref: MeshRef): BroughtIn['clips'] {
    return ref.source === 'file' ? (this.clips.get(ref.hash) ?? []) : [];
  }

  /** Hands over the bytes of a mesh that a scene uses. @throws Error with one sentence for a file that cannot be read */
  async bringIn(bytes: Uint8Array, fileName: string): Promise<BroughtIn> {
    const made = await this.ask(this.remote.bringIn(bytes, fileName));
    this.files.set(made.hash, { bytes, fileName });
    this.meshes.set(made.hash, Promise.resolve(made.mesh));
    this.clips.set(made.hash, made.clips);
    return made;
  }

  /** Hands over the bytes of a picture that a surface uses. @throws Error with one sentence for a bad file */
  async bringInPicture(
    bytes: Uint8Array,
    fileName: string,
  ): Promise<{ hash: string; width: number; height: number }> {
    const made = await this.ask(this.remote.bringInPicture(bytes, fileName));
    this.files.set(made.hash, { bytes, fileName });
    return made;
  }

  /** Reads a scene file. @throws Error with one sentence for a file that cannot be read */
  async open(bytes: Uint8Array, name: string): Promise<OpenedScene> {
    const opened = await this.ask(this.remote.open(bytes, name));
    for (const [hash, file] of opened.files) this.files.set(hash, { bytes: file, fileName: name });
    return opened;
  }

  /** The mesh behind a reference; undefined where it is not at hand. */
  mesh(ref: MeshRef): Promise<Mesh | undefined> {
    const key = ref.source === 'built' ? `built:${ref.name}` : ref.hash;
    let mesh = this.meshes.get(key);
    if (!mesh) {
      mesh = this.remote.mesh(ref) as Promise<Mesh | undefined>;
      this.meshes.set(key, mesh);
      // A mesh that is missing now may be brought in later.
      void mesh.then((m) => m ?? this.meshes.delete(key));
    }
    return mesh;
  }

  /** The points that any path comes down to. */
  strokes(scene: Scene, path: string): Promise<Stroke[]> {
    return this.ask(this.remote.strokes(scene, path) as Promise<Stroke[]>);
  }

  /** The edge loop of a surface nearest to a place in the scene. */
  edgeLoop(scene: Scene, surface: string, at: Vec3): Promise<{ at: Vec3; line: Float64Array } | null> {
    return this.ask(this.remote.edgeLoop(scene, surface, at));
  }

  /** A path and the ground below it, from the side. */
  profile(scene: Scene, run: string, path: string, stroke: number): Promise<Profile | null> {
    return this.ask(this.remote.profile(scene, run, path, stroke, this.time) as Promise<Profile | null>);
  }

  /** Pins for places of the scene that was worked out last. */
  pinPlaces(places: ToPin[], how: 'nearest' | 'down'): Promise<(Pin | null)[]> {
    return this.ask(this.remote.pinPlaces(places, how, this.time) as Promise<(Pin | null)[]>);
  }

  /** An arrangement with other seeds, as instance matrices for each. */
  variants(scene: Scene, arrangement: string, seeds: number[]): Promise<DrawBatch[][]> {
    return this.ask(this.remote.variants(scene, arrangement, seeds, this.time) as Promise<DrawBatch[][]>);
  }

  sendOut(scene: Scene, format: SendFormat): Promise<Uint8Array> {
    return this.ask(this.remote.sendOut(scene, format, this.time) as Promise<Uint8Array>);
  }

  close(): void {
    this.generation++;
    this.worker.terminate();
  }
}

/** Surfaces that only moved keep the faces that came before. */
function withFaces(
  now: Map<string, ServedSurface>,
  before: Map<string, ServedSurface>,
): Map<string, ServedSurface> {
  for (const [id, s] of now) if (!s.plain && !s.rest) now.set(id, { ...s, rest: before.get(id)?.rest });
  return now;
}

const message = (error: unknown) => (error instanceof Error ? error.message : String(error));
