import {
  Box3,
  BoxGeometry,
  Color,
  Euler,
  InstancedMesh,
  Matrix4,
  PerspectiveCamera,
  Quaternion,
  Vector3,
  type ShaderMaterial,
  type Vector4,
  type WebGLRenderer,
} from 'three';
import { farPoints, shadeOf, sideOf, spotsOf, spreadOrder } from './farPoints';

test('a point stands in the middle of its prop however that is turned, and grows with it', () => {
  const box = new Box3(new Vector3(-0.5, 0, -1), new Vector3(0.5, 3, 2));
  const poses = [0, 1, 2, 3].map((k) => ({
    at: new Vector3(k * 10, -k, 3),
    turn: new Quaternion().setFromEuler(new Euler(k * 0.7, k * 1.3, -k)),
    size: 0.5 + k,
  }));
  const matrices = poses.flatMap(({ at, turn, size }) =>
    new Matrix4().compose(at, turn, new Vector3(size, size, size)).toArray(),
  );
  const look = { box, area: 1e3 };
  const spots = spotsOf(matrices, poses.length, look);
  poses.forEach(({ at, turn, size }, i) => {
    const middle = new Vector3(0, 1.5, 0.5).multiplyScalar(size).applyQuaternion(turn).add(at);
    middle.toArray().forEach((v, a) => expect(spots[i * 4 + a]).toBeCloseTo(v, 4));
    expect(spots[i * 4 + 3]).toBeCloseTo(sideOf(look) * size, 4);
  });
});

test('its square covers what a cube does in the mean of all directions, but for what is not filled', () => {
  // A unit cube shows 1.5 in the mean (a quarter of its surface).
  const box = new Box3(new Vector3(), new Vector3(1, 1, 1));
  expect(sideOf({ box, area: 6 }) ** 2).toBeCloseTo(1.5 * 0.7, 12);
  // A ball in that box shows its own disc, a few blades of grass as much as they cover.
  expect(sideOf({ box, area: Math.PI }) ** 2).toBeCloseTo(Math.PI / 4, 12);
  expect(sideOf({ box, area: 0.08 }) ** 2).toBeCloseTo(0.02, 12);
});

test('what stands close together is half as light, what stands alone is not shaded; a line only along itself', () => {
  const field = (apart: number, rows: number, side = 0.5) =>
    Float32Array.from(
      Array.from({ length: 1000 }, (_, i) => [(i % (1000 / rows)) * apart, 0, Math.floor((i * rows) / 1000) * apart, side]).flat(), // prettier-ignore
    );
  expect(shadeOf(field(50, 25))).toBeCloseTo(1, 3);
  expect(shadeOf(field(0.05, 25))).toBeCloseTo(0.5, 2);
  // As much as there is ground: by numbers, of a thousand depths.
  const depths = Array.from({ length: 1000 }, (_, i) => (i + 0.5) / 1000);
  const mean = (k: number) => depths.reduce((sum, x) => sum + Math.exp(-k * x), 0);
  expect(shadeOf(field(0.5, 25))).toBeCloseTo(mean(2) / mean(1), 1);
  expect(shadeOf(field(5, 1))).toBeGreaterThan(0.94);
});

test('a point is as large in a part of a picture as in all of it', () => {
  const mesh = new InstancedMesh(new BoxGeometry(), undefined, 1);
  const points = farPoints(mesh, {
    color: new Color(),
    box: new Box3(new Vector3(), new Vector3(1, 1, 1)),
    area: 6,
  });
  const camera = new PerspectiveCamera(50, 1.5, 0.1, 100);
  /** Pixels of a metre that is a metre away, drawn into so many of the picture. */
  const drawn = (height: number) => {
    camera.updateProjectionMatrix();
    const gl = { getCurrentViewport: (to: Vector4) => to.set(0, 0, 300, height) } as WebGLRenderer;
    points.onBeforeRender(gl, ...([] as never as [never, never, never, never, never]));
    const { pixels } = (points.material as ShaderMaterial).uniforms;
    return (camera.projectionMatrix.elements[5] * pixels.value) / 2;
  };
  const whole = drawn(400);
  expect(whole).toBeCloseTo(200 / Math.tan((25 * Math.PI) / 180), 9);
  for (const part of [100, 50, 37]) {
    camera.setViewOffset(600, 400, 10, 20, 300, part);
    expect(drawn(part)).toBeCloseTo(whole, 9);
  }
});

test('the first so many of a block are spread over all of it', () => {
  for (const count of [1, 2, 7, 100, 1024]) {
    const order = [...spreadOrder(count)];
    expect([...order].sort((a, b) => a - b)).toEqual([...Array(count).keys()]);
    for (const few of [4, 16, 64].filter((n) => n < count)) {
      const first = [...order.slice(0, few), -1, count].sort((a, b) => a - b);
      const widest = Math.max(...first.slice(1).map((v, i) => v - first[i]));
      expect(widest).toBeLessThanOrEqual((2.5 * count) / few);
    }
  }
});
