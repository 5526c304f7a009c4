import { encode } from 'fast-png';
import { addHalo } from '@/core/light/halo';
import { metered } from '@/core/light/metered';
import { linearColor } from '@/core/math/color';
import { toneNeutral } from './tone';

/** A still picture as it comes together from its regions, and the files that it is sent out as. */

export interface Part {
  x: number;
  y: number;
  width: number;
  height: number;
}

export type StillFormat = 'png8' | 'png16' | 'exr';

/** One picture of light: linear, alpha multiplied in, top row first. */
export class Sheet {
  private pixels: Float32Array;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.pixels = new Float32Array(width * height * 4);
  }

  /**
   * Puts a region in, whose bottom row comes first.
   * @returns how far it is from what was there, as the mean over its pixels of what one sees, 0–1
   */
  put({ x, y, width, height }: Part, given: Float32Array, exposure: number): number {
    const { pixels } = this;
    let off = 0;
    const [a, b] = [new Float64Array(3), new Float64Array(3)];
    for (let row = 0; row < height; row++) {
      const from = (height - 1 - row) * width * 4;
      const to = ((y + row) * this.width + x) * 4;
      for (let o = 0; o < width * 4; o += 4) {
        for (let k = 0; k < 3; k++) [a[k], b[k]] = [pixels[to + o + k], given[from + o + k]];
        toneNeutral(a, exposure);
        toneNeutral(b, exposure);
        off += Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]) + Math.abs(a[2] - b[2]);
      }
      pixels.set(given.subarray(from, from + width * 4), to);
    }
    return off / (3 * width * height);
  }

  /** Puts a halo around what is brighter than white; see {@link addHalo}. */
  halo(exposure: number, { amount, reach }: { amount: number; reach: number }): void {
    addHalo(this.pixels, this.width, this.height, exposure, amount, reach);
  }

  /** The exposure that is measured from it. */
  metered = (): number => metered(this.pixels);

  /**
   * As a PNG: so many bits a channel; with alpha, or without.
   * @param ground what shows through where there is no alpha, "#rrggbb"; null: nothing does
   */
  png(bits: 8 | 16, exposure: number, alpha: boolean, ground: string | null = null): Uint8Array {
    const { width, height, pixels } = this;
    const channels = alpha ? 4 : 3;
    const most = bits === 8 ? 255 : 65535;
    const data =
      bits === 8 ? new Uint8Array(width * height * channels) : new Uint16Array(width * height * channels);
    const rgb = new Float64Array(3);
    const under = [1, 3, 5].map((k) => (ground ? parseInt(ground.slice(k, k + 2), 16) / 255 : 0));
    for (let i = 0, o = 0; i < pixels.length; i += 4, o += channels) {
      const a = Math.min(1, pixels[i + 3]);
      for (let k = 0; k < 3; k++) rgb[k] = a > 0 ? pixels[i + k] / a : 0;
      toneNeutral(rgb, exposure);
      if (ground) for (let k = 0; k < 3; k++) rgb[k] = rgb[k] * a + under[k] * (1 - a);
      for (let k = 0; k < 3; k++) data[o + k] = Math.round(rgb[k] * most);
      if (alpha) data[o + 3] = Math.round(a * most);
    }
    return encode({ width, height, data, channels, depth: bits });
  }

  /**
   * The light itself, for a file that holds light.
   * @param ground what shows through where there is no alpha, "#rrggbb"; null: nothing does
   * @returns rgba, its bottom row first
   */
  light(exposure: number, ground: string | null = null): Float32Array {
    const { width, height, pixels } = this;
    const out = new Float32Array(pixels.length);
    for (let row = 0; row < height; row++) {
      const line = pixels.subarray(row * width * 4, (row + 1) * width * 4);
      out.set(line, (height - 1 - row) * width * 4);
    }
    const under = ground ? linearColor(ground) : [0, 0, 0];
    for (let i = 0; i < out.length; i += 4) {
      const open = 1 - Math.min(1, out[i + 3]);
      for (let k = 0; k < 3; k++) out[i + k] = out[i + k] * exposure + open * under[k];
      if (ground) out[i + 3] = 1;
    }
    return out;
  }
}

/**
 * Pictures beside it, of one frame: where things face, and how far off they are.
 * @param given direction xyz in the scene and metres from the eye, 0 where nothing is; top row first
 */
export function besidePngs(
  given: Float32Array,
  width: number,
  height: number,
): { normals: Uint8Array; depth: Uint8Array; near: number; far: number } {
  let [near, far] = [Infinity, 0];
  for (let i = 3; i < given.length; i += 4) {
    if (given[i] <= 0) continue;
    near = Math.min(near, given[i]);
    far = Math.max(far, given[i]);
  }
  if (far === 0) near = 0;
  const normals = new Uint8Array(width * height * 3);
  const depth = new Uint16Array(width * height);
  const deep = Math.max(far - near, 1e-9);
  for (let i = 0, p = 0; i < given.length; i += 4, p++) {
    const d = given[i + 3];
    // White is nearest; what is nothing is black.
    depth[p] = d > 0 ? Math.round(65535 - ((d - near) / deep) * 65534) : 0;
    for (let k = 0; k < 3; k++) normals[p * 3 + k] = d > 0 ? Math.round((given[i + k] * 0.5 + 0.5) * 255) : 0;
  }
  return {
    normals: encode({ width, height, data: normals, channels: 3, depth: 8 }),
    depth: encode({ width, height, data: depth, channels: 1, depth: 16 }),
    near,
    far,
  };
}

/** A picture of plain colours, 0–1, top row first. */
export function maskPng(given: Float32Array, width: number, height: number): Uint8Array {
  const data = new Uint8Array(width * height * 3);
  for (let p = 0; p < width * height; p++)
    for (let k = 0; k < 3; k++) data[p * 3 + k] = Math.round(given[p * 4 + k] * 255);
  return encode({ width, height, data, channels: 3, depth: 8 });
}
