import { circlePoints, compiled } from '../../testing/paths';
import { triMeshOf } from '../../testing/surfaces';
import { looseSpots } from '../scatter/spots';
import type { TriMesh } from '../triMesh';
import { maskField } from './field';
import type { MaskSources } from './measure';
import { maskNeeds } from './needs';
import { placesNear, placesOn, somePlaces, verticesOf, type MaskGround, type MaskPlaces } from './places';
import { maskSchema, type Mask } from './schema';

const plane = triMeshOf({ shape: 'plane', width: 10, depth: 10, columns: 20, rows: 20 });
const ball = triMeshOf({ shape: 'sphere', radius: 2, columns: 96, rows: 64 });
const round = compiled(circlePoints(3, 16), true);

const groundOf = (mesh: TriMesh, id = 'g'): MaskGround => ({ id, rest: mesh, read: mesh });

/** Places all over a mesh, as likely anywhere. */
function over(mesh: TriMesh, count: number): MaskPlaces {
  const s = looseSpots(mesh, 3, count);
  return placesOn([groundOf(mesh)], new Int32Array(s.count), s.face, s.u, s.v);
}

const SOURCES: MaskSources = {
  path: (id) => (id === 'round' ? [round] : undefined),
  thing: (id) => ({ plane, ball, roof: lifted(4, 2) })[id],
  picture: () => undefined,
  keyOf: (id) => id,
};

/** A square of a width at a height, level. */
function lifted(width: number, height: number): TriMesh {
  return triMeshOf({ shape: 'plane', width, depth: width, columns: 2, rows: 2 }, ([x, y, z]) => [
    x,
    y + height,
    z,
  ]);
}

const mask = (layers: object[], more: object = {}): Mask =>
  maskSchema.parse({ id: 'm', name: 'Mask', ...more, layers: layers.map((l, i) => ({ id: `l${i}`, ...l })) });

const valuesOf = (m: Mask, places: MaskPlaces, sources = SOURCES) => maskField(m, 'key', sources).at(places);
const mean = (values: Float64Array) => values.reduce((s, v) => s + v, 0) / values.length;
const at = (p: MaskPlaces, i: number) => [...p.position.subarray(i * 3, i * 3 + 3)];

/** The largest difference from what a place should have. */
const worst = (values: Float64Array, p: MaskPlaces, wanted: (x: number, y: number, z: number) => number) =>
  values.reduce((most, v, i) => {
    const [x, y, z] = at(p, i);
    return Math.max(most, Math.abs(v - wanted(x, y, z)) || 0);
  }, 0);

test('slope: of a ball the caps flatter than an angle are 1 − cos of it, above and below', () => {
  const p = over(ball, 40_000);
  const v = valuesOf(mask([{ kind: 'slope', from: 40, to: 40, over: true }]), p);
  expect(mean(v)).toBeCloseTo((1 - Math.cos((40 * Math.PI) / 180)) / 2, 2);
  expect(v.every((x, i) => x === 0 || at(p, i)[1] > 0)).toBe(true);
});

test('height, facing, u and v run evenly from their beginning to their end', () => {
  const p = over(ball, 3000);
  const held = (v: number) => Math.min(1, Math.max(0, v));
  const height = valuesOf(mask([{ kind: 'height', from: -1, to: 1 }]), p);
  expect(worst(height, p, (_, y) => held((y + 1) / 2))).toBeLessThan(1e-12);
  // East of a ball: the angle between a place and the axis, but for the flat faces between its vertices.
  const east = valuesOf(mask([{ kind: 'facing', compassDeg: 90, from: 90, to: 0 }]), p);
  expect(
    worst(east, p, (x, y, z) => held(1 - Math.acos(x / Math.hypot(x, y, z)) / (Math.PI / 2))),
  ).toBeLessThan(6e-3);
  const flat = over(plane, 3000);
  const u = valuesOf(mask([{ kind: 'u' }]), flat);
  expect(worst(u, flat, (x) => (x + 5) / 10)).toBeLessThan(1e-6);
});

