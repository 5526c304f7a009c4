import { makeMesh } from '../make';
import { shapeSchema } from '../make/schema';
import type { Mesh } from '../mesh';
import { meshRefSchema, type Stamp } from '../meshRef';
import { makeTriMesh } from '../triMesh';
import type { GreyPicture } from '../make/picture';
import { stampedAt, unstamped } from './drawn';
import { seenFromAbove } from './fromMesh';
import { layStamp, stampGround, STAMP_STRIDE, type StampGround } from './laid';
import { stampLayers, type StampsLaid } from './layers';
import { STAMP_SIZE, stampMaps } from './maps';

const surface = (settings: object): StampGround => {
  const mesh = makeMesh(shapeSchema.parse(settings), '#D8CDB6', { path: () => undefined }) as Mesh;
  return stampGround(
    's',
    makeTriMesh({
      positions: Float64Array.from(mesh.positions),
      normals: Float64Array.from(mesh.normals),
      indices: mesh.indices,
      uvs: mesh.uvs!,
    }),
  )!;
};
const laid = (ground: StampGround, middle: number[], right: number[], down: number[]) => {
  const out: number[][] = [];
  layStamp({ middle, right, down }, [ground], (_, n) => out.push([...(n as number[])]));
  return out;
};
const stamp = (values: object): Stamp => meshRefSchema.parse({ source: 'stamp', ...values }) as Stamp;
const HASH = 'a'.repeat(64);
const one = { hash: HASH, format: 'png', fileName: 'a.png' } as const;

test('on a plane it lies where its corners are, by the plane’s own shares', () => {
  // 4 × 2 m: u and v run over it, v up towards −z.
  const ground = surface({ shape: 'plane', width: 4, depth: 2 });
  const [[u, v, a, b, c, d]] = laid(ground, [1, 0.01, 0.5], [0.3, 0, 0.4], [-0.8, 0, 0.6]);
  const into = (x: number, z: number) => {
    const [du, dv] = [(x + 2) / 4 - u, (1 - z) / 2 - v];
    return [a * du + b * dv, c * du + d * dv];
  };
  for (const [s, t] of [
    [0, 0],
    [0.5, 0.5],
    [-0.5, 0.5],
    [0.5, -0.5],
  ]) {
    const [p, q] = into(1 + s * 0.3 - t * 0.8, 0.5 + s * 0.4 + t * 0.6);
    expect(p).toBeCloseTo(s, 5);
    expect(q).toBeCloseTo(t, 5);
  }
});

test('what is further off than half of it lies on nothing; over the seam of what goes round it lies on both sides', () => {
  const plane = surface({ shape: 'plane', width: 4, depth: 2 });
  expect(laid(plane, [0, 0.11, 0], [0.2, 0, 0], [0, 0, 0.2])).toEqual([]);
  expect(laid(plane, [0, 0.09, 0], [0.2, 0, 0], [0, 0, 0.2])).toHaveLength(1);
  // Beside the border of a plane there is no other side.
  expect(laid(plane, [1.95, 0, 0], [0.2, 0, 0], [0, 0, 0.2])).toHaveLength(1);
  const ball = surface({ shape: 'sphere', radius: 1, columns: 200, rows: 100 });
  const { uvs, positions } = ball.mesh;
  const seam = [...Array(uvs!.length / 2).keys()].find(
    (i) => uvs![i * 2] === 0 && Math.abs(uvs![i * 2 + 1] - 0.5) < 0.01,
  )!;
  const at = [0, 1, 2].map((k) => positions[seam * 3 + k]);
  const all = laid(ball, at, [-at[2] * 0.2, 0, at[0] * 0.2], [0, -0.2, 0]);
  expect(all).toHaveLength(2);
  expect(Math.abs(all[0][0] - all[1][0])).toBeCloseTo(1, 6);
  expect(all[0].slice(1)).toEqual(all[1].slice(1));
});

/** A picture whose red is its column and green its row, opaque right of its middle alone. */
const picture = (n: number): GreyPicture => {
  const colours = new Uint8Array(n * n * 4);
  const values = new Float32Array(n * n);
  for (let y = 0; y < n; y++)
    for (let x = 0; x < n; x++) {
      colours.set([(255 * x) / (n - 1), (255 * y) / (n - 1), 0, x >= n / 2 ? 255 : 0], (y * n + x) * 4);
      // Half a sphere, from above.
      const [p, q] = [(2 * (x + 0.5)) / n - 1, (2 * (y + 0.5)) / n - 1];
      values[y * n + x] = Math.sqrt(Math.max(0, 1 - p * p - q * q));
    }
  return { width: n, height: n, values, colours };
};

