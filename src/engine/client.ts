import * as Comlink from 'comlink';
import type { Print } from '@/core/scene/printSchema';
import type { Printable } from '@/core/mesh/solid/printable';
import type { MergedFacts, MergedOptions } from '@/core/formats/merged';
import type { Pushed } from '@/core/evaluate/checks/pushed';
import type { Fits } from '@/core/evaluate/checks/fits';
import type { Patch } from '@/core/scene/patch';
import type { Cost } from '@/core/formats/cost';
import type { OpenedScene } from '@/core/formats/sceneZip';
import type { MaskShades } from '@/core/mesh/mask/shades';
import { refKey } from '@/core/evaluate/props';
import type { Bounds, Mesh } from '@/core/mesh/mesh';
import type { Surround } from '@/core/light/panoramaSchema';
import type { MeshRef, PictureRef, Stamp } from '@/core/mesh/meshRef';
import type { BakeSettings } from '@/core/mesh/bake/bakeSchema';
import { contentHash } from '@/core/formats/hash';
import type { BakedFiles } from './baking/bake';
import type { Prop } from '@/core/mesh/propSchema';
import type { StampMaps } from '@/core/mesh/stamp/maps';
import type { Scene } from '@/core/scene/schema';
import type { Stroke } from '@/core/curve/compile';
import type { PinHow, ToPin } from '@/core/mesh/pinning';
import type { Pin } from '@/core/mesh/pinSchema';
import type { Profile } from '@/core/arrange/steps/groundProfile';
import type { LockOn } from '@/core/arrange/steps/lock';
import type { Quat } from '@/core/math/quat';
import type { SolidFacts } from '@/core/mesh/solid/facts';
import type { Vec3 } from '@/core/math/vec3';
import type { Cause } from '@/core/evaluate/ask';
import type { Finding } from '@/core/arrange/result';
import type { PlaceTable } from '@/core/formats/csvRead';
import type { SvgDrawing } from '@/core/formats/svgRead';
import { builtMotion } from '@/demo/library';
import { LOST } from './mirror';
import { NOTHING, taken, type EngineResult } from './results';
import type { Served } from './served';
import type { AnimationRange, Asked, EngineService, PinnedAt, SendFormat, Variant } from './service';
import type { BroughtIn } from './files';
import type { Shape, Simpler } from './simpler';
import type { WorkerApi } from './worker';

export interface EngineState {
  result: EngineResult;
  /** The scene that `result` belongs to. */
  scene: Scene | null;
  busy: boolean;
  /** What was found when all was held against all last, by arrangement. */
  checks: Map<string, Finding[]>;
  /** Whether that is of an earlier result. */
  looking: boolean;
  /** Questions beside evaluation that have no answer yet. */
  asked: number;
  /** Set when an evaluation takes longer than {@link SHOW_PROGRESS_MS}. */
  progress: { done: number; name: string; cancellable: boolean } | null;
  /** One sentence when the worker failed. */
  problem: string | null;
}

const SHOW_PROGRESS_MS = 150;
const CAN_CANCEL_MS = 1000;
/** All is held against all once nothing has changed for so long. */
const AT_REST_MS = 200;
/** Of more rows it would be felt in a drag that all are held against all. */
const MOST_EAGER = 5000;

/**
 * Evaluation in a worker for the interface. The worker has the scene too; only changes of it travel, in the task that
 * made them. Only the latest scene counts: while one is worked out, the next waits, and those between are never worked
 * out. Cancelling stops the worker for good and starts a new one.
 */
export class EngineClient {
  state: EngineState = {
    result: NOTHING,
    scene: null,
    busy: false,
    checks: new Map(),
    looking: true,
    asked: 0,
    progress: null,
    problem: null,
  };
  private worker!: Worker;
  private remote!: Comlink.Remote<WorkerApi>;
  private listeners = new Set<() => void>();
  /** The document, its number, and what is shown of it: the same, or with a change that is not made. */
  private scene: Scene | null = null;
  private at = 0;
  private shown: Scene | null = null;
  private wanted = false;
  /** The worker has told nothing yet: what it tells first is everything. */
  private fresh = true;
  private running = false;
  /** What has not come to its moment yet, and since when that is waited for. */
  private unfinished: Served['unfinished'] | null = null;
  private since = 0;
  /** Name of what is left as far as it has fallen, on asking. */
  private halted: string | null = null;
  private generation = 0;
  private latest = { done: 0, name: '' };
  /** What to tell those who wait for an answer when the worker is stopped. */
  private stopped = new Set<(why: Error) => void>();
  private files = new Map<string, { bytes: Uint8Array; fileName: string }>();
  private clips = new Map<string, BroughtIn['clips']>();
  private meshes = new Map<string, Promise<Mesh | undefined>>();

