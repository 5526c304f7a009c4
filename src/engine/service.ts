import { has } from '@/core/arrange/registry';
import { pinAtUv, pinOn, type PinHow, type ToPin } from '@/core/mesh/pinning';
import { poseOn } from '@/core/mesh/pin';
import type { Pin } from '@/core/mesh/pinSchema';
import { lockOn, type LockOn } from '@/core/arrange/steps/lock';
import { profileAlong, type Profile } from '@/core/arrange/steps/groundProfile';
import { splitStrokes, type Stroke } from '@/core/curve/compile';
import { strokesOf } from '@/core/evaluate/compileSource';
import { fitting, type Fits } from '@/core/evaluate/checks/fits';
import { askPlace, askSlot, type Cause } from '@/core/evaluate/ask';
import { pushedApart, type Pushed } from '@/core/evaluate/checks/pushed';
import { SceneChecks } from '@/core/evaluate/checks/sceneChecks';
import { placedBy } from '@/core/evaluate/safely';
import type { Lookups } from '@/core/evaluate/lookups';
import { Evaluator, type Assets, type SceneResult } from '@/core/evaluate/scene';
import type { Print } from '@/core/scene/printSchema';
import { printable, type Printable } from '@/core/mesh/solid/printable';
import type { Finding } from '@/core/arrange/result';
import { evaluateOver } from '@/core/evaluate/overTime';
import { costsOf, type Cost } from '@/core/formats/cost';
import { writeCsv } from '@/core/formats/csv';
import { animationBytes } from '@/core/formats/animationSize';
import { writeAnimatedGlb } from '@/core/formats/glbAnimation';
import type { GlbOptions } from '@/core/formats/glbOptions';
import {
  mergedFacts,
  writeMerged,
  type MergedFacts,
  type MergedFormat,
  type MergedOptions,
} from '@/core/formats/merged';
import { writeGlb } from '@/core/formats/glbWrite';
import { readPlaces, type PlaceTable } from '@/core/formats/csvRead';
import { checkSize } from '@/core/formats/limits';
import { inSentences } from '@/core/formats/sentence';
import { readSvg, type SvgDrawing } from '@/core/formats/svgRead';
import { pictureFormat } from '@/core/formats/pictureRead';
import { isPng } from '@/core/formats/pngRead';
import { openScene, packScene, type OpenedScene } from '@/core/formats/sceneZip';
import type { MaskShades } from '@/core/mesh/mask/shades';
import type { PosedMesh } from '@/core/arrange/poses/posable';
import type { BentMesh } from '@/core/mesh/bend';
import type { Prop } from '@/core/mesh/propSchema';
import { edgeLoop } from '@/core/mesh/lines/edges';
import type { Quat } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { type Bounds } from '@/core/mesh/mesh';
import { through, throughInverse } from '@/core/mesh/surface';
import { clip, shownAlone } from '@/core/scene/clipping';
import type { Scene } from '@/core/scene/schema';
import { drawBatches } from './drawing';
import type { DrawBatch } from './drawBatch';
import type { Served, Told } from './served';
import { Bakes } from './baking/Bakes';
import { EngineFiles } from './files';
import { ready } from './ready';

export type SendFormat = (
  | { kind: 'glb'; options: GlbOptions; animation?: AnimationRange }
  | { kind: MergedFormat; options: MergedOptions }
  | { kind: 'csv'; gaps: boolean }
  | { kind: 'clothesline' }
  /** The baked maps of a surface. */
  | { kind: 'maps'; surface: string }
) & {
  /** Ids of the nodes that go out, as they are in the whole scene; absent: all. */
  only?: string[];
};

/** A place that is asked about: a slot with or without a prop, or bare ground. */
export type Asked = { arrangement: string; slot: number } | { surface: string; at: Vec3 };

/** A stretch of time to be sent out: seconds, and frames a second. */
export interface AnimationRange {
  from: number;
  to: number;
  rate: number;
}

/** A pin with where it holds a peg now. */
export interface PinnedAt {
  pin: Pin;
  position: Vec3;
  rotation: Quat;
}

