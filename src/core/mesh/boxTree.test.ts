import fc from 'fast-check';
import { cases, SEED } from '../testing/prove';
import { newBoxes, writeBox, type Boxes } from './boxes';
import { buildBoxTree, PairWalk } from './boxTree';

/** Upright cubes of 1 m about places. */
function cubes(places: [number, number, number][]): Boxes {
  const boxes = newBoxes(places.length);
  const own = {
    min: [-0.5, -0.5, -0.5] as [number, number, number],
    max: [0.5, 0.5, 0.5] as [number, number, number],
  };
  places.forEach((p, i) =>
    writeBox(
      boxes,
      i,
      own,
      {
        position: Float64Array.from(p),
        rotation: Float64Array.of(0, 0, 0, 1),
        scale: Float64Array.of(1, 1, 1),
      },
      0,
    ),
  );
  return boxes;
}
const metre = fc.double({ min: -2, max: 2, noNaN: true });
const places = fc.array(fc.tuple(metre, metre, metre), { maxLength: 40 });

test('stopped again and again it meets just the pairs that touch, each once, and never many between two stops', () => {
  fc.assert(
    fc.property(places, places, fc.boolean(), (p, q, alone) => {
      const a = buildBoxTree(cubes(p));
      const b = alone ? a : buildBoxTree(cubes(q));
      const other = alone ? p : q;
      const touch = (i: number, j: number) => p[i].every((v, k) => Math.abs(v - other[j][k]) <= 1);
      const wanted: string[] = [];
      for (let i = 0; i < p.length; i++)
        for (let j = alone ? i + 1 : 0; j < other.length; j++) if (touch(i, j)) wanted.push(`${i} ${j}`);
      const met: string[] = [];
      const walk = new PairWalk(a, b);
      let turns = 0;
      for (let before = 0; ; before = met.length) {
        const done = walk.on(
          (i, j) => met.push(`${i} ${j}`),
          () => true,
        );
        expect(met.length - before).toBeLessThanOrEqual(16);
        if (done || turns++ > 5000) break;
      }
      expect(met.toSorted()).toEqual(wanted.toSorted());
    }),
    { seed: SEED, numRuns: cases(3000) },
  );
});
