import { Evaluator } from '../../evaluate/scene';
import { deformerSchema } from '../../mesh/deform/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newEntry, newProp, newSurface } from '../../scene/defaults';
import { sceneSchema } from '../../scene/schema';
import { ASSETS } from '../../testing/scene';
import { newArrangement } from '../registry';

/** What the guess makes of a surface that stands somehow, deformed somehow. */
function guessed(shape: object, place: object, deformers: object[], time = 0) {
  const surface = newSurface('cloth', 'Cloth', {
    source: 'made',
    shape: shapeSchema.parse(shape),
    color: '#D8CDB6',
  });
  const scene = sceneSchema.parse({
    ...emptyScene('Guess'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [{ ...surface, ...place, deformers: deformers.map((d) => deformerSchema.parse(d)) }],
    arrangements: [
      newArrangement(
        'sheet',
        { id: 's', name: 'S', thread: 'woad' },
        { surface: 'cloth', order: { entries: [newEntry('e', { kind: 'prop', prop: 'p' })] } },
      ),
    ],
  });
  const [{ sheet }] = new Evaluator(ASSETS).evaluate(scene, undefined, time).arrangements;
  return sheet!.match;
}
const PLANE = { shape: 'plane', width: 4, depth: 3, columns: 12, rows: 9 };
const TURNED = [
  {},
  { tipDeg: 90 },
  { tipDeg: -90, turnDeg: 30 },
  { rollDeg: 90 },
  { tipDeg: 40, rollDeg: 20 },
];

test.each(TURNED)(
  'however a surface is bent, and while it moves, its corner stays where it is at rest: %j',
  (place) => {
    const rest = guessed(PLANE, place, []);
    for (const angleDeg of [10, 30, 90, 170])
      for (const axis of ['x', 'z'])
        expect(guessed(PLANE, place, [{ id: 'b', kind: 'bend', axis, angleDeg }])).toEqual(rest);
    const wave = { id: 'w', kind: 'wave', height: 2, length: 3, speed: 2, push: 'y' };
    for (const time of [0, 0.4, 1.3]) expect(guessed(PLANE, place, [wave], time)).toEqual(rest);
  },
);

test('a surface that hangs has its up where up is, whichever way its faces run', () => {
  // Standing with its own back edge up, or its front edge: turned about, up and across stay up and across.
  const [a, b] = [guessed(PLANE, { tipDeg: 90 }, []), guessed(PLANE, { tipDeg: -90 }, [])];
  expect(a.swap).toBe(false);
  expect(b.swap).toBe(false);
  expect(a.flipV).not.toBe(b.flipV);
  expect(guessed(PLANE, { rollDeg: 90 }, []).swap).toBe(true);
});