/** What an arrangement would be with another seed: instances, and the shapes that some of them have of their own. */
export interface Variant {
  batches: DrawBatch[];
  bent: BentMesh[];
  posed: PosedMesh[];
}

const MOST_FRAMES = 1200;

/** So long a check works before others may have their turn. */
const CHECK_MS = 8;

/** Places of a profile: more than the flat view is wide in pixels says nothing more. */
const PROFILE_PLACES = 600;

function textOf(bytes: Uint8Array, fileName: string): string {
  checkSize(bytes, fileName);
  return new TextDecoder().decode(bytes);
}

/** So long one evaluation goes on with what falls before it is shown as far as it has come. */
const FALL_MS = 60;

/** Evaluation and files as a service. The same one runs in a browser's worker and in Node. */
export class EngineService {
  readonly files: EngineFiles = new EngineFiles((bundle) => this.evaluator.bundles.meshOf(bundle));
  private evaluator: Evaluator;
  readonly bakes: Bakes;

  /** @param restAll finds how many things come to rest, with others' help; absent: it is done here alone */
  constructor(restAll?: Assets['restAll']) {
    this.evaluator = new Evaluator({ ...this.files.assets, restAll });
    this.bakes = new Bakes(this.evaluator, this.files);
  }

  /** What files are written from. */
  private shownBy: Assets = {
    mesh: (ref) => this.files.mesh(ref),
    bytes: (hash) => this.files.bytes(hash),
  };

  /** A table of places. @throws FileError for a file that cannot be read */
  readPlaces(bytes: Uint8Array, fileName: string): Promise<PlaceTable> {
    return inSentences(fileName, () => readPlaces(textOf(bytes, fileName), fileName));
  }

  /** The lines of a drawing. @throws FileError for a file that cannot be read */
  readDrawing(bytes: Uint8Array, fileName: string): Promise<SvgDrawing> {
    return inSentences(fileName, () => readSvg(textOf(bytes, fileName), fileName));
  }

  /** Opens a scene file and reads the meshes that came with it. */
  async open(bytes: Uint8Array, name: string): Promise<OpenedScene> {
    const opened = await inSentences(name, () => openScene(bytes, name));
    // Of baked maps nothing is read: they are shown and sent out as they are.
    const baked = new Set(
      opened.scene.surfaces.flatMap((s) => Object.values(s.baked?.made ?? {}).map((ref) => ref?.hash)),
    );
    for (const [hash, file] of opened.files) {
      if (baked.has(hash) && isPng(file)) this.files.keep(file);
      else await this.files.takeIn(file, `${hash.slice(0, 8)}.${pictureFormat(file) ?? 'glb'} in ${name}`);
    }
    await ready(opened.scene);
    return opened;
  }

  evaluateAll(scene: Scene, time = 0): SceneResult {
    return this.evaluator.evaluate(scene, undefined, time);
  }

  private checks = new SceneChecks();
  /** Counts evaluations: a check of what has changed meanwhile is given up. */
  private evaluations = 0;

  /**
   * Holds all that is shown against all, at a moment when nothing else is to do: what is asked meanwhile is answered
   * first.
   * @returns findings by arrangement, or null where the scene has been worked out anew before it came to its end
   */
  async check(scene: Scene, time = 0): Promise<Map<string, Finding[]> | null> {
    const result = this.evaluator.evaluate(scene, undefined, time);
    const { evaluations } = this;
    const work = this.checks.look(scene, result, this.evaluator.contextAt(time));
    return this.inTurns(work, () => evaluations === this.evaluations);
  }

  /**
   * The pitch, or the size, at which nothing of an arrangement reaches into its own; null where there is none, or the
   * scene has been worked out anew meanwhile. @param from what it is now, metres or a factor
   */
  async fitting(scene: Scene, id: string, fits: Fits, from: number, time = 0): Promise<number | null> {
    const a = scene.arrangements.find((x) => x.id === id);
    if (!a) return null;
    this.evaluator.evaluate(scene, undefined, time);
    const { evaluations } = this;
    return this.inTurns(
      fitting(a, fits, from, this.evaluator.contextAt(time)),
      () => evaluations === this.evaluations,
    );
  }

