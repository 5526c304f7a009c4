import { openScene } from '@/core/formats/sceneZip';
import { emptyScene, newEntry, newPath, newProp, newRun } from '@/core/scene/defaults';
import { points } from '@/core/testing/paths';
import { firstRun } from '@/core/testing/scene';
import { Told, type Served } from './served';
import { EngineService } from './service';

/** A scene of one run of a built-in prop. */
function scene() {
  const s = emptyScene('S');
  s.nextId = 10;
  s.props = [newProp('prop1', 'Bollard', { source: 'built', name: 'bollard' })];
  s.paths = [
    newPath(
      'path2',
      'P',
      points('corner', [
        [0, 0, 0],
        [10, 0, 0],
      ]),
    ),
  ];
  s.arrangements = [
    newRun('run3', 'R', 'madder', 'path2', [newEntry('entry4', { kind: 'prop', prop: 'prop1' })]),
  ];
  return s;
}

test('only what is new is told: nothing twice, what is gone by its name, and everything to whoever was told nothing', () => {
  const service = new EngineService();
  const told = new Told();
  const ids = ({ surfaces, paths, arrangements, rows, gone, propBounds }: Served) => ({
    told: [...surfaces, ...paths, ...arrangements, ...rows].map((r) => r.id),
    gone,
    bounds: propBounds && Object.keys(propBounds),
  });
  const nothing = { told: [], gone: [], bounds: undefined };
  const whole = { told: ['path2', 'run3'], gone: [], bounds: ['prop1'] };
  const first = scene();
  expect(ids(service.evaluate(first, told))).toEqual(whole);
  expect(ids(service.evaluate(first, told))).toEqual(nothing);
  expect(ids(service.evaluate(scene(), told))).toMatchObject({ told: [], gone: [] });
  const moved = scene();
  firstRun(moved).seed = 5;
  expect(ids(service.evaluate(moved, told))).toMatchObject({ told: ['run3'], gone: [] });
  expect(ids(service.evaluate({ ...moved, arrangements: [] }, told))).toMatchObject({ gone: ['run3'] });
  expect(ids(service.evaluate({ ...moved, arrangements: [] }, told))).toEqual(nothing);
  expect(ids(service.evaluate(first, new Told()))).toEqual(whole);
});

test('a mesh of one’s own is brought in once, travels in the scene file and places by its own size', async () => {
  const made = new EngineService();
  const glb = await made.sendOut(scene(), { kind: 'glb', options: { props: 'nodes', surfaces: false } });
  const service = new EngineService();
  const { hash, bounds, triangles } = await service.files.bringIn(glb, 'row.glb');
  expect(triangles).toBeGreaterThan(1000);
  const own = scene();
  own.props[0].mesh = { source: 'file', hash, format: 'glb', fileName: 'row.glb' };
  const [a] = service.evaluateAll(own).arrangements;
  expect(a.facts.askedPitch).toBeCloseTo(1.5 * (bounds.max[2] - bounds.min[2]), 1);
  const packed = await service.sendOut(own, { kind: 'clothesline' });
  expect(openScene(packed, 'x').missing).toEqual([]);
  const other = new EngineService();
  const opened = await other.open(packed, 'x.clothesline');
  expect(opened.scene).toEqual(own);
  expect(other.evaluateAll(opened.scene).arrangements[0].placements).toEqual(a.placements);
});

test('other seeds of a bent run are bent too, and that of the scene itself is what stands there', () => {
  const service = new EngineService();
  const bent = scene();
  bent.paths = [
    newPath(
      'path2',
      'P',
      points('smooth', [
        [0, 0, 0],
        [3, 0, 2],
        [6, 0, 0],
      ]),
    ),
  ];
  const run = firstRun(bent);
  run.facing = { ...run.facing, bend: true };
  run.variation = { ...run.variation, size: [0.6, 1.4] };
  const [here] = service.evaluateAll(bent).arrangements;
  const [own, other] = service.variants(bent, 'run3', [run.seed, run.seed + 1]);
  expect(own.bent.map((b) => b.positions)).toEqual(here.placements.bent!.map((b) => b.positions));
  expect(own.batches.every((b) => b.shape !== undefined)).toBe(true);
  expect(other.bent.map((b) => b.positions)).not.toEqual(own.bent.map((b) => b.positions));
  expect(service.variants(bent, 'nobody', [1])).toEqual([]);
});

test('a check is given up when something else is worked out meanwhile, and says so', async () => {
  const service = new EngineService();
  const crowd = scene();
  firstRun(crowd).spacing = { ...firstRun(crowd).spacing, mode: 'count', count: 400 };
  service.evaluateAll(crowd);
  const given = service.check(crowd);
  await service.sendOut(crowd, { kind: 'csv', gaps: false }, 3);
  expect(await given).toBeNull();
  expect((await service.check(crowd))!.get('run3')).toMatchObject([{ kind: 'overlap' }]);
});
