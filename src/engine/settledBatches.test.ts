import { allocatePlacements, type Placements } from '@/core/arrange/result';
import { keepSettledRows, withRowsAgain } from '@/core/arrange/settledRows';
import { BLOCK, largest } from './blocks';
import type { DrawBatch } from './drawBatch';
import { drawBatches, instanceOf } from './drawing';

const COUNT = 9000;
let drawn = 7;
const next = () => (drawn = (drawn * 16807) % 2147483647) / 2147483647;

/** Places over a field: two props in turns of nine to one, every fifth mirrored, tinted. */
function field(): Placements {
  const p = allocatePlacements(COUNT, ['tuft', 'stone']);
  p.tint = new Float32Array(COUNT * 3);
  for (let i = 0; i < COUNT; i++) {
    p.slot[i] = i;
    p.prop[i] = i % 10 === 0 ? 1 : 0;
    p.position.set([next() * 80, next() * 3, next() * 80], i * 3);
    const turn = next() * Math.PI;
    p.rotation.set([0, Math.sin(turn), 0, Math.cos(turn)], i * 4);
    p.scale.set([(i % 5 === 0 ? -1 : 1) * (0.5 + next()), 0.5 + next(), 1], i * 3);
    p.tint.set([next(), next(), next()], i * 3);
  }
  return p;
}

/** Some rows of others, copied. */
function only(of: Placements, rows: Uint32Array): Placements {
  const out = allocatePlacements(rows.length, of.props);
  out.tint = new Float32Array(rows.length * 3);
  const columns = (['slot', 'state', 'prop', 'position', 'rotation', 'scale', 's', 'tint'] as const).map(
    (name) => [of[name]!, out[name]!] as const,
  );
  rows.forEach((row, i) => {
    for (const [from, to] of columns) {
      const size = from.length / of.count;
      for (let k = 0; k < size; k++) to[i * size + k] = from[row * size + k];
    }
  });
  return out;
}

/** What a batch draws, by row. */
const byRow = ({ rows, matrices, tints }: DrawBatch) =>
  new Map(
    Array.from(rows, (row, i) => [
      row,
      [...matrices.subarray(i * 16, i * 16 + 16), ...tints!.subarray(i * 3, i * 3 + 3)],
    ]),
  );

const lookOf = (b: DrawBatch) => `${b.prop} ${b.mirrored}`;

test('whichever rows stand, in whatever turn they came: the same instances as if they were drawn at once', () => {
  const of = field();
  let blocks = 0;
  for (const share of [0.5, 0.45, 0.9, 0.2, 1, 0.05]) {
    const rows = Uint32Array.from(Array.from({ length: COUNT }, (_, i) => i).filter(() => next() < share));
    const plain = drawBatches(only(of, rows));
    const settled = only(of, rows);
    keepSettledRows(settled, { of, rows });
    const quick = drawBatches(settled);
    expect(quick.map(lookOf).sort()).toEqual(plain.map(lookOf).sort());
    for (const batch of quick) {
      const same = plain.find((b) => lookOf(b) === lookOf(batch))!;
      const [a, b] = [byRow(batch), byRow(same)];
      expect(a.size).toBe(b.size);
      for (const [row, numbers] of a) expect(b.get(row)).toEqual(numbers);
      expect(!batch.blocks).toBe(batch.rows.length <= BLOCK);
      expect([...batch.rows].every((row, i) => instanceOf(batch, row) === i)).toBe(true);
      if (batch.blocks) blocks++;
    }
  }
  expect(blocks).toBeGreaterThan(3);
});

test('blocks hold what is in them, and are small beside the whole', () => {
  const of = field();
  const rows = Uint32Array.from({ length: COUNT }, (_, i) => i);
  const p = only(of, rows);
  keepSettledRows(p, { of, rows });
  const [batch] = drawBatches(p).filter((b) => b.blocks);
  const { boxes, sizes } = batch.blocks!;
  for (let b = 0; b < sizes.length; b++) {
    const [first, end] = [b * BLOCK, Math.min(batch.rows.length, (b + 1) * BLOCK)];
    for (let a = 0; a < 3; a++) {
      const along = Array.from({ length: end - first }, (_, i) => batch.matrices[(first + i) * 16 + 12 + a]);
      expect([boxes[b * 6 + a], boxes[b * 6 + 3 + a]]).toEqual([Math.min(...along), Math.max(...along)]);
    }
    expect(sizes[b]).toBe(Math.fround(largest(batch.matrices, first, end)));
    const area = (boxes[b * 6 + 3] - boxes[b * 6]) * (boxes[b * 6 + 5] - boxes[b * 6 + 2]);
    expect(area).toBeLessThan((80 * 80) / 2);
  }
});

test('what was settled anew since is drawn as it was, and what it is now as it is now', () => {
  const of = field();
  const rows = Uint32Array.from({ length: COUNT }, (_, i) => i);
  const before = only(of, rows);
  keepSettledRows(before, { of, rows });
  const was = drawBatches(before).map(byRow);
  const again = withRowsAgain(of, Uint32Array.of(1, 500));
  again.position.set([9, 9, 9], 500 * 3);
  const now = only(again, rows);
  keepSettledRows(now, { of: again, rows });
  const placeOf = (batches: DrawBatch[]) =>
    batches
      .map(byRow)
      .find((b) => b.has(500))!
      .get(500)!
      .slice(12, 15);
  expect(placeOf(drawBatches(now))).toEqual([9, 9, 9]);
  expect(new Set(drawBatches(before).map((b) => byRow(b).size))).toEqual(new Set(was.map((b) => b.size)));
  expect(placeOf(drawBatches(before))).toEqual(
    was
      .find((b) => b.has(500))!
      .get(500)!
      .slice(12, 15),
  );
});

test('what something was made of since is not taken for what was settled', () => {
  const of = field();
  const rows = Uint32Array.from({ length: COUNT }, (_, i) => i);
  const p = only(of, rows);
  keepSettledRows(p, { of, rows });
  drawBatches(p);
  const turned = { ...p, scale: p.scale.map((v) => v * 2) };
  const [before, after] = [p, turned].map((q) => byRow(drawBatches(q).find((b) => !b.mirrored)!).get(1)!);
  expect(after.slice(0, 3)).toEqual(before.slice(0, 3).map((v) => expect.closeTo(v * 2, 5)));
});