  /**
   * How far slots of an arrangement have to be moved on along its path so that none reaches into the one before; null
   * where there is no room, or the scene has been worked out anew meanwhile.
   */
  async pushed(scene: Scene, id: string, time = 0): Promise<Pushed | null> {
    const a = scene.arrangements.find((x) => x.id === id);
    if (!has(a, 'hand')) return null;
    this.evaluator.evaluate(scene, undefined, time);
    const { evaluations } = this;
    return this.inTurns(
      pushedApart(a, this.evaluator.contextAt(time)),
      () => evaluations === this.evaluations,
    );
  }

  /** Goes on with some work while nothing else is to do. @returns null where it is not wanted any more */
  private async inTurns<T>(work: Generator<void, T>, isWanted: () => boolean): Promise<T | null> {
    for (let began = performance.now(); ;) {
      const step = work.next();
      if (step.done) return step.value;
      if (performance.now() - began < CHECK_MS) continue;
      await new Promise((done) => setTimeout(done));
      if (!isWanted()) return null;
      began = performance.now();
    }
  }

  /** What is new in a scene for those who know what they were told. What falls may need several of these to be done. */
  evaluate(scene: Scene, told: Told, progress?: (done: number, name: string) => void, time = 0): Served {
    this.evaluations++;
    const start = performance.now();
    this.evaluator.goOn = () => performance.now() - start < FALL_MS;
    try {
      const result = this.evaluator.evaluate(scene, progress, time);
      const { unfinished } = result;
      return { ...told.tell(result), ms: performance.now() - start, ...(unfinished && { unfinished }) };
    } finally {
      this.evaluator.goOn = () => true;
    }
  }

  /**
   * What an arrangement would be with other seeds, to be looked at side by side. Nothing of the scene changes.
   * @returns one for each seed, in order; none where the scene has no such arrangement
   */
  variants(scene: Scene, arrangement: string, seeds: number[], time = 0): Variant[] {
    const found = scene.arrangements.find((a) => a.id === arrangement);
    if (!found) return [];
    const context = this.evaluator.contextAt(time);
    return seeds.map((seed) => {
      const { placements } = placedBy({ ...found, seed }, context);
      const { bent = [], posed = [] } = placements;
      return { batches: drawBatches(placements), bent, posed };
    });
  }

  /** The path under one stretch of a run, and the ground below it, from the side; null where it is broken. */
  profile(scene: Scene, run: string, path: string, stroke: number, time = 0): Profile | null {
    const found = scene.arrangements.find((a) => a.id === run);
    const context = this.evaluator.contextAt(time);
    const compiled = context.path(path);
    if (!has(found, 'ground') || !compiled?.ok || !compiled.strokes[stroke]) return null;
    return profileAlong(compiled.strokes[stroke], found.ground, context, PROFILE_PLACES);
  }

  /** A mask over one of the surfaces of the last scene, to be looked at; null where either is not there. */
  maskShades(mask: string, surface: string): MaskShades | null {
    return this.evaluator.lookups.shades(mask, surface);
  }

  /**
   * What a printer asks of a surface of the last scene, which is closed; null where it is not there, or the scene has been
   * worked out anew meanwhile. Sizes in metres of the scene.
   */
  async printable(
    surface: string,
    { scale, wallMm, detailMm, overhangDeg }: Print,
  ): Promise<Printable | null> {
    const mesh = this.evaluator.lookups.meshInScene(surface);
    if (!mesh) return null;
    const { evaluations } = this;
    const metres = scale / 1000;
    const work = printable(mesh, {
      wall: wallMm * metres,
      detail: detailMm * metres,
      overhangDeg,
      up: [0, 1, 0],
    });
    return this.inTurns(work, () => evaluations === this.evaluations);
  }

  /** The box about arrangements and surfaces of the last scene; null where they have no mesh. */
  boxAbout(ids: readonly string[]): Bounds | null {
    return this.evaluator.lookups.boxAbout(ids);
  }

  /** What a surface of the last scene is as a body: closed or not, how much it holds. */
  solidOf(surface: string): ReturnType<Lookups['solidOf']> {
    return this.evaluator.lookups.solidOf(surface);
  }

