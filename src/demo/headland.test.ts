import { readFileSync } from 'node:fs';
import { STATE, type Placements } from '@/core/arrange/result';
import { EngineService } from '@/engine/service';
import { FOOTPATH, heightAt } from './surfaces/headland';

/** The headland as it is on disk: a hundred thousand tufts where they belong. */

type Row = { x: number; y: number; z: number };
const found = new Map<string, Row[]>();

const rowsOf = (p: Placements): Row[] =>
  Array.from({ length: p.count }, (_, i) => i)
    .filter((i) => p.state[i] === STATE.placed)
    .map((i) => ({ x: p.position[i * 3], y: p.position[i * 3 + 1], z: p.position[i * 3 + 2] }));

beforeAll(async () => {
  const service = new EngineService();
  const bytes = new Uint8Array(readFileSync('examples/headland.clothesline'));
  const { scene, mends, missing } = await service.open(bytes, 'headland');
  expect([mends, missing]).toEqual([[], []]);
  const result = service.evaluateAll(scene);
  expect([...result.arrangements, ...result.masks].flatMap((n) => n.findings ?? [])).toEqual([]);
  scene.arrangements.forEach((a, i) => found.set(a.name, rowsOf(result.arrangements[i].placements)));
});

/** From the footpath straight from point to point; as it runs, smoothly, it is a little beside that. */
function awayFromPath({ x, z }: Row): number {
  let least = Infinity;
  for (let i = 0; i + 1 < FOOTPATH.length; i++) {
    const [a, b] = [FOOTPATH[i], FOOTPATH[i + 1]];
    const [bx, bz] = [b[0] - a[0], b[1] - a[1]];
    const k = Math.min(1, Math.max(0, ((x - a[0]) * bx + (z - a[1]) * bz) / (bx * bx + bz * bz)));
    least = Math.min(least, Math.hypot(x - a[0] - k * bx, z - a[1] - k * bz));
  }
  return least;
}

/** Degrees from level, by the heights about a place. */
function slopeAt({ x, z }: Row): number {
  const h = 0.4;
  const dx = (heightAt(x + h, z) - heightAt(x - h, z)) / (2 * h);
  const dz = (heightAt(x, z + h) - heightAt(x, z - h)) / (2 * h);
  return (Math.atan(Math.hypot(dx, dz)) * 180) / Math.PI;
}

test('a hundred thousand tufts: off the footpath, on no cliff, not in the spray, none where it is trodden', () => {
  const tufts = found.get('Tufts')!;
  expect(tufts.length).toBeGreaterThan(95_000);
  expect(tufts.length).toBeLessThan(110_000);
  expect(tufts.every((r) => r.y > 1.8)).toBe(true);
  const share = (holds: (r: Row) => boolean) => tufts.filter(holds).length / tufts.length;
  expect(share((r) => awayFromPath(r) < 0.3)).toBeLessThan(0.0005);
  expect(share((r) => slopeAt(r) > 50)).toBeLessThan(0.004);
  const near = (x: number, z: number, radius: number) =>
    tufts.filter((r) => Math.hypot(r.x - x, r.z - z) < radius).length;
  // Before the bench, and as much ground elsewhere.
  expect(near(21.2, 12.5, 0.8)).toBeLessThan(0.25 * near(-25, 12, 0.8));
});

test('gorse and boulders are far fewer; cabbages stand in rows by uv; gulls fill the air', () => {
  expect(found.get('Gorse')!.length).toBeGreaterThan(200);
  expect(found.get('Gorse')!.every((r) => awayFromPath(r) > 1.2)).toBe(true);
  expect(found.get('Sea pinks')!.length).toBeGreaterThan(300);
  expect(
    found.get('Boulders')!.filter((r) => slopeAt(r) > 14).length / found.get('Boulders')!.length,
  ).toBeGreaterThan(0.9);
  expect(found.get('Cabbages in rows')).toHaveLength(78);
  const gulls = found.get('Gulls')!;
  expect(gulls).toHaveLength(46);
  expect(
    gulls.every((r) => r.y >= 17 && r.y <= 26 && Math.abs(r.x - 4) <= 33 && Math.abs(r.z - 2) <= 23),
  ).toBe(true);
  let closest = Infinity;
  gulls.forEach((a, i) =>
    gulls
      .slice(i + 1)
      .forEach((b) => (closest = Math.min(closest, Math.hypot(a.x - b.x, a.y - b.y, a.z - b.z)))),
  );
  expect(closest).toBeGreaterThan(5);
});
