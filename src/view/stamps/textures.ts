import {
  DataArrayTexture,
  DataTexture,
  DataUtils,
  FloatType,
  HalfFloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  RGBAFormat,
  RGFormat,
  RGIntegerFormat,
  RedIntegerFormat,
  SRGBColorSpace,
  UnsignedIntType,
  Vector4,
} from 'three';
import type { StampLayers } from '@/core/mesh/stamp/layers';
import { STAMP_SIZE, type StampMaps } from '@/core/mesh/stamp/maps';
import { ROW, type StampUniforms } from './stampMaterial';

/** Stamps on their way to the GPU. */

/** The pictures of all stamps, one behind the other. */
export interface StampPictures {
  colors: DataArrayTexture;
  slopes: DataArrayTexture;
}

export function stampPictures(all: readonly StampMaps[]): StampPictures {
  const each = STAMP_SIZE * STAMP_SIZE;
  const color = new Uint8Array(each * 4 * all.length);
  const slope = new Uint16Array(each * 2 * all.length);
  all.forEach((maps, i) => {
    color.set(maps.color, each * 4 * i);
    maps.slope.forEach(
      (v, k) => (slope[each * 2 * i + k] = DataUtils.toHalfFloat(Math.min(6e4, Math.max(-6e4, v)))),
    );
  });
  const colors = new DataArrayTexture(color, STAMP_SIZE, STAMP_SIZE, all.length);
  colors.format = RGBAFormat;
  colors.colorSpace = SRGBColorSpace;
  const slopes = new DataArrayTexture(slope, STAMP_SIZE, STAMP_SIZE, all.length);
  slopes.format = RGFormat;
  slopes.type = HalfFloatType;
  for (const texture of [colors, slopes]) {
    texture.minFilter = LinearMipmapLinearFilter;
    texture.magFilter = LinearFilter;
    texture.generateMipmaps = true;
    texture.needsUpdate = true;
  }
  return { colors, slopes };
}

/** What a surface's material reads of its stamps. */
export function stampUniforms(layers: StampLayers, { colors, slopes }: StampPictures): StampUniforms {
  const { domain, grid } = layers;
  return {
    stampGrid: { value: grid },
    stampDomain: {
      value: new Vector4(domain[0], domain[1], grid / (domain[2] || 1), grid / (domain[3] || 1)),
    },
    stampNumbers: { value: rows(layers.numbers, 4) },
    stampCells: { value: cellTexture(layers.cells, grid) },
    stampList: { value: rows(layers.list, 1) },
    stampColors: { value: colors },
    stampSlopes: { value: slopes },
  };
}

export function letGoOfStamps({ stampNumbers, stampCells, stampList }: StampUniforms): void {
  for (const { value } of [stampNumbers, stampCells, stampList]) value?.dispose();
}

/** Numbers in rows of {@link ROW} texels. */
function rows(data: Float32Array | Uint32Array, channels: 1 | 4): DataTexture {
  const high = Math.max(1, Math.ceil(data.length / (ROW * channels)));
  const floats = data instanceof Float32Array;
  const padded = new (floats ? Float32Array : Uint32Array)(ROW * high * channels);
  padded.set(data);
  const texture = new DataTexture(padded, ROW, high, channels === 4 ? RGBAFormat : RedIntegerFormat);
  texture.type = floats ? FloatType : UnsignedIntType;
  texture.internalFormat = floats ? 'RGBA32F' : 'R32UI';
  texture.needsUpdate = true;
  return texture;
}

function cellTexture(cells: Uint32Array, grid: number): DataTexture {
  const texture = new DataTexture(cells, grid, grid, RGIntegerFormat, UnsignedIntType);
  texture.internalFormat = 'RG32UI';
  texture.needsUpdate = true;
  return texture;
}
