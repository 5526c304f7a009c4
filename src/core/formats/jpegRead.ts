import { decode } from 'jpeg-js';
import type { GreyPicture } from '../mesh/make/picture';
import { checkSize, FileError } from './limits';

/** Whether bytes begin like a JPEG file. */
export const isJpeg = (bytes: Uint8Array): boolean =>
  bytes.length > 3 && bytes[0] === 0xff && bytes[1] === 0xd8 && bytes[2] === 0xff;

const MOST_PIXELS = 4096 * 4096;
/** Megabytes that unpacking may take: four bytes a pixel, and what goes before them. */
const MOST_MEMORY = 512;

/**
 * Reads a JPEG, alike in browsers and in a shell: shades of grey by luma (Rec. 709), and its colours.
 * @throws FileError with one clear sentence for a file that cannot be read
 */
export function readJpeg(bytes: Uint8Array, name: string): GreyPicture {
  checkSize(bytes, name);
  let image: { width: number; height: number; data: Uint8Array };
  try {
    image = decode(bytes, {
      useTArray: true,
      formatAsRGBA: true,
      tolerantDecoding: false,
      maxResolutionInMP: MOST_PIXELS / 1e6,
      maxMemoryUsageInMB: MOST_MEMORY,
    });
  } catch (error) {
    const large = /maxResolutionInMP|maxMemoryUsageInMB/.test(String(error));
    throw new FileError(
      large
        ? `“${name}” has more pixels than 4,096 × 4,096. Make it smaller.`
        : `“${name}” is damaged, cut short, or a sort of JPEG that is not read. Save it again, or as a PNG.`,
    );
  }
  const { width, height, data } = image;
  if (!(width > 1 && height > 1))
    throw new FileError(`“${name}” has ${width} × ${height} pixels; at least 2 × 2 are needed.`);
  const values = new Float32Array(width * height);
  for (let i = 0; i < values.length; i++)
    values[i] = (0.2126 * data[i * 4] + 0.7152 * data[i * 4 + 1] + 0.0722 * data[i * 4 + 2]) / 255;
  return { width, height, values, colours: new Uint8Array(data) };
}
