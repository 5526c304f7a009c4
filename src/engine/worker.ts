import type { Fits } from '@/core/evaluate/checks/fits';
import * as Comlink from 'comlink';
import type { MergedOptions } from '@/core/formats/merged';
import type { Patch } from '@/core/scene/patch';
import type { BakeSettings } from '@/core/mesh/bake/bakeSchema';
import type { MeshRef, Stamp } from '@/core/mesh/meshRef';
import type { Prop } from '@/core/mesh/propSchema';
import type { Scene } from '@/core/scene/schema';
import type { PinHow, ToPin } from '@/core/mesh/pinning';
import { Mirror } from './mirror';
import { Help, helpersFor, type Helper } from './help/Help';
import { ready } from './ready';
import { Told } from './served';
import { simplerMesh } from './simpler';
import { EngineService, type AnimationRange, type Asked, type SendFormat } from './service';

/** The service in a web worker. Scenes come as changes, results go as changes; arrays travel without being copied twice. */
const service = new EngineService(new Help(startHelpers).restAll);
const mirror = new Mirror();
const told = new Told();
let report: ((done: number, name: string) => void) | undefined;
/** Between two reports of progress: each is a message. */
const REPORT_MS = 50;

/** Helpers end with this worker. Without memory to share (a page that is not isolated) there are none. */
function startHelpers(): Helper[] {
  if (!self.crossOriginIsolated) return [];
  return Array.from({ length: helpersFor(navigator.hardwareConcurrency) }, () => {
    const worker = new Worker(new URL('./help/helper.ts', import.meta.url), {
      type: 'module',
      name: 'helper',
    });
    return { ask: (job) => worker.postMessage(job) };
  });
}

/** Every typed array's buffer inside a value, once. Only for values made for the journey. */
function buffersOf(value: unknown, found = new Set<ArrayBufferLike>()): ArrayBuffer[] {
  if (ArrayBuffer.isView(value)) found.add(value.buffer);
  else if (Array.isArray(value)) value.forEach((v) => buffersOf(v, found));
  else if (typeof value === 'object' && value !== null)
    Object.values(value).forEach((v) => buffersOf(v, found));
  return [...found] as ArrayBuffer[];
}

/** `at` is the number of the scene that is asked about: one that is not here is said to be lost. */
const api = {
  whole: (scene: Scene, at: number) => mirror.whole(scene, at),
  change: (patches: Patch[], from: number, to: number) => mirror.change(patches, from, to),
  preview: (patches: Patch[] | null) => mirror.preview(patches),
  /** Told of the work that is going on: the share done, 0–1, and the node's name. */
  listen(listener: (done: number, name: string) => void): void {
    let last = 0;
    report = (done, name) => {
      if (performance.now() - last < REPORT_MS) return;
      last = performance.now();
      listener(done, name);
    };
  },
  async evaluate(at: number, time: number) {
    const scene = mirror.scene(at);
    await ready(scene);
    const served = service.evaluate(scene, told, report, time);
    // The placements stay in the cache here and are copied; the batches were made for the client and move over.
    return Comlink.transfer(served, buffersOf(served.arrangements.map((a) => a.batches)));
  },
  check: (at: number, time: number) => service.check(mirror.scene(at), time),
  takeIn: (bytes: Uint8Array, fileName: string) => service.files.takeIn(bytes, fileName),
  bringInPanorama: (bytes: Uint8Array, fileName: string) => service.files.bringInPanorama(bytes, fileName),
  bringInPicture: (bytes: Uint8Array, fileName: string) => service.files.bringInPicture(bytes, fileName),
  async bringIn(bytes: Uint8Array, fileName: string) {
    return service.files.bringIn(bytes, fileName);
  },
  async open(bytes: Uint8Array, name: string) {
    return service.open(bytes, name);
  },
  readPlaces: (bytes: Uint8Array, fileName: string) => service.readPlaces(bytes, fileName),
  readDrawing: (bytes: Uint8Array, fileName: string) => service.readDrawing(bytes, fileName),
  mesh: (ref: MeshRef) => service.files.mesh(ref),
  simpler: simplerMesh,
  stampMaps: (stamp: Stamp) => service.files.stampMaps(stamp),
  async bake(at: number, surface: string, settings: BakeSettings & { of: readonly string[] }, time: number) {
    return service.bakes.bake(mirror.scene(at), surface, settings, time, report);
  },
  stampFrom: (prop: Prop) => service.files.stampFrom(prop),
  strokes: (at: number, path: string) => service.strokes(mirror.scene(at), path),
  edgeLoop: (surface: string, place: [number, number, number]) => service.edgeLoop(surface, place),
  fitting: (at: number, arrangement: string, fits: Fits, from: number, time: number) =>
    service.fitting(mirror.scene(at), arrangement, fits, from, time),
  pushed: (at: number, arrangement: string, time: number) =>
    service.pushed(mirror.scene(at), arrangement, time),
  profile: (at: number, run: string, path: string, stroke: number, time: number) =>
    service.profile(mirror.scene(at), run, path, stroke, time),
  ask: (at: number, asked: Asked, time: number) => service.ask(mirror.scene(at), asked, time),
  mergedFacts: (at: number, options: MergedOptions, only: string[] | undefined, time: number) =>
    service.mergedFacts(mirror.scene(at), options, only, time),
  costs: (at: number, time: number) => service.costs(mirror.scene(at), time),
  boxOf: (...args: Parameters<EngineService['boxOf']>) => service.boxOf(...args),
  snapPointsOf: (...args: Parameters<EngineService['snapPointsOf']>) => service.snapPointsOf(...args),
  snapPointsIn: (prop: string) => service.snapPointsIn(prop),
  alongSurface: (...args: Parameters<EngineService['alongSurface']>) => service.alongSurface(...args),
  facesAt: (...args: Parameters<EngineService['facesAt']>) => service.facesAt(...args),
  printable: (...args: Parameters<EngineService['printable']>) => service.printable(...args),
  boxAbout: (ids: readonly string[]) => service.boxAbout(ids),
  solidOf: (surface: string) => service.solidOf(surface),
  maskShades(mask: string, surface: string) {
    const made = service.maskShades(mask, surface);
    return made && Comlink.transfer(made, buffersOf(made));
  },
  pinPlaces: (places: ToPin[], how: PinHow, time: number) => service.pinPlaces(places, how, time, report),
  locksOn: (...args: Parameters<EngineService['locksOn']>) => service.locksOn(...args),
  pinAtUv: (surface: string, uv: [number, number], to: Omit<ToPin, 'at'>, time: number) =>
    service.pinAtUv(surface, uv, to, time),
  variants(at: number, arrangement: string, seeds: number[], time: number) {
    const made = service.variants(mirror.scene(at), arrangement, seeds, time);
    // Bent shapes may be kept here, and are copied.
    return Comlink.transfer(made, buffersOf(made.map((v) => v.batches)));
  },
  animationSize: (at: number, range: AnimationRange, only: string[] | undefined, surfaces: boolean) =>
    service.animationSize(mirror.scene(at), range, only, surfaces),
  async sendOut(at: number, format: SendFormat, time: number) {
    const bytes = await service.sendOut(mirror.scene(at), format, time, report);
    return Comlink.transfer(bytes, [bytes.buffer as ArrayBuffer]);
  },
};

export type WorkerApi = typeof api;

// An error's class does not survive the journey; its message does.
Comlink.expose(api);
