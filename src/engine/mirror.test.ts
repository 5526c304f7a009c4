import { exampleScene } from '@/core/testing/scene';
import { LOST, Mirror } from './mirror';

const rename = (value: string) => [{ op: 'replace' as const, path: ['name'], value }];

test('patches bring the scene along; what they do not name stays the same object', () => {
  const mirror = new Mirror();
  const scene = exampleScene();
  mirror.whole(scene, 3);
  mirror.change(rename('B'), 3, 4);
  expect(mirror.scene(4).name).toBe('B');
  expect(mirror.scene(4).arrangements[0]).toBe(scene.arrangements[0]);
});

test('a change that is only shown is gone with the next real one', () => {
  const mirror = new Mirror();
  mirror.whole(exampleScene(), 0);
  mirror.preview(rename('Seen'));
  expect(mirror.scene(0).name).toBe('Seen');
  mirror.change([{ op: 'replace', path: ['units'], value: 'cm' }], 0, 1);
  expect([mirror.scene(1).name, mirror.scene(1).units]).toEqual(['Example', 'cm']);
  mirror.preview(rename('Seen'));
  mirror.preview(null);
  expect(mirror.scene(1).name).toBe('Example');
});

test('whoever has lost its place says so until it gets the whole', () => {
  const mirror = new Mirror();
  expect(() => mirror.scene(0)).toThrow(LOST);
  mirror.whole(exampleScene(), 0);
  mirror.change(rename('C'), 1, 2);
  expect(() => mirror.scene(2)).toThrow(LOST);
  mirror.change(rename('D'), 2, 3);
  expect(() => mirror.scene(3)).toThrow(LOST);
  mirror.whole(exampleScene(), 3);
  expect(() => mirror.change([{ op: 'replace', path: ['paths', 99, 'name'], value: 'x' }], 3, 4)).toThrow();
  expect(() => mirror.scene(4)).toThrow(LOST);
});
