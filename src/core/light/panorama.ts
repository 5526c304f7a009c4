import { atan2, cos, sin } from '../math/portable';
import type { Vec3 } from '../math/vec3';

/**
 * The light that a panorama gives: as harmonics, for what is lit at once; and direction by direction, for what is added
 * up. Right-handed, Y up; its middle column looks along +X, columns to the right of it turn to +Z.
 */

/** Linear light of all directions, rgb a pixel, the top row first; equirectangular. */
export interface Panorama {
  width: number;
  height: number;
  pixels: Float32Array;
}

const asin = (x: number): number => {
  const held = Math.max(-1, Math.min(1, x));
  return atan2(held, Math.sqrt((1 - held) * (1 + held)));
};

/** The direction of a place in a panorama. @param u, v 0–1 from its upper left corner */
export function wayAt(u: number, v: number): Vec3 {
  const high = (0.5 - v) * Math.PI;
  const around = (u - 0.5) * 2 * Math.PI;
  const flat = cos(high);
  return [cos(around) * flat, sin(high), sin(around) * flat];
}

/** What a row of a panorama of so many rows takes of the sphere, a pixel: steradians. */
const solidAngle = (row: number, width: number, height: number): number => {
  const [top, bottom] = [(0.5 - row / height) * Math.PI, (0.5 - (row + 1) / height) * Math.PI];
  return ((2 * Math.PI) / width) * (sin(top) - sin(bottom));
};

/** Real spherical harmonics up to the second degree, in a direction of unit length. */
const harmonicsAt = ([x, y, z]: Vec3): number[] => [
  0.282095,
  0.488603 * y,
  0.488603 * z,
  0.488603 * x,
  1.092548 * x * y,
  1.092548 * y * z,
  0.315392 * (3 * z * z - 1),
  1.092548 * x * z,
  0.546274 * (x * x - y * y),
];

/** How much of each degree is left in the light that falls on a plane (Ramamoorthi and Hanrahan 2001). */
const FALLS = [Math.PI, (2 * Math.PI) / 3, Math.PI / 4];

/** A panorama as harmonics up to the second degree: nine times rgb. @param turn radians, clockwise from above */
export function harmonicsOf({ width, height, pixels }: Panorama, turn = 0): Float64Array {
  const out = new Float64Array(27);
  for (let row = 0; row < height; row++) {
    const angle = solidAngle(row, width, height);
    for (let column = 0; column < width; column++) {
      const way = turned(wayAt((column + 0.5) / width, (row + 0.5) / height), turn);
      harmonicsAt(way).forEach((basis, h) => {
        for (let k = 0; k < 3; k++) out[h * 3 + k] += basis * angle * pixels[(row * width + column) * 3 + k];
      });
    }
  }
  return out;
}

/** The light that falls on a plane whose normal is so, rgb, as harmonics have it. */
export function onPlane(harmonics: ArrayLike<number>, normal: Vec3): Vec3 {
  const out: Vec3 = [0, 0, 0];
  harmonicsAt(normal).forEach((basis, h) => {
    const share = basis * FALLS[h === 0 ? 0 : h < 4 ? 1 : 2];
    for (let k = 0; k < 3; k++) out[k] += share * harmonics[h * 3 + k];
  });
  return out;
}

/** A direction turned about Y. @param by radians, clockwise from above */
export const turned = ([x, y, z]: Vec3, by: number): Vec3 =>
  by === 0 ? [x, y, z] : [cos(by) * x - sin(by) * z, y, sin(by) * x + cos(by) * z];

/** A panorama to draw directions from that light comes from. */
export class PanoramaLight {
  /** By pixel: the share of all light that comes before it and from it. */
  private readonly reached: Float64Array;
  private readonly total: number;

  /** @param panorama small: some hundred pixels wide do */
  constructor(private panorama: Panorama) {
    const { width, height, pixels } = panorama;
    this.reached = new Float64Array(width * height);
    let sum = 0;
    for (let row = 0; row < height; row++) {
      const angle = solidAngle(row, width, height);
      for (let i = row * width; i < (row + 1) * width; i++) {
        sum += brightness(pixels, i) * angle;
        this.reached[i] = sum;
      }
    }
    this.total = sum;
  }

  /**
   * A direction that light comes from, and how much there is of it where it stands for all: bright places are taken more
   * often and count the less for it, so that the mean of many is the light of all.
   * @param a, b, c from 0 to below 1: which pixel, and where in it
   */
  from(a: number, b: number, c: number): { way: Vec3; light: Vec3 } {
    const { width, height, pixels } = this.panorama;
    if (this.total === 0) return { way: [0, 1, 0], light: [0, 0, 0] };
    const wanted = a * this.total;
    let [low, high] = [0, this.reached.length - 1];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.reached[middle] > wanted) high = middle;
      else low = middle + 1;
    }
    const row = Math.floor(low / width);
    const share = this.total / brightness(pixels, low);
    return {
      way: wayAt(((low % width) + b) / width, heightIn(row, height, c)),
      light: [0, 1, 2].map((k) => pixels[low * 3 + k] * share) as Vec3,
    };
  }
}

/** A place within a row, evenly over its part of the sphere: v. */
const heightIn = (row: number, height: number, c: number): number => {
  const [top, bottom] = [sin((0.5 - row / height) * Math.PI), sin((0.5 - (row + 1) / height) * Math.PI)];
  return 0.5 - asin(top + (bottom - top) * c) / Math.PI;
};

/** How bright a pixel is (Rec. 709). Its own number, so that what is dark but coloured is not passed by. */
const brightness = (p: Float32Array, i: number): number =>
  0.2126 * p[i * 3] + 0.7152 * p[i * 3 + 1] + 0.0722 * p[i * 3 + 2];

/** A panorama in fewer pixels, each the mean of those that it stands for. @param width of it, at most */
export function smallPanorama({ width, height, pixels }: Panorama, most: number): Panorama {
  const times = Math.ceil(width / most);
  if (times <= 1) return { width, height, pixels };
  const [w, h] = [Math.max(1, Math.floor(width / times)), Math.max(1, Math.floor(height / times))];
  const out = new Float32Array(w * h * 3);
  for (let y = 0; y < h; y++) {
    const [top, bottom] = [Math.floor((y * height) / h), Math.floor(((y + 1) * height) / h)];
    for (let x = 0; x < w; x++) {
      const [left, right] = [Math.floor((x * width) / w), Math.floor(((x + 1) * width) / w)];
      const count = (bottom - top) * (right - left);
      for (let r = top; r < bottom; r++)
        for (let c = left; c < right; c++)
          for (let k = 0; k < 3; k++) out[(y * w + x) * 3 + k] += pixels[(r * width + c) * 3 + k] / count;
    }
  }
  return { width: w, height: h, pixels: out };
}
