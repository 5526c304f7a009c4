import { tilesOf, type Tile } from '../tiles';

/** A portion of a frame: what is drawn in one go, from one place of its order to another, and where. */
export interface Portion {
  from: number;
  to: number;
  tile: Tile;
}

/** No portion is to take longer, milliseconds, unless a thing does all alone. */
const LONG = 80;
/** What a thing is taken to take of which nothing is known. */
const UNKNOWN = LONG / 25;
/** The least that a thing is taken to take: so many of them are drawn in one go at most. */
const LEAST = LONG / 500;
/** A thing alone that takes longer is drawn in parts of the picture, so many at most. */
const PARTED = 100;
const MOST_PARTS = 32;

/**
 * How a frame is divided, so that none of its portions takes long: by what is drawn, since each part of a picture would
 * go through all corners of the scene again; only what takes long all alone is drawn in parts of the picture. How long
 * each thing takes is learned from the portions that it is drawn in.
 */
export class Portions {
  private times = new WeakMap<object, number>();
  private things: readonly object[] = [];
  private list: Portion[] = [];
  /** Which of them is told of next, and what the parts of one thing have taken before it. */
  private next = 0;
  private before = 0;
  private size = '';

  /** The portions of a frame in which these are drawn, in this order. */
  of(things: readonly object[], width: number, height: number): readonly Portion[] {
    const size = `${width} ${height}`;
    if (size !== this.size) this.times = new WeakMap();
    this.size = size;
    this.things = things;
    this.list = [];
    this.broken();
    const whole = { x: 0, y: 0, width, height };
    let from = 0;
    let sum = 0;
    const close = (to: number) => {
      if (to > from) this.list.push({ from, to, tile: whole });
      from = to;
      sum = 0;
    };
    things.forEach((thing, i) => {
      const ms = this.timeOf(thing);
      if (sum + ms > LONG) close(i);
      sum += ms;
      if (ms <= PARTED) return;
      const parts = Math.min(MOST_PARTS, 2 ** Math.ceil(Math.log2(ms / LONG)));
      for (const tile of tilesOf(width, height, parts)) this.list.push({ from: i, to: i + 1, tile });
      from = i + 1;
      sum = 0;
    });
    close(things.length);
    // Of nothing there is something to be drawn too: what is behind it.
    if (this.list.length === 0) this.list.push({ from: 0, to: 0, tile: whole });
    return this.list;
  }

  /** Told how long each portion of a frame has taken, milliseconds, in their order. */
  took(ms: number): void {
    const portion = this.list[this.next++];
    if (!portion) return;
    const { from, to } = portion;
    const following = this.list[this.next];
    this.before += ms;
    if (following?.from === from && following.to === to) return;
    const all = this.things.slice(from, to);
    const expected = all.reduce<number>((sum, thing) => sum + this.timeOf(thing), 0);
    for (const thing of all)
      this.times.set(thing, Math.max(LEAST, (this.timeOf(thing) / expected) * this.before));
    this.before = 0;
  }

  /** The frame that was begun is not gone on with. */
  broken(): void {
    this.next = this.before = 0;
  }

  private timeOf = (thing: object): number => this.times.get(thing) ?? UNKNOWN;
}
