import { newArrangement } from '@/core/arrange/registry';
import type { LayerOf } from '@/core/mesh/mask/schema';
import { emptyScene, newPath, newSurface } from '@/core/scene/defaults';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { points } from '@/core/testing/paths';
import { applyCommand, type Command } from '../command';
import {
  addDabs,
  addLayer,
  addMask,
  addStroke,
  clearPaint,
  maskGiven,
  moveLayer,
  paintOnto,
  removeLayer,
  setLayer,
  setMask,
} from './masks';

const start = (): Scene => ({
  ...emptyScene('Masks'),
  nextId: 50,
  surfaces: [newSurface('s', 'Hill', { source: 'built', name: 'floor' })],
  paths: [
    newPath(
      'p',
      'Way',
      points('corner', [
        [0, 0, 0],
        [1, 0, 0],
      ]),
    ),
  ],
  arrangements: [
    newArrangement(
      'scatter',
      { id: 'tufts', name: 'Tufts', thread: 'moss' },
      { over: { kind: 'surfaces', surfaces: ['s'] } },
    ),
    newArrangement('run', { id: 'row', name: 'Row', thread: 'weld' }, { paths: [{ part: 0, path: 'p' }] }),
  ],
});

/** Runs commands one after the other; each leaves a scene that the schema takes. */
class Doing {
  names: string[] = [];
  constructor(public scene: Scene) {}
  do<A>(c: Command<A>, args: A): string {
    const { scene, entry, made, refused } = applyCommand(this.scene, c, args);
    expect(refused).toBeNull();
    expect(sceneSchema.safeParse(scene).success).toBe(true);
    this.scene = scene;
    if (entry) this.names.push(entry.name);
    return made ?? '';
  }
}

test('a mask with layers: added, set, moved, taken out, each with its name in the undo list', () => {
  const d = new Doing(start());
  const id = d.do(addMask, { name: 'Not steep', layers: [{ kind: 'slope', over: true }] });
  const noise = d.do(addLayer, { id, layer: { kind: 'noise', span: 3 } });
  d.do(setLayer, { id, layer: noise, values: { from: 0.2 } });
  d.do(moveLayer, { id, layer: noise, way: -1 });
  expect(d.scene.masks[0].layers.map((l) => l.kind)).toEqual(['noise', 'slope']);
  d.do(setMask, { id, values: { combine: 'largest' } });
  d.do(removeLayer, { id, layer: noise });
  expect(d.scene.masks[0].layers).toMatchObject([{ kind: 'slope', over: true, from: 30, to: 45 }]);
  expect(d.names).toEqual([
    'new mask “Not steep”',
    'Noise into “Not steep”',
    'Noise: from 0.4 → 0.2',
    'order of the layers of “Not steep”',
    'Not steep: layers together all → any',
    'Noise out of “Not steep”',
  ]);
  // A second one of that name is told apart.
  d.do(addMask, { name: 'Not steep' });
  expect(d.scene.masks.map((m) => m.name)).toEqual(['Not steep', 'Not steep 2']);
});

test('the first stroke gives an arrangement what it needs: of a scatter the spread, of a run a keep-out', () => {
  const d = new Doing(start());
  for (const [id, what, does, base] of [
    ['tufts', 'density', 'add', 0],
    ['row', 'density', 'take', 1],
    ['tufts', 'size', 'add', 0],
  ] as const) {
    const [mask, layer] = d.do(paintOnto, { id, what, does }).split(' ');
    const arrangement = d.scene.arrangements.find((a) => a.id === id)!;
    expect(maskGiven(arrangement, what)).toBe(mask);
    expect(d.scene.masks.at(-1)!.layers).toMatchObject([{ id: layer, kind: 'painted', base }]);
  }
  expect(d.scene.masks.map((m) => m.name)).toEqual(['Where Tufts', 'Where Row', 'Size of Tufts']);
  // Where there is a mask already it gets a layer, and what that leaves is there until it is taken away.
  const own = d.scene.masks[0].id;
  d.do(removeLayer, { id: own, layer: d.scene.masks[0].layers[0].id });
  const [mask] = d.do(paintOnto, { id: 'tufts', what: 'density', does: 'add' }).split(' ');
  expect(mask).toBe(own);
  expect(d.scene.masks[0].layers).toMatchObject([{ kind: 'painted', base: 1 }]);
  expect(d.scene.masks).toHaveLength(3);
});

test('a stroke begins and goes on; its layer takes the surface of the first; all of it is cleared at once', () => {
  const d = new Doing(start());
  const id = d.do(addMask, { name: 'Path', layers: [{ kind: 'painted' }] });
  const layer = d.scene.masks[0].layers[0].id;
  const stroke = { does: 'add', radius: 0.5, softness: 0.5, strength: 1, dabs: [0, 0, 0] } as const;
  const made = d.do(addStroke, { id, layer, surface: 's', stroke: { ...stroke, dabs: [0, 0, 0] } });
  d.do(addDabs, { id, layer, stroke: made, dabs: [1, 0, 0, 2, 0, 0] });
  const painted = () => d.scene.masks[0].layers[0] as LayerOf<'painted'>;
  expect(painted()).toMatchObject({
    surface: 's',
    strokes: [{ id: made, dabs: [0, 0, 0, 1, 0, 0, 2, 0, 0] }],
  });
  expect(d.names.slice(1)).toEqual(['paint on “Path”', 'paint on “Path”']);
  d.do(clearPaint, { id, layer });
  expect(painted().strokes).toEqual([]);
});
