import { newArrangement } from '@/core/arrange/registry';
import { emptyScene, newProp, newSurface } from '@/core/scene/defaults';
import { clip, pasting } from '@/core/scene/clipping';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { applyCommand } from '../command';
import { addMaterial, removeMaterial, setMaterial, wear } from './materials';

const start: Scene = {
  ...emptyScene('Dressed'),
  nextId: 10,
  props: [newProp('prop1', 'Crate', { source: 'built', name: 'crate' })],
  surfaces: [newSurface('surface2', 'Floor', { source: 'built', name: 'quay' })],
  arrangements: [
    newArrangement('pegs', { id: 'pegs3', name: 'Few', thread: 'moss' }, {}),
    newArrangement('pegs', { id: 'pegs4', name: 'Fewer', thread: 'woad' }, { recipe: 'recipe1' }),
    newArrangement('pegs', { id: 'pegs5', name: 'Fewest', thread: 'weld' }, { recipe: 'recipe1' }),
  ],
};
const wornIn = (s: Scene) => [s.props[0].material, s.surfaces[0].material, s.arrangements[0].material];

test('made for what is in hand, changed, worn by others, taken off, and gone from all: each named, each undone', () => {
  const brass = applyCommand(start, addMaterial, {
    values: { name: 'Brass', metal: 1 },
    wornBy: ['prop1', 'pegs3'],
  });
  const id = brass.made!;
  expect(wornIn(brass.scene)).toEqual([id, null, id]);
  expect(brass.entry!.name).toBe('new material “Brass”');
  expect(applyPatches(brass.scene, brass.entry!.inverse).value).toEqual(start);
  const dull = applyCommand(brass.scene, setMaterial, { id, values: { roughness: 0.9 } });
  expect(dull.entry!.name).toBe('Brass: roughness 0.6 → 0.9');
  const floor = applyCommand(dull.scene, wear, { ids: ['surface2'], material: id });
  expect(floor.entry!.name).toBe('“Floor”: material “Brass”');
  const off = applyCommand(floor.scene, wear, { ids: ['prop1', 'pegs3'], material: null });
  expect(wornIn(off.scene)).toEqual([null, id, undefined]);
  expect('material' in off.scene.arrangements[0]).toBe(false);
  const gone = applyCommand(floor.scene, removeMaterial, { id });
  expect(wornIn(gone.scene)).toEqual([null, null, undefined]);
  expect(gone.scene.materials).toEqual([]);
  expect(applyPatches(gone.scene, gone.entry!.inverse).value).toEqual(floor.scene);
  for (const { scene } of [brass, dull, floor, off, gone])
    expect(sceneSchema.safeParse(scene).success).toBe(true);
  // A second one of a name has another name; a number out of bounds is held.
  const again = applyCommand(brass.scene, addMaterial, { values: { name: 'Brass' } }).scene;
  expect(again.materials.map((m) => m.name)).toEqual(['Brass', 'Brass 2']);
  expect(applyCommand(again, setMaterial, { id, values: { metal: 7 } }).scene.materials[0].metal).toBe(1);
});

test('those that share a recipe wear the same', () => {
  const { scene } = applyCommand(start, addMaterial, { values: {}, wornBy: ['pegs4'] });
  expect(scene.arrangements[2].material).toBe(scene.materials[0].id);
  const off = applyCommand(scene, wear, { ids: ['pegs5'], material: null }).scene;
  expect(off.arrangements.map((a) => a.material)).toEqual([undefined, undefined, undefined]);
});

test('what is copied into another scene brings its material; where that is just so, it wears the one that is there', () => {
  const { scene } = applyCommand(start, addMaterial, {
    values: { name: 'Brass' },
    wornBy: ['prop1', 'pegs3'],
  });
  const clipping = clip(scene, ['prop1', 'pegs3'], 'there');
  expect(clipping.scene.materials).toHaveLength(1);
  const other = applyCommand(emptyScene('Other'), addMaterial, {
    values: { name: 'Chalk', roughness: 1 },
  }).scene;
  const paste = (into: Scene) => applyPatches(into, pasting(into, clipping, 'here').patches).value;
  const pasted = paste(other);
  expect(pasted.materials.map((m) => m.name)).toEqual(['Chalk', 'Brass']);
  expect(pasted.props[0].material).toBe(pasted.materials[1].id);
  expect(pasted.arrangements[0].material).toBe(pasted.materials[1].id);
  const twice = paste(pasted);
  expect(twice.materials).toHaveLength(2);
  expect(twice.arrangements[1].material).toBe(pasted.materials[1].id);
  expect(sceneSchema.safeParse(twice).success).toBe(true);
});