  /** The snap points of what some arrangements have placed, in the scene. @param slots only those; absent: all */
  snapPointsOf(arrangements: readonly string[], slots?: readonly number[]): Prop['snapPoints'] {
    return this.evaluator.bundles.snapPointsOf(arrangements, slots);
  }

  /** The snap points of what a bundle holds, in the own space of its prop. */
  snapPointsIn(prop: string): Prop['snapPoints'] {
    return this.evaluator.bundles.snapPointsIn(prop);
  }

  /**
   * The box about all that some arrangements of the last scene have placed; null where that is nothing.
   * @param slots only those; absent: all
   */
  boxOf(arrangements: readonly string[], slots?: readonly number[]): Bounds | null {
    return this.evaluator.bundles.boxOf(arrangements, slots);
  }

  /** The shortest way along a surface that two places lie on; null where none leads there. */
  alongSurface(a: Vec3, b: Vec3): ReturnType<Lookups['alongSurface']> {
    return this.evaluator.lookups.alongSurface(a, b);
  }

  /** Faces of a surface of the last scene at a place: the flat piece there, or the single one. */
  facesAt(surface: string, at: Vec3, single: boolean): number[] {
    return this.evaluator.lookups.facesAt(surface, at, single);
  }

  /** Pins for places of the last scene, on the surfaces that are shown; null for those that find none. */
  pinPlaces(
    places: ToPin[],
    how: PinHow,
    time = 0,
    progress?: (done: number, name: string) => void,
  ): (Pin | null)[] {
    const context = this.evaluator.contextAt(time);
    const triMeshes = new Map(
      this.evaluator.lookups.shown().flatMap((id) => {
        const triMesh = context.surface?.(id);
        return triMesh ? [[id, triMesh] as const] : [];
      }),
    );
    return places.map((p, i) => {
      if (i % 256 === 0) progress?.(i / places.length, 'the pins');
      return pinOn(triMeshes, p, how);
    });
  }

  /** A pin on a place of a surface's texture, and how it stands there; null where none lies there. */
  pinAtUv(surface: string, uv: [number, number], to: Omit<ToPin, 'at'>, time = 0): PinnedAt | null {
    const triMesh = this.evaluator.contextAt(time).surface?.(surface);
    const pin = triMesh && pinAtUv(surface, triMesh, uv, to);
    return pin ? { pin, ...poseOn(triMesh, pin, pin) } : null;
  }

  /**
   * What places are held by that are to be locked.
   * @param surfaces those that something may stand on @param moving those that carry it along; on others it stays in the scene
   */
  locksOn(
    places: { position: Vec3; rotation: Quat }[],
    surfaces: string[],
    moving: string[],
    time = 0,
  ): (LockOn | null)[] {
    const context = this.evaluator.contextAt(time);
    const triMeshes = new Map(
      surfaces.flatMap((id) => {
        const triMesh = context.surface?.(id);
        return triMesh ? [[id, triMesh] as const] : [];
      }),
    );
    return places.map(({ position, rotation }) => {
      const on = lockOn(triMeshes, position, rotation);
      return on && moving.includes(on.pin.surface) ? on : null;
    });
  }

  /** The points that any path of the last scene comes down to, to make it one that has its own; none where it is broken. */
  strokes(scene: Scene, path: string): Stroke[] {
    const found = scene.paths.find((p) => p.id === path);
    if (!found) return [];
    if (found.source.kind === 'points') return splitStrokes(found.source.points, found.closed);
    const made = strokesOf(found, this.evaluator.pathContext());
    return typeof made === 'string' ? [] : made;
  }

  /**
   * The edge loop of a surface of the last scene nearest to a place, as it would be taken.
   * @returns the place in the mesh's own space, and the line in the scene; null where there is no edge
   */
  edgeLoop(surface: string, at: Vec3): { at: Vec3; line: Float64Array } | null {
    const found = this.evaluator.pathContext().surface(surface);
    if (!found) return null;
    const own = throughInverse(found.matrix, at);
    const loop = edgeLoop(found.mesh, own);
    if (!loop) return null;
    const points = loop.closed ? [...loop.points, loop.points[0]] : loop.points;
    return { at: own, line: Float64Array.from(points.flatMap((p) => through(found.matrix, p))) };
  }

