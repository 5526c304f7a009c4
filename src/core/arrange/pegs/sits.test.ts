import type { Tie } from '../../curve/hang/schema';
import { Evaluator } from '../../evaluate/scene';
import { SceneChecks } from '../../evaluate/checks/sceneChecks';
import { quatRotate, quatTurnTipRoll, type Quat } from '../../math/quat';
import { addScaled, type Vec3 } from '../../math/vec3';
import { deformerSchema } from '../../mesh/deform/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { clip, pasting } from '../../scene/clipping';
import { emptyScene, newProp, newSurface } from '../../scene/defaults';
import { applyPatches } from '../../scene/patch';
import type { Scene } from '../../scene/schema';
import { exampleMesh } from '../../testing/scene';
import { newArrangement } from '../registry';
import type { Pegs } from './schema';

/** Pegs that sit on snap points, of other arrangements and of each other. */

const TOP: Vec3 = [0.1, 0.6, 0.05];
const on = (slot: string, snap: string | null = 'top', arrangement = 'rafts'): Tie => ({
  to: 'slot',
  arrangement,
  slot,
  snap,
});
const sits = (tie: Tie, more: object = {}) => ({ on: tie, ...more });
const pin = (face: number) => ({ surface: 'water', face, u: 0.3, v: 0.3, faces: 800, lean: 1 });

/** Rafts pinned to a waving water, and pegs that are given. */
function sceneOf(pegs: object[], more: object = {}): Scene {
  const scene = emptyScene('Sits');
  scene.props.push({
    ...newProp('raft', 'Raft', { source: 'built', name: 'box' }),
    snapPoints: [
      { name: 'top', position: TOP, direction: [0, 1, 0] },
      { name: 'hook', position: [0, 0.3, 0.2], direction: [0, 0, 1] },
    ],
  });
  const shape = shapeSchema.parse({ shape: 'plane', width: 20, depth: 20, columns: 20, rows: 20 });
  const water = newSurface('water', 'Water', { source: 'made', shape, color: '#406070' });
  water.deformers = [deformerSchema.parse({ id: 'd', kind: 'wave', height: 0.5, length: 6, speed: 1 })];
  scene.surfaces.push(water);
  const of = (id: string, list: object[], values: object = {}) =>
    newArrangement('pegs', { id, name: id, thread: 'woad' }, { pegs: [list], ...values });
  scene.arrangements.push(
    of('rafts', [
      { id: 'peg1', prop: 'raft', position: [0, 0, 0], pin: pin(20) },
      { id: 'peg2', prop: 'raft', position: [5, 0, 0], pin: pin(430), scale: [2, 1.5, 2] },
    ]),
    of('jars', pegs, more),
  );
  scene.nextId = 100;
  return scene;
}
const jar = (n: number, more: object): object => ({
  id: `peg${n}`,
  prop: 'raft',
  position: [9, 9, 9],
  ...more,
});

const evaluator = new Evaluator({ mesh: () => exampleMesh() });
function evaluated(scene: Scene, time = 0) {
  const [rafts, jars] = evaluator.evaluate(scene, undefined, time).arrangements;
  const pose = (r: typeof rafts, i: number) => ({
    at: [...r.placements.position.subarray(i * 3, i * 3 + 3)] as Vec3,
    turn: [...r.placements.rotation.subarray(i * 4, i * 4 + 4)] as Quat,
    size: [...r.placements.scale.subarray(i * 3, i * 3 + 3)] as Vec3,
  });
  return {
    raft: (i: number) => pose(rafts, i),
    jar: (i: number) => pose(jars, i),
    found: jars.findings.map((f) => [f.kind, f.slots]),
  };
}
type Pose = ReturnType<ReturnType<typeof evaluated>['raft']>;
const inScene = ({ at, turn, size }: Pose, p: Vec3): Vec3 => {
  const own = quatRotate(turn, p.map((v, a) => v * size[a]) as Vec3);
  return at.map((v, a) => v + own[a]) as Vec3;
};
const near = (a: readonly number[], b: readonly number[]) =>
  expect(Math.hypot(...a.map((v, k) => v - b[k]))).toBeLessThan(1e-9);

test('a peg is on its snap point at every time, turned with what carries it, lifted and turned as it says', () => {
  const scene = sceneOf([
    jar(3, { sits: sits(on('1')) }),
    jar(4, { sits: sits(on('2'), { lift: 0.25, turnDeg: 30 }) }),
    jar(5, { sits: sits(on('2', 'hook'), { lean: 0 }) }),
  ]);
  for (const time of [0, 0.7, 3.1]) {
    const { raft, jar: peg, found } = evaluated(scene, time);
    near(peg(0).at, inScene(raft(0), TOP));
    near(quatRotate(peg(0).turn, [0, 1, 0]), quatRotate(raft(0).turn, [0, 1, 0]));
    near(quatRotate(peg(0).turn, [0, 0, 1]), quatRotate(raft(0).turn, [0, 0, 1]));
    const up = quatRotate(raft(1).turn, [0, 1, 0]);
    near(peg(1).at, addScaled(inScene(raft(1), TOP), up, 0.25));
    const own = quatRotate(quatTurnTipRoll(Math.PI / 6, 0, 0), [0, 0, 1]);
    near(quatRotate(peg(1).turn, [0, 0, 1]), quatRotate(raft(1).turn, own));
    near(peg(2).at, inScene(raft(1), [0, 0.3, 0.2]));
    near(quatRotate(peg(2).turn, [0, 1, 0]), [0, 1, 0]);
    expect(found).toEqual([]);
  }
});

