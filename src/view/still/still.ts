import { wrap, transfer, type Remote } from 'comlink';
import { PerspectiveCamera, type Scene, type WebGLRenderer } from 'three';
import { engine } from '@/store/engine';
import { lightsOf } from '../develop/Develop';
import { Developer } from '../develop/developer';
import type { Lens } from '../develop/lens';
import { fovOf } from '../framing';
import { viewReady } from '../handle';
import { sceneLight } from '../light';
import { detail } from '../many/detail';
import { tilesOf, type Region } from '../tiles';
import { EXPOSURE } from '../tones';
import { drawBeside, maskColors } from './beside';
import type { Encoder } from './encoder';
import type { Looks, StillSpec } from './spec';
import { asPicture } from './undressed';

/** Still pictures: the developing picture, larger and finer, region by region, while the page goes on. */

export interface Doing {
  /** 0–1. */
  progress: (share: number) => void;
  signal: AbortSignal;
}

export const MOST_PIXELS = 8192;
/** Regions are no larger than this, pixels a side. */
const REGION = 2048;
/** Until it is quiet: frames that are tried, each twice as many; and what of a change is not seen. */
const DOUBLED = [32, 64, 128, 256];
const QUIET = 1 / 400;
/** Frames for the edges. */
const EDGES = 8;

let worker: Remote<Encoder> | null = null;
const encoder = (): Remote<Encoder> =>
  (worker ??= wrap<Encoder>(new Worker(new URL('./encoder.ts', import.meta.url), { type: 'module' })));

/** Why a picture was not finished. */
export class StillStopped extends Error {}

/**
 * Makes a still picture.
 * @returns files by their names: the picture, and those beside it
 * @throws StillStopped where it was cancelled, or the scene changed meanwhile
 */
export async function makeStill(spec: StillSpec, doing: Doing): Promise<Record<string, Uint8Array>> {
  try {
    return await made(spec, doing);
  } finally {
    await encoder().end();
  }
}

async function made(spec: StillSpec, doing: Doing): Promise<Record<string, Uint8Array>> {
  const { gl, scene } = await viewReady();
  const { width, height } = spec;
  const camera = cameraOf(spec);
  const exposure = EXPOSURE * sceneLight().exposure;
  await encoder().begin(width, height, spec.beside);
  const most = Math.min(REGION, gl.capabilities.maxTextureSize);
  const count = 2 ** Math.ceil(Math.log2(Math.ceil(width / most) * Math.ceil(height / most)));
  const regions = tilesOf(width, height, count).map((t): Region => ({ ...t, of: { width, height } }));
  const rounds = spec.frames === null ? DOUBLED : [spec.frames];
  const work = rounds.reduce((sum, n) => sum + n + EDGES, 0) * regions.length;
  let done = 0;
  for (const light of rounds) {
    let off = 0;
    for (const region of regions) {
      const pixels = await develop({ gl, scene, camera, spec, region, light }, doing, () =>
        doing.progress(Math.min(0.99, ++done / work)),
      );
      const share = (region.width * region.height) / (width * height);
      off +=
        share *
        (await encoder().put(plain(region), transfer(pixels, [pixels.buffer as ArrayBuffer]), exposure));
    }
    if (light !== rounds[0] && off < QUIET) break;
  }
  const ending = spec.format === 'exr' ? 'exr' : 'png';
  const files: Record<string, Uint8Array> = {
    [`${spec.name}.${ending}`]: await encoder().picture(
      spec.format,
      exposure,
      spec.background === 'transparent',
      spec.background === 'plain' ? spec.color : null,
    ),
  };
  if (spec.beside) {
    for (const region of regions) {
      stopIf(doing.signal);
      detail.forStill(camera, height);
      const made = await drawBeside(gl, scene, camera, region);
      for (const what of ['normals', 'mask'] as const)
        await encoder().putBeside(
          what,
          plain(region),
          transfer(made[what], [made[what].buffer as ArrayBuffer]),
        );
    }
    const { depth, normals, mask, near, far } = await encoder().besides();
    Object.assign(files, {
      [`${spec.name}-depth.png`]: depth,
      [`${spec.name}-normals.png`]: normals,
      [`${spec.name}-mask.png`]: mask,
      [`${spec.name}-beside.csv`]: new TextEncoder().encode(
        `what,name,value\n${[
          `depth,nearest (white),${near}`,
          `depth,farthest,${far}`,
          ...maskColors().map(({ name, hex }) => `mask,"${name.replaceAll('"', '""')}",${hex}`),
        ].join('\n')}\n`,
      ),
    });
  }
  doing.progress(1);
  return files;
}

/** Several files as one. */
export const zipped = (files: Record<string, Uint8Array>): Promise<Uint8Array> => encoder().zip(files);

const plain = ({ x, y, width, height }: Region) => ({ x, y, width, height });

function cameraOf({ from, width, height }: StillSpec): PerspectiveCamera {
  const camera = new PerspectiveCamera(fovOf(from.focal), width / height, 0.1, 1200);
  camera.position.set(...from.eye);
  camera.lookAt(...from.aim);
  camera.updateMatrixWorld();
  return camera;
}

/** The lens of a viewpoint; null where all is sharp. Its frame is 24 mm high. */
const lensOf = ({ focal, focus }: Looks): Lens | null =>
  focus && { distance: focus.distance, radius: focal / 1000 / 2 / focus.aperture };

interface Work {
  gl: WebGLRenderer;
  scene: Scene;
  camera: PerspectiveCamera;
  spec: StillSpec;
  region: Region;
  light: number;
}

async function develop(w: Work, { signal }: Doing, frame: () => void): Promise<Float32Array> {
  const { gl, scene, camera, spec, region, light } = w;
  const lights = lightsOf(scene);
  if (!lights) throw new StillStopped('The view has not been drawn yet. Try again in a moment.');
  const developer = new Developer(gl, { edges: EDGES, light }, region, lensOf(spec.from));
  const { result } = engine().state;
  try {
    while (!developer.isDeveloped) {
      stopIf(signal);
      if (engine().state.result !== result)
        throw new StillStopped(
          'The scene changed while its picture was made, so it was stopped. Make it again.',
        );
      const before = developer.added;
      detail.forStill(camera, spec.height);
      asPicture(scene, spec, gl, () => developer.step(scene, camera, lights));
      await drawn(gl);
      if (developer.added > before) frame();
    }
    return await developer.read();
  } finally {
    developer.dispose();
  }
}

function stopIf(signal: AbortSignal): void {
  if (signal.aborted) throw new StillStopped('Cancelled. Nothing was changed.');
}

/** Waits until what was asked of the card is drawn, so that the page answers meanwhile. */
async function drawn(renderer: WebGLRenderer): Promise<void> {
  const gl = renderer.getContext() as WebGL2RenderingContext;
  const sync = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0)!;
  gl.flush();
  do await new Promise((done) => setTimeout(done, 3));
  while (!gl.isContextLost() && gl.getSyncParameter(sync, gl.SYNC_STATUS) === gl.UNSIGNALED);
  gl.deleteSync(sync);
}
