/** Places in space, to be asked for those near one: cells twice as wide as the distance, by a hash of where they are. */
export class NearGrid {
  private heads: Int32Array;
  private next: Int32Array;
  private mask: number;

  private wide: number;

  /** @param distance metres @param expected about how many places come @param position xyz a place, as it grows */
  constructor(
    distance: number,
    expected: number,
    private position: () => Float64Array,
  ) {
    this.wide = 2 * distance;
    let size = 1024;
    while (size < expected * 2 && size < 0x2000000) size *= 2;
    this.mask = size - 1;
    this.heads = new Int32Array(size).fill(-1);
    this.next = new Int32Array(Math.max(16, expected));
  }

  private bucket(x: number, y: number, z: number): number {
    let h = Math.imul(x, 0x8da6b343) ^ Math.imul(y, 0xd8163841) ^ Math.imul(z, 0xcb1ab31f);
    h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
    return (h ^ (h >>> 13)) & this.mask;
  }

  add(i: number): void {
    const { wide } = this;
    const p = this.position();
    const b = this.bucket(
      Math.floor(p[i * 3] / wide),
      Math.floor(p[i * 3 + 1] / wide),
      Math.floor(p[i * 3 + 2] / wide),
    );
    if (i >= this.next.length) {
      const more = new Int32Array(Math.max(i + 1, this.next.length * 2));
      more.set(this.next);
      this.next = more;
    }
    this.next[i] = this.heads[b];
    this.heads[b] = i;
  }

  /**
   * Goes through the places nearer than `within` to x, y, z.
   * @param met answers whether that is enough @returns whether it was
   */
  near(x: number, y: number, z: number, within: number, met: (i: number) => boolean): boolean {
    const { wide } = this;
    const least = within * within;
    // Its own cell first: what is near is mostly there.
    const ox = Math.floor(x / wide);
    const oy = Math.floor(y / wide);
    const oz = Math.floor(z / wide);
    const own = this.bucket(ox, oy, oz);
    if (this.inBucket(own, x, y, z, least, met)) return true;
    const x0 = Math.floor((x - within) / wide);
    const x1 = Math.floor((x + within) / wide);
    const y0 = Math.floor((y - within) / wide);
    const y1 = Math.floor((y + within) / wide);
    const z0 = Math.floor((z - within) / wide);
    const z1 = Math.floor((z + within) / wide);
    for (let cx = x0; cx <= x1; cx++)
      for (let cy = y0; cy <= y1; cy++)
        for (let cz = z0; cz <= z1; cz++) {
          if (cx === ox && cy === oy && cz === oz) continue;
          if (this.inBucket(this.bucket(cx, cy, cz), x, y, z, least, met)) return true;
        }
    return false;
  }

  private inBucket(
    bucket: number,
    x: number,
    y: number,
    z: number,
    least: number,
    met: (i: number) => boolean,
  ): boolean {
    const { next } = this;
    const p = this.position();
    for (let i = this.heads[bucket]; i >= 0; i = next[i]) {
      const dx = p[i * 3] - x;
      const dy = p[i * 3 + 1] - y;
      const dz = p[i * 3 + 2] - z;
      if (dx * dx + dy * dy + dz * dz < least && met(i)) return true;
    }
    return false;
  }
}
