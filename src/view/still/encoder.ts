import { expose, transfer } from 'comlink';
import { zipSync } from 'fflate';
import { DataTexture, FloatType, HalfFloatType, RGBAFormat } from 'three';
import { EXRExporter } from 'three/examples/jsm/exporters/EXRExporter.js';
import { besidePngs, maskPng, Sheet, type Part, type StillFormat } from './sheet';

/** What makes files of pictures, beside the page: it holds the picture as it comes together. */

let sheet: Sheet | null = null;
let beside: { normals: Float32Array; mask: Float32Array } | null = null;

/** Copies a region, bottom row first, into a whole, top row first. */
function lay(whole: Float32Array, wide: number, { x, y, width, height }: Part, given: Float32Array): void {
  for (let row = 0; row < height; row++) {
    const from = (height - 1 - row) * width * 4;
    whole.set(given.subarray(from, from + width * 4), ((y + row) * wide + x) * 4);
  }
}

const encoder = {
  begin(width: number, height: number, withBeside: boolean): void {
    sheet = new Sheet(width, height);
    const size = width * height * 4;
    beside = withBeside ? { normals: new Float32Array(size), mask: new Float32Array(size) } : null;
  },

  put: (part: Part, pixels: Float32Array, exposure: number): number => sheet!.put(part, pixels, exposure),

  putBeside: (what: 'normals' | 'mask', part: Part, pixels: Float32Array): void =>
    lay(beside![what], sheet!.width, part, pixels),

  /** @param finish what is done with the whole of its light before it becomes a file */
  async picture(
    format: StillFormat,
    given: number,
    alpha: boolean,
    ground: string | null,
    finish: { metered: boolean; halo: { amount: number; reach: number } },
  ): Promise<Uint8Array> {
    const exposure = finish.metered ? given * sheet!.metered() : given;
    sheet!.halo(exposure, finish.halo);
    if (format !== 'exr') return hand(sheet!.png(format === 'png8' ? 8 : 16, exposure, alpha, ground));
    const { width, height } = sheet!;
    const texture = new DataTexture(sheet!.light(exposure, ground), width, height, RGBAFormat, FloatType);
    return hand(await new EXRExporter().parse(texture, { type: HalfFloatType }));
  },

  besides() {
    const { width, height } = sheet!;
    const made = besidePngs(beside!.normals, width, height);
    return { ...made, mask: maskPng(beside!.mask, width, height) };
  },

  /** Lets go of the picture: a large one is a gigabyte. */
  end(): void {
    sheet = beside = null;
  },

  zip: (files: Record<string, Uint8Array>): Uint8Array =>
    hand(zipSync(files, { level: 0, mtime: new Date(2000, 0, 1) })),
};

const hand = (bytes: Uint8Array): Uint8Array => transfer(bytes, [bytes.buffer as ArrayBuffer]);

export type Encoder = typeof encoder;
expose(encoder);
