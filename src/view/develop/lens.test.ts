import { PerspectiveCamera, Vector3 } from 'three';
import { throughLens } from './lens';

test('what lies in the plane of focus stays where it is, whatever place of the lens it is seen from; the rest does not', () => {
  const camera = new PerspectiveCamera(40, 1.5, 0.1, 100);
  camera.position.set(3, 2, 8);
  camera.lookAt(0, 1, 0);
  camera.updateMatrixWorld();
  const [width, height] = [600, 400];
  const at = (place: Vector3, [dx, dy]: readonly [number, number]) => {
    camera.setViewOffset(width, height, dx, dy, width, height);
    const { x, y } = place.clone().project(camera);
    camera.clearViewOffset();
    return [((x + 1) / 2) * width, ((1 - y) / 2) * height];
  };
  const ahead = (metres: number, side: number) =>
    new Vector3(side, side / 2, -metres).applyMatrix4(camera.matrixWorld);
  const [sharp, near] = [ahead(5, 1.2), ahead(2, 0.3)];
  const [was, wasNear] = [at(sharp, [0, 0]), at(near, [0, 0])];
  const moved: number[] = [];
  for (let n = 0; n < 16; n++)
    throughLens({ distance: 5, radius: 0.05 }, camera, height, n, (shift) => {
      const now = at(sharp, shift);
      expect(Math.hypot(now[0] - was[0], now[1] - was[1])).toBeLessThan(1e-6);
      const off = at(near, shift);
      moved.push(Math.hypot(off[0] - wasNear[0], off[1] - wasNear[1]));
    });
  // A disc of 5 cm at 2 m, seen against the plane at 5: 0.05 · (1/2 − 1/5) of the slope.
  const most = (0.05 * (1 / 2 - 1 / 5) * height) / (2 * Math.tan((20 * Math.PI) / 180));
  expect(Math.max(...moved)).toBeLessThan(most * 1.0001);
  expect(Math.max(...moved)).toBeGreaterThan(most * 0.9);
  expect(camera.position.toArray()).toEqual([3, 2, 8]);
});