test('curvature: 1 / r of a ball, half of that of a tube, hollow from the other side', () => {
  const p = verticesOf(groundOf(ball));
  const curved = valuesOf(mask([{ kind: 'curvature', from: 0, to: 1 }]), p);
  // Where many thin faces meet at a pole their normals are a little off.
  expect(worst(curved, p, (_, y) => (Math.abs(y) < 1.95 ? 0.5 : NaN))).toBeLessThan(2e-3);
  const tube = triMeshOf({ shape: 'plane', width: 6, depth: 10, columns: 60, rows: 20 }, ([x, , z]) => [
    2 * Math.sin(x / 2),
    2 * Math.cos(x / 2) - 2,
    z,
  ]);
  const inner = verticesOf(groundOf(tube));
  const own = valuesOf(mask([{ kind: 'curvature', from: 0, to: 1 }]), inner).filter(
    (_, i) => Math.abs(at(inner, i)[2]) < 4 && Math.abs(at(inner, i)[0]) < 1.8,
  );
  expect(Math.abs(mean(own) - 0.25)).toBeLessThan(0.05);
  const bowl = valuesOf(mask([{ kind: 'curvature', from: 0, to: -1 }]), inner);
  expect(Math.max(...bowl)).toBeLessThan(1e-3);
});

test('noise covers the share that is asked for, whatever the seed; another seed elsewhere', () => {
  const hills = triMeshOf({
    shape: 'hills',
    width: 120,
    depth: 120,
    columns: 60,
    rows: 60,
    height: 6,
    span: 20,
  });
  const p = over(hills, 20_000);
  const shares = [
    [1, 0.3],
    [7, 0.3],
    [7, 0.8],
  ].map(([seed, share]) => {
    const v = valuesOf(mask([{ kind: 'noise', seed, span: 1.5, from: share, to: share, over: true }]), p);
    return Math.abs(mean(v) - share);
  });
  expect(Math.max(...shares)).toBeLessThan(0.03);
  const [a, b] = [1, 2].map((seed) => valuesOf(mask([{ kind: 'noise', seed, from: 0.5, to: 0.5 }]), p));
  expect(mean(a.map((v, i) => (v === b[i] ? 1 : 0)))).toBeLessThan(0.65);
});

test('a picture by its coordinates and from above: a ramp is read back as the ramp', () => {
  const width = 64;
  const values = Float32Array.from({ length: width * 4 }, (_, i) => ((i % width) + 0.5) / width);
  const colours = Uint8Array.from({ length: width * 16 }, (_, i) =>
    i % 4 === 2 ? 51 : 255 * values[i >> 2],
  );
  const sources = { ...SOURCES, picture: () => ({ width, height: 4, values, colours }) };
  const picture = { hash: 'a'.repeat(64), fileName: 'ramp.png' };
  const p = over(plane, 2000);
  const byUv = valuesOf(mask([{ kind: 'picture', picture }]), p, sources);
  const inner = (x: number) => Math.abs(x) < 4.9;
  const rows = Uint32Array.from({ length: 2000 }, (_, i) => i).filter((i) => inner(at(p, i)[0]));
  const some = somePlaces(p, rows);
  expect(
    worst(
      Float64Array.from(rows, (i) => byUv[i]),
      some,
      (x) => (x + 5) / 10,
    ),
  ).toBeLessThan(1e-6);
  const frame = { x: 1, z: 0, width: 4, depth: 20 };
  const above = valuesOf(mask([{ kind: 'picture', picture, by: 'above', frame }]), p, sources);
  const wanted = (x: number) =>
    x < -1 || x > 3 ? 0 : Math.min(1 - 0.5 / width, Math.max(0.5 / width, (x + 1) / 4));
  expect(worst(above, p, wanted)).toBeLessThan(1e-6);
  const turned = valuesOf(
    mask([{ kind: 'picture', picture, by: 'above', frame: { width: 10, depth: 10, turnDeg: 90 } }]),
    p,
    sources,
  );
  expect(Math.abs(mean(turned) - 0.5)).toBeLessThan(0.02);
  expect(
    worst(turned, p, (_, __, z) => Math.min(1 - 0.5 / width, Math.max(0.5 / width, 0.5 - z / 10))),
  ).toBeLessThan(1e-6);
  const blue = valuesOf(mask([{ kind: 'picture', picture, channel: 'blue' }]), p, sources);
  expect(new Set(blue)).toEqual(new Set([0.2]));
});

