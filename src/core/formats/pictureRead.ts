import type { GreyPicture } from '../mesh/make/picture';
import type { PictureRef } from '../mesh/meshRef';
import { isJpeg, readJpeg } from './jpegRead';
import { isPng, readGreyPicture } from './pngRead';
import { FileError } from './limits';

/** Which sort of picture bytes are; undefined where they are none that is read. */
export const pictureFormat = (bytes: Uint8Array): PictureRef['format'] | 'hdr' | undefined =>
  isPng(bytes) ? 'png' : isJpeg(bytes) ? 'jpeg' : isHdr(bytes) ? 'hdr' : undefined;

/** Whether bytes begin like a Radiance picture (.hdr). */
const isHdr = (bytes: Uint8Array): boolean => bytes[0] === 0x23 && bytes[1] === 0x3f;

/**
 * Reads a PNG or a JPEG.
 * @throws FileError with one clear sentence for a file that cannot be read
 */
export function readPicture(bytes: Uint8Array, name: string): GreyPicture {
  const format = pictureFormat(bytes);
  if (format === 'jpeg') return readJpeg(bytes, name);
  // What is neither is told by the PNG’s reader where it was called so.
  if (format !== 'png' && !/\.png$/i.test(name))
    throw new FileError(
      `“${name}” is neither a PNG nor a JPEG picture. Save it as one of them, and bring that in.`,
    );
  return readGreyPicture(bytes, name);
}