  constructor(private makeWorker: () => Worker) {
    this.start();
  }

  private start(): void {
    this.worker = this.makeWorker();
    this.fresh = true;
    this.remote = Comlink.wrap<WorkerApi>(this.worker);
    tell(this.remote.listen(Comlink.proxy((done, name) => void (this.latest = { done, name }))));
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

  /** Takes a scene whole, and asks for it to be worked out. */
  takeScene(scene: Scene): void {
    this.scene = this.shown = scene;
    this.at++;
    this.tellWhole();
    this.again();
  }

  /**
   * Takes a change of the scene, and asks for it to be worked out.
   * @param scene as it is after the change @param shows whether anything that is worked out may depend on it
   */
  change(scene: Scene, patches: Patch[], shows = true): void {
    this.scene = this.shown = scene;
    tell(this.remote.change(patches, this.at, ++this.at));
    if (shows) this.again();
  }

  /** Shows the scene with a change that is not made. Null, or a change that is made, takes that away. */
  preview(change: { scene: Scene; patches: Patch[] } | null): void {
    this.shown = change?.scene ?? this.scene;
    tell(this.remote.preview(change?.patches ?? null));
    this.again();
  }

  private tellWhole(): void {
    if (this.scene) tell(this.remote.whole(this.scene, this.at));
  }

  /** Asks for the scene to be worked out, at another time or with other meshes. Returns at once; `state` tells when it is done. */
  again(): void {
    if (!this.shown) return;
    this.wanted = true;
    this.unfinished = this.halted = null;
    this.since = performance.now();
    clearTimeout(this.resting);
    if (!this.state.busy) this.set({ busy: true, looking: true });
    void this.run();
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    const generation = this.generation;
    while ((this.wanted || this.unfinished) && generation === this.generation) {
      this.wanted = false;
      await this.once(generation);
    }
    if (generation !== this.generation) return;
    this.running = false;
    if (this.state.busy || this.state.progress) this.set({ busy: false, progress: null });
    if (this.halted !== null)
      return this.set({ problem: `Stopped. “${this.halted}” is shown as far as it has fallen.` });
    const soon = this.isEager && this.changed <= MOST_EAGER;
    this.resting = setTimeout(() => void this.check(), soon ? 0 : AT_REST_MS);
  }

  /** Whether all is held against all as soon as there is nothing else to do: while something is dragged. */
  isEager = false;
  /** How many rows the arrangements have that were worked out last. */
  private changed = 0;

  private resting: ReturnType<typeof setTimeout> | undefined;

  /** Has all held against all, if nothing changes meanwhile. */
  private async check(): Promise<void> {
    const { generation } = this;
    const { result } = this.state;
    try {
      const checks = await (this.remote.check(this.at, this.time) as ReturnType<EngineService['check']>);
      if (generation !== this.generation || result !== this.state.result || this.state.busy) return;
      if (checks) this.set({ checks, looking: false });
      // Something else was worked out meanwhile: a file that was sent out.
      else this.resting = setTimeout(() => void this.check(), AT_REST_MS);
    } catch {
      // Nothing is said to be well then.
    }
  }

  private async once(generation: number): Promise<void> {
    const scene = this.shown;
    this.latest = { done: 0, name: '' };
    const stop = this.showProgress();
    try {
      const served = await this.surely(() => this.remote.evaluate(this.at, this.time) as Promise<Served>);
      if (generation !== this.generation) return;
      const result = taken(this.fresh ? NOTHING : this.state.result, served);
      this.changed = [...served.arrangements, ...served.rows].reduce(
        (sum, { id }) => sum + (result.arrangements.get(id)?.placements.count ?? 0),
        0,
      );
      this.fresh = false;
      this.unfinished = (this.halted === null && served.unfinished) || null;
      // What listens looks once, where this is all.
      const over = !this.wanted && !this.unfinished;
      this.set({
        scene,
        problem: null,
        result,
        ...(over ? { busy: false, progress: null } : this.fallProgress()),
      });
    } catch {
      if (generation !== this.generation) return;
      this.unfinished = null;
      this.set({
        problem:
          'The placements could not be worked out: the scene may need more memory than this browser gives. Undo the last change, or take something out of it.',
      });
    } finally {
      stop();
    }
  }

  /** How far what falls has come, once that takes so long that one would like to know. */
  private fallProgress(): Pick<EngineState, 'progress'> | null {
    const ms = performance.now() - this.since;
    if (!this.unfinished || ms < SHOW_PROGRESS_MS) return null;
    return { progress: { ...this.unfinished, cancellable: ms > CAN_CANCEL_MS } };
  }

  /** A worker that has lost its place gets the scene whole, and is asked once more. */
  private async surely<T>(ask: () => Promise<T>): Promise<T> {
    try {
      return await ask();
    } catch (error) {
      if (message(error) !== LOST) throw error;
      this.tellWhole();
      return ask();
    }
  }

  /** Gives the work under way up: the last results stay, and the next change starts afresh. */
  cancel(): void {
    // What falls hangs where it has come to. The next change, or another moment, goes on with it.
    if (this.unfinished && !this.halted) return void (this.halted = this.unfinished.name);
    const { running } = this;
    this.generation++;
    this.worker.terminate();
    this.start();
    this.running = false;
    this.wanted = false;
    for (const { bytes, fileName } of this.files.values()) void this.remote.takeIn(bytes.slice(), fileName);
    this.tellWhole();
    for (const reject of this.stopped) reject(new Error('Cancelled. Nothing was changed.'));
    this.stopped.clear();
    this.set({
      busy: false,
      asked: 0,
      progress: null,
      ...(running && { problem: 'Stopped. What you see is from before the last change.' }),
    });
    // The new worker knows no results yet, and the next question may be about them. What was too long is not begun anew.
    if (!running) this.again();
  }

  /**
   * Counts a question until it is answered, so that others know that something is still to come. One that takes long
   * shows progress, and can be cancelled. @param name of what is worked on @throws Error with a word when cancelled
   */
  private async ask<T>(question: () => Promise<T>, name = ''): Promise<T> {
    const { generation } = this;
    this.set({ asked: this.state.asked + 1 });
    this.latest = { done: 0, name };
    const stop = this.showProgress();
    let stopped = (_: Error): void => {};
    const cancelled = new Promise<never>((_, reject) => this.stopped.add((stopped = reject)));
    try {
      return await Promise.race([this.surely(question), cancelled]);
    } finally {
      stop();
      this.stopped.delete(stopped);
      // A worker that was stopped takes its questions along.
      if (generation === this.generation) {
        const asked = this.state.asked - 1;
        this.set({ asked, ...(asked === 0 && !this.running && { progress: null }) });
      }
    }
  }

  /** Tells of progress once work takes so long that one would like to know. @returns ends that */
  private showProgress(): () => void {
    const started = performance.now();
    const tick = setInterval(() => {
      const ms = performance.now() - started;
      if (ms > SHOW_PROGRESS_MS) this.set({ progress: { ...this.latest, cancellable: ms > CAN_CANCEL_MS } });
    }, 100);
    return () => clearInterval(tick);
  }

  /** The animations that a mesh brings along; none where it is not at hand. */
  clipsOf(ref: MeshRef): BroughtIn['clips'] {
    if (ref.source === 'built') return builtMotion(ref.name)?.clips ?? [];
    return ref.source === 'file' ? (this.clips.get(ref.hash) ?? []) : [];
  }

  /** Hands over the bytes of a mesh that a scene uses. @throws Error with one sentence for a file that cannot be read */
  async bringIn(bytes: Uint8Array, fileName: string): Promise<BroughtIn> {
    const made = await this.ask(() => this.remote.bringIn(bytes, fileName));
    this.files.set(made.hash, { bytes, fileName });
    this.meshes.set(made.hash, Promise.resolve(made.mesh));
    this.clips.set(made.hash, made.clips);
    return made;
  }

  /** A mask over one of the surfaces as they were worked out last. */
  maskShades(mask: string, surface: string): Promise<MaskShades | null> {
    return this.ask(() => this.remote.maskShades(mask, surface));
  }

  /** What a printer asks of a closed surface; null where it is not there, or was worked out anew meanwhile. */
  printable(surface: string, print: Print): Promise<Printable | null> {
    return this.ask(() => this.remote.printable(surface, print), 'what a printer asks');
  }

  /** The box about arrangements and surfaces as they were worked out last; null where they have no mesh. */
  boxAbout(ids: readonly string[]): Promise<Bounds | null> {
    return this.ask(() => this.remote.boxAbout(ids));
  }

  /** What a surface as it was worked out last is as a body; null where it is not there. */
  solidOf(surface: string): Promise<SolidFacts | null> {
    return this.ask(() => this.remote.solidOf(surface));
  }

  /** What made a place what it is. */
  whyAt(asked: Asked): Promise<Cause[]> {
    return this.ask(() => this.remote.ask(this.at, asked, this.time) as Promise<Cause[]>);
  }

  /** What a file of whole meshes would hold. @param only ids of the nodes that go out; absent: all */
  mergedFacts(options: MergedOptions, only?: string[]): Promise<MergedFacts> {
    return this.ask(
      () => this.remote.mergedFacts(this.at, options, only, this.time) as Promise<MergedFacts>,
      'what goes out',
    );
  }

  /** What all that is shown costs. */
  costs(): Promise<Cost[]> {
    return this.ask(() => this.remote.costs(this.at, this.time) as Promise<Cost[]>, 'what things cost');
  }

  /** The box about all that some arrangements have placed; null where that is nothing. */
  boxOf(...args: Parameters<EngineService['boxOf']>): Promise<Bounds | null> {
    return this.ask(() => this.remote.boxOf(...args));
  }

  /** The snap points of what some arrangements have placed, in the scene. */
  snapPointsOf(
    ...args: Parameters<EngineService['snapPointsOf']>
  ): Promise<ReturnType<EngineService['snapPointsOf']>> {
    return this.ask(() => this.remote.snapPointsOf(...args));
  }

  /** The snap points of what a bundle holds, in the own space of its prop. */
  snapPointsIn(prop: string): Promise<ReturnType<EngineService['snapPointsIn']>> {
    return this.ask(() => this.remote.snapPointsIn(prop));
  }

  /** The shortest way along a surface that two places lie on; null where none leads there. */
  alongSurface(a: Vec3, b: Vec3): Promise<ReturnType<EngineService['alongSurface']>> {
    return this.ask(() => this.remote.alongSurface(a, b));
  }

  /** Faces of a surface as it is shown, at a place in the scene: the flat piece there, or the single one. */
  facesAt(surface: string, place: Vec3, single: boolean): Promise<number[]> {
    return this.ask(() => this.remote.facesAt(surface, place, single));
  }

  /** Hands over the bytes of a picture that a surface or a mask uses. @throws Error with one sentence for a bad file */
  async bringInPicture(
    bytes: Uint8Array,
    fileName: string,
  ): Promise<{ hash: string; format: PictureRef['format']; width: number; height: number }> {
    const made = await this.ask(() => this.remote.bringInPicture(bytes, fileName));
    this.files.set(made.hash, { bytes, fileName });
    return made;
  }

  /** Hands over the bytes of a panorama. @throws Error with one sentence for a file that is none */
  async bringInPanorama(bytes: Uint8Array, fileName: string): Promise<NonNullable<Surround['panorama']>> {
    const made = await this.ask(() => this.remote.bringInPanorama(bytes, fileName));
    this.files.set(made.hash, { bytes, fileName });
    return made;
  }

  /** A file that was handed over, as it came; undefined where it was not. */
  bytesOf = (hash: string): Uint8Array | undefined => this.files.get(hash)?.bytes;

  /** Reads a scene file. @throws Error with one sentence for a file that cannot be read */
  async open(bytes: Uint8Array, name: string): Promise<OpenedScene> {
    const opened = await this.ask(() => this.remote.open(bytes, name));
    for (const [hash, file] of opened.files) this.files.set(hash, { bytes: file, fileName: name });
    return opened;
  }

  /** Reads a table of places. @throws Error with one sentence for a file that cannot be read */
  readPlaces(bytes: Uint8Array, fileName: string): Promise<PlaceTable> {
    return this.ask(() => this.remote.readPlaces(bytes, fileName), fileName);
  }

  /** Reads the lines of a drawing. @throws Error with one sentence for a file that cannot be read */
  readDrawing(bytes: Uint8Array, fileName: string): Promise<SvgDrawing> {
    return this.ask(() => this.remote.readDrawing(bytes, fileName), fileName);
  }

  /** The mesh behind a reference; undefined where it is not at hand. */
  mesh(ref: MeshRef): Promise<Mesh | undefined> {
    // What a bundle holds may be another at any time.
    if (ref.source === 'bundle') return this.remote.mesh(ref) as Promise<Mesh | undefined>;
    const key = refKey(ref);
    let mesh = this.meshes.get(key);
    if (!mesh) {
      mesh = this.remote.mesh(ref) as Promise<Mesh | undefined>;
      this.meshes.set(key, mesh);
      // A mesh that is missing now may be brought in later.
      void mesh.then((m) => m ?? this.meshes.delete(key));
    }
    return mesh;
  }

  /** Fewer triangles that stand for a mesh where it need not be exact. */
  simpler(shape: Shape, within?: number): Promise<Simpler> {
    return this.remote.simpler(shape, within);
  }

  /** What a stamp is drawn from. */
  stampMaps(stamp: Stamp): Promise<StampMaps> {
    return this.remote.stampMaps(stamp);
  }

  /**
   * Bakes what lies on a surface; null where another bake was asked for meanwhile.
   * @throws Error with one sentence where it cannot be, or was stopped
   */
  async bake(
    surface: string,
    settings: BakeSettings & { of: readonly string[] },
    name: string,
  ): Promise<BakedFiles | null> {
    const made = await this.ask(() => this.remote.bake(this.at, surface, settings, this.time), name);
    for (const { bytes, fileName } of made?.maps ?? [])
      this.files.set(contentHash(bytes), { bytes, fileName });
    return made;
  }

  /** A prop seen from above, as the pictures of a stamp; null where its mesh is not at hand. */
  async stampFrom(prop: Prop): Promise<Stamp | null> {
    const made = await this.ask(() => this.remote.stampFrom(prop));
    for (const { bytes, fileName } of made?.pictures ?? []) await this.bringInPicture(bytes, fileName);
    return made?.stamp ?? null;
  }

  /** The points that any path comes down to. */
  strokes(path: string): Promise<Stroke[]> {
    return this.ask(() => this.remote.strokes(this.at, path) as Promise<Stroke[]>);
  }

  /** The edge loop nearest to a place in the scene, of a surface as it is shown. */
  edgeLoop(surface: string, place: Vec3): Promise<{ at: Vec3; line: Float64Array } | null> {
    return this.ask(() => this.remote.edgeLoop(surface, place));
  }

  /** A path and the ground below it, from the side. */
  profile(run: string, path: string, stroke: number): Promise<Profile | null> {
    return this.ask(
      () => this.remote.profile(this.at, run, path, stroke, this.time) as Promise<Profile | null>,
    );
  }

  /** What a number of an arrangement has to be so that nothing of it reaches into its own; null where nothing is found. */
  fitting(arrangement: string, fits: Fits, from: number): Promise<number | null> {
    return this.ask(
      () => this.remote.fitting(this.at, arrangement, fits, from, this.time) as Promise<number | null>,
    );
  }

  /** How far slots have to be moved on so that none reaches into the one before; null where there is no room. */
  pushed(arrangement: string): Promise<Pushed | null> {
    return this.ask(
      () => this.remote.pushed(this.at, arrangement, this.time) as Promise<Pushed | null>,
      'pushing them apart',
    );
  }

  /** Pins for places of the scene that was worked out last. */
  pinPlaces(places: ToPin[], how: PinHow): Promise<(Pin | null)[]> {
    return this.ask(() => this.remote.pinPlaces(places, how, this.time) as Promise<(Pin | null)[]>);
  }

  /** See {@link EngineService.locksOn}. */
  locksOn(
    places: { position: Vec3; rotation: Quat }[],
    surfaces: string[],
    moving: string[],
  ): Promise<(LockOn | null)[]> {
    return this.ask(
      () => this.remote.locksOn(places, surfaces, moving, this.time) as Promise<(LockOn | null)[]>,
    );
  }

  /** See {@link EngineService.pinAtUv}. */
  pinAtUv(surface: string, uv: [number, number], to: Omit<ToPin, 'at'>): Promise<PinnedAt | null> {
    return this.ask(() => this.remote.pinAtUv(surface, uv, to, this.time) as Promise<PinnedAt | null>);
  }

  /** An arrangement with other seeds. */
  variants(arrangement: string, seeds: number[]): Promise<Variant[]> {
    return this.ask(() => this.remote.variants(this.at, arrangement, seeds, this.time) as Promise<Variant[]>);
  }

  /** The scene as a file's bytes. */
  sendOut(format: SendFormat): Promise<Uint8Array> {
    return this.ask(() => this.remote.sendOut(this.at, format, this.time) as Promise<Uint8Array>, 'the file');
  }

  /** About how large a file an animation will be, bytes; 0 where there would be none. */
  animationSize(range: AnimationRange, only: string[] | undefined, surfaces: boolean): Promise<number> {
    return this.ask(
      () => this.remote.animationSize(this.at, range, only, surfaces) as Promise<number>,
      'the size of the file',
    );
  }

  close(): void {
    this.generation++;
    clearTimeout(this.resting);
    this.worker.terminate();
  }
}

/** Sends what has no answer. Where it fails, the next question finds that the worker has lost its place. */
const tell = (sent: Promise<unknown>): void => void sent.catch(() => undefined);

const message = (error: unknown) => (error instanceof Error ? error.message : String(error));
