import { wrap, type Remote } from 'comlink';
import {
  ClampToEdgeWrapping,
  DataTexture,
  HalfFloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  NoColorSpace,
  RepeatWrapping,
  RGBAFormat,
} from 'three';
import { harmonicsOf, PanoramaLight, smallPanorama, type Panorama } from '@/core/light/panorama';
import type { Surround } from '@/core/light/panoramaSchema';
import { engine } from '@/store/engine';
import { retold } from '../light';
import type { Reader } from './reader';

/** The panorama that a scene is lit by: read in a worker, once, and kept until another one is. */

export interface LitPanorama {
  hash: string;
  texture: DataTexture;
  light: PanoramaLight;
  /** Few pixels, for its harmonics. */
  coarse: Panorama;
}

/** Pixels across that its harmonics are worked out from. */
const COARSE = 64;

let reader: Remote<Reader> | null = null;
const reading = (): Remote<Reader> =>
  (reader ??= wrap<Reader>(new Worker(new URL('./reader.ts', import.meta.url), { type: 'module' })));

let now: LitPanorama | null = null;
let wanted = '';

/** The panorama with this hash; null while it is not there. */
export const panoramaOf = (hash: string | undefined): LitPanorama | null =>
  hash !== undefined && now?.hash === hash ? now : null;

/**
 * Looks at a file that is to be a panorama.
 * @throws Error with one sentence for one that is none
 */
export const lookAtPanorama = (bytes: Uint8Array, name: string): Promise<unknown> =>
  reading().size(bytes, name);

/**
 * Fetches the panorama that a light is to have, or lets go of the one that is there.
 * @returns done when it is there; null where there is nothing to wait for
 */
export function wantPanorama(panorama: Surround['panorama'], most: number): Promise<void> | null {
  const hash = panorama?.hash ?? '';
  if (hash === wanted) return null;
  const bytes = panorama && engine().bytesOf(panorama.hash);
  // Files come after the scene that names them.
  if (panorama && !bytes) return null;
  wanted = hash;
  if (panorama && bytes) return take(hash, bytes, panorama.fileName, most);
  letGo();
  return null;
}

async function take(hash: string, bytes: Uint8Array, name: string, most: number): Promise<void> {
  const read = await reading()
    .read(bytes, name, most)
    .catch(() => null);
  if (wanted !== hash) return;
  letGo();
  if (!read) return;
  const { half, width, height, small } = read;
  const texture = new DataTexture(half, width, height, RGBAFormat, HalfFloatType);
  Object.assign(texture, {
    colorSpace: NoColorSpace,
    wrapS: RepeatWrapping,
    wrapT: ClampToEdgeWrapping,
    magFilter: LinearFilter,
    minFilter: LinearMipmapLinearFilter,
    generateMipmaps: true,
  });
  texture.needsUpdate = true;
  now = { hash, texture, light: new PanoramaLight(small), coarse: smallPanorama(small, COARSE) };
  retold();
}

function letGo(): void {
  if (!now) return;
  now.texture.dispose();
  now = null;
  retold();
}

let harmonics: { of: LitPanorama; turn: number; values: Float64Array } | null = null;

/** A panorama as harmonics, turned by so many radians. */
export function harmonicsAtTurn(of: LitPanorama, turn: number): Float64Array {
  if (harmonics?.of !== of || harmonics.turn !== turn)
    harmonics = { of, turn, values: harmonicsOf(of.coarse, turn) };
  return harmonics.values;
}
