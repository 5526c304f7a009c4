import { NodeIO, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { newArrangement } from '../../arrange/registry';
import { inBlocks } from '../../arrange/pegs/blocks';
import { slotName } from '../../arrange/slotId';
import { writeCsv } from '../../formats/csv';
import { writeGlb } from '../../formats/glbWrite';
import { wayTo } from '../../formats/wayTo';
import { writeAffine } from '../../math/affine';
import { quatMultiply, quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { bundleSchema } from '../../scene/bundleSchema';
import { emptyScene, newPath, newProp } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { ASSETS } from '../../testing/scene';
import { Evaluator, type EvaluatedArrangement } from '../scene';

/** Copies of bundles, against what their rows come to when each is carried by hand. */

const ORIGIN: Vec3 = [1, 0.5, -2];
const box = newProp('box', 'Box', { source: 'built', name: 'box' });
const bundleProp = (id: string, more: object = {}) => ({
  ...newProp(id, id, { source: 'bundle', bundle: `of ${id}` }),
  foot: { at: 'origin' as const },
  ...more,
});
const bundle = (prop: string, members: string[], more: object = {}) =>
  bundleSchema.parse({ id: `of ${prop}`, members: members.map((id) => ({ id })), origin: ORIGIN, ...more });
const pegs = (id: string, prop: string, list: object[]) =>
  newArrangement(
    'pegs',
    { id, name: id, thread: 'moss' },
    {
      pegs: inBlocks(
        list.map((peg, i) => ({ id: `peg${i + 1}`, prop, position: [i * 3, 0, 0], ...peg })) as never,
      ),
    },
  );

/** Three boxes along a line, each turned and sized by chance, as a bundle; four copies of it as pegs. */
function sceneOf(change: (scene: Scene) => void = () => {}): Scene {
  const row = newArrangement(
    'run',
    { id: 'row', name: 'Row', thread: 'madder' },
    {
      visible: false,
      paths: [{ path: 'line', part: 0 }],
      order: { entries: [{ id: 'e1', item: { kind: 'prop', prop: 'box' } }] },
      spacing: { mode: 'count', count: 3 },
      variation: { turnDeg: [-90, 90], size: [0.5, 1], mirror: 0.5 },
    },
  );
  const scene: Scene = {
    ...emptyScene('Bundles'),
    props: [box, bundleProp('crate')],
    paths: [
      newPath(
        'line',
        'Line',
        points('corner', [
          [0, 0, -2],
          [2, 0.5, -2],
        ]),
      ),
    ],
    arrangements: [
      row,
      pegs('copies', 'crate', [
        {},
        { turnDeg: 40, size: 2 },
        { turnDeg: -70, tipDeg: 20, position: [4, 1, 1] },
        { size: 0.5, position: [-3, 2, 7] },
      ]),
    ],
    bundles: [bundle('crate', ['row'])],
  };
  change(scene);
  return scene;
}
const evaluated = (scene: Scene) => {
  const result = new Evaluator(ASSETS).evaluate(scene);
  return { result, of: (id: string) => result.arrangements.find((a) => a.id === id)! };
};
const rowsOf = ({ inside }: EvaluatedArrangement) => Array.from({ length: inside?.count ?? 0 }, (_, i) => i);
const near = (a: ArrayLike<number>, b: ArrayLike<number>, within = 1e-9) =>
  Array.from(a).forEach((v, k) => expect(Math.abs(v - b[k])).toBeLessThan(within));

test('a copy that is alike holds what was made, carried by its place, turn and size', () => {
  const { of } = evaluated(sceneOf((s) => void (s.bundles[0].alike = true)));
  const [row, copies] = [of('row').placements, of('copies')];
  expect(copies.inside!.count).toBe(12);
  const p = copies.placements;
  for (const i of rowsOf(copies)) {
    const { copy, slot, matrix, rotation, scale } = copies.inside!;
    const c = copy[i];
    const from = row.slot.indexOf(slot[i]);
    const q = [...p.rotation.subarray(c * 4, c * 4 + 4)] as Quat;
    const own = [0, 1, 2].map((a) => (row.position[from * 3 + a] - ORIGIN[a]) * p.scale[c * 3 + a]) as Vec3;
    const at = quatRotate(q, own).map((v, a) => v + p.position[c * 3 + a]);
    near(matrix.subarray(i * 16 + 12, i * 16 + 15), at);
    const turn = [...row.rotation.subarray(from * 4, from * 4 + 4)] as Quat;
    near(rotation.subarray(i * 4, i * 4 + 4), turn);
    near(scale.subarray(i * 3, i * 3 + 3), row.scale.subarray(from * 3, from * 3 + 3));
    const whole = quatMultiply(q, turn);
    const corner = quatRotate(whole, [row.scale[from * 3] * p.scale[c * 3], 0, 0]);
    near(matrix.subarray(i * 16, i * 16 + 3), corner);
  }
});

test('each copy draws for itself, by its slot: another copy more changes none, and so does another setting', () => {
  const turns = (scene: Scene) => {
    const { of } = evaluated(scene);
    const { inside, placements } = of('copies');
    const by: Record<string, string> = {};
    for (const i of rowsOf(of('copies')))
      by[wayTo(placements, inside!, i)] = [...inside!.rotation.subarray(i * 4, i * 4 + 4)].join();
    return by;
  };
  const four = turns(sceneOf());
  expect(Object.keys(four).sort()).toEqual([1, 2, 3, 4].flatMap((c) => [1, 2, 3].map((s) => `${c}/${s}`)));
  const of = (c: number) => [1, 2, 3].map((s) => four[`${c}/${s}`]).join(' ');
  expect(new Set([1, 2, 3, 4].map(of)).size).toBe(4);
  const more = turns(
    sceneOf((s) => void (s.arrangements[1] = pegs('copies', 'crate', [{}, {}, {}, {}, {}, {}]))),
  );
  for (const [name, turn] of Object.entries(four)) expect(more[name]).toBe(turn);
});

test('the box of a bundle is that of what it holds, from its foot, by its front', () => {
  const { result, of } = evaluated(
    sceneOf((s) => {
      s.props[1] = bundleProp('crate', { foot: { at: 'base' }, front: '+x' });
    }),
  );
  const p = of('row').placements;
  const { min, max } = result.propBounds.box;
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < p.count; i++)
    for (let c = 0; c < 8; c++) {
      const own = [0, 1, 2].map((a) => ((c >> a) & 1 ? max[a] : min[a]) * p.scale[i * 3 + a]) as Vec3;
      const q = [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
      quatRotate(q, own).forEach((v, a) => {
        low[a] = Math.min(low[a], v + p.position[i * 3 + a]);
        high[a] = Math.max(high[a], v + p.position[i * 3 + a]);
      });
    }
  const [w, h, d] = high.map((v, a) => v - low[a]);
  const own = result.propBounds.crate;
  // Its front is what was +X.
  near(own.min, [-d / 2, 0, -w / 2], 1e-6);
  near(own.max, [d / 2, h, w / 2], 1e-6);
});

/** Boxes in a box bundle, that in a pallet of five, that in a load of four. */
const nested = () =>
  sceneOf((s) => {
    s.props.push(bundleProp('pallet'), bundleProp('load'));
    s.arrangements.push(
      pegs(
        'on pallet',
        'crate',
        Array.from({ length: 5 }, (_, i) => ({ position: [i, 0.5, -2] })),
      ),
      pegs(
        'on load',
        'pallet',
        Array.from({ length: 4 }, (_, i) => ({ position: [1, 0.5 + i, -2], turnDeg: i * 10 })),
      ),
      pegs('loads', 'load', [{ turnDeg: 30, size: 1.5 }, {}]),
    );
    s.bundles.push(bundle('pallet', ['on pallet']), bundle('load', ['on load']));
  });

test('three deep: every row points to its copy, its way names it, and maps put together are its own', () => {
  const { of } = evaluated(nested());
  const loads = of('loads');
  const inside = loads.inside!;
  expect(rowsOf(loads).filter((i) => !inside.bundle[i]).length).toBe(2 * 4 * 5 * 3);
  const ways = rowsOf(loads)
    .filter((i) => !inside.bundle[i])
    .map((i) => wayTo(loads.placements, inside, i));
  expect(new Set(ways).size).toBe(120);
  expect(ways).toContain('2/4/5/3');
  const map = (p: ArrayLike<number>, i: number, q: ArrayLike<number>, s: ArrayLike<number>) => {
    const m = new Float64Array(16);
    writeAffine(m, 0, p, i * 3, q, i * 4, s, i * 3);
    return m;
  };
  const through = (m: ArrayLike<number>, v: Vec3): Vec3 =>
    [0, 1, 2].map((r) => m[r] * v[0] + m[4 + r] * v[1] + m[8 + r] * v[2] + m[12 + r]) as Vec3;
  for (const i of rowsOf(loads)) {
    let at: Vec3 = [0.3, -0.2, 0.7];
    for (let k = i; k >= 0; k = inside.parent[k])
      at = through(map(inside.position, k, inside.rotation, inside.scale), at);
    const { position, rotation, scale } = loads.placements;
    at = through(map(position, inside.copy[i], rotation, scale), at);
    near(through(inside.matrix.subarray(i * 16, i * 16 + 16), [0.3, -0.2, 0.7]), at, 1e-9);
  }
  // Crates of the same number on two pallets are drawn anew too.
  const turn = (way: string) => {
    const i = rowsOf(loads).find((k) => !inside.bundle[k] && wayTo(loads.placements, inside, k) === way)!;
    return [...inside.rotation.subarray(i * 4, i * 4 + 4)].join();
  };
  expect(turn('1/1/1/1')).not.toBe(turn('1/2/1/1'));
  expect(turn('1/1/1/1')).not.toBe(turn('2/1/1/1'));
});

test('the table has a row a prop with its way; in glTF copies are nodes in nodes that come to the same places', async () => {
  const scene = nested();
  for (const a of scene.arrangements) a.visible = a.id === 'loads';
  const { result, of } = evaluated(scene);
  const lines = writeCsv(scene, result, { gaps: true })
    .trim()
    .split('\n')
    .slice(1)
    .map((l) => l.split(','));
  expect(lines.length).toBe(120);
  const loads = of('loads');
  const wanted = new Map(
    rowsOf(loads)
      .filter((i) => !loads.inside!.bundle[i])
      .map((i) => [
        wayTo(loads.placements, loads.inside!, i),
        [...loads.inside!.matrix.subarray(i * 16 + 12, i * 16 + 15)],
      ]),
  );
  for (const [, , prop, slot, , , x, y, z] of lines) {
    expect(prop).toBe('Box');
    near([x, y, z].map(Number), wanted.get(slot)!, 1e-12);
  }
  const bytes = await writeGlb(scene, result, ASSETS, { props: 'nodes', surfaces: false });
  const document = await new NodeIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes);
  const seen = new Map<string, number[]>();
  const walk = (node: Node, way: string[]) => {
    const { slot } = node.getExtras() as { slot?: string };
    const here = slot === undefined ? way : [...way, slot];
    if (node.getMesh()) seen.set(here.join('/'), node.getWorldTranslation());
    node.listChildren().forEach((child) => walk(child, here));
  };
  document
    .getRoot()
    .listScenes()[0]
    .listChildren()
    .forEach((n) => walk(n, []));
  expect(seen.size).toBe(120);
  for (const [way, at] of seen) near(at, wanted.get(way)!, 1e-5);
});

test('a bundle in itself is a ring that is named; one that holds nothing, or whose parts are gone, is told', () => {
  const ring = evaluated(
    sceneOf((s) => {
      s.arrangements.push(pegs('within', 'crate', [{}]));
      s.bundles[0].members.push({ id: 'within', shown: true });
    }),
  );
  const cycle = ring.of('within').findings.find((f) => f.kind === 'cycle')!;
  expect(cycle.detail.ring).toContain('“within”');
  const gone = evaluated(sceneOf((s) => void (s.bundles[0].members = [{ id: 'nothing', shown: true }])));
  expect(gone.of('copies').findings.map((f) => f.kind)).toContain('mesh-empty');
  expect(gone.of('copies').inside).toBeUndefined();
  const none = evaluated(sceneOf((s) => void (s.bundles = [])));
  expect(none.of('copies').findings.map((f) => f.kind)).toContain('mesh-missing');
});

test('what changes in a bundle changes in all copies, and a change elsewhere leaves them as they are', () => {
  const evaluator = new Evaluator(ASSETS);
  const scene = sceneOf();
  const before = evaluator.evaluate(scene).arrangements[1];
  const moved = {
    ...scene,
    arrangements: [scene.arrangements[0], { ...scene.arrangements[1], name: 'Other' }],
  };
  expect(evaluator.evaluate(moved as Scene).arrangements[1].inside!.matrix).toEqual(before.inside!.matrix);
  const row = scene.arrangements[0] as Extract<Scene['arrangements'][0], { kind: 'run' }>;
  const fuller = {
    ...scene,
    arrangements: [{ ...row, spacing: { ...row.spacing, count: 5 } }, scene.arrangements[1]],
  };
  const after = evaluator.evaluate(fuller).arrangements[1];
  expect(after.inside!.count).toBe(20);
  expect(slotName(after.inside!.slot[4])).toBe('5');
});
