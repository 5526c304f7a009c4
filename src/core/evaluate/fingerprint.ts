/**
 * A text in 104 bits: two runs of a multiply-and-shift hash with different seeds. Two texts with the same one are not to
 * be met with; it guards nothing against people who mean harm.
 */
function fingerprint(text: string): string {
  return `${hash53(text, 0).toString(36)} ${hash53(text, 0x5bd1e995).toString(36)}`;
}

/** A 53-bit hash (cyrb53, public domain). */
function hash53(text: string, seed: number): number {
  let a = 0xdeadbeef ^ seed;
  let b = 0x41c6ce57 ^ seed;
  for (let i = 0; i < text.length; i++) {
    const c = text.charCodeAt(i);
    a = Math.imul(a ^ c, 2654435761);
    b = Math.imul(b ^ c, 1597334677);
  }
  a = Math.imul(a ^ (a >>> 16), 2246822507) ^ Math.imul(b ^ (b >>> 13), 3266489909);
  b = Math.imul(b ^ (b >>> 16), 2246822507) ^ Math.imul(a ^ (a >>> 13), 3266489909);
  return 4294967296 * (2097151 & b) + (a >>> 0);
}

/** A short key of everything that something depends on, other keys among it: never text inside text. */
export const keyOf = (parts: unknown[]): string => fingerprint(JSON.stringify(parts));