test('maps have the picture’s light, by its alpha, and the slopes of a half ball', () => {
  const maps = stampMaps(stamp({ picture: one, relief: one }), () => picture(512));
  expect(maps.color[4 * 10 + 3]).toBe(0);
  expect(maps.color[4 * 10]).toBe(0);
  const row = 100;
  const right = (row * STAMP_SIZE + 200) * 4;
  expect(maps.color[right + 3]).toBe(255);
  expect(Math.abs(maps.color[right] - (200.5 / 256) * 255)).toBeLessThan(2);
  expect(Math.abs(maps.color[right + 1] - (100.5 / 256) * 255)).toBeLessThan(2);
  // h = √(1 − x² − y²), its side is 2: h′ = −2 x / h.
  const [x, y] = [(2 * 150.5) / 256 - 1, (2 * 100.5) / 256 - 1];
  const h = Math.sqrt(1 - x * x - y * y);
  const o = (row * STAMP_SIZE + 150) * 2;
  expect(maps.slope[o]).toBeCloseTo((-2 * x) / h, 2);
  expect(maps.slope[o + 1]).toBeCloseTo((-2 * y) / h, 2);
  expect(maps.height![row * STAMP_SIZE + 150]).toBeCloseTo(h, 3);
});

test('a normal map says the same as the height that it was made of', () => {
  const of = picture(256);
  const normals = { ...of, colours: new Uint8Array(of.colours!.length) };
  for (let y = 0; y < 256; y++)
    for (let x = 0; x < 256; x++) {
      const [p, q] = [(2 * (x + 0.5)) / 256 - 1, (2 * (y + 0.5)) / 256 - 1];
      const z = Math.sqrt(Math.max(0, 1 - p * p - q * q));
      // Of a ball the normal is the place; green upwards.
      normals.colours.set([127.5 * (1 + p), 127.5 * (1 - q), 127.5 * (1 + z), 255], (y * 256 + x) * 4);
    }
  // A half ball of 1 m: 2 m wide, and its height from black to white 1 m.
  const a = stampMaps(stamp({ relief: one }), () => of);
  const b = stampMaps(stamp({ relief: one, reliefIs: 'normal', width: 2, length: 2 }), () => normals);
  for (const [x, y] of [
    [150, 100],
    [90, 170],
    [128, 60],
  ])
    for (const k of [0, 1]) {
      const i = (y * 256 + x) * 2 + k;
      expect(Math.abs(a.slope[i] - b.slope[i])).toBeLessThan(0.04);
    }
});

/** Pseudo-random, the same each time. */
const random = (seed: number) => () => ((seed = (seed * 16807) % 2147483647) - 1) / 2147483646;

