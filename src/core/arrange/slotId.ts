/**
 * A slot's identity: which of the arrangement's paths (part), which stroke of that path, which row, and its place
 * counted from 1. One integer below 2^53, so that it fits a Float64Array and the random hash; a short name for people
 * and files.
 */
const STROKE = 16_777_216;
const ROW = 4_294_967_296;
const PART = 1_099_511_627_776;

/** Rows of one part. */
export const MAX_ROWS = 256;

/** Divisions of one side are numbered below this, sides above it. */
export const MAX_SLOTS_PER_SIDE = 4096;
/** The most strokes of one path that carry slots of their own. */
export const MAX_STROKES = 256;

/** @param index from 1, below 2^24 @param row 0–255 @param part 0–4095 @param stroke 0–255 */
export function slotId(index: number, row = 0, part = 0, stroke = 0): number {
  return part * PART + row * ROW + stroke * STROKE + index;
}

/** The four numbers behind an id. */
export function slotParts(id: number): { part: number; stroke: number; row: number; index: number } {
  const low = id % ROW;
  return {
    part: Math.floor(id / PART),
    row: Math.floor((id % PART) / ROW),
    stroke: Math.floor(low / STROKE),
    index: low % STROKE,
  };
}

/** "13", "r2.13" in the third row, "p1.13" on the second path, "k1.13" on its second stroke. */
export function slotName(id: number): string {
  const { part, stroke, row, index } = slotParts(id);
  return `${part > 0 ? `p${part}.` : ''}${stroke > 0 ? `k${stroke}.` : ''}${row > 0 ? `r${row}.` : ''}${index}`;
}

/** The id behind a name; NaN for what is no slot name. */
export function parseSlotName(name: string): number {
  const m = /^(?:p(\d{1,4})\.)?(?:k(\d{1,3})\.)?(?:r(\d{1,3})\.)?(\d{1,8})$/.exec(name);
  return m ? slotId(Number(m[4]), Number(m[3] ?? 0), Number(m[1] ?? 0), Number(m[2] ?? 0)) : NaN;
}
