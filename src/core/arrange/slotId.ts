/**
 * A slot's identity: which of the arrangement's paths (part), which row, and its place counted from 1.
 * One integer below 2^53, so that it fits a Float64Array and the random hash; a short name for people and files.
 */
const ROW = 2 ** 32;
const PART = 2 ** 40;

/** @param index from 1, below 2^32 @param row 0–255 @param part 0–4095 */
export function slotId(index: number, row = 0, part = 0): number {
  return part * PART + row * ROW + index;
}

/** "13", "r2.13" in the third row, "p1.13" on the second path. */
export function slotName(id: number): string {
  const part = Math.floor(id / PART);
  const row = Math.floor((id % PART) / ROW);
  return `${part > 0 ? `p${part}.` : ''}${row > 0 ? `r${row}.` : ''}${id % ROW}`;
}

/** The id behind a name; NaN for what is no slot name. */
export function parseSlotName(name: string): number {
  const m = /^(?:p(\d{1,4})\.)?(?:r(\d{1,3})\.)?(\d{1,10})$/.exec(name);
  return m ? slotId(Number(m[3]), Number(m[2] ?? 0), Number(m[1] ?? 0)) : NaN;
}
