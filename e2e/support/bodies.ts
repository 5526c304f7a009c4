/** Triangles of files that were sent out, as bodies. */

export type Triangle = readonly number[][];

export interface Body {
  /** Edges whose two ways are not gone equally often, corners compared to the last bit. */
  open: number;
  volume: number;
  min: number[];
  max: number[];
  triangles: number;
}

export function bodyOf(triangles: readonly Triangle[]): Body {
  const ways = new Map<string, number>();
  const [min, max] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  let six = 0;
  for (const [a, b, c] of triangles) {
    six +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) +
      a[1] * (b[2] * c[0] - b[0] * c[2]) +
      a[2] * (b[0] * c[1] - b[1] * c[0]);
    for (const [p, q] of [
      [a, b],
      [b, c],
      [c, a],
    ]) {
      const [way, back] = [`${p.join()}|${q.join()}`, `${q.join()}|${p.join()}`];
      ways.set(way, (ways.get(way) ?? 0) + 1);
      ways.set(back, (ways.get(back) ?? 0) - 1);
      for (let k = 0; k < 3; k++) {
        min[k] = Math.min(min[k], p[k]);
        max[k] = Math.max(max[k], p[k]);
      }
    }
  }
  const open = [...ways.values()].filter((n) => n > 0).length;
  return { open, volume: six / 6, min, max, triangles: triangles.length };
}

/** A binary STL by its description: 80 bytes, a count, fifty bytes a triangle. */
export function readStl(bytes: Buffer): Triangle[] {
  const count = bytes.readUInt32LE(80);
  return Array.from({ length: count }, (_, t) =>
    [0, 1, 2].map((k) => [0, 1, 2].map((c) => bytes.readFloatLE(84 + t * 50 + 12 + k * 12 + c * 4))),
  );
}
