import { drained } from '../../testing/bodies';
import { makeMesh } from '../make';
import { shapeSchema } from '../make/schema';
import type { GreyPicture } from '../make/picture';
import type { PlacedMesh } from '../merged';
import type { Mesh } from '../mesh';
import { stampLayers } from '../stamp/layers';
import { stampMaps } from '../stamp/maps';
import { meshRefSchema, type Stamp } from '../meshRef';
import { makeTriMesh, type TriMesh } from '../triMesh';
import { bakedSchema } from './bakeSchema';
import { bakeBytes, baking, type BakeJob } from './baking';
import { loadTangents } from './tangents';
import { thingsOf } from './things';

beforeAll(loadTangents);

const made = (settings: object, color = '#ffffff'): Mesh =>
  makeMesh(shapeSchema.parse(settings), color, { path: () => undefined }) as Mesh;
const triMesh = (mesh: Mesh) =>
  makeTriMesh({
    positions: Float64Array.from(mesh.positions),
    normals: Float64Array.from(mesh.normals),
    indices: mesh.indices,
    uvs: mesh.uvs!,
  }) as TriMesh & { uvs: Float32Array };
const at = (mesh: Mesh, x = 0, y = 0, z = 0, of = 'a'): PlacedMesh => ({
  mesh,
  matrix: Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1),
  wears: undefined,
  of,
});
const white = (faces: number) => new Float32Array(faces * 9).fill(1);
const plane = triMesh(made({ shape: 'plane', width: 2, depth: 2, columns: 4, rows: 4 }));
const job = (parts: PlacedMesh[], more: Partial<BakeJob> = {}): BakeJob => ({
  surface: plane,
  own: white(plane.indices.length / 3),
  things: thingsOf(
    parts,
    parts.map((_, i) => i + 1),
  ),
  ...more,
});
const bake = (given: BakeJob, settings: object) =>
  drained(baking(given, bakedSchema.parse({ size: 128, reach: 1, margin: 0, ...settings })));
/** Of the pixel's middle on the plane: v runs towards −z. */
const place = (q: number, size = 128) => [
  (2 * ((q % size) + 0.5)) / size - 1,
  1 - (2 * (Math.floor(q / size) + 0.5)) / size,
];
const ball = made({ shape: 'sphere', radius: 0.8, columns: 512, rows: 256 }, '#884422');

test('a half ball on a plane: normals within half a bit of the closed form, heights, colour and whose it is', () => {
  const { normal, height, color, props, covered, twice } = bake(job([at(ball)]), {
    maps: ['normal', 'height', 'color', 'props'],
  });
  expect([covered, twice]).toEqual([128 * 128, 0]);
  let [worst, high] = [0, 0];
  for (let q = 0; q < 128 * 128; q++) {
    const [x, z] = place(q);
    const square = 0.64 - x * x - z * z;
    // At its rim, seen from the side, a pixel may belong to either.
    if (Math.abs(square) < 0.02) continue;
    const y = Math.sqrt(Math.max(0, square));
    // Tangents run along x; up the picture is +z.
    const wanted = square > 0 ? [x / 0.8, z / 0.8, y / 0.8] : [0, 0, 1];
    for (let k = 0; k < 3; k++)
      worst = Math.max(worst, Math.abs(normal![q * 3 + k] - (127.5 * wanted[k] + 127.5)));
    high = Math.max(high, Math.abs(height![q] - y));
    expect(props![q]).toBe(square > 0 ? 1 : 0);
    expect(color![q * 3]).toBeCloseTo(square > 0 ? ball.materials[0].color[0] : 1, 6);
  }
  expect(worst).toBeLessThan(0.51);
  expect(high).toBeLessThan(1e-3);
});

test('on a ball the flat of its tangent space is the flat of a map: nothing lies on it, all is 128, 128, 255', () => {
  const surface = triMesh(made({ shape: 'sphere', radius: 1, columns: 96, rows: 48 }));
  const { normal } = bake(job([], { surface, own: white(surface.indices.length / 3) }), { maps: ['normal'] });
  const off = normal!.reduce((most, v, i) => Math.max(most, Math.abs(v - [127.5, 127.5, 255][i % 3])), 0);
  expect(off).toBeLessThan(1);
});

test('light beside a wall: 1 − (1 − cos φ) / 2 of a free plane’s, φ as high as the wall is seen', () => {
  const wall = at(made({ shape: 'box', width: 0.02, height: 0.5, depth: 400, fillet: 0, cells: 1 }));
  const { occlusion } = bake(job([wall]), { maps: ['occlusion'], size: 32, rays: 256, shade: 1000 });
  const mean = (column: number) => {
    let sum = 0;
    for (let y = 0; y < 32; y++) sum += occlusion![y * 32 + column];
    return sum / 32 / 255;
  };
  for (const column of [2, 8, 14, 18, 28]) {
    const away = Math.abs((2 * (column + 0.5)) / 32 - 1) - 0.01;
    const cosine = away / Math.hypot(away, 0.5);
    expect(Math.abs(mean(column) - (1 - (1 - cosine) / 2))).toBeLessThan(0.01);
  }
});

