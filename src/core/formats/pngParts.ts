import { Unzlib } from 'fflate';
import { FileError } from './limits';

/** Chunks without which a picture is not the one that it is; others may unpack to anything, and say nothing of grey. */
const NEEDED = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);
const SIGNATURE = 8;
/** Length, type and check sum around the data of a chunk. */
const FRAME = 12;
/** Samples a pixel, by the colour type of the header. */
const SAMPLES: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
/** Packed bytes given to the unpacker at once: a thousand times as many may come out of them. */
const PIECE = 65536;

/**
 * A PNG without the chunks that a picture can do without, once it is sure that its pixels unpack to no more than its
 * header says. Nothing of it is kept while that is counted.
 * @throws FileError for a file that is cut short, or that would unpack to more
 */
export function neededParts(bytes: Uint8Array, name: string): Uint8Array {
  const damaged = () => new FileError(`“${name}” is damaged or cut short and cannot be read. Save it again.`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const kept: Uint8Array[] = [bytes.subarray(0, SIGNATURE)];
  const packed: Uint8Array[] = [];
  let most = 0;
  for (let at = SIGNATURE; ;) {
    if (at + FRAME > bytes.length) throw damaged();
    const length = view.getUint32(at);
    const end = at + FRAME + length;
    if (end > bytes.length) throw damaged();
    const type = String.fromCharCode(...bytes.subarray(at + 4, at + 8));
    const data = bytes.subarray(at + 8, end - 4);
    if (NEEDED.has(type)) kept.push(bytes.subarray(at, end));
    if (type === 'IHDR' && length >= 13) most = unpackedSize(data);
    if (type === 'IDAT') packed.push(data);
    if (type === 'IEND') break;
    at = end;
  }
  countUnpacked(packed, most, name, damaged);
  const out = new Uint8Array(kept.reduce((sum, part) => sum + part.length, 0));
  kept.reduce((at, part) => (out.set(part, at), at + part.length), 0);
  return out;
}

/** Bytes of the pixels and of the filter before each row; some more where rows come in several passes. */
function unpackedSize(header: Uint8Array): number {
  const view = new DataView(header.buffer, header.byteOffset, header.byteLength);
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  const bits = header[8] * (SAMPLES[header[9]] ?? 4);
  return (Math.ceil((width * bits) / 8) + 1) * height * 1.25 + 1024;
}

function countUnpacked(packed: Uint8Array[], most: number, name: string, damaged: () => FileError): void {
  let size = 0;
  const unpacker = new Unzlib((chunk) => {
    size += chunk.length;
  });
  try {
    for (const data of packed)
      for (let i = 0; i < data.length && size <= most; i += PIECE)
        unpacker.push(data.subarray(i, Math.min(data.length, i + PIECE)));
  } catch {
    throw damaged();
  }
  if (size > most)
    throw new FileError(
      `“${name}” unpacks to more pixels than it says it has, so it is not read. Save it again from a picture program.`,
    );
}
