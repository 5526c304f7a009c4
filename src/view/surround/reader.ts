import { expose, transfer } from 'comlink';
import { DataUtils, HalfFloatType } from 'three';
import { HDRLoader } from 'three/examples/jsm/loaders/HDRLoader.js';
import { FileError, checkSize } from '@/core/formats/limits';
import { openPanorama } from '@/core/formats/panoramaRead';
import type { GreyPicture } from '@/core/mesh/make/picture';
import { smallPanorama, type Panorama } from '@/core/light/panorama';
import { linearChannel } from '@/core/math/color';

/** What reads panoramas, beside the page. */

/** Pixels across that light is drawn from. */
const SMALL = 256;

const reader = {
  /** Its size, where it is one. @throws FileError */
  size: (bytes: Uint8Array, name: string): { width: number; height: number } => {
    const { width, height } = light(bytes, name);
    return { width, height };
  },

  /** Its light: rgba, half floats, at most so many pixels across; and a small one as numbers. @throws FileError */
  read(bytes: Uint8Array, name: string, most: number) {
    const whole = light(bytes, name);
    const { width, height, pixels } = smallPanorama(whole, most);
    const half = new Uint16Array(width * height * 4);
    const one = DataUtils.toHalfFloat(1);
    for (let i = 0; i < width * height; i++) {
      for (let k = 0; k < 3; k++) half[i * 4 + k] = DataUtils.toHalfFloat(Math.min(65504, pixels[i * 3 + k]));
      half[i * 4 + 3] = one;
    }
    return transfer({ half, width, height, small: smallPanorama(whole, SMALL) }, [half.buffer]);
  },
};

function light(bytes: Uint8Array, name: string): Panorama {
  checkSize(bytes, name);
  const { picture } = openPanorama(bytes, name);
  return picture ? shown(picture) : radiance(bytes, name);
}

/** What the reader of Radiance pictures gives: rgba. */
interface Read {
  data: Uint16Array;
  width: number;
  height: number;
}

function radiance(bytes: Uint8Array, name: string): Panorama {
  try {
    const copy = bytes.slice();
    const { data, width, height } = new HDRLoader().setDataType(HalfFloatType).parse(copy.buffer) as Read;
    const pixels = new Float32Array(width * height * 3);
    for (let i = 0; i < width * height; i++)
      for (let k = 0; k < 3; k++) pixels[i * 3 + k] = DataUtils.fromHalfFloat(data[i * 4 + k]);
    return { width, height, pixels };
  } catch {
    throw new FileError(`“${name}” is damaged or cut short and cannot be read. Save it again.`);
  }
}

/** A picture for the screen, as the light that it shows. */
function shown({ width, height, values, colours }: GreyPicture): Panorama {
  const pixels = new Float32Array(width * height * 3);
  for (let i = 0; i < width * height; i++)
    for (let k = 0; k < 3; k++)
      pixels[i * 3 + k] = linearChannel(colours ? colours[i * 4 + k] / 255 : values[i]);
  return { width, height, pixels };
}

export type Reader = typeof reader;
expose(reader);
