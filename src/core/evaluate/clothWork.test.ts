import { Cloth } from '../mesh/cloth/cloth';
import { deformerSchema } from '../mesh/deform/schema';
import { shapeSchema } from '../mesh/make/schema';
import type { Surface } from '../mesh/surfaceSchema';
import { emptyScene, newSurface } from '../scene/defaults';
import { ASSETS } from '../testing/scene';
import { Evaluator } from './scene';

/** What was simulated of cloth stays where nothing moves it otherwise, and is what a fresh start gives all the same. */

const cloth = (values: object = {}) =>
  deformerSchema.parse({
    id: 'c',
    kind: 'cloth',
    holds: [[-1, 0, -1]],
    wind: 4,
    seconds: 3,
    collider: 'ball',
    ...values,
  });
const made = (shape: object) => ({
  source: 'made' as const,
  shape: shapeSchema.parse(shape),
  color: '#D8CDB6',
});
const sail: Surface = {
  ...newSurface('sail', 'Sail', made({ shape: 'plane', width: 2, depth: 2, columns: 8, rows: 8 })),
  position: [0, 2, 0],
  deformers: [cloth()],
};
const ball: Surface = {
  ...newSurface('ball', 'Ball', made({ shape: 'sphere', radius: 0.9, columns: 16, rows: 8 })),
  position: [0, 1.05, 0.2],
};
const scene = (one: Surface, other = ball) => ({ ...emptyScene('Cloth'), surfaces: [one, other] });
const bump = deformerSchema.parse({ id: 'b', kind: 'bend', along: 'x', towards: 'y', angleDeg: 20 });

test.each<[string, Surface, Surface]>([
  ['its name and whether it is shown', { ...sail, name: 'Else', visible: false }, ball],
  ['what deforms it afterwards', { ...sail, deformers: [cloth(), bump] }, ball],
  ['how long it is simulated', { ...sail, deformers: [cloth({ seconds: 5 })] }, ball],
  ['how what it falls on is shaded', sail, { ...ball, normals: 'flat', name: 'Else' }],
])('%s: nothing is simulated again', (_, changed, other) => {
  const frames = jest.spyOn(Cloth.prototype as unknown as { advance(): void }, 'advance');
  const evaluator = new Evaluator(ASSETS);
  evaluator.evaluate(scene(sail), undefined, 2);
  const before = frames.mock.calls.length;
  expect(before).toBeGreaterThan(50);
  const kept = evaluator.evaluate(scene(changed, other), undefined, 2).surfaces[0];
  expect(frames.mock.calls.length).toBe(before);
  frames.mockRestore();
  const fresh = new Evaluator(ASSETS).evaluate(scene(changed, other), undefined, 2).surfaces[0];
  expect(kept.mesh!.positions).toEqual(fresh.mesh!.positions);
});

test.each<[string, Surface, Surface]>([
  ['its own numbers', { ...sail, deformers: [cloth({ wind: 5 })] }, ball],
  ['what holds it', { ...sail, deformers: [cloth({ holds: [[1, 0, 1]] })] }, ball],
  ['where it hangs', { ...sail, position: [0, 2.1, 0] }, ball],
  ['what deforms it before', { ...sail, deformers: [bump, cloth()] }, ball],
  ['where what it falls on lies', sail, { ...ball, position: [0.1, 1.05, 0.2] }],
])('%s: it begins anew', (_, changed, other) => {
  const evaluator = new Evaluator(ASSETS);
  const old = evaluator.evaluate(scene(sail), undefined, 2).surfaces[0].mesh!.positions;
  const now = evaluator.evaluate(scene(changed, other), undefined, 2).surfaces[0].mesh!.positions;
  const fresh = new Evaluator(ASSETS).evaluate(scene(changed, other), undefined, 2).surfaces[0];
  expect(now).toEqual(fresh.mesh!.positions);
  expect(now).not.toEqual(old);
});
