/**
 * Random values without a stream: each is a hash of (seed, slot, channel), so that no value depends on how
 * many others were drawn. Changing one channel, the count or the order leaves every other value as it was.
 */

/** A 32-bit mixer with full avalanche (constants by Chris Wellons' "lowbias32" search, public domain). */
function mix(h: number): number {
  h ^= h >>> 16;
  h = Math.imul(h, 0x21f0aaad);
  h ^= h >>> 15;
  h = Math.imul(h, 0x735a2d97);
  return (h ^ (h >>> 15)) >>> 0;
}

/** The 32-bit number of a named channel (FNV-1a, then mixed). Work it out once, outside a loop. */
export function channel(name: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < name.length; i++) h = Math.imul(h ^ name.charCodeAt(i), 0x01000193);
  return mix(h);
}

/** What seed and channel alone make of a hash; for {@link randomOf}, worked out once for many slots. */
export const randomBase = (seed: number, channelKey: number): number =>
  mix((mix((seed ^ 0x9e3779b9) | 0) + channelKey) | 0);

/** {@link random01} from its {@link randomBase}. */
export function randomOf(base: number, slot: number): number {
  const high = slot >= 0 && slot < 4294967296 ? 0 : Math.floor(slot / 4294967296);
  const h = mix((base ^ Math.imul(slot >>> 0, 0x85ebca6b)) | 0);
  return mix((h + Math.imul(high, 0xc2b2ae35) + 0x27d4eb2f) | 0) / 4294967296;
}

/**
 * Uniform in [0, 1), 32 bits deep.
 * @param seed an integer of 32 bits  @param slot a slot id, an integer between −2^53 and 2^53  @param channelKey from {@link channel}
 */
export const random01 = (seed: number, slot: number, channelKey: number): number =>
  randomOf(randomBase(seed, channelKey), slot);
