import fc from 'fast-check';
import { Evaluator } from '../../evaluate/scene';
import { emptyScene, newProp, newSurface } from '../../scene/defaults';
import { sceneSchema, type Scene } from '../../scene/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { cases, SEED } from '../../testing/prove';
import { ASSETS } from '../../testing/scene';
import { allPegs } from './blocks';
import type { Pegs } from './schema';

/** Blocks of seven, as if some had been taken out of each. */
const parted = <T>(pegs: T[]): T[][] =>
  Array.from({ length: Math.ceil(pegs.length / 7) }, (_, b) => pegs.slice(b * 7, b * 7 + 7));

/** Pegs of which a few change come out as if all had been worked out. */

const scene = (pegs: object[], more: object): Scene =>
  sceneSchema.parse({
    ...emptyScene('Pegs'),
    props: ['p', 'q'].map((id) => newProp(id, id, { source: 'built', name: 'box' })),
    surfaces: [
      newSurface('hills', 'Hills', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'hills', width: 8, depth: 8, height: 1, seed: 5 }),
        color: '#D8CDB6',
      }),
    ],
    arrangements: [{ id: 'pegs', kind: 'pegs', name: 'Pegs', thread: 'woad', pegs: parted(pegs), ...more }],
  });

const place = fc.double({ min: -4, max: 4, noNaN: true });
const peg = fc.record({
  prop: fc.constantFrom('p', 'q'),
  position: fc.tuple(place, place, place),
  scale: fc.constant([1, 2, 0.5]),
  pin: fc.constantFrom(null, { surface: 'hills', face: 3, u: 0.2, v: 0.3, faces: 0, lift: 0.1 }),
  tint: fc.constantFrom(undefined, [0.2, 0.4, 0.6]),
});
const settings = fc.constantFrom(
  {},
  { variation: { turnDeg: [-40, 40], size: [0.5, 2], tint: { colors: ['#aa3311'], strength: [0, 1] } } },
  { gaps: { chance: 0.4 } },
  { gaps: { chance: 0.4, longest: 1 } },
  { gaps: { taken: { share: 0.3, from: 'random' } } },
  { gaps: { collide: 'leave-out' }, variation: { size: [3, 3] } },
  { ground: { mode: 'land', stack: true } },
);

test('a few changed pegs give what all of them give, whatever else is set', () => {
  fc.assert(
    fc.property(
      fc.array(peg, { minLength: 8, maxLength: 20 }),
      fc.array(fc.tuple(fc.nat(19), peg), { minLength: 1, maxLength: 2 }),
      settings,
      (list, changes, more) => {
        const before = scene(
          list.map((p, i) => ({ id: `peg${i + 1}`, ...p })),
          more,
        );
        const evaluator = new Evaluator(ASSETS);
        evaluator.evaluate(before);
        const next = structuredClone(before);
        const pegs = [...allPegs((before.arrangements[0] as Pegs).pegs)];
        for (const [k, to] of changes) {
          const i = k % pegs.length;
          pegs[i] = (scene([{ id: `peg${i + 1}`, ...to }], {}).arrangements[0] as Pegs).pegs[0][0];
        }
        next.surfaces = before.surfaces;
        next.props = before.props;
        next.arrangements = [{ ...before.arrangements[0], pegs: parted(pegs) } as Pegs];
        const [now] = evaluator.evaluate(next).arrangements;
        const [whole] = new Evaluator(ASSETS).evaluate(next).arrangements;
        expect(now.placements).toEqual(whole.placements);
        expect(now.findings).toEqual(whole.findings);
      },
    ),
    { numRuns: cases(1000), seed: SEED },
  );
});
