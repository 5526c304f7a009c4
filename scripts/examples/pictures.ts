import { encode } from 'fast-png';
import { contentHash } from '@/core/formats/hash';
import { noise3 } from '@/core/math/noise';

/** Pictures that example scenes use, made here; by the hash that scenes know them by. */

const SIDE = 96;

/** Where sheep have grazed: bright where the grass is left long. */
function grazed(): Uint8Array {
  const noise = noise3(3);
  const data = new Uint8Array(SIDE * SIDE);
  for (let y = 0; y < SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const v = 0.62 + 0.55 * noise(x / 17, 0.4, y / 17) + 0.2 * noise(x / 6, 3.3, y / 6);
      data[y * SIDE + x] = Math.round(255 * Math.min(1, Math.max(0, v)));
    }
  return encode({ width: SIDE, height: SIDE, data, channels: 1, depth: 8 });
}

const bytes = grazed();
export const GRAZED = { hash: contentHash(bytes), format: 'png' as const, fileName: 'grazed.png' };

const kept = new Map([[GRAZED.hash, bytes]]);

/** Keeps a picture that an example has made while it was built. */
export function keepPicture(made: Uint8Array, fileName: string) {
  const hash = contentHash(made);
  kept.set(hash, made);
  return { hash, format: 'png' as const, fileName };
}

/** The bytes of a picture; undefined for one that no example uses. */
export const pictureBytes = (hash: string): Uint8Array | undefined => kept.get(hash);
