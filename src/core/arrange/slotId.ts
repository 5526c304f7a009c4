/**
 * A slot's identity: which of the arrangement's paths (part), which stroke of that path, which row, and its place
 * counted from 1. One integer below 2^53, so that it fits a Float64Array and the random hash; a short name for people
 * and files.
 *
 * Strokes up to 255 lie in the lower half of the integers: 12 bits part, 8 row, 8 stroke, 24 place. Further ones lie in
 * the upper half, where a path of thousands of strokes is one of fewer parts: 8 bits part, 7 row, 14 stroke, 23 place.
 * Below 0 lie places that are counted three ways, as in a block: {@link blockId}.
 */
const STROKE = 0x1000000;
const ROW = 0x100000000;
const PART = 0x10000000000;
const FAR = { start: 0x10000000000000, stroke: 0x800000, row: 0x2000000000, part: 0x100000000000 };
/** The first stroke of the upper half. */
const FIRST_FAR = 256;
/** Parts that have an upper half. */
const FAR_PARTS = 256;

/** Rows of one part. */
export const MAX_ROWS = 256;

/** Divisions of one side are numbered below this, sides above it. */
export const MAX_SLOTS_PER_SIDE = 4096;

/** The most strokes of a part's path that carry slots of their own. */
export const mostStrokes = (part: number): number => (part < FAR_PARTS ? 16_384 : FIRST_FAR);

/** Places of a stroke are numbered below this. */
export const mostPlaces = (stroke: number): number => (stroke < FIRST_FAR ? STROKE : FAR.stroke);

/**
 * @param index from 1, below {@link mostPlaces} @param row 0–255, on further strokes 0–127 @param part 0–4095
 * @param stroke below {@link mostStrokes}
 */
export function slotId(index: number, row = 0, part = 0, stroke = 0): number {
  return stroke < FIRST_FAR
    ? part * PART + row * ROW + stroke * STROKE + index
    : FAR.start + part * FAR.part + row * FAR.row + stroke * FAR.stroke + index;
}

/** The four numbers behind an id. In a block every line across is a row of its own. */
export function slotParts(id: number): { part: number; stroke: number; row: number; index: number } {
  const block = blockParts(id);
  if (block) {
    const { part, stroke, across, deep, high } = block;
    return { part, stroke, row: (high - 1) * BLOCK.high + deep - 1, index: across };
  }
  const far = id >= FAR.start;
  const rest = far ? id - FAR.start : id;
  const [part, row, stroke] = far ? [FAR.part, FAR.row, FAR.stroke] : [PART, ROW, STROKE];
  return {
    part: Math.floor(rest / part),
    row: Math.floor((rest % part) / row),
    stroke: Math.floor((rest % row) / stroke),
    index: rest % stroke,
  };
}

const BLOCK = { high: 0x1000, deep: 0x1000000, stroke: 0x2000000000, part: 0x200000000000 };
/** What is counted in a block, from 1, is at most: across, back and up. */
export const MOST_IN_BLOCK = { across: 8191, deep: 4095, high: 4095 };

/**
 * The id of a place in a block: across, back and up, each from 1 and at most {@link MOST_IN_BLOCK}.
 * @param part 0–255 @param stroke 0–255: which block of that part @returns a negative integer
 */
export const blockId = (across: number, deep: number, high: number, part = 0, stroke = 0): number =>
  -(part * BLOCK.part + stroke * BLOCK.stroke + across * BLOCK.deep + deep * BLOCK.high + high);

/** The numbers behind the id of a place in a block; null for any other. */
function blockParts(id: number) {
  if (!(id < 0)) return null;
  const n = -id;
  return {
    part: Math.floor(n / BLOCK.part),
    stroke: Math.floor((n % BLOCK.part) / BLOCK.stroke),
    across: Math.floor((n % BLOCK.stroke) / BLOCK.deep),
    deep: Math.floor((n % BLOCK.deep) / BLOCK.high),
    high: n % BLOCK.high,
  };
}

/** A number of its own for each stroke of each part. */
export const lineNumber = (part: number, stroke: number): number =>
  stroke < FIRST_FAR ? part * FIRST_FAR + stroke : 0x100000 + stroke * FAR_PARTS + part;

/**
 * "13", "r2.13" in the third row, "p1.13" on the second path, "k1.13" on its second stroke; "13.2.4" in a block: the
 * thirteenth across, second from the front, fourth from below.
 */
export function slotName(id: number): string {
  const block = blockParts(id);
  if (block) return `${before(block)}${block.across}.${block.deep}.${block.high}`;
  const { part, stroke, row, index } = slotParts(id);
  return `${before({ part, stroke })}${row > 0 ? `r${row}.` : ''}${index}`;
}

const before = ({ part, stroke }: { part: number; stroke: number }) =>
  `${part > 0 ? `p${part}.` : ''}${stroke > 0 ? `k${stroke}.` : ''}`;

/** The id behind a name; NaN for what is no slot name. */
export function parseSlotName(name: string): number {
  const b = /^(?:p(\d{1,3})\.)?(?:k(\d{1,3})\.)?(\d{1,4})\.(\d{1,4})\.(\d{1,4})$/.exec(name);
  if (b) return blockId(Number(b[3]), Number(b[4]), Number(b[5]), Number(b[1] ?? 0), Number(b[2] ?? 0));
  const m = /^(?:p(\d{1,4})\.)?(?:k(\d{1,5})\.)?(?:r(\d{1,3})\.)?(\d{1,8})$/.exec(name);
  return m ? slotId(Number(m[4]), Number(m[3] ?? 0), Number(m[1] ?? 0), Number(m[2] ?? 0)) : NaN;
}
