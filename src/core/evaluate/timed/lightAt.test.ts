import { lampSchema } from '../../light/lampSchema';
import { LIGHTS } from '../../light/presets';
import { emptyScene } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { lightAt } from './lightAt';

const lit = (more: Partial<Scene> = {}): Scene => ({ ...emptyScene('Lit'), light: LIGHTS.day, ...more });

test('a scene without a light of its own has none; one that does not change is what it is', () => {
  expect(lightAt(emptyScene('Dark'), 3, []).light).toBeNull();
  const scene = lit();
  expect(lightAt(scene, 3, []).light).toBe(scene.light);
});

test('numbers at moments, and those that follow what other things measure, held to their bounds', () => {
  const moments = [
    { at: 0, value: 1, way: 'straight' as const },
    { at: 4, value: 0, way: 'straight' as const },
  ];
  const scene = lit({
    timed: [
      { id: 't1', node: 'light', field: ['sun', 'strength'], moments },
      { id: 't2', node: 'elsewhere', field: ['sun', 'warmth'], moments },
    ],
    links: [
      { id: 'l1', node: 'light', field: ['sun', 'heightDeg'], expression: '[a.length]' },
      { id: 'l2', node: 'light', field: ['exposure'], expression: '[gone.length]' },
    ],
  });
  const results = [
    { id: 'l1', value: 500 },
    { id: 'l2', value: null, problem: 'broken' as const },
  ];
  const at = (time: number) => lightAt(scene, time, results).light!;
  expect([-1, 0, 1, 3, 4, 9].map((t) => at(t).sun.strength)).toEqual([1, 1, 0.75, 0.25, 0, 0]);
  expect(at(1).sun.heightDeg).toBe(90);
  expect(at(1).exposure).toBe(1);
  expect(at(1).sun.warmth).toBe(LIGHTS.day.sun.warmth);
});

test('lights put in by hand change with time, in a scene without a light of its own too', () => {
  const lamp = lampSchema.parse({ id: 'lamp1', name: 'Main', at: [0, 2, 0] });
  const moments = [
    { at: 0, value: 0, way: 'straight' as const },
    { at: 2, value: 4, way: 'straight' as const },
  ];
  const scene = lit({
    light: null,
    lamps: [lamp, { ...lamp, id: 'lamp2' }],
    timed: [
      { id: 't1', node: 'lamp1', field: ['strength'], moments },
      { id: 't2', node: 'light', field: ['exposure'], moments },
    ],
    links: [{ id: 'l1', node: 'lamp2', field: ['size'], expression: '[a.length]' }],
  });
  const { light, lamps } = lightAt(scene, 0.5, [{ id: 'l1', value: 3 }]);
  expect(light).toBeNull();
  expect(lamps.map((l) => [l.strength, l.size])).toEqual([
    [1, 0.2],
    [1, 3],
  ]);
});
