import type { GreyPicture } from '../mesh/make/picture';
import { FileError } from './limits';
import { pictureFormat, readPicture } from './pictureRead';

/** Most pixels across a panorama. */
const WIDEST = 8192;
/** So much of a file's beginning is looked at for its size. */
const HEAD = 4096;

/**
 * The size of a Radiance picture, by its head; undefined where that says none that is read.
 * @throws FileError where less of it is there than that takes
 */
function hdrSize(bytes: Uint8Array, name: string): { width: number; height: number } | undefined {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, HEAD));
  const found = /^-Y (\d+) \+X (\d+)\n/m.exec(head);
  if (!found) return undefined;
  const [height, width] = [Number(found[1]), Number(found[2])];
  const rest = bytes.subarray(found.index + found[0].length);
  // Rows are packed where they begin so; each has four bytes at least then, else each pixel has.
  const packed = rest[0] === 2 && rest[1] === 2;
  if (rest.length < 4 * height * (packed ? 1 : width))
    throw new FileError(`“${name}” is damaged or cut short and cannot be read. Save it again.`);
  return { width, height };
}

/** A file that is a panorama, as far as it had to be read to tell. */
interface OpenedPanorama {
  width: number;
  height: number;
  /** Of a PNG or a JPEG. */
  picture?: GreyPicture;
}

/**
 * Looks at a picture that is to be a panorama: one of all directions, twice as wide as it is high.
 * @throws FileError with one clear sentence for one that is none
 */
export function openPanorama(bytes: Uint8Array, name: string): OpenedPanorama {
  const format = pictureFormat(bytes);
  const picture = format && format !== 'hdr' ? readPicture(bytes, name) : undefined;
  const size = format === 'hdr' ? hdrSize(bytes, name) : picture;
  if (!size)
    throw new FileError(
      `“${name}” is neither a Radiance picture (.hdr) nor a PNG or JPEG. Save it as one of them, and bring that in.`,
    );
  const { width, height } = size;
  if (width > WIDEST)
    throw new FileError(`“${name}” is ${width} pixels wide; the limit is ${WIDEST}. Make it smaller.`);
  if (!(height > 1) || Math.abs(width / height - 2) > 0.02)
    throw new FileError(
      `“${name}” has ${width} × ${height} pixels. A panorama of all directions is twice as wide as it is high; choose one that is.`,
    );
  return { width, height, ...(picture && { picture }) };
}
