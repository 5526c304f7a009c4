import { emptyScene, newEntry, newPath, newProp, newRun } from '@/core/scene/defaults';
import { sceneSchema } from '@/core/scene/schema';
import { points } from '@/core/testing/paths';
import { applyCommand } from '../command';
import { duplicateTo } from './arrangements';
import { linkField, unlinkField } from './links';
import { removeNodes } from './nodes';

/** Numbers that follow: taken, given back, copied to another path, and kept when what they follow goes. */

function sceneOf() {
  const scene = { ...emptyScene('Links'), nextId: 50 };
  scene.props.push(newProp('box', 'Box', { source: 'built', name: 'box' }));
  for (const [id, x] of [
    ['line', 4],
    ['edge', 9],
  ] as const)
    scene.paths.push(
      newPath(
        id,
        id,
        points('corner', [
          [0, 0, 0],
          [x, 0, 0],
        ]),
      ),
    );
  scene.arrangements.push(
    newRun('run', 'Run', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'box' })]),
  );
  return scene;
}
const at = { node: 'run', field: ['spacing', 'pitch'] };

test('a copy on another path follows too; removed with its source it keeps the last number; undone by names', () => {
  const linked = applyCommand(sceneOf(), linkField, { ...at, expression: '[line.length] / 8', value: null });
  expect(linked.entry!.name).toBe('= length of line / 8');
  const copied = applyCommand(linked.scene, duplicateTo, { id: 'run', to: { path: 'edge' } });
  expect(copied.scene.links.map((l) => [l.node, l.expression])).toEqual([
    ['run', '[line.length] / 8'],
    [copied.made, '[line.length] / 8'],
  ]);
  expect(new Set(copied.scene.links.map((l) => l.id)).size).toBe(2);
  sceneSchema.parse(copied.scene);

  const [link] = linked.scene.links;
  const numbers = [{ link: link.id, value: 0.5 }];
  const gone = applyCommand(linked.scene, removeNodes, { ids: ['line'], numbers }).scene;
  expect(gone.arrangements[0]).toMatchObject({ spacing: { pitch: 0.5 } });
  expect(gone.links).toHaveLength(1);
  expect(applyCommand(linked.scene, removeNodes, { ids: ['run'] }).scene.links).toEqual([]);

  const own = applyCommand(linked.scene, unlinkField, { ...at, value: 2 });
  expect(own.scene.links).toEqual([]);
  expect(own.scene.arrangements[0]).toMatchObject({ spacing: { pitch: 2 } });
  expect(own.entry!.name).toBe('no longer = length of line / 8');
});