test('paint: a hard dab covers its disc, a stroke its capsule; taken away where it is; once however often it comes by', () => {
  const p = over(plane, 60_000);
  const stroke = (more: object) => ({
    id: 's',
    does: 'add',
    radius: 1,
    softness: 0,
    dabs: [0, 0, 0],
    ...more,
  });
  const paint = (...strokes: object[]) =>
    valuesOf(mask([{ kind: 'painted', surface: 'g', strokes: strokes.map(stroke) }]), p);
  const share = (v: Float64Array) => mean(v) * 100;
  expect(Math.abs(share(paint({})) - Math.PI)).toBeLessThan(0.15);
  const capsule = { dabs: [-2, 0, 0, 2, 0, 0] };
  expect(Math.abs(share(paint(capsule)) - (Math.PI + 8))).toBeLessThan(0.3);
  expect(Math.abs(share(paint(capsule, { does: 'take' })) - 8)).toBeLessThan(0.3);
  const half = { strength: 0.5, dabs: [-2, 0, 0, 2, 0, 0, -2, 0, 0, 2, 0, 0] };
  expect(new Set(paint(half))).toEqual(new Set([0, 0.5]));
  const soft = paint({ softness: 1 });
  // In the middle whole, at half the radius a half: 3w² − 2w³.
  expect(
    worst(soft, p, (x, _, z) => {
      const w = Math.max(0, 1 - Math.hypot(x, z));
      return w * w * (3 - 2 * w);
    }),
  ).toBeLessThan(1e-12);
  // Evening out moves paint over the edge, and changes nothing farther off.
  const even = paint(capsule, { does: 'smooth', dabs: [2.9, 0, 0], radius: 0.8 });
  const sharp = paint(capsule);
  expect(even.some((v) => v > 0.05 && v < 0.95)).toBe(true);
  expect(even.every((v, i) => Math.hypot(at(p, i)[0] - 2.9, at(p, i)[2]) < 0.8 || v === sharp[i])).toBe(true);
  expect(new Set(valuesOf(mask([{ kind: 'painted', surface: 'other', strokes: [stroke({})] }]), p))).toEqual(
    new Set([0]),
  );
});

test('paint goes on from stroke to stroke as if it were laid all at once, and back', () => {
  const p = over(plane, 4000);
  const strokes = Array.from({ length: 5 }, (_, i) => ({
    id: `s${i}`,
    does: (['add', 'take', 'smooth', 'add', 'take'] as const)[i],
    radius: 1.5,
    softness: 0.5,
    strength: 0.8,
    dabs: [i - 2, 0, 0, i - 1, 0, 1],
  }));
  const whole = mask([{ kind: 'painted', surface: 'g', strokes }]);
  const upTo = (n: number, from = p) => {
    const layer = {
      ...whole.layers[0],
      strokes: (whole.layers[0] as { strokes: object[] }).strokes.slice(0, n),
    };
    return [...valuesOf({ ...whole, layers: [layer] } as Mask, from)];
  };
  const fresh = (n: number) => upTo(n, { ...p });
  for (const n of [1, 2, 3, 4, 5, 4, 3, 5, 1]) expect(upTo(n)).toEqual(fresh(n));
});

test.each([
  ['add', 'product'],
  ['take', 'largest'],
  ['smooth', 'difference'],
] as const)(
  'a stroke that is drawn on dab by dab (%s), with others beside it (%s), is what it is laid at once',
  (does, combine) => {
    const p = over(plane, 4000);
    // Back and forth over what it has painted, and once over again from half of it.
    const way = Array.from({ length: 14 }, (_, i) => [3 * Math.sin(i * 1.3), 0, 2 * Math.cos(i * 0.7)]);
    const layer = (dabs: number[]) => {
      const first = { id: 'a', does: 'add', radius: 2, softness: 1, strength: 0.7, dabs: [0, 0, 0, 1, 0, 1] };
      const drawn = { id: 'b', does, radius: 1.2, softness: 0.5, strength: 0.8, dabs };
      return mask(
        [
          { kind: 'u' },
          { kind: 'painted', surface: 'g', base: 0.3, strokes: [first, drawn] },
          { kind: 'v', to: 2 },
        ],
        { combine },
      );
    };
    const begun = layer([0, 0, 0]);
    const upTo = (list: number[][], places = p) => {
      const [, painted] = layer(list.flat()).layers;
      return valuesOf(
        { ...begun, layers: begun.layers.map((l, i) => (i === 1 ? { ...painted, id: l.id } : l)) },
        places,
      );
    };
    for (const list of [
      ...way.map((_, i) => way.slice(0, i + 1)),
      way.slice(0, 7),
      [...way.slice(0, 7), [1, 0, 1]],
    ])
      expect([...upTo(list)]).toEqual([...upTo(list, { ...p })]);
  },
);

