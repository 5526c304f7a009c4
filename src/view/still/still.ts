import { wrap, transfer, type Remote } from 'comlink';
import type { OrthographicCamera, PerspectiveCamera, Scene, WebGLRenderer } from 'three';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { lightsOf } from '../develop/Develop';
import { Developer } from '../develop/developer';
import { viewReady } from '../handle';
import { sceneLight } from '../light';
import { detail } from '../many/detail';
import { tilesOf, type Region } from '../tiles';
import { EXPOSURE } from '../tones';
import { drawBeside, maskColors } from './beside';
import type { Encoder } from './encoder';
import { eyeOf, lensOf } from './eye';
import type { Part } from './sheet';
import type { StillSpec } from './spec';
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

type Files = Record<string, Uint8Array>;

/** A picture that is being made. */
interface Work {
  gl: WebGLRenderer;
  scene: Scene;
  camera: PerspectiveCamera | OrthographicCamera;
  spec: StillSpec;
  regions: Region[];
  exposure: number;
  /** @throws StillStopped where it is to go on no more */
  goOn: () => void;
  progress: Doing['progress'];
}

/**
 * Makes a still picture.
 * @returns files by their names: the picture, and those beside it
 * @throws StillStopped where it was cancelled, or the scene changed meanwhile
 */
export async function makeStill(spec: StillSpec, { progress, signal }: Doing): Promise<Files> {
  const { gl, scene } = await viewReady();
  const { width, height } = spec;
  const most = Math.min(REGION, gl.capabilities.maxTextureSize);
  const count = 2 ** Math.ceil(Math.log2(Math.ceil(width / most) * Math.ceil(height / most)));
  const isSame = sameScene();
  const work: Work = {
    ...{ gl, scene, camera: eyeOf(spec), spec, progress },
    regions: tilesOf(width, height, count).map((t): Region => ({ ...t, of: { width, height } })),
    exposure: EXPOSURE * sceneLight().exposure,
    goOn() {
      if (signal.aborted) throw new StillStopped('Cancelled. Nothing was changed.');
      if (!isSame())
        throw new StillStopped(
          'The scene changed while its picture was made, so it was stopped. Make it again.',
        );
    },
  };
  try {
    await encoder().begin(width, height, spec.beside);
    const files = await picture(work);
    if (spec.beside) Object.assign(files, await besides(work));
    progress(1);
    return files;
  } finally {
    await encoder().end();
  }
}

/** Several files as one. */
export const zipped = (files: Files): Promise<Uint8Array> => encoder().zip(files);

/** Whether all that is seen of the scene is still what it is now: where one looks at it from does not count. */
function sameScene(): () => boolean {
  const now = () => {
    const { view: _, viewpoints: __, name: ___, ...seen } = useDocument.getState().scene;
    return [...Object.values(seen), engine().state.result, sceneLight()];
  };
  const was = now();
  return () => now().every((value, i) => value === was[i]);
}

async function picture(w: Work): Promise<Files> {
  const { spec, regions, exposure } = w;
  const { width, height, format, background } = spec;
  const rounds = spec.frames === null ? DOUBLED : [spec.frames];
  const all = rounds.reduce((sum, n) => sum + n + EDGES, 0) * regions.length;
  let done = 0;
  for (const light of rounds) {
    let off = 0;
    for (const region of regions) {
      const pixels = await develop(w, region, light, () => w.progress(Math.min(0.99, ++done / all)));
      const share = (region.width * region.height) / (width * height);
      off += share * (await encoder().put(partOf(region), handed(pixels), exposure));
    }
    if (light !== rounds[0] && off < QUIET) break;
  }
  // A plan has no sky to be kept: behind it is what the sky is below.
  const kept = background === 'scene' && spec.from.straight ? sceneLight().dome.below : null;
  const ground = background === 'plain' ? spec.color : kept;
  const bytes = await encoder().picture(format, exposure, background === 'transparent', ground, {
    metered: sceneLight().metered,
    halo: sceneLight().halo,
  });
  return { [`${spec.name}.${format === 'exr' ? 'exr' : 'png'}`]: bytes };
}

async function besides({ gl, scene, camera, spec, regions, goOn }: Work): Promise<Files> {
  const { name } = spec;
  for (const region of regions) {
    goOn();
    detail.forStill(camera, spec.height);
    const drawn = await drawBeside(gl, scene, camera, region);
    for (const what of ['normals', 'mask'] as const)
      await encoder().putBeside(what, partOf(region), handed(drawn[what]));
  }
  const { depth, normals, mask, near, far } = await encoder().besides();
  const lines = [
    'what,name,value',
    `depth,nearest (white),${near}`,
    `depth,farthest,${far}`,
    ...maskColors().map((m) => `mask,"${m.name.replaceAll('"', '""')}",${m.hex}`),
  ];
  return {
    [`${name}-depth.png`]: depth,
    [`${name}-normals.png`]: normals,
    [`${name}-mask.png`]: mask,
    [`${name}-beside.csv`]: new TextEncoder().encode(`${lines.join('\n')}\n`),
  };
}

const partOf = ({ x, y, width, height }: Region): Part => ({ x, y, width, height });
const handed = (pixels: Float32Array) => transfer(pixels, [pixels.buffer as ArrayBuffer]);

async function develop(w: Work, region: Region, light: number, frame: () => void): Promise<Float32Array> {
  const { gl, scene, camera, spec } = w;
  const lights = lightsOf(scene);
  if (!lights) throw new StillStopped('The view has not been drawn yet. Try again in a moment.');
  const developer = new Developer(gl, { edges: EDGES, light: 2 * light }, region, lensOf(spec.from));
  try {
    await developer.warm(scene, camera, lights, (work) => asPicture(scene, spec, gl, work));
    while (!developer.isDeveloped) {
      w.goOn();
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

/** Waits until what was asked of the card is drawn, so that the page answers meanwhile. */
async function drawn(renderer: WebGLRenderer): Promise<void> {
  const gl = renderer.getContext() as WebGL2RenderingContext;
  const sync = gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0)!;
  gl.flush();
  do await new Promise((done) => setTimeout(done, 3));
  while (!gl.isContextLost() && gl.getSyncParameter(sync, gl.SYNC_STATUS) === gl.UNSIGNALED);
  gl.deleteSync(sync);
}
