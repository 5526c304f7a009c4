import type { BufferAttribute } from 'three';

/** What of an array goes to the graphics card with the next frame. */

/** Those of which all goes. */
const whole = new WeakSet<BufferAttribute>();

/** All of it. */
export function uploadAll(attribute: BufferAttribute): void {
  whole.add(attribute);
  attribute.onUploadCallback = () => void whole.delete(attribute);
  attribute.clearUpdateRanges();
  attribute.needsUpdate = true;
}

/** Some numbers of it; where all of it is to go anyway it stays so. */
export function uploadSome(attribute: BufferAttribute, start: number, count: number): void {
  if (!whole.has(attribute)) attribute.addUpdateRange(start, count);
  attribute.needsUpdate = true;
}
