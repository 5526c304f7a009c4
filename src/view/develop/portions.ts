import { tilesOf, type Tile } from '../tiles';

/** A portion of a frame: what is drawn in one go, from one place of its order to another, and where. */
export interface Portion {
  from: number;
  to: number;
  tile: Tile;
}

/** A portion that takes longer is cut in two, milliseconds; and two that together take much less are made one. */
const LONG = 100;
/** As long as nothing is known a frame is drawn in so many. */
const FIRST = 16;
const MOST = 64;
/** A frame of so many more or fewer things, as a share, is divided as the last one was. */
const ALIKE = 1 / 8;

/**
 * How a frame is divided, so that none of its portions takes long: by what is drawn, since each part of a picture would
 * go through all corners of the scene again; only what takes long all alone is drawn in parts of the picture.
 */
export class Portions {
  private list: Portion[] = [];
  private times: number[] = [];
  private count = 0;
  private for = '';

  /** The portions of a frame in which so many things are drawn; as they were found for the last one like it. */
  of(count: number, width: number, height: number): readonly Portion[] {
    const key = `${width} ${height}`;
    const more = count - this.count;
    const tile = { x: 0, y: 0, width, height };
    if (key !== this.for || Math.abs(more) > this.count * ALIKE) {
      this.times = [];
      const n = Math.max(1, Math.min(FIRST, count));
      const at = (k: number) => Math.round((k * count) / n);
      this.list = Array.from({ length: n }, (_, k) => ({ from: at(k), to: at(k + 1), tile }));
    } else if (more !== 0) {
      this.times = [];
      this.list = this.list
        .filter(({ from }) => from < count)
        .map((portion) => ({ ...portion, to: Math.min(portion.to, count) }));
      if (more > 0) this.list.push({ from: this.count, to: count, tile });
    }
    this.for = key;
    this.count = count;
    return this.list;
  }

  /** Told how long each portion of a frame has taken, milliseconds, in their order; at its last one they are divided anew. */
  took(ms: number): void {
    this.times.push(ms);
    if (this.times.length < this.list.length) return;
    const { list, times } = this;
    this.times = [];
    const next: Portion[] = [];
    let last = Infinity;
    list.forEach((portion, i) => {
      const joined = times[i] + last < LONG / 2 ? union(next[next.length - 1], portion) : null;
      if (joined) {
        next[next.length - 1] = joined;
        last += times[i];
      } else if (times[i] > LONG && list.length < MOST) {
        next.push(...divided(portion, times[i]));
        last = Infinity;
      } else {
        next.push(portion);
        last = times[i];
      }
    });
    this.list = next;
  }

  /** The frame that was begun is not gone on with. */
  broken(): void {
    this.times = [];
  }
}

/** Into as many as it takes for none of them to take long, if each takes its share. */
function divided(portion: Portion, ms: number): Portion[] {
  return ms > LONG ? halves(portion).flatMap((half) => divided(half, ms / 2)) : [portion];
}

function halves({ from, to, tile }: Portion): Portion[] {
  if (to - from > 1) {
    const mid = (from + to) >> 1;
    return [
      { from, to: mid, tile },
      { from: mid, to, tile },
    ];
  }
  return tilesOf(tile.width, tile.height, 2).map((t) => ({
    from,
    to,
    tile: { ...t, x: tile.x + t.x, y: tile.y + t.y },
  }));
}

/** Two portions, one after the other, as one; null where that is none. */
function union(a: Portion, b: Portion): Portion | null {
  const [s, t] = [a.tile, b.tile];
  const isRow = s.y === t.y && s.height === t.height;
  const isColumn = s.x === t.x && s.width === t.width;
  if (isRow && isColumn) return a.to === b.from ? { from: a.from, to: b.to, tile: s } : null;
  if (a.from !== b.from || a.to !== b.to) return null;
  if (isRow && s.x + s.width === t.x) return { ...a, tile: { ...s, width: s.width + t.width } };
  if (isColumn && s.y + s.height === t.y) return { ...a, tile: { ...s, height: s.height + t.height } };
  return null;
}
