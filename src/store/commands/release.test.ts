import { newArrangement } from '@/core/arrange/registry';
import { loadPhysics } from '@/core/arrange/release/physics';
import { STATE } from '@/core/arrange/result';
import { slotName } from '@/core/arrange/slotId';
import { Evaluator } from '@/core/evaluate/scene';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { ASSETS, exampleScene } from '@/core/testing/scene';
import { applyCommand, type Command } from '../command';
import { setRelease, takeAsItLies } from './release';

/** Letting props fall, and leaving them as they lie. */

beforeAll(() => loadPhysics());

const TIME = 6;
const rowsOf = (scene: Scene, id: string, time: number) =>
  new Evaluator(ASSETS).evaluate(scene, undefined, time).arrangements.find((a) => a.id === id)!;

/** The example with its run, and three pegs, over the floor. */
function twoKinds(): Scene {
  const scene = exampleScene();
  const peg = (n: number) => ({ id: `peg${n}`, prop: 'prop1', position: [n, 2, n / 2], scale: [1, 1, 1] });
  scene.arrangements.push(
    newArrangement(
      'pegs',
      { id: 'pegs', name: 'Pegs', thread: 'moss' },
      {
        pegs: [[peg(1), peg(2), peg(3)]],
        variation: { turnDeg: [-90, 90], size: [0.8, 1.2] },
        ground: { mode: 'land' },
      },
    ),
  );
  return scene;
}

function does<A>(scene: Scene, command: Command<A>, args: A): Scene {
  const { scene: next, entry, refused } = applyCommand(scene, command, args);
  expect(refused).toBeNull();
  expect(sceneSchema.safeParse(next).success).toBe(true);
  expect(applyPatches(next, entry!.inverse).value).toEqual(scene);
  return next;
}

test.each(['run5', 'pegs'])('%s stays as it lies, at every moment', (id) => {
  const falling = does(twoKinds(), setRelease, { id, values: { on: true, seconds: 5 } });
  const { placements: p } = rowsOf(falling, id, TIME);
  const before = rowsOf(twoKinds(), id, 0).placements;
  expect([...p.position]).not.toEqual([...before.position]);
  const read = (list: Float64Array, i: number, n: number) => [...list.subarray(i * n, i * n + n)];
  const places = Object.fromEntries(
    [...p.slot.keys()]
      .filter((i) => p.state[i] === STATE.placed)
      .map((i) => [
        slotName(p.slot[i]),
        {
          prop: p.props[p.prop[i]],
          s: p.s[i],
          position: read(p.position, i, 3),
          rotation: read(p.rotation, i, 4),
          scale: read(p.scale, i, 3),
        },
      ]),
  ) as never;
  const lies = does(falling, takeAsItLies, { id, places, gone: [] });
  for (const time of [0, 2, TIME]) {
    const now = rowsOf(lies, id, time).placements;
    for (let i = 0; i < p.count; i++) {
      expect(now.state[i]).toBe(p.state[i]);
      if (p.state[i] !== STATE.placed) continue;
      for (let k = 0; k < 3; k++) {
        expect(now.position[i * 3 + k]).toBeCloseTo(p.position[i * 3 + k], 9);
        expect(now.scale[i * 3 + k]).toBeCloseTo(p.scale[i * 3 + k], 9);
      }
      let dot = 0;
      for (let k = 0; k < 4; k++) dot += now.rotation[i * 4 + k] * p.rotation[i * 4 + k];
      expect(Math.abs(dot)).toBeCloseTo(1, 9);
    }
  }
});

test('what is gone is taken out, and holding again is what it was', () => {
  const scene = does(twoKinds(), setRelease, { id: 'pegs', values: { then: 'go', seconds: 5 } });
  const { placements: p } = rowsOf(scene, 'pegs', TIME);
  expect([...p.state]).toEqual([STATE.fallen, STATE.fallen, STATE.fallen]);
  const left = does(scene, takeAsItLies, { id: 'pegs', places: {}, gone: [2, 3] });
  expect([...rowsOf(left, 'pegs', 0).placements.slot]).toEqual([1]);
  const held = does(scene, setRelease, { id: 'pegs', values: null });
  expect(held).toEqual(twoKinds());
});
