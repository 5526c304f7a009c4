import { encode } from 'fast-png';
import { shownByte } from '../math/color';
import { contentHash } from './hash';
import { meshRefSchema, type Stamp } from '../mesh/meshRef';
import type { SeenFromAbove } from '../mesh/stamp/fromMesh';

/** A stamp with the files of its pictures, as PNG: colours of 8 bits, heights of 16. */
export interface WrittenStamp {
  stamp: Stamp;
  pictures: { bytes: Uint8Array; fileName: string }[];
}

/** @param name of what was seen, for the names of the files */
export function writeStamp(seen: SeenFromAbove, name: string): WrittenStamp {
  const { columns, rows, color, height } = seen;
  const picture = encode({
    width: columns,
    height: rows,
    channels: 4,
    depth: 8,
    data: Uint8Array.from(color, (v, i) => (i % 4 === 3 ? Math.round(255 * v) : shownByte(v))),
  });
  const relief = encode({
    width: columns,
    height: rows,
    channels: 1,
    depth: 16,
    data: Uint16Array.from(height, (v) => Math.round(65535 * Math.min(1, v))),
  });
  const file = (bytes: Uint8Array, what: string) => ({ bytes, fileName: `${name} ${what}.png`.slice(-200) });
  const files = [file(picture, 'colour'), file(relief, 'height')];
  const [own, raised] = files.map(({ bytes, fileName }) => ({
    hash: contentHash(bytes),
    format: 'png',
    fileName,
  }));
  const round = (v: number) => Number(v.toFixed(6));
  return {
    stamp: meshRefSchema.parse({
      source: 'stamp',
      picture: own,
      relief: raised,
      depth: round(seen.depth),
      width: round(seen.width),
      length: round(seen.length),
    }) as Stamp,
    pictures: files,
  };
}
