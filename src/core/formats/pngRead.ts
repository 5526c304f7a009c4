import { decode, hasPngSignature } from 'fast-png';
import type { GreyPicture } from '../mesh/make/picture';
import { checkSize, FileError } from './limits';
import { neededParts } from './pngParts';

/** Most pixels that a picture may have: a square of 4,096. */
const MAX_PIXELS = 4096 * 4096;
const IHDR = 16;

/** Whether bytes begin like a PNG file. */
export const isPng = (bytes: Uint8Array): boolean => bytes.length > 8 && hasPngSignature(bytes);

function extentOf(bytes: Uint8Array): [number, number] {
  const header = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  return bytes.length > IHDR + 8 ? [header.getUint32(IHDR), header.getUint32(IHDR + 4)] : [0, 0];
}

/** Whether a PNG has more pixels than are looked at one by one: it is shown and sent out as it is. */
export function isLarge(bytes: Uint8Array): boolean {
  if (!isPng(bytes)) return false;
  const [w, h] = extentOf(bytes);
  return w * h > MAX_PIXELS;
}

/**
 * Reads a PNG as shades of grey, 0 black to 1 white, of 8 or 16 bits; colours by their luma (Rec. 709). What shines
 * through counts as if it did not.
 * @throws FileError with one clear sentence for a file that cannot be read
 */
export function readGreyPicture(bytes: Uint8Array, name: string): GreyPicture {
  checkSize(bytes, name);
  if (!isPng(bytes))
    throw new FileError(`“${name}” is not a PNG picture. Save it as .png, 8 or 16 bits, and bring that in.`);
  if (isLarge(bytes)) {
    const [w, h] = extentOf(bytes);
    throw new FileError(`“${name}” has ${w} × ${h} pixels; the limit is 4,096 × 4,096. Make it smaller.`);
  }
  let image: ReturnType<typeof decode>;
  try {
    image = decode(neededParts(bytes, name));
  } catch (error) {
    if (error instanceof FileError) throw error;
    throw new FileError(`“${name}” is damaged or cut short and cannot be read. Save it again.`);
  }
  const { width, height, data, channels, depth, palette } = image;
  if (!(width > 1 && height > 1))
    throw new FileError(`“${name}” has ${width} × ${height} pixels; at least 2 × 2 make a height field.`);
  const top = palette ? 255 : (1 << depth) - 1;
  const values = new Float32Array(width * height);
  const colours = palette || channels >= 2 ? new Uint8Array(width * height * 4) : undefined;
  const luma = (r: number, g: number, b: number) => (0.2126 * r + 0.7152 * g + 0.0722 * b) / top;
  // Fewer than 8 bits are packed several to a byte.
  const perByte = depth < 8 ? 8 / depth : 1;
  const rowBytes = Math.ceil(width / perByte);
  const packed = (x: number, y: number) => {
    const byte = data[y * rowBytes + Math.floor(x / perByte)];
    return (byte >> (8 - depth * ((x % perByte) + 1))) & ((1 << depth) - 1);
  };
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const one = depth < 8 ? packed(x, y) : data[i * channels];
      if (palette) {
        const [r, g, b, a = 255] = palette[one] ?? [0, 0, 0];
        values[i] = luma(r, g, b);
        colours!.set([r, g, b, a], i * 4);
      } else if (channels >= 3) values[i] = luma(one, data[i * channels + 1], data[i * channels + 2]);
      else values[i] = one / top;
      if (colours && !palette) {
        const [r, g, b] = channels >= 3 ? [0, 1, 2] : [0, 0, 0];
        const sample = (k: number) => Math.round((255 * data[i * channels + k]) / top);
        const alpha = channels % 2 === 0 ? sample(channels - 1) : 255;
        colours.set([sample(r), sample(g), sample(b), alpha], i * 4);
      }
    }
  return { width, height, values, ...(colours && { colours }) };
}
