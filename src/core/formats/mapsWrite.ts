import { encode } from 'fast-png';
import { zipSync } from 'fflate';
import { shownByte } from '../math/color';
import type { BakedPixels } from '../mesh/bake/baking';
import type { BakedMap } from '../mesh/bake/bakeSchema';

/** Baked maps as PNG files. */

export interface WrittenMaps {
  maps: { map: BakedMap; bytes: Uint8Array; fileName: string }[];
  /** Metres that black and white of the height are; null where that was not made. */
  heights: [number, number] | null;
  /** Share of the pixels that the surface covers, and of its places that it covers more than once. */
  covered: number;
  twice: number;
  /** Faces whose texture coordinates reach beyond the maps. */
  beyond: number;
}

/** What each map is called in the names of files. */
const NAMES: Record<BakedMap, string> = {
  normal: 'normal',
  height: 'height',
  occlusion: 'occlusion',
  color: 'colour',
  props: 'props',
};

/** @param name of the surface, for the names of the files */
export function writeMaps(pixels: BakedPixels, name: string): WrittenMaps {
  const { size, normal, height, occlusion, color, props } = pixels;
  const maps: WrittenMaps['maps'] = [];
  const put = (map: BakedMap, channels: number, data: Uint8Array | Uint16Array) =>
    maps.push({
      map,
      bytes: encode({
        width: size,
        height: size,
        channels: channels as 1,
        depth: data instanceof Uint16Array ? 16 : 8,
        data,
      }),
      fileName: `${name} ${NAMES[map]}.png`.slice(-200),
    });
  if (normal) put('normal', 3, normal);
  let heights: [number, number] | null = null;
  if (height) {
    let [low, high] = [Infinity, -Infinity];
    for (const h of height) [low, high] = [Math.min(low, h), Math.max(high, h)];
    heights = [low, high];
    put(
      'height',
      1,
      Uint16Array.from(height, (h) => Math.round((65535 * (h - low)) / (high - low || 1))),
    );
  }
  if (occlusion) put('occlusion', 1, occlusion);
  if (color)
    put(
      'color',
      3,
      Uint8Array.from(color, (v) => shownByte(v)),
    );
  if (props) {
    const data = new Uint8Array(props.length * 3);
    props.forEach((n, q) => data.set(markOf(n), q * 3));
    put('props', 3, data);
  }
  const places = size * size;
  const { covered, twice, beyond } = pixels;
  return { maps, heights, covered: covered / places, twice: twice / places, beyond };
}

/** A colour for each number, bytes; 0 is black, and no two of the first ones are alike. */
function markOf(n: number): [number, number, number] {
  if (n === 0) return [0, 0, 0];
  // Round the hues by the golden section, in three strengths.
  const hue = (n * 0.6180339887498949) % 1;
  const light = [1, 0.7, 0.45][n % 3];
  return [0, 1, 2].map((k) => {
    const t = Math.abs(((((hue + k / 3) % 1) + 1) % 1) - 0.5) * 2;
    return Math.round(255 * light * (0.15 + 0.85 * t));
  }) as [number, number, number];
}

/** Maps as a zip, and which colour stands for which prop. @param names of the props by their numbers, from 1 */
export function zipMaps(
  maps: readonly { bytes: Uint8Array; fileName: string }[],
  names: readonly string[],
): Uint8Array {
  // The same bytes for the same maps, on every day.
  const when = { mtime: new Date(1980, 0, 1) };
  const files = Object.fromEntries(
    maps.map(({ bytes, fileName }): [string, [Uint8Array, typeof when & { level: 0 }]] => [
      fileName.replace(/[/\\:*?"<>|]/g, '_'),
      [bytes, { ...when, level: 0 }],
    ]),
  );
  if (names.length === 0) return zipSync(files);
  const rows = names.map((name, i) => [`"${name.replaceAll('"', '""')}"`, ...markOf(i + 1)].join());
  const legend = new TextEncoder().encode(`${['prop,red,green,blue', ...rows].join('\n')}\n`);
  return zipSync({ ...files, 'props.csv': [legend, when] });
}
