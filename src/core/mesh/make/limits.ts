/** More triangles than this are refused with the number instead of freezing anything. */
export const MOST_TRIANGLES = 4_000_000;