test('pegs stand on pegs of their own, in any order, through what variation makes of those; a ring of them is told', () => {
  const stacked = [
    jar(5, { sits: sits(on('4', 'top', 'jars')) }),
    jar(3, { position: [1, 0, 2] }),
    jar(4, { sits: sits(on('3', 'top', 'jars')) }),
  ];
  const { jar: peg, found } = evaluated(
    sceneOf(stacked, { variation: { turnDeg: [-90, 90], size: [0.5, 2] } }),
  );
  expect(peg(1).size[0]).not.toBe(1);
  near(peg(2).at, inScene(peg(1), TOP));
  near(peg(0).at, inScene(peg(2), TOP));
  expect(found).toEqual([]);
  const ring = evaluated(
    sceneOf([
      jar(3, { sits: sits(on('4', 'top', 'jars')) }),
      jar(4, { sits: sits(on('3', 'top', 'jars')) }),
      jar(5, { sits: sits(on('1')) }),
    ]),
  );
  expect(ring.found).toEqual([['sits-ring', [3, 4]]]);
  expect(ring.jar(0).at).toEqual([9, 9, 9]);
  near(ring.jar(2).at, inScene(ring.raft(0), TOP));
});

test('what is gone leaves a peg on the nearest of that name, else where it was; both are said', () => {
  const lost = evaluated(
    sceneOf([
      jar(3, { sits: sits(on('77')), position: [4, 0, 0] }),
      jar(4, { sits: sits(on('1', 'mast')) }),
      jar(5, { sits: sits(on('1', 'top', 'gone')) }),
    ]),
  );
  expect(lost.found).toEqual([
    ['sits-missing', [4, 5]],
    ['sits-other', [3]],
  ]);
  const [a, b] = [0, 1].map((i) => inScene(lost.raft(i), TOP));
  const away = (p: Vec3) => Math.hypot(p[0] - 4, p[1], p[2]);
  near(lost.jar(0).at, away(a) < away(b) ? a : b);
  expect(lost.jar(1).at).toEqual([9, 9, 9]);
});

test('a change of one goes through those on it; no check minds what sits where it belongs, but for others', () => {
  const own = new Evaluator({ mesh: () => exampleMesh() });
  const scene = sceneOf([jar(3, { position: [1, 0, 2] }), jar(4, { sits: sits(on('3', 'top', 'jars')) })]);
  own.evaluate(scene);
  const moved = structuredClone(scene);
  (moved.arrangements[1] as Pegs).pegs[0][0].position = [3, 1, -4];
  const again = own.evaluate(moved).arrangements[1].placements.position;
  expect([...again]).toEqual([
    ...new Evaluator({ mesh: () => exampleMesh() }).evaluate(moved).arrangements[1].placements.position,
  ]);
  near([...again.subarray(3, 6)], [3.1, 1.6, -3.95]);

  const all = (s: Scene) => {
    const work = new SceneChecks().look(s, evaluator.evaluate(s), evaluator.contextAt(0));
    let step = work.next();
    while (!step.done) step = work.next();
    return [...step.value.values()].flat().map((f) => [f.kind, f.node, f.slots]);
  };
  const deep = { lift: -0.3 };
  const held = [jar(3, { sits: sits(on('1'), deep) }), jar(4, { sits: sits(on('3', 'top', 'jars'), deep) })];
  expect(all(sceneOf(held))).toEqual([]);
  const beside = all(sceneOf([...held, jar(5, { sits: sits(on('3', 'top', 'jars'), { lift: -0.2 }) })]));
  expect(beside).toEqual([['overlap', 'jars', [4, 5]]]);
});

test('copies sit on the copies of what they sat on, and on the same as before where that is not copied', () => {
  const scene = sceneOf([jar(3, { sits: sits(on('1')) }), jar(4, { sits: sits(on('3', 'top', 'jars')) })]);
  const put = (ids: string[]) => {
    const { made, patches } = pasting(scene, clip(scene, ids, 'here'), 'here');
    const next = applyPatches(scene, patches).value;
    const of = (id: string) => next.arrangements.find((a) => a.id === id) as Pegs;
    return made.map(of);
  };
  const under = (p: Pegs) => p.pegs[0].map(({ sits }) => (sits?.on.to === 'slot' ? sits.on : null));
  const number = (p: Pegs, i: number) => p.pegs[0][i].id.slice(3);
  const [jars] = put(['jars']);
  expect(under(jars)).toEqual([on('1'), on(number(jars, 0), 'top', jars.id)]);
  const [rafts, both] = put(['rafts', 'jars']);
  expect(under(both)).toEqual([on(number(rafts, 0), 'top', rafts.id), on(number(both, 0), 'top', both.id)]);
});