test('a stamp is baked as it is drawn: a half ball of pictures is one of faces; a ball over it hides it', () => {
  const n = 256;
  const values = new Float32Array(n * n);
  for (let q = 0; q < n * n; q++) {
    const [x, y] = [(2 * ((q % n) + 0.5)) / n - 1, (2 * (Math.floor(q / n) + 0.5)) / n - 1];
    values[q] = Math.sqrt(Math.max(0, 1 - x * x - y * y));
  }
  const grey: GreyPicture = { width: n, height: n, values };
  const relief = { hash: 'a'.repeat(64), format: 'png' as const, fileName: 'a.png' };
  const stamp = meshRefSchema.parse({ source: 'stamp', relief }) as Stamp;
  // 1.6 m of the plane's 2: from left to right along u, from top to bottom against v.
  const numbers = Float32Array.of(0.5, 0.5, 1 / 0.8, 0, 0, -1 / 0.8, 0, 0.8, 1, 1, 1, 1);
  const stamps = {
    layers: stampLayers([{ numbers, pictures: [0], layers: [0] }]),
    maps: [stampMaps(stamp, () => grey)],
    owner: () => 7,
  };
  const settings = { maps: ['normal', 'height', 'props'] };
  const [drawn, real] = [bake(job([], { stamps }), settings), bake(job([at(ball)]), settings)];
  const both = bake(job([at(ball)], { stamps }), settings);
  let worst = 0;
  for (let q = 0; q < 128 * 128; q++) {
    const [x, z] = place(q);
    if (x * x + z * z > 0.4) continue;
    for (let k = 0; k < 3; k++)
      worst = Math.max(worst, Math.abs(drawn.normal![q * 3 + k] - real.normal![q * 3 + k]));
    expect(Math.abs(drawn.height![q] - real.height![q])).toBeLessThan(2e-3);
    expect([drawn.props![q], both.props![q], both.height![q]]).toEqual([7, 1, real.height![q]]);
  }
  expect(worst).toBeLessThan(3);
});

test('what is higher than is looked from is not there; a relief that it has is kept where nothing lies', () => {
  const low = bake(job([at(ball)]), { maps: ['height'], reach: 0.5 });
  const middle = 64 * 128 + 64;
  expect(low.height![middle]).toBeLessThan(0.5);
  const leaning = new Uint8Array(2 * 2 * 4).fill(255);
  for (let q = 0; q < 4; q++) leaning.set([204, 128, 230, 255], q * 4);
  const relief: GreyPicture = { width: 2, height: 2, values: new Float32Array(4), colours: leaning };
  const { normal } = bake(job([at(ball)], { relief }), { maps: ['normal'] });
  expect(Math.abs(normal![0] - 204)).toBeLessThan(2);
  expect(Math.abs(normal![middle * 3] - 128)).toBeLessThan(2);
});

test('the picture that a surface has is baked as often as it is repeated', () => {
  const colours = new Uint8Array(2 * 1 * 4).fill(255);
  colours.set([0, 0, 0, 255], 0);
  const stripes = { width: 2, height: 1, values: new Float32Array(2), colours };
  const picture = { ...stripes, transform: { offset: [0.25, 0], rotation: 0, scale: [4, 1] } as never };
  const { color } = bake(job([], { picture }), { maps: ['color'] });
  // u from 0: a quarter of a stripe’s pair has gone by; then white and black, an eighth of the plane each.
  for (const [u, dark] of [
    [0.03, 1],
    [0.1, 0],
    [0.22, 1],
    [0.35, 0],
  ])
    expect(color![Math.floor(u * 128) * 3]).toBe(1 - dark);
});

test('beyond its islands a map goes on as far as the margin; memory is told before', () => {
  const half = { ...plane, uvs: plane.uvs.map((v) => v / 2) };
  const settings = { maps: ['color'], size: 64, margin: 5 };
  const { color, covered } = bake(job([], { surface: half, own: white(32).fill(0.25) }), settings);
  expect(covered).toBe(32 * 32);
  expect([31, 36, 37].map((x) => color![x * 3])).toEqual([0.25, 0.25, 0]);
  expect(
    bakeBytes({ size: 8192, maps: ['normal', 'height', 'occlusion', 'color', 'props'] }),
  ).toBeGreaterThan(1.5e9);
  expect(bakeBytes({ size: 8192, maps: ['normal', 'occlusion'] })).toBeLessThan(5e8);
});

test('faces that reach beyond the maps are counted: those of a texture that is wider than they are', () => {
  // Four columns of squares, 1.5 maps wide: the last two reach beyond.
  const wide = { ...plane, uvs: plane.uvs.map((v, i) => (i % 2 === 0 ? v * 1.5 : v)) };
  expect(bake(job([], { surface: wide }), { maps: ['color'] }).beyond).toBe(2 * 4 * 2);
  expect(bake(job([]), { maps: ['color'] }).beyond).toBe(0);
});

test('faces that lie over each other in the texture are counted, and baked once', () => {
  const { indices } = plane;
  const over = { ...plane, indices: Uint32Array.of(...indices, ...indices.subarray(0, 3)) };
  const { twice, covered } = bake(job([], { surface: over, own: white(33) }), { maps: ['color'] });
  expect(covered).toBe(128 * 128);
  expect(twice).toBeGreaterThan(300);
});
