import { newArrangement } from '@/core/arrange/registry';
import type { Run } from '@/core/arrange/run/schema';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand } from '../command';
import { setOnTop, setSetting } from './onTop';
import { shareRecipe } from './recipes';

/** Settings on top: said for one, seen in all that share the recipe, set from there. */

const run = (id: string) =>
  newArrangement(
    'run',
    { id, name: id, thread: 'moss' },
    { paths: [{ part: 0, path: 'path4' }], spacing: { pitch: 1 } },
  );
const start = (): Scene => ({ ...exampleScene(), arrangements: [run('a'), run('b')] });
const far = { field: ['spacing', 'pitch'], name: 'How far apart' };
const spin = { field: ['variation', 'turnDeg'], name: 'Spin' };

test('what is on top is shared with the recipe, is renamed, and goes', () => {
  let { scene } = applyCommand(start(), shareRecipe, { ids: ['a', 'b'] });
  const step = (onTop: (typeof far)[]) => {
    const done = applyCommand(scene, setOnTop, { id: 'a', onTop });
    const { scene: before } = { scene };
    scene = done.scene;
    expect(applyPatches(scene, done.entry!.inverse).value).toEqual(before);
    expect(sceneSchema.safeParse(scene).success).toBe(true);
    return done.entry!.name;
  };
  expect(step([far])).toBe('“How far apart” on top');
  expect(step([far, spin])).toBe('“Spin” on top');
  expect(scene.arrangements.map((a) => a.onTop)).toEqual([
    [far, spin],
    [far, spin],
  ]);
  expect(step([{ ...far, name: 'Gap' }, spin])).toBe('call it “Gap”');
  expect(step([spin])).toBe('“Gap” not on top');
  expect(step([])).toBe('“Spin” not on top');
  expect(scene.arrangements.some((a) => 'onTop' in a)).toBe(false);
});

test('a number or a range is set wherever it stands, under its own name, and held to its bounds', () => {
  const set = (field: string[], value: number | [number, number], title: string) =>
    applyCommand(start(), setSetting, { id: 'a', field, value, title });
  const pitch = set(['spacing', 'pitch'], 2.5, 'How far apart');
  expect((pitch.scene.arrangements[0] as Run).spacing.pitch).toBe(2.5);
  expect((pitch.scene.arrangements[1] as Run).spacing.pitch).toBe(1);
  expect(pitch.entry!.name).toBe('How far apart 1 → 2.5');
  const turned = set(['variation', 'turnDeg'], [-20, 20], 'Spin');
  expect((turned.scene.arrangements[0] as Run).variation.turnDeg).toEqual([-20, 20]);
  expect((set(['gaps', 'chance'], 7, 'Holes').scene.arrangements[0] as Run).gaps.chance).toBe(1);
  expect(() => set(['spacing', 'none'], 1, 'x')).toThrow('no setting spacing.none');
});