test('covered below a roof and nowhere else; outlines with a margin; above the water', () => {
  const p = over(plane, 20_000);
  const under = (x: number, z: number) => Math.max(Math.abs(x), Math.abs(z)) < 2;
  const open = valuesOf(mask([{ kind: 'covered', surfaces: ['roof'] }]), p);
  expect(worst(open, p, (x, _, z) => (under(x, z) ? 0 : 1))).toBe(0);
  const low = valuesOf(mask([{ kind: 'covered', surfaces: ['roof'], from: 1.9, to: 1.9 }]), p);
  expect(new Set(low)).toEqual(new Set([1]));
  // It lies on itself, and that does not cover it.
  expect(new Set(valuesOf(mask([{ kind: 'covered', surfaces: ['plane'] }]), p))).toEqual(new Set([1]));
  const away = valuesOf(mask([{ kind: 'outline', surfaces: ['roof'], from: 0, to: 2 }]), p);
  const out = (v: number) => Math.max(0, Math.abs(v) - 2);
  expect(worst(away, p, (x, _, z) => Math.min(1, Math.hypot(out(x), out(z)) / 2))).toBeLessThan(1e-9);
  // The outline of a ball is a disc, but for its flat faces.
  const disc = valuesOf(mask([{ kind: 'outline', surfaces: ['ball'], from: 0, to: 1 }]), p);
  expect(worst(disc, p, (x, _, z) => Math.min(1, Math.max(0, Math.hypot(x, z) - 2)))).toBeLessThan(3e-3);
  const wet = over(ball, 2000);
  const dry = valuesOf(mask([{ kind: 'water', surface: 'plane', from: 0, to: 1 }]), wet);
  expect(worst(dry, wet, (_, y) => Math.min(1, Math.max(0, y)))).toBeLessThan(1e-9);
  const level = valuesOf(mask([{ kind: 'water', level: 1, from: -1, to: 0 }]), wet);
  expect(worst(level, wet, (_, y) => Math.min(1, Math.max(0, y)))).toBeLessThan(1e-9);
});

test('inside a closed path, faded in from its border; distances from it, straight, from above and along', () => {
  const p = over(plane, 10_000);
  const r = (x: number, z: number) => Math.hypot(x, z);
  const fade = valuesOf(mask([{ kind: 'inside', paths: ['round'], from: 0, to: 1 }]), p);
  // Its sixteen smooth points run within a hundredth of the circle.
  expect(worst(fade, p, (x, _, z) => Math.min(1, Math.max(0, 3 - r(x, z))))).toBeLessThan(0.01);
  const fine = over(triMeshOf({ shape: 'plane', width: 10, depth: 10, columns: 100, rows: 100 }), 4000);
  for (const measured of ['straight', 'above', 'along']) {
    const d = valuesOf(mask([{ kind: 'distance', paths: ['round'], measured, from: 0, to: 1 }]), fine);
    expect(worst(d, fine, (x, _, z) => Math.min(1, Math.abs(3 - r(x, z))))).toBeLessThan(
      measured === 'along' ? 0.04 : 0.01,
    );
  }
  const off = placesNear(Float64Array.of(3, 4, 0, 0, 0.5, 0), []);
  const d = valuesOf(mask([{ kind: 'distance', paths: ['round'], from: 0, to: 8 }]), off);
  expect(d[0]).toBeCloseTo(0.5, 3);
  expect(d[1]).toBeCloseTo(Math.hypot(3, 0.5) / 8, 3);
});

