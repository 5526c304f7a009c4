import { newArrangement } from '@/core/arrange/registry';
import { emptyScene, newPath, newProp } from '@/core/scene/defaults';
import { measureSchema } from '@/core/scene/measureSchema';
import { points } from '@/core/testing/paths';
import { applyCommand } from '../command';
import { renameSnap } from './snapNames';

/** All that goes by the name of a snap point goes by its new one; what means another prop's does not. */

const prop = (id: string, ...names: string[]) => ({
  ...newProp(id, id, { source: 'built', name: 'box' }),
  snapPoints: names.map((name) => ({ name, position: [0, 1, 0] as [number, number, number] })),
});
const tie = (arrangement: string) => ({ to: 'slot' as const, arrangement, slot: '1', snap: 'eye' });

test('ends of lines and members, points, pegs and measures follow; undo gives the old name back', () => {
  const scene = emptyScene('Names');
  scene.props.push(prop('post', 'eye', 'arm'), prop('other', 'eye'));
  const of = (id: string, own: string) =>
    newArrangement(
      'pegs',
      { id, name: id, thread: 'woad' },
      { pegs: [[{ id: `peg-${id}1`, prop: own, position: [0, 0, 0] }]] },
    );
  const base = (id: string) => ({ id, name: id, thread: 'moss' as const });
  scene.arrangements.push(
    of('posts', 'post'),
    of('others', 'other'),
    newArrangement('strands', base('lines'), {
      from: { on: 'posts', snap: 'eye' },
      to: { on: 'others', snap: 'eye' },
    }),
    newArrangement('spans', base('rails'), { on: 'posts', from: { snap: 'eye' }, to: { snap: 'arm' } }),
    newArrangement('pegs', base('jars'), {
      pegs: [[{ id: 'peg9', prop: 'other', position: [0, 0, 0], sits: { on: tie('posts') } }]],
    }),
  );
  const line = newPath(
    'line',
    'Line',
    points('corner', [
      [0, 0, 0],
      [1, 0, 0],
    ]),
  );
  if (line.source.kind === 'points')
    line.source.points.forEach((p, i) => (p.tie = tie(i ? 'others' : 'posts')));
  scene.paths.push(line);
  const places = [{ position: [0, 0, 0], tie: tie('posts') }, { position: [1, 0, 0] }];
  scene.measures.push(measureSchema.parse({ id: 'm1', name: 'M', places }));

  const { scene: after, entry } = applyCommand(scene, renameSnap, { prop: 'post', from: 'eye', to: 'ring' });
  expect(entry!.name).toBe('post: eye is called ring');
  const text = JSON.stringify(after);
  expect(after.props.map((p) => p.snapPoints.map((s) => s.name).join())).toEqual(['ring,arm', 'eye']);
  expect(after.arrangements[2]).toMatchObject({ from: { snap: 'ring' }, to: { snap: 'eye' } });
  expect(after.arrangements[3]).toMatchObject({ from: { snap: 'ring' }, to: { snap: 'arm' } });
  expect(text.match(/"snap":"ring"/g)).toHaveLength(5);
  expect(text.match(/"snap":"eye"/g)).toHaveLength(2);

  // Where both props stand in one arrangement the name goes on meaning the other's.
  const both = structuredClone(scene);
  both.arrangements[0] = newArrangement('pegs', base('posts'), {
    pegs: [['post', 'other'].map((own, i) => ({ id: `peg${i}`, prop: own, position: [0, 0, 0] }))],
  });
  const mixed = applyCommand(both, renameSnap, { prop: 'post', from: 'eye', to: 'ring' }).scene;
  expect(mixed.arrangements[2]).toMatchObject({ from: { snap: 'eye' } });
});
