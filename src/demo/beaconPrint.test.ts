import { ready } from '@/engine/ready';
import { EngineService } from '@/engine/service';
import { EXAMPLES } from '../../scripts/examples';

/** The numbers of the beacon that is printed. */

const scene = EXAMPLES['beacon-print']();
const service = new EngineService();
beforeAll(() => ready(scene));

/** Triangles of a binary STL, by its description. */
function readStl(bytes: Uint8Array): number[][][] {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  return Array.from({ length: view.getUint32(80, true) }, (_, t) =>
    [0, 1, 2].map((k) => [0, 1, 2].map((c) => view.getFloat32(84 + t * 50 + 12 + k * 12 + c * 4, true))),
  );
}

test('it goes out as one closed mesh, in float32: every way along an edge is gone back as often, at 1:200', async () => {
  const { scale } = scene.print;
  expect(scale).toBe(200);
  const triangles = readStl(
    await service.sendOut(scene, { kind: 'stl', options: { scale, up: 'z', surfaces: true } }),
  );
  const ways = new Map<string, number>();
  let [low, high] = [Infinity, -Infinity];
  for (const t of triangles)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [t[k].join(), t[(k + 1) % 3].join()];
      ways.set(`${a}|${b}`, (ways.get(`${a}|${b}`) ?? 0) + 1);
      ways.set(`${b}|${a}`, (ways.get(`${b}|${a}`) ?? 0) - 1);
      low = Math.min(low, t[k][2]);
      high = Math.max(high, t[k][2]);
    }
  expect([...ways.values()].filter((n) => n !== 0)).toHaveLength(0);
  expect(triangles.length).toBeGreaterThan(20_000);
  // From under its footing to the top of its lamp room: 12.55 m.
  expect(high - low).toBeCloseTo(12550 / 200, 2);
});

test('its walls hold: 0.24 m or more, 1.2 mm as printed; all of its tiles are in it, its lattice is pierced', async () => {
  const result = service.evaluateAll(scene);
  expect(result.surfaces.flatMap((s) => s.findings)).toEqual([]);
  const solid = scene.surfaces.find((s) => s.name === 'Beacon')!;
  const { wall, thin } = (await service.printable(solid.id, scene.print))!;
  expect(wall!.size).toBeGreaterThanOrEqual(0.24);
  expect(thin).toBeLessThan(1e-4);
  // Each lozenge takes as much as it is large, through a wall 0.36 m thick.
  const volumeOf = (count: number) => {
    const surfaces = scene.surfaces.map((s) =>
      s === solid && s.mesh.source === 'solid'
        ? { ...s, mesh: { ...s.mesh, steps: [s.mesh.steps[0], s.mesh.steps.at(-1)!].slice(0, count) } }
        : s,
    );
    service.evaluateAll({ ...scene, surfaces });
    return service.solidOf(solid.id)!.volume!;
  };
  const taken = volumeOf(1) - volumeOf(2);
  const one = 0.5 * 0.32 * 0.48 * 0.36;
  expect(taken / one).toBeGreaterThan(17);
  expect(taken / one).toBeLessThan(21);
});
