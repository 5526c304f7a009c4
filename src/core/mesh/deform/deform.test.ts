import fc from 'fast-check';
import { deform, deformersMove } from './deform';
import { deformerSchema, type Deformer } from './schema';

const one = (settings: object): Deformer => deformerSchema.parse({ id: 'd', ...settings });
/** A grid of places in a bar of 1 × 4 × 1 m that stands on the ground. */
const bar = () =>
  Float64Array.from(
    [0, 1, 2, 3, 4]
      .flatMap((y) => [
        [-0.5, y, -0.5],
        [0.5, y, -0.5],
        [0, y, 0],
        [0.5, y, 0.5],
      ])
      .flat(),
  );
const bent = (d: Deformer, time = 0) => {
  const p = bar();
  const normals = Float64Array.from(p, (_, i) => (i % 3 === 1 ? 1 : 0));
  deform(p, normals, [d], time);
  return Array.from({ length: p.length / 3 }, (_, i) => [...p.subarray(i * 3, i * 3 + 3)]);
};

test('a bend lays its axis on a circle: lengths along it stay, the end turns by the angle', () => {
  const axis = bent(one({ kind: 'bend', angleDeg: 90 })).filter((_, i) => i % 4 === 2);
  const r = 4 / (Math.PI / 2);
  axis.forEach(([x, y, z], i) => {
    const phi = (i / 4) * (Math.PI / 2);
    expect([x, y, z]).toEqual([0, r * Math.sin(phi), r - r * Math.cos(phi)].map((v) => expect.closeTo(v, 9)));
  });
  expect(bent(one({ kind: 'bend', angleDeg: 0 }))).toEqual(bent(one({ kind: 'bend', on: false })));
});

test('a twist turns each height by its share, a taper narrows towards the end', () => {
  bent(one({ kind: 'twist', angleDeg: 80 })).forEach(([x, y, z], i) => {
    const [x0, , z0] = [...bar().subarray(i * 3, i * 3 + 3)];
    const phi = (y / 4) * ((80 * Math.PI) / 180);
    // About Y the second axis is Z and the third X.
    expect(z).toBeCloseTo(z0 * Math.cos(phi) - x0 * Math.sin(phi), 9);
    expect(x).toBeCloseTo(z0 * Math.sin(phi) + x0 * Math.cos(phi), 9);
  });
  for (const [i, [x, y, z]] of bent(one({ kind: 'taper', factor: 0.2 })).entries()) {
    const k = 1 - 0.8 * (y / 4);
    expect([x, z]).toEqual([bar()[i * 3] * k, bar()[i * 3 + 2] * k].map((v) => expect.closeTo(v, 12)));
  }
});

test('a wave runs: after a whole length it is where it was, pinned ends stay still', () => {
  const w = one({ kind: 'wave', push: 'z', directionDeg: 90, length: 2, speed: 0.5, height: 0.3 });
  const at = (t: number) => bent(w, t).map((p) => p[2]);
  at(4).forEach((z, i) => expect(z).toBeCloseTo(at(0)[i], 9));
  expect(Math.max(...at(1).map((z, i) => Math.abs(z - at(0)[i])))).toBeGreaterThan(0.2);
  const pinned = { ...w, pinned: 'both' } as Deformer;
  const rest = bent({ ...w, on: false } as Deformer);
  for (const t of [0, 0.3, 1.7])
    bent(pinned, t).forEach((p, i) => {
      // It runs up the bar.
      if (rest[i][1] === 0 || rest[i][1] === 4) expect(p[2]).toBeCloseTo(rest[i][2], 9);
    });
});

test('a bulge moves its middle whole and nothing beyond its radius', () => {
  const made = bent(one({ kind: 'bulge', at: [0, 2, 0], by: [0, 0.1, 0.4], radius: 1.2 }));
  const rest = bent(one({ kind: 'bulge', on: false }));
  made.forEach((p, i) => {
    const r = Math.hypot(rest[i][0], rest[i][1] - 2, rest[i][2]);
    if (r === 0) expect(p).toEqual([0, expect.closeTo(2.1, 12), expect.closeTo(0.4, 12)]);
    else if (r >= 1.2) expect(p).toEqual(rest[i]);
    else expect(p).not.toEqual(rest[i]);
  });
});

test('what sways comes back after its period, and only what changes with time says that it moves', () => {
  const sway = one({ kind: 'bend', angleDeg: 30, sway: 0.5, period: 3 });
  expect(bent(sway, 3)).toEqual(bent(sway, 0).map((p) => p.map((v) => expect.closeTo(v, 9))));
  expect(bent(sway, 0.75)).not.toEqual(bent(sway, 0));
  expect(deformersMove([one({ kind: 'bend' }), one({ kind: 'noise' })])).toBe(false);
  expect(deformersMove([sway])).toBe(true);
  expect(deformersMove([{ ...sway, on: false }])).toBe(false);
});

test('no deformer makes a number that is none', () => {
  const number = fc.double({ min: -1e4, max: 1e4, noNaN: true });
  const settings = fc.record({
    kind: fc.constantFrom('bend', 'twist', 'taper', 'wave', 'noise', 'bulge'),
    along: fc.constantFrom('x', 'y', 'z'),
    towards: fc.constantFrom('x', 'y', 'z'),
    angleDeg: number,
    factor: fc.double({ min: 0, max: 100, noNaN: true }),
    height: number,
    length: fc.double({ min: 0.001, max: 1e5, noNaN: true }),
    radius: fc.double({ min: 0.001, max: 1e5, noNaN: true }),
    sway: number,
    speed: number,
    at: fc.tuple(number, number, number),
  });
  fc.assert(
    fc.property(settings, number, (s, time) => {
      for (const p of bent(one(s), time)) expect(p.every(Number.isFinite)).toBe(true);
    }),
  );
});
