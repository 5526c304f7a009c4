/** How finely the bent items of one arrangement are sliced. */
export interface Slices {
  /** Whether an item is to have a shape of its own even where it is straight. */
  bent(slot: number): boolean;
  /** Into how many pieces to slice an item, where its bend asks for `pieces` @param way which slices of it are meant */
  most(slot: number, way: string, pieces: number): number;
}

/** Every time by itself: as fine as the bend asks for, and no shape where there is no bend. */
export const ONE_TIME: Slices = { bent: () => false, most: (_slot, _way, pieces) => pieces };

/**
 * Slices over a stretch of time. Shapes can only be morphed into each other where they have the same vertices: in a
 * first round over all times the finest slices that any of them asks for are noted, in a second one all have those.
 */
export class Fineness {
  /** Counted up between rounds. */
  round = 1;
  private known = new Map<string, Map<number, Record<string, number>>>();

  of(node: string): Slices {
    let items = this.known.get(node);
    if (!items) this.known.set(node, (items = new Map()));
    const have = items;
    return {
      bent: (slot) => have.has(slot),
      most(slot, way, pieces) {
        let ways = have.get(slot);
        if (!ways) have.set(slot, (ways = {}));
        return (ways[way] = Math.max(ways[way] ?? 1, pieces));
      },
    };
  }
}