test('distance from the border: straight across a fold, or along it; from props, and from faces', () => {
  // A sheet of 10 by 10 folded to a right angle: its far end is 10 along and 7.07 straight.
  const folded = triMeshOf({ shape: 'plane', width: 10, depth: 10, columns: 50, rows: 50 }, ([x, , z]) =>
    z < 0 ? [x, -z, 0] : [x, 0, z],
  );
  const p = over(folded, 3000);
  const way = (x: number, y: number, z: number) => Math.min(5 - Math.abs(x), 5 - Math.max(y, z));
  const along = valuesOf(mask([{ kind: 'distance', of: 'border', measured: 'along', from: 0, to: 5 }]), p);
  // In 5 m: where ways from two sides meet they are off by what a face is wide.
  expect(worst(along, p, (x, y, z) => way(x, y, z) / 5)).toBeLessThan(0.04);
  const near = valuesOf(mask([{ kind: 'distance', of: 'border', from: 0, to: 5 }]), p);
  expect(worst(near, p, (x, y, z) => way(x, y, z) / 5)).toBeLessThan(1e-9);
  // From the faces at one end, over the fold.
  const faces = Array.from({ length: folded.indices.length / 3 }, (_, f) => f).filter((f) =>
    [0, 1, 2].every((k) => folded.positions[folded.indices[f * 3 + k] * 3 + 1] > 4.79),
  );
  const over10 = valuesOf(
    mask([{ kind: 'distance', of: 'faces', faces, measured: 'along', from: 0, to: 10 }]),
    p,
  );
  expect(worst(over10, p, (_, y, z) => Math.max(0, 4.8 - y + z) / 10)).toBeLessThan(0.01);
  const straight = valuesOf(mask([{ kind: 'distance', of: 'faces', faces, from: 0, to: 10 }]), p);
  expect(worst(straight, p, (_, y, z) => Math.hypot(Math.max(0, 4.8 - y), z) / 10)).toBeLessThan(1e-6);
  const things = valuesOf(
    mask([{ kind: 'distance', of: 'things', surfaces: ['roof'], from: 0, to: 3 }]),
    over(plane, 500),
  );
  expect(Math.min(...things)).toBeCloseTo(2 / 3, 9);
});

test('layers are multiplied, the largest of them, or taken from the first; switched off they are not there', () => {
  const p = over(plane, 300);
  const [u, v] = ['u', 'v'].map((kind) => ({ kind }));
  const held = (how: string) => valuesOf(mask([u, v], { combine: how }), p);
  const x = (k: number) => (k + 5) / 10;
  const w = valuesOf(mask([v]), p);
  expect(
    Math.max(...held('product').map((value, i) => Math.abs(value - x(at(p, i)[0]) * w[i]))),
  ).toBeLessThan(1e-6);
  expect(
    Math.max(...held('largest').map((value, i) => Math.abs(value - Math.max(x(at(p, i)[0]), w[i])))),
  ).toBeLessThan(1e-6);
  expect(
    Math.max(...held('difference').map((value, i) => Math.abs(value - Math.max(0, x(at(p, i)[0]) - w[i])))),
  ).toBeLessThan(1e-6);
  expect([...valuesOf(mask([u, { ...v, on: false }]), p)]).toEqual([...valuesOf(mask([u]), p)]);
  expect(new Set(valuesOf(mask([]), p))).toEqual(new Set([1]));
  const shaped = valuesOf(
    mask([
      {
        kind: 'u',
        ramp: [
          [0, 0],
          [0.5, 1],
          [1, 0],
        ],
      },
    ]),
    p,
  );
  expect(worst(shaped, p, (k) => 1 - Math.abs(2 * x(k) - 1))).toBeLessThan(1e-6);
});

test('what is missing is told every time, and lets everything pass; needs are what the layers name', () => {
  const p = over(plane, 50);
  const m = mask([
    { kind: 'picture' },
    { kind: 'distance', paths: ['gone'] },
    { kind: 'covered', surfaces: ['roof'], arrangements: ['trees'] },
    { kind: 'water', surface: 'sea', on: false },
  ]);
  const field = maskField(m, 'key', SOURCES);
  for (let i = 0; i < 2; i++) {
    const said: string[] = [];
    field.at(p, (kind, layer, id) => said.push([kind, layer.id, id].join(' ')));
    expect(said).toEqual(['mask-picture-missing l0 ', 'mask-missing l1 gone', 'mask-missing l2 trees']);
  }
  expect(maskNeeds(m)).toEqual({ paths: ['gone'], surfaces: ['roof'], arrangements: ['trees'] });
  const bare: TriMesh = { ...plane, uvs: undefined };
  const said: string[] = [];
  maskField(mask([{ kind: 'u' }]), 'key', SOURCES).at(over(bare, 10), (kind) => said.push(kind));
  expect(said).toEqual(['mask-no-uv']);
});
