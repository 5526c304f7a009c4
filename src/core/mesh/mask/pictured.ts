import { cos, sin } from '../../math/portable';
import { DEG } from '../../math/quat';
import type { GreyPicture } from '../make/picture';
import { uvs } from './readings';
import type { MaskPlaces } from './places';
import type { LayerOf } from './schema';

/** A picture as a layer: between the middles of its pixels brightness runs evenly (bilinear). */

const CHANNEL = { red: 0, green: 1, blue: 2, alpha: 3 } as const;

/** Brightness of one pixel of a channel, 0–1. */
function pixelsOf(picture: GreyPicture, channel: LayerOf<'picture'>['channel']): (i: number) => number {
  const { values, colours } = picture;
  if (channel === 'grey') return (i) => values[i];
  // A picture in shades of grey is that in each colour, and lets nothing through.
  if (!colours) return channel === 'alpha' ? () => 1 : (i) => values[i];
  const at = CHANNEL[channel];
  return (i) => colours[i * 4 + at] / 255;
}

/**
 * Brightness at places: by texture coordinates, where the picture's lower left corner is (0, 0) and it repeats; or let
 * down from above into its frame, the picture's top to the north (−Z) before that is turned. Outside of that it is 0;
 * NaN where texture coordinates are asked for and there are none.
 */
export function brightness(
  places: MaskPlaces,
  { by, frame, channel }: LayerOf<'picture'>,
  picture: GreyPicture,
): Float64Array {
  const { width, height } = picture;
  const pixel = pixelsOf(picture, channel);
  const mix = (x: number, y: number, held: (v: number, most: number) => number): number => {
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const [a, b] = [x - i, y - j];
    const at = (k: number, l: number) => pixel(held(l, height) * width + held(k, width));
    return (
      (at(i, j) * (1 - a) + at(i + 1, j) * a) * (1 - b) + (at(i, j + 1) * (1 - a) + at(i + 1, j + 1) * a) * b
    );
  };
  if (by === 'uv') {
    const round = (v: number, most: number) => ((v % most) + most) % most;
    const [u, v] = [uvs(places, 0), uvs(places, 1)];
    return u.map((_, i) =>
      Number.isNaN(u[i]) ? NaN : mix(u[i] * width - 0.5, (1 - v[i]) * height - 0.5, round),
    );
  }
  const clamped = (v: number, most: number) => Math.min(most - 1, Math.max(0, v));
  const [c, s] = [cos(frame.turnDeg * DEG), sin(frame.turnDeg * DEG)];
  return Float64Array.from({ length: places.count }, (_, i) => {
    const [dx, dz] = [places.position[i * 3] - frame.x, places.position[i * 3 + 2] - frame.z];
    const u = (dx * c - dz * s) / frame.width + 0.5;
    const w = (dx * s + dz * c) / frame.depth + 0.5;
    if (u < 0 || u > 1 || w < 0 || w > 1) return 0;
    return mix(u * width - 0.5, w * height - 0.5, clamped);
  });
}