  private async animated(
    scene: Scene,
    range: AnimationRange,
    options: GlbOptions,
    shown: Scene,
    progress?: (done: number, name: string) => void,
  ): Promise<Uint8Array> {
    const { from, to, rate } = range;
    const count = Math.floor((to - from) * rate + 1e-9) + 1;
    if (!(rate > 0) || !(count >= 2) || count > MOST_FRAMES)
      throw new Error(
        `An animation has 2 to ${MOST_FRAMES} frames, and this one ${Math.max(0, count) || 0}. Change its times, or the frames a second`,
      );
    await ready(scene);
    this.evaluations++;
    const times = Float32Array.from({ length: count }, (_, i) => i / rate);
    const results = evaluateOver(
      this.evaluator,
      scene,
      Array.from({ length: count }, (_, i) => from + i / rate),
      // What is left is to write the file.
      (done, name) => progress?.(done * 0.9, name),
    );
    progress?.(0.9, 'the file');
    return writeAnimatedGlb(shown, { times, results }, this.shownBy, options);
  }

  /** About how large a file an animation will be, bytes; 0 where there would be none. */
  animationSize(scene: Scene, { from, to, rate }: AnimationRange, only?: string[], surfaces = true): number {
    const frames = Math.floor((to - from) * rate + 1e-9) + 1;
    if (!(rate > 0) || !(frames >= 2)) return 0;
    this.evaluations++;
    const two = [from, from + 1 / rate].map((at) => this.evaluator.evaluate(scene, undefined, at));
    const shown = only ? shownAlone(scene, only) : scene;
    return animationBytes(shown, [two[0], two[1]], frames, { mesh: (ref) => this.files.mesh(ref) }, surfaces);
  }

  /** What made a place what it is: a slot, or a place of a surface. */
  ask(scene: Scene, asked: Asked, time = 0): Cause[] {
    const result = this.evaluator.evaluate(scene, undefined, time);
    const context = this.evaluator.contextAt(time);
    if ('surface' in asked) return askPlace(asked.surface, asked.at, scene.arrangements, context);
    const at = scene.arrangements.findIndex((a) => a.id === asked.arrangement);
    return at < 0
      ? []
      : askSlot(scene.arrangements[at], result.arrangements[at].placements, asked.slot, context);
  }

  /** What a file of whole meshes would hold: how large it is, and whether its parts are closed. */
  mergedFacts(scene: Scene, options: MergedOptions, only?: string[], time = 0): MergedFacts {
    const result = this.evaluator.evaluate(scene, undefined, time);
    return mergedFacts(only ? shownAlone(scene, only) : scene, result, this.shownBy, options);
  }

  /** What all that is shown of a scene costs to draw, to hold and to send. */
  costs(scene: Scene, time = 0): Cost[] {
    return costsOf(scene, this.evaluator.evaluate(scene, undefined, time), {
      mesh: (ref) => this.files.mesh(ref),
    });
  }

  /** The scene as a file's bytes. */
  async sendOut(
    scene: Scene,
    format: SendFormat,
    time = 0,
    progress?: (done: number, name: string) => void,
  ): Promise<Uint8Array> {
    const { only } = format;
    if (format.kind === 'clothesline')
      return packScene(only ? clip(scene, only, '').scene : scene, (hash) => this.files.bytes(hash));
    if (format.kind === 'maps') return this.bakes.maps(scene, format.surface, time, progress);
    const shown = only ? shownAlone(scene, only) : scene;
    if (format.kind === 'glb' && format.animation)
      return this.animated(scene, format.animation, format.options, shown, progress);
    this.evaluations++;
    await ready(scene);
    const result = this.evaluator.evaluate(scene, (done, name) => progress?.(done * 0.9, name), time);
    if (format.kind === 'csv')
      return new TextEncoder().encode(writeCsv(shown, result, { gaps: format.gaps }));
    if (format.kind !== 'glb') return writeMerged(format.kind, shown, result, this.shownBy, format.options);
    return writeGlb(shown, result, this.shownBy, format.options);
  }
}
