import { deformerSchema } from '@/core/mesh/deform/schema';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand, type Command } from '../command';
import { linkField } from './links';
import { removeNodes } from './nodes';
import { removeDeformer } from './surfaces';
import { endTimed, makeLoop, moveMoment, removeMoment, setMoment, setMomentWay } from './timed';

/** Numbers in time as they are set, moved and taken away; each step undone to just what was before. */

function does<A>(scene: Scene, command: Command<A>, args: A): Scene {
  const { scene: next, entry, refused } = applyCommand(scene, command, args);
  expect(refused).toBeNull();
  expect(sceneSchema.safeParse(next).success).toBe(true);
  expect(applyPatches(next, entry!.inverse).value).toEqual(scene);
  return next;
}

const PITCH = { node: 'run5', field: ['spacing', 'pitch'] };
const moments = (scene: Scene) => scene.timed[0]?.moments.map((m) => [m.at, m.value, m.way]);
const pitch = (scene: Scene) => (scene.arrangements[0] as { spacing: { pitch: number } }).spacing.pitch;

test('moments are put in, moved past each other, and taken away; the last leaves its value', () => {
  let scene = does(exampleScene(), setMoment, { ...PITCH, at: 2, value: 1 });
  scene = does(scene, setMomentWay, { id: scene.timed[0].id, at: 2, way: 'held' });
  scene = does(scene, setMoment, { ...PITCH, at: 5, value: 3 });
  scene = does(scene, setMoment, { ...PITCH, at: 0, value: 2 });
  scene = does(scene, setMoment, { ...PITCH, at: 5, value: 4 });
  // In between it goes on as it did.
  expect(moments(scene)).toEqual([
    [0, 2, 'held'],
    [2, 1, 'held'],
    [5, 4, 'held'],
  ]);
  const { id } = scene.timed[0];
  scene = does(scene, moveMoment, { id, from: 0, to: 3 });
  expect(moments(scene)?.map(([at]) => at)).toEqual([2, 3, 5]);
  // Onto another one: that is passed over.
  scene = does(scene, moveMoment, { id, from: 5, to: 2 });
  expect(moments(scene)).toEqual([
    [2, 4, 'held'],
    [3, 2, 'held'],
  ]);
  scene = does(scene, removeMoment, { id, at: 2 });
  scene = does(scene, removeMoment, { id, at: 3 });
  expect(scene.timed).toEqual([]);
  expect(pitch(scene)).toBe(2);
});

test('it ends with what it is at a time; a number follows the time or another thing, not both', () => {
  let scene = does(exampleScene(), setMoment, { ...PITCH, at: 0, value: 1 });
  scene = does(scene, setMoment, { ...PITCH, at: 4, value: 3 });
  expect(pitch(does(scene, endTimed, { id: scene.timed[0].id, at: 2 }))).toBeCloseTo(2, 12);
  const linked = does(scene, linkField, { ...PITCH, expression: '[path4.length] / 9', value: 1.5 });
  expect([linked.timed.length, linked.links.length]).toEqual([0, 1]);
  const timed = does(linked, setMoment, { ...PITCH, at: 1, value: 2 });
  expect([timed.timed.length, timed.links.length]).toEqual([1, 0]);
  expect(pitch(does(scene, makeLoop, { changes: [{ ...PITCH, value: 0.7 }], span: 8 }))).toBe(0.7);
});

test('it goes with its node and with its deformer; a cloth has but its wind', () => {
  const wave = deformerSchema.parse({ id: 'w1', kind: 'wave', on: true });
  const cloth = deformerSchema.parse({ id: 'c1', kind: 'cloth', on: true });
  const scene = exampleScene();
  scene.surfaces[0].deformers = [cloth, wave];
  const at = (deformer: string, name: string) => ({
    node: 'surface3',
    field: ['deformers', deformer, name],
    at: 0,
    value: 1,
  });
  expect(() => applyCommand(scene, setMoment, at('c1', 'stiffness'))).toThrow('from its beginning');
  expect(does(scene, setMoment, at('c1', 'windDeg')).timed).toHaveLength(1);
  const waves = does(scene, setMoment, at('w1', 'height'));
  expect(does(waves, removeDeformer, { id: 'surface3', deformer: 'w1' }).timed).toEqual([]);
  expect(does(waves, removeDeformer, { id: 'surface3', deformer: 'c1' }).timed).toHaveLength(1);
  expect(does(waves, removeNodes, { ids: ['surface3'] }).timed).toEqual([]);
});
