/** Largest file that is read, bytes. Larger ones are refused before anything is parsed. */
export const MAX_FILE_BYTES = 256 * 1024 * 1024;
/** Most vertices one mesh may bring. */
const MAX_VERTICES = 6_000_000;

/** A file that cannot be read; the message is one sentence for the user: what, where, what to do. */
export class FileError extends Error {}

/** Refuses a file that is larger than anything is read. @throws Error with a sentence for the one who brought it */
export function checkSize(bytes: Uint8Array, name: string): void {
  if (bytes.length === 0)
    throw new FileError(`“${name}” is empty. Send it out again from where it was made.`);
  if (bytes.length > MAX_FILE_BYTES) {
    const size = Math.round(bytes.length / 1048576);
    const most = MAX_FILE_BYTES / 1048576;
    throw new FileError(`“${name}” is ${size} MB; the limit is ${most} MB. Reduce its textures or split it.`);
  }
}

/** Refuses a mesh of more than {@link MAX_VERTICES}. @throws FileError */
export function checkVertices(count: number, name: string): void {
  if (count > MAX_VERTICES)
    throw new FileError(`“${name}” has ${count} vertices; the limit is ${MAX_VERTICES}. Simplify it first.`);
}
