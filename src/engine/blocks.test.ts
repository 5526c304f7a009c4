import fc from 'fast-check';
import { BLOCK, blocksOf, largest } from './blocks';

/** Instances at places, each of its own size, rows in the order given. */
function batchOf(places: readonly (readonly number[])[], size = (_: number) => 1) {
  const matrices = new Float32Array(places.length * 16);
  places.forEach((p, i) => {
    const s = size(i);
    matrices.set([s, 0, 0, 0, 0, s / 2, 0, 0, 0, 0, s / 3, 0, p[0], p[1], p[2], 1], i * 16);
  });
  return {
    matrices,
    rows: Uint32Array.from(places.keys()),
    tints: Float32Array.from(places.flatMap((_, i) => [i, 0, 0])),
  };
}

const random = (n: number, seed: number) => {
  let v = seed;
  const next = () => (v = (v * 16807) % 2147483647) / 2147483647;
  return Array.from({ length: n }, () => [next() * 100, next(), next() * 100]);
};

/** Whether every block's box holds its feet and touches them, and its size is that of the largest. */
function isTight(batch: ReturnType<typeof batchOf>, { boxes, sizes }: ReturnType<typeof blocksOf>): boolean {
  return [...sizes.keys()].every((b) => {
    const own = [...batch.rows.keys()].slice(b * BLOCK, (b + 1) * BLOCK);
    const along = (a: number) => own.map((i) => batch.matrices[i * 16 + 12 + a]);
    return (
      [0, 1, 2].every(
        (a) => boxes[b * 6 + a] === Math.min(...along(a)) && boxes[b * 6 + 3 + a] === Math.max(...along(a)),
      ) && sizes[b] === Math.max(...own.map((i) => largest(batch.matrices, i, i + 1)))
    );
  });
}

test('what follows a path keeps its order; every block is as large as what is in it', () => {
  const batch = batchOf(
    Array.from({ length: 5000 }, (_, i) => [i / 10, Math.sin(i / 100), 0]),
    (i) => 1 + (i % 7) / 7,
  );
  const blocks = blocksOf(batch);
  expect(blocks.sizes).toHaveLength(5);
  expect([...batch.rows]).toEqual([...batch.rows.keys()]);
  expect(isTight(batch, blocks)).toBe(true);
});

test('scattered places are brought into blocks side by side; rows, matrices and tints go together', () => {
  fc.assert(
    fc.property(fc.integer({ min: 5000, max: 9000 }), fc.integer({ min: 1, max: 1e6 }), (n, seed) => {
      const places = random(n, seed);
      const batch = batchOf(places);
      const blocks = blocksOf(batch);
      expect(isTight(batch, blocks)).toBe(true);
      expect([...batch.rows].sort((a, b) => a - b)).toEqual([...places.keys()]);
      const together = [...batch.rows.entries()].every(
        ([i, row]) =>
          batch.tints[i * 3] === row &&
          places[row].every((v, a) => batch.matrices[i * 16 + 12 + a] === Math.fround(v)),
      );
      expect(together).toBe(true);
      // Of full blocks side by side each would have its share of the ground.
      const area = (b: number) =>
        (blocks.boxes[b * 6 + 3] - blocks.boxes[b * 6]) * (blocks.boxes[b * 6 + 5] - blocks.boxes[b * 6 + 2]);
      const sum = [...blocks.sizes.keys()].reduce((s, b) => s + area(b), 0);
      expect(sum).toBeLessThan(100 * 100 * 3);
    }),
    { numRuns: 20 },
  );
});
