import { readFileSync } from 'node:fs';
import { EngineService, type AnimationRange } from './service';

/** The size that is told of an animation, against the file that is made then. */

const RANGE: AnimationRange = { from: 0, to: 8 / 6, rate: 6 };

test.each(['sailcloth', 'ferry-loop', 'beacon-tiles'])('%s', async (name) => {
  const service = new EngineService();
  const { scene } = await service.open(readFileSync(`examples/${name}.clothesline`), name);
  for (const surfaces of [true, false]) {
    const told = service.animationSize(scene, RANGE, undefined, surfaces);
    const done: number[] = [];
    const made = await service.sendOut(
      scene,
      { kind: 'glb', options: { props: 'nodes', surfaces }, animation: RANGE },
      0,
      (share) => done.push(share),
    );
    expect(told / made.length).toBeGreaterThan(0.8);
    expect(told / made.length).toBeLessThan(1.25);
    // Progress rises from nothing to where only the file is left to write.
    expect(done[0]).toBe(0);
    expect(done.every((v, i) => i === 0 || v >= done[i - 1])).toBe(true);
    expect(done.at(-1)).toBeCloseTo(0.9);
  }
});

test('a stretch without frames has no size', () => {
  const service = new EngineService();
  return service.open(readFileSync('examples/ferry-loop.clothesline'), 'loop').then(({ scene }) => {
    expect(service.animationSize(scene, { from: 2, to: 1, rate: 6 })).toBe(0);
    expect(service.animationSize(scene, { from: 0, to: 1, rate: 0 })).toBe(0);
  });
});
