import * as Comlink from 'comlink';
import type { Scene } from '@/core/scene/schema';
import type { MeshRef } from '@/core/scene/schema';
import type { ToPin } from '@/core/arrange/pegs/pinning';
import { EngineService, type SendFormat } from './service';

/** The service in a web worker. Arrays travel without being copied twice. */
const service = new EngineService();

/** Every typed array's buffer inside a value, once. Only for values made for the journey. */
function buffersOf(value: unknown, found = new Set<ArrayBufferLike>()): ArrayBuffer[] {
  if (ArrayBuffer.isView(value)) found.add(value.buffer);
  else if (Array.isArray(value)) value.forEach((v) => buffersOf(v, found));
  else if (typeof value === 'object' && value !== null)
    Object.values(value).forEach((v) => buffersOf(v, found));
  return [...found] as ArrayBuffer[];
}

const api = {
  evaluate(
    scene: Scene,
    known: Record<string, string>,
    time: number,
    progress?: (done: number, name: string) => void,
  ) {
    const served = service.evaluate(scene, known, progress, time);
    // The placements stay in the cache here and are copied; the batches were made for the client and move over.
    const moved = served.arrangements.flatMap((a) => ('same' in a ? [] : a.batches));
    return Comlink.transfer(served, buffersOf(moved));
  },
  bringInPicture: (bytes: Uint8Array, fileName: string) => service.bringInPicture(bytes, fileName),
  async bringIn(bytes: Uint8Array, fileName: string) {
    return service.bringIn(bytes, fileName);
  },
  async open(bytes: Uint8Array, name: string) {
    return service.open(bytes, name);
  },
  mesh: (ref: MeshRef) => service.mesh(ref),
  strokes: (scene: Scene, path: string) => service.strokes(scene, path),
  edgeLoop: (scene: Scene, surface: string, at: [number, number, number]) =>
    service.edgeLoop(scene, surface, at),
  profile: (scene: Scene, run: string, path: string, stroke: number, time: number) =>
    service.profile(scene, run, path, stroke, time),
  pinPlaces: (places: ToPin[], how: 'nearest' | 'down', time: number) => service.pinPlaces(places, how, time),
  variants(scene: Scene, arrangement: string, seeds: number[], time: number) {
    const made = service.variants(scene, arrangement, seeds, time);
    return Comlink.transfer(made, buffersOf(made));
  },
  async sendOut(scene: Scene, format: SendFormat, time: number) {
    const bytes = await service.sendOut(scene, format, time);
    return Comlink.transfer(bytes, [bytes.buffer as ArrayBuffer]);
  },
};

export type WorkerApi = typeof api;

// An error's class does not survive the journey; its message does.
Comlink.expose(api);
