import fc from 'fast-check';
import { cases, SEED } from '../../testing/prove';
import { allPegs, changedIn, inBlocks, keepPegs, pegById, pegCount, pegOfSlot } from './blocks';
import { BLOCK_PEGS, type Peg } from './schema';

const peg = (i: number): Peg => ({
  id: `peg${i}`,
  prop: 'p',
  pin: null,
  position: [i, 0, 0],
  rotation: [0, 0, 0, 1],
  scale: [1, 1, 1],
});
const many = Array.from({ length: 2300 }, (_, i) => peg(i + 1));

test('pegs in blocks are the same pegs in the same order, each found by its id and its slot', () => {
  for (const n of [0, 1, BLOCK_PEGS, BLOCK_PEGS + 1, 2300]) {
    const pegs = many.slice(0, n);
    const blocks = inBlocks(pegs);
    expect(allPegs(blocks)).toEqual(pegs);
    expect(pegCount(blocks)).toBe(n);
    expect(blocks.every((b) => b.length > 0 && b.length <= BLOCK_PEGS)).toBe(true);
    for (const p of pegs.filter((_, i) => i % 97 === 0 || i === n - 1)) {
      const found = pegById(blocks, p.id)!;
      expect(blocks[found.block][found.index]).toBe(p);
      expect(pegOfSlot(blocks, p.position[0])).toBe(p);
    }
    expect(pegById(blocks, 'peg0')).toBeUndefined();
  }
});

test('taking out again and again keeps what stays, in blocks that never become many small ones', () => {
  const share = fc.record({ from: fc.nat(2300), length: fc.nat(900), every: fc.integer({ min: 1, max: 5 }) });
  fc.assert(
    fc.property(fc.array(share, { minLength: 1, maxLength: 6 }), (shares) => {
      let blocks = inBlocks(many);
      let list = many;
      for (const { from, length, every } of shares) {
        const stays = (p: Peg) =>
          p.position[0] < from || p.position[0] >= from + length || p.position[0] % every > 0;
        const before = blocks;
        blocks = keepPegs(blocks, stays);
        const after = list.filter(stays);
        expect(allPegs(blocks)).toEqual(after);
        if (after.length === list.length) expect(blocks).toBe(before);
        // A block that loses none and meets no small neighbour is the same object.
        for (const b of before.filter((b) => b.length > BLOCK_PEGS / 2 && b.every(stays)))
          if (!blocks.includes(b)) expect(blocks.some((joined) => joined.includes(b[0]))).toBe(true);
        blocks.forEach((b, i) =>
          expect((blocks[i + 1]?.length ?? Infinity) + b.length).toBeGreaterThan(BLOCK_PEGS),
        );
        list = after;
      }
    }),
    { seed: SEED, numRuns: cases(2000) },
  );
});

test('which pegs are others is told by block, as a look at each tells it', () => {
  fc.assert(
    fc.property(fc.array(fc.nat(2299), { maxLength: 30 }), fc.boolean(), (rows, more) => {
      const was = keepPegs(inBlocks(many), (p) => p.position[0] % 7 > 0);
      const now = was.map((block) => {
        const here = block.map((p) => (rows.includes(p.position[0]) ? { ...p } : p));
        return here.every((p, i) => p === block[i]) ? block : here;
      });
      if (more) return expect(changedIn([...now, [peg(9999)]], was)).toBeNull();
      const [a, b] = [now.flat(), was.flat()];
      const wanted = a.flatMap((p, row) => (p === b[row] ? [] : [{ row, now: p, was: b[row] }]));
      expect(changedIn(now, was)).toEqual(wanted);
    }),
    { seed: SEED, numRuns: cases(2000) },
  );
});
