import { readFileSync } from 'node:fs';
import type { EvaluatedArrangement, PathResult } from '@/core/evaluate/scene';
import { quatRotate, type Quat } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { EngineService } from '@/engine/service';

/** Lines of the examples as they are on disk: from eye to eye, as long as they are said to be, whatever moves. */

const service = new EngineService();

async function opened(name: string, time = 0) {
  const bytes = new Uint8Array(readFileSync(`examples/${name}.clothesline`));
  const { scene, mends, missing } = await service.open(bytes, name);
  expect([mends, missing]).toEqual([[], []]);
  const result = service.evaluateAll(scene, time);
  expect([...result.arrangements, ...result.paths].flatMap((n) => n.findings)).toEqual([]);
  const of = (title: string) => result.arrangements[scene.arrangements.findIndex((a) => a.name === title)];
  const path = (title: string): PathResult => result.paths[scene.paths.findIndex((p) => p.name === title)];
  /** Where a point of the prop's own space is, of each of an arrangement's props. */
  const points = (title: string, own: Vec3): Vec3[] => {
    const { placements: p } = of(title);
    return Array.from({ length: p.count }, (_, i) => {
      const scaled = own.map((v, a) => v * p.scale[i * 3 + a]) as Vec3;
      const at = quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, scaled);
      return [0, 1, 2].map((a) => p.position[i * 3 + a] + at[a]) as Vec3;
    });
  };
  return { of, path, points };
}
const away = (a: Vec3, b: Vec3) => Math.hypot(...a.map((v, k) => v - b[k]));
const ends = ({ lines }: EvaluatedArrangement): [Vec3, Vec3][] =>
  Array.from(lines!.slot, (_, k) => {
    const o = k * lines!.each * 3;
    const at = (i: number) => [...lines!.position.subarray(o + i * 3, o + i * 3 + 3)] as Vec3;
    return [at(0), at(lines!.each - 1)];
  });

const EYE: Vec3 = [0, 0, 0.1];

test('ropes from eye to eye: crossed, up and down, along the top; each is where its eyes are', async () => {
  const { of, path, points } = await opened('rigging-board', 1.3);
  const [left, right] = [points('Eyes on the left', EYE), points('Eyes on the right', EYE)];
  const crossed = ends(of('Crossed'));
  expect(crossed.length).toBe(6);
  crossed.forEach(([a, b], i) => {
    expect(away(a, left[i])).toBeLessThan(1e-6);
    expect(away(b, right[5 - i])).toBeLessThan(1e-6);
  });
  expect(ends(of('Stays')).length).toBe(3);
  expect(ends(of('Slack')).length).toBe(4);
  // Drawn by hand, from the sixth on the left to the second on the right, an eighth longer than straight.
  const [line] = path('Float line').strokes;
  expect(away([...line.carried!.subarray(0, 3)] as Vec3, left[5])).toBeLessThan(1e-9);
  expect(away([...line.carried!.subarray(3, 6)] as Vec3, right[1])).toBeLessThan(1e-9);
  expect(Math.abs(line.length / (away(left[5], right[1]) * 1.12) - 1)).toBeLessThan(1e-9);
});

test('on the quay: lanterns between the lamps sway in the wind; dinghies keep their lines while the water moves', async () => {
  const [still, later] = [await opened('tern-quay', 0), await opened('tern-quay', 4)];
  const lanterns = (r: typeof still) => r.points('Lanterns on the lines', [0, 0, 0]);
  expect(lanterns(still).length).toBe(12);
  expect(lanterns(still).some((p, i) => away(p, lanterns(later)[i]) > 0.02)).toBe(true);
  for (const r of [still, later]) {
    const bows = r.points('Dinghies', [0, 0.6, 1.55]);
    ends(r.of('Mooring lines')).forEach(([a], i) => expect(away(a, bows[i])).toBeLessThan(1e-5));
  }
  expect(
    away(still.points('Dinghies', [0, 0, 0])[0], later.points('Dinghies', [0, 0, 0])[0]),
  ).toBeGreaterThan(0.005);
});