test('layers and order are those of a list that is gone through from its undermost', () => {
  const next = random(7);
  const some = (n: number): StampsLaid => {
    const numbers = new Float32Array(n * STAMP_STRIDE);
    for (let i = 0; i < n; i++) {
      const [w, h, t] = [0.05 + 0.2 * next(), 0.05 + 0.2 * next(), 6 * next()];
      numbers.set(
        [next(), next(), Math.cos(t) / w, Math.sin(t) / w, -Math.sin(t) / h, Math.cos(t) / h],
        i * STAMP_STRIDE,
      );
      numbers.set(
        [Math.floor(2 * next()), 0.01 * next(), next(), next(), next(), next()],
        i * STAMP_STRIDE + 6,
      );
    }
    return { numbers, pictures: [1, 0], layers: [3, -2] };
  };
  const all = [some(40), some(60)];
  const layers = stampLayers(all);
  const maps = [picture(64), picture(256)].map((p) =>
    stampMaps(stamp({ picture: one, relief: one }), () => p),
  );
  // By hand: a plain list, sorted by layer, then by arrangement and place in it.
  const list = all
    .flatMap(({ numbers, pictures, layers: l }, from) =>
      Array.from({ length: numbers.length / STAMP_STRIDE }, (_, i) => {
        const n = [...numbers.subarray(i * STAMP_STRIDE, (i + 1) * STAMP_STRIDE)];
        return { n, layer: l[n[6]], picture: pictures[n[6]], from, i };
      }),
    )
    .sort((a, b) => a.layer - b.layer || a.from - b.from || a.i - b.i);
  const out = unstamped();
  let met = 0;
  for (let k = 0; k < 2000; k++) {
    const [u, v] = [next() * 1.2 - 0.1, next() * 1.2 - 0.1];
    stampedAt(layers, maps, u, v, out);
    let [cover, height] = [0, 0];
    const color = [0, 0, 0];
    for (const { n, picture: p } of list) {
      const [s, t] = [n[2] * (u - n[0]) + n[3] * (v - n[1]), n[4] * (u - n[0]) + n[5] * (v - n[1])];
      if (Math.abs(s) > 0.5 || Math.abs(t) > 0.5) continue;
      const at = unstamped();
      // One stamp of strength 1 alone, in the middle of a square of its own.
      const single = stampLayers([
        {
          numbers: Float32Array.of(0, 0, 1, 0, 0, 1, 0, 1, 1, 1, 1, 1),
          pictures: [p],
          layers: [0],
        },
      ]);
      stampedAt(single, maps, s, t, at);
      const alpha = at.cover * n[11];
      for (let c = 0; c < 3; c++) color[c] = color[c] * (1 - alpha) + at.color[c] * n[8 + c] * n[11];
      cover = cover * (1 - alpha) + alpha;
      height += at.height * n[7];
      met++;
    }
    expect(out.cover).toBeCloseTo(cover, 5);
    expect(out.height).toBeCloseTo(height, 5);
    for (let c = 0; c < 3; c++) expect(out.color[c]).toBeCloseTo(color[c], 5);
  }
  expect(met).toBeGreaterThan(1000);
});

test('a slope is that of the height from one place to the next, however it is turned', () => {
  const numbers = Float32Array.of(0.5, 0.5, 2.4, 1.8, -3.6, 4.8, 0, 0.3, 1, 1, 1, 1);
  const layers = stampLayers([{ numbers, pictures: [0], layers: [0] }]);
  const maps = [stampMaps(stamp({ relief: one }), () => picture(512))];
  const height = (u: number, v: number) => {
    const out = unstamped();
    stampedAt(layers, maps, u, v, out);
    return out.height;
  };
  const at = unstamped();
  stampedAt(layers, maps, 0.53, 0.46, at);
  const step = 0.01;
  const across = (height(0.53 + step, 0.46) - height(0.53 - step, 0.46)) / (2 * step);
  const up = (height(0.53, 0.46 + step) - height(0.53, 0.46 - step)) / (2 * step);
  expect(at.slope[0] / across).toBeCloseTo(1, 1);
  expect(at.slope[1] / up).toBeCloseTo(1, 1);
});

test('a half ball from above is as high as it is, in its own colours; what is below its foot is not seen', () => {
  const ball = makeMesh(
    shapeSchema.parse({ shape: 'sphere', radius: 0.5, columns: 128, rows: 64 }),
    '#884422',
    {
      path: () => undefined,
    },
  ) as Mesh;
  const seen = seenFromAbove(ball, [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])!;
  expect(seen.depth).toBeCloseTo(0.5, 5);
  expect(seen.middle.map(Math.abs).every((v) => v < 1e-6)).toBe(true);
  const pixel = seen.width / seen.columns;
  for (const [x, z] of [
    [0, 0],
    [0.3, 0.1],
    [-0.2, 0.35],
  ]) {
    const i =
      Math.floor((z + seen.length / 2) / pixel) * seen.columns + Math.floor((x + seen.width / 2) / pixel);
    expect(seen.height[i] * seen.depth).toBeCloseTo(Math.sqrt(0.25 - x * x - z * z), 2);
    expect(seen.color[i * 4 + 3]).toBeCloseTo(1, 6);
    expect(seen.color[i * 4]).toBeCloseTo(ball.materials[0].color[0], 5);
  }
  expect(seen.color[3]).toBe(0);
  const covered = Array.from({ length: seen.columns * seen.rows }, (_, i) => seen.color[i * 4 + 3]);
  expect(covered.reduce((a, b) => a + b) * pixel * pixel).toBeCloseTo(Math.PI * 0.25, 2);
});
