import { tilesOf, type Tile } from '../tiles';

/** A portion of a frame: what is drawn in one go, from one place of its order to another, and where. */
export interface Portion {
  from: number;
  to: number;
  tile: Tile;
  /** What it is taken to take, milliseconds; Infinity where something in it was never drawn. */
  expected: number;
  /** What is learned from it; null: nothing, since what is in it is not drawn as a whole. */
  work: Work | null;
}

/** What is drawn in a portion, or in parts of the picture: how many are still to come, and what those before have taken. */
interface Work {
  things: readonly object[];
  parts: number;
  ms: number;
}

/** Work that was given to the card. */
export interface Timed {
  /** What it is taken to take, milliseconds; Infinity where that is not known. */
  expected: number;
  /** Told what it has taken, when that is known. */
  took: (ms: number) => void;
}

/** No portion is to take longer, milliseconds, unless a thing does all alone. */
const LONG = 80;
/** What a thing is taken to take of which nothing is known. */
const UNKNOWN = LONG / 25;
/** The least that a thing is taken to take: so many of them are drawn in one go at most. */
const LEAST = LONG / 500;
/**
 * A thing alone that takes longer is drawn in parts of the picture, so many at most. With what the card is given ahead
 * of its time (see `turns`) it is still less than what an input may wait for.
 */
const PARTED = 88;
const MOST_PARTS = 32;

/**
 * How a frame is divided, so that none of its portions takes long: by what is drawn, since each part of a picture would
 * go through all corners of the scene again; only what takes long all alone is drawn in parts of the picture. How long
 * each thing takes is learned from the portions that it is drawn in.
 */
export class Portions {
  private times = new WeakMap<object, number>();
  private size = '';

  /**
   * The portions of a frame in which these are drawn, in this order.
   * @param seen the parts of the picture that something need only be drawn in, where they are known
   */
  of(
    things: readonly object[],
    width: number,
    height: number,
    seen: (thing: object) => readonly Tile[] | undefined = () => undefined,
  ): readonly Portion[] {
    const size = `${width} ${height}`;
    if (size !== this.size) this.times = new WeakMap();
    this.size = size;
    const list: Portion[] = [];
    let from = 0;
    let sum = 0;
    const close = (to: number, tiles: Tile[] = [{ x: 0, y: 0, width, height }]) => {
      const isKnown = things.slice(from, to).every((thing) => this.times.has(thing));
      list.push(...inTiles(things, from, to, tiles, isKnown ? sum : Infinity));
      from = to;
      sum = 0;
    };
    things.forEach((thing, i) => {
      const ms = this.timeOf(thing);
      const parts = ms <= PARTED ? 1 : Math.min(MOST_PARTS, 2 ** Math.ceil(Math.log2(ms / LONG)));
      const tiles = tilesOf(width, height, parts);
      const where = seen(thing);
      if (where) {
        if (from < i) close(i);
        from = i + 1;
        for (const tile of where.flatMap((one) => tiles.flatMap((other) => shared(one, other))))
          list.push({
            ...{ from: i, to: i + 1, tile, work: null },
            expected: (ms * tile.width * tile.height) / (width * height),
          });
        return;
      }
      if (sum > 0 && sum + ms > LONG) close(i);
      sum += ms;
      if (parts > 1) close(i + 1, tiles);
    });
    // Of nothing there is something to be drawn too: what is behind it.
    if (from < things.length || list.length === 0) close(things.length);
    return list;
  }

  /** A portion that is being drawn. */
  timed = (portion: Portion): Timed => ({
    expected: portion.expected,
    took: (ms) => this.took(portion, ms),
  });

  /** Those of some things that are taken to take longest, at most so many, the longest first; each of them so long at least. */
  longest<Thing extends object>(things: readonly Thing[], most: number, least: number): Thing[] {
    return things
      .filter((thing) => (this.times.get(thing) ?? 0) >= least)
      .sort((a, b) => this.timeOf(b) - this.timeOf(a))
      .slice(0, most);
  }

  /** Told how long a portion has taken, milliseconds. */
  private took({ work }: Portion, ms: number): void {
    if (!work) return;
    work.ms += ms;
    if (--work.parts > 0) return;
    const expected = work.things.reduce<number>((sum, thing) => sum + this.timeOf(thing), 0);
    for (const thing of work.things)
      this.times.set(thing, Math.max(LEAST, (this.timeOf(thing) / expected) * work.ms));
  }

  private timeOf = (thing: object): number => this.times.get(thing) ?? UNKNOWN;
}

/** What two parts of a picture have in common: nothing, or one part. */
function shared(a: Tile, b: Tile): Tile[] {
  const [x, y] = [Math.max(a.x, b.x), Math.max(a.y, b.y)];
  const width = Math.min(a.x + a.width, b.x + b.width) - x;
  const height = Math.min(a.y + a.height, b.y + b.height) - y;
  return width > 0 && height > 0 ? [{ x, y, width, height }] : [];
}

/** The portions in which some things, from one place of their order to another, are drawn a part of the picture at a time. */
export function inTiles(
  things: readonly object[],
  from: number,
  to: number,
  tiles: readonly Tile[],
  ms = 0,
): Portion[] {
  const work = { things: things.slice(from, to), parts: tiles.length, ms: 0 };
  return tiles.map((tile) => ({ from, to, tile, expected: ms / tiles.length, work }));
}
