import { cross, dot, normalize, type Vec3 } from '../math/vec3';
import { harmonicsOf, onPlane, PanoramaLight, smallPanorama, turned, wayAt, type Panorama } from './panorama';

/** A panorama whose light in each direction is given. */
function panorama(width: number, lightOf: (way: Vec3) => Vec3): Panorama {
  const height = width / 2;
  const pixels = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      pixels.set(lightOf(wayAt((x + 0.5) / width, (y + 0.5) / height)), (y * width + x) * 3);
  return { width, height, pixels };
}

/** What falls on a plane from all that is before it, by adding up a fine sphere. */
function addedUp(normal: Vec3, lightOf: (way: Vec3) => Vec3): Vec3 {
  const out: Vec3 = [0, 0, 0];
  const rows = 400;
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < 2 * rows; c++) {
      const way = wayAt((c + 0.5) / (2 * rows), (r + 0.5) / rows);
      const cosine = dot(way, normal);
      if (cosine <= 0) continue;
      const angle = (Math.PI / rows) ** 2 * Math.cos((0.5 - (r + 0.5) / rows) * Math.PI);
      lightOf(way).forEach((v, k) => (out[k] += v * cosine * angle));
    }
  return out;
}

const halton = (i: number, base: number): number => {
  let [out, share] = [0, 1];
  for (let n = i + 1; n > 0; n = Math.floor(n / base)) out += (share /= base) * (n % base);
  return out;
};

const NORMALS: Vec3[] = [[0, 1, 0], [0, -1, 0], [1, 0, 0], [0.6, 0, -0.8], normalize([1, 1, 1])];
/** Bright above and a little red to one side, never dark. */
const soft = ([x, y]: Vec3): Vec3 => [1 + 0.5 * y + 0.3 * x, 1 + 0.5 * y, 0.8 + 0.4 * y];
/** A small sun over a dim sky. */
const SUN = normalize([0.5, 0.7, -0.4]);
const sunny = (way: Vec3): Vec3 => (dot(way, SUN) > 0.995 ? [400, 360, 300] : [0.2, 0.3, 0.5]);

test('the middle of a panorama looks along +X, right of it is +Z, above is +Y; turned, it goes clockwise from above', () => {
  expect(wayAt(0.5, 0.5).map((v) => v + 0)).toEqual([1, 0, 0]);
  expect(wayAt(0.75, 0.5)[2]).toBeCloseTo(1, 12);
  expect(wayAt(0.3, 0)[1]).toBeCloseTo(1, 12);
  expect(turned([1, 0, 0], Math.PI / 2)[2]).toBeCloseTo(1, 12);
});

test('a panorama of one brightness gives π of it to every plane', () => {
  const light = harmonicsOf(panorama(64, () => [1, 0.5, 2]));
  for (const n of NORMALS)
    onPlane(light, n).forEach((v, k) => expect(v / [1, 0.5, 2][k] / Math.PI).toBeCloseTo(1, 2));
});

test('light that varies by its direction alone falls as the whole sphere adds up to', () => {
  const light = harmonicsOf(panorama(256, soft));
  const away = harmonicsOf(panorama(256, soft), 1.1);
  for (const n of NORMALS) {
    const truth = addedUp(n, soft);
    onPlane(light, n).forEach((v, k) => expect(Math.abs(v / truth[k] - 1)).toBeLessThan(2e-3));
    // Turned with it, a plane gets the same.
    onPlane(away, turned(n, 1.1)).forEach((v, k) => expect(Math.abs(v / truth[k] - 1)).toBeLessThan(2e-3));
  }
});

test('the mean of drawn directions is the light of all, to 1 % of a small sun', () => {
  const light = new PanoramaLight(panorama(256, sunny));
  const count = 4096;
  for (const n of [NORMALS[0], SUN, cross(SUN, [0, 1, 0])].map((v) => normalize(v))) {
    const truth = addedUp(n, sunny);
    const sum = [0, 0, 0];
    for (let i = 0; i < count; i++) {
      const { way, light: drawn } = light.from(halton(i, 2), halton(i, 3), halton(i, 5));
      drawn.forEach((v, k) => (sum[k] += (v * Math.max(0, dot(way, n))) / count));
    }
    // The truth is as coarse as its steps over the sun's edge.
    sum.forEach((v, k) => expect(Math.abs(v / truth[k] - 1)).toBeLessThan(0.04));
  }
});

test('a black one gives nothing, and is no division by it', () => {
  const light = new PanoramaLight(panorama(16, () => [0, 0, 0]));
  expect(light.from(0.4, 0.5, 0.5).light).toEqual([0, 0, 0]);
});

test('fewer pixels give the same light', () => {
  const large = panorama(512, sunny);
  const small = smallPanorama(large, 128);
  expect([small.width, small.height]).toEqual([128, 64]);
  const [a, b] = [large, small].map((p) => onPlane(harmonicsOf(p), [0, 1, 0]));
  a.forEach((v, k) => expect(Math.abs(b[k] / v - 1)).toBeLessThan(0.01));
});
