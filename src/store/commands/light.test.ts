import { LIGHTS } from '@/core/light/presets';
import { emptyScene } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { sceneSchema } from '@/core/scene/schema';
import { applyCommand } from '../command';
import { setExposure, setFinish, setSky, setSun, setSurround, startLight } from './light';
import { setMoment } from './timed';

const start = emptyScene('Lit');

test('a light to begin with, its numbers, and back; named in words', () => {
  const evening = applyCommand(start, startLight, { name: 'evening' });
  expect(evening.scene.light).toEqual(LIGHTS.evening);
  expect(evening.scene.light).not.toBe(LIGHTS.evening);
  const sun = applyCommand(evening.scene, setSun, { heightDeg: 20 });
  expect(sun.scene.light!.sun).toEqual({ ...LIGHTS.evening.sun, heightDeg: 20 });
  expect(sun.entry!.name).toBe('sun: height 12 → 20');
  const sky = applyCommand(sun.scene, setSky, { brightness: 0.5 });
  expect(sky.entry!.name).toBe('sky: brightness 70% → 50%');
  const bright = applyCommand(sky.scene, setExposure, { exposure: 2 });
  expect(bright.entry!.name).toBe('exposure 1 → 2');
  expect(sceneSchema.safeParse(bright.scene).success).toBe(true);
  expect(applyCommand(bright.scene, startLight, { name: null }).scene.light).toBeNull();
  // Without a light of its own it begins from a day.
  expect(applyCommand(start, setSun, { warmth: 3000 }).scene.light).toEqual({
    ...LIGHTS.day,
    sun: { ...LIGHTS.day.sun, warmth: 3000 },
  });
  expect(LIGHTS.day.sun.warmth).toBe(5500);
});

test('what is around stays when another light is begun with, and goes with all of it', () => {
  const panels = applyCommand(start, setSurround, { by: 'panels', turnDeg: 30 });
  expect(panels.entry!.name).toBe('around: reflects sky → panels and more');
  const halo = applyCommand(panels.scene, setFinish, { halo: 0.5, metered: true });
  expect(halo.entry!.name).toBe('halo 0 → 0.5 and more');
  const night = applyCommand(halo.scene, startLight, { name: 'night' }).scene.light!;
  expect(night.sun).toEqual(LIGHTS.night.sun);
  expect([night.surround.by, night.halo, night.metered]).toEqual(['panels', 0.5, true]);
  expect(applyCommand(halo.scene, startLight, { name: null }).scene.light).toBeNull();
});

test('what changes with time goes with the light that it belonged to; a number out of bounds is held', () => {
  let scene: Scene = applyCommand(start, startLight, { name: 'day' }).scene;
  scene = applyCommand(scene, setMoment, {
    node: 'light',
    field: ['sun', 'strength'],
    at: 2,
    value: 0.5,
  }).scene;
  expect(scene.timed).toHaveLength(1);
  expect(applyCommand(scene, startLight, { name: 'night' }).scene.timed).toEqual([]);
  expect(applyCommand(scene, setSun, { heightDeg: 1e9 }).scene.light!.sun.heightDeg).toBe(90);
});
