import { Evaluator, type EvaluatedArrangement } from '../../evaluate/scene';
import type { Vec3 } from '../../math/vec3';
import { deformerSchema } from '../../mesh/deform/schema';
import { maskSchema } from '../../mesh/mask/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newPath, newProp, newSurface } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { closest, shortestByPrim } from '../../testing/apart';
import { points } from '../../testing/paths';
import { ASSETS } from '../../testing/scene';
import { needsOf, newArrangement, surfacesOf } from '../registry';
import { STATE } from '../result';
import { slotName } from '../slotId';
import { nearNeighbours } from '../steps/neighbours';
import { scatterSchema, type Scatter } from './schema';

const made = (id: string, shape: object) =>
  newSurface(id, id, { source: 'made', shape: shapeSchema.parse(shape), color: '#D8CDB6' });
const scatter = (more: object = {}): Scatter =>
  scatterSchema.parse({
    id: 'tufts',
    kind: 'scatter',
    name: 'Tufts',
    thread: 'moss',
    over: { kind: 'surfaces', surfaces: ['ball'] },
    props: [
      { prop: 'p', weight: 3 },
      { prop: 'q', weight: 1 },
    ],
    ...more,
  });

function worked(given: Scatter, change: (scene: Scene) => void = () => {}, time = 0) {
  const scene: Scene = {
    ...emptyScene('Scatter'),
    props: ['p', 'q'].map((id) => newProp(id, id, { source: 'built', name: 'box' })),
    surfaces: [
      made('ball', { shape: 'sphere', radius: 3, columns: 64, rows: 32 }),
      made('field', { shape: 'plane', width: 20, depth: 10, columns: 20, rows: 10 }),
      made('small', { shape: 'plane', width: 5, depth: 10, columns: 5, rows: 10 }),
    ],
    paths: [
      newPath(
        'ring',
        'Ring',
        points('corner', [
          [-4, 1, -3],
          [4, 1, -3],
          [4, 1, 3],
          [-4, 1, 3],
        ]),
      ),
      newPath(
        'open',
        'Open',
        points('corner', [
          [-4, 0, -3],
          [4, 0, -3],
          [4, 0, 3],
        ]),
      ),
    ],
    arrangements: [given],
  };
  scene.paths[0].closed = true;
  scene.surfaces[2].position = [30, 0, 0];
  change(scene);
  return new Evaluator(ASSETS).evaluate(scene, undefined, time).arrangements[0];
}
const at = ({ placements: p }: EvaluatedArrangement, i: number) =>
  [...p.position.subarray(i * 3, i * 3 + 3)] as Vec3;
const all = (r: EvaluatedArrangement) => Array.from({ length: r.placements.count }, (_, i) => at(r, i));
const kinds = (r: EvaluatedArrangement) => r.findings.map((f) => f.kind);

test('a number is that number, on several surfaces by their areas; each place is drawn its prop for itself', () => {
  const over = { kind: 'surfaces', surfaces: ['field', 'small'] };
  const r = worked(scatter({ over, spread: { how: 'loose', amount: 'number', number: 4000 } }));
  expect(r.placements.count).toBe(4000);
  const small = all(r).filter((p) => p[0] > 20).length;
  // A fifth of the area: three times the deviation of so many tosses.
  expect(Math.abs(small - 800)).toBeLessThan(3 * Math.sqrt(4000 * 0.2 * 0.8));
  const q = r.placements.prop.filter((p) => r.placements.props[p] === 'q').length;
  expect(Math.abs(q - 1000)).toBeLessThan(3 * Math.sqrt(4000 * 0.25 * 0.75));
  expect(r.area!.size).toBeCloseTo(250, 6);
});

test('without a distance the footprint says it; nothing is turned; on a ball all stand on it', () => {
  const r = worked(scatter());
  // A box of 0.4 × 0.5 m, and a quarter of its width for air.
  expect(r.area!.distance).toBeCloseTo(0.625, 9);
  expect(closest(all(r))).toBeGreaterThanOrEqual(0.625);
  expect(Math.max(...all(r).map((p) => Math.abs(Math.hypot(...p) - 3)))).toBeLessThan(0.02);
  expect(r.placements.rotation.every((v, i) => Math.abs(v - (i % 4 === 3 ? 1 : 0)) < 1e-12)).toBe(true);
  const leaned = worked(scatter({ stand: { lean: 1 } }));
  const up = (i: number): Vec3 => {
    const [x, y, z, w] = leaned.placements.rotation.subarray(i * 4, i * 4 + 4);
    return [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)];
  };
  const off = all(leaned).map((p, i) => up(i).reduce((sum, v, a) => sum + v * p[a], 0) / Math.hypot(...p));
  expect(Math.min(...off)).toBeGreaterThan(0.995);
});

test('chance, the hand and keep-outs leave gaps and move nothing else', () => {
  const before = worked(scatter());
  const slot = slotName(before.placements.slot[5]);
  const after = worked(
    scatter({
      gaps: { chance: 0.3, keepOuts: [{ id: 'k', kind: 'region', path: 'ring' }] },
      hand: { [slot]: { removed: true } },
    }),
  );
  expect([...after.placements.slot]).toEqual([...before.placements.slot]);
  expect(all(after)).toEqual(all(before));
  expect(after.placements.state[5]).toBe(STATE.hand);
  const kept = all(after).filter((_, i) => after.placements.state[i] === STATE.keepOut);
  const inside = ([x, , z]: Vec3) => Math.abs(x) < 4 && Math.abs(z) < 3;
  expect(kept.every(inside)).toBe(true);
  const placed = all(after).filter((_, i) => after.placements.state[i] === STATE.placed);
  expect(placed.some(inside)).toBe(false);
});

test('one that a hand nudges stays on its surface', () => {
  const before = worked(scatter({ stand: { lean: 1 } }));
  const slot = slotName(before.placements.slot[9]);
  const after = worked(scatter({ stand: { lean: 1 }, hand: { [slot]: { along: 0.4, side: 0.3 } } }));
  const [p, q] = [at(before, 9), at(after, 9)];
  // Half a metre on a ball of 3 m: the chord is a little shorter.
  expect(Math.hypot(...p.map((v, a) => v - q[a]))).toBeCloseTo(0.5, 1);
  expect(Math.hypot(...q)).toBeCloseTo(3, 1);
  expect(at(after, 8)).toEqual(at(before, 8));
});

test('while its surface moves, places stay on their material: as many, the same, and on it', () => {
  const wave = (scene: Scene) => {
    scene.surfaces[1].deformers = [
      deformerSchema.parse({ id: 'd', kind: 'wave', height: 0.5, length: 4, speed: 1 }),
    ];
  };
  const given = scatter({
    over: { kind: 'surfaces', surfaces: ['field'] },
    spread: { distance: 0.8 },
    stand: { lean: 1 },
  });
  const [still, one, two] = [worked(given), worked(given, wave, 0.4), worked(given, wave, 1.3)];
  expect([...one.placements.slot]).toEqual([...still.placements.slot]);
  expect([...two.placements.slot]).toEqual([...still.placements.slot]);
  const moved = all(two).map((p, i) => Math.abs(p[1] - at(one, i)[1]));
  expect(Math.max(...moved)).toBeGreaterThan(0.3);
  expect(Math.max(...all(two).map((p, i) => Math.abs(p[0] - at(still, i)[0])))).toBeLessThan(1e-9);
});

test('inside a closed path, landed on what is beneath; an open one is named', () => {
  const over = { kind: 'paths', paths: ['ring'] };
  const r = worked(
    scatter({ over, spread: { distance: 0.7 }, ground: { mode: 'land', above: 10 } }),
    (scene) => {
      scene.surfaces = [scene.surfaces[1]];
      scene.surfaces[0].position = [0, -2, 0];
    },
  );
  expect(r.area!.size).toBeCloseTo(48, 1);
  expect(r.placements.count).toBeGreaterThan(0.6 * (48 / 0.49));
  expect(all(r).every(([x, y, z]) => Math.abs(x) <= 4 && Math.abs(z) <= 3 && Math.abs(y + 2) < 1e-9)).toBe(
    true,
  );
  expect(kinds(worked(scatter({ over: { kind: 'paths', paths: ['open'] } })))).toEqual(['area-open']);
});

test('an area whose border crosses itself is named, with the place; what it goes round twice stays empty', () => {
  const over = { kind: 'paths', paths: ['ring'] };
  const drawn = (corners: [number, number][]) =>
    worked(scatter({ over, spread: { distance: 0.3 } }), (scene) => {
      scene.paths[0] = {
        ...newPath(
          'ring',
          'Ring',
          points(
            'corner',
            corners.map(([x, z]) => [x, 1, z]),
          ),
        ),
        closed: true,
      };
    });
  // Two triangles that meet in the middle.
  const eight = drawn([[-3, -2], [3, 2], [3, -2], [-3, 2]]); // prettier-ignore
  const [said] = eight.findings;
  expect(said).toMatchObject({ kind: 'area-crosses', detail: { path: 'ring' } });
  said.marks![0][0].forEach((v, a) => expect(v).toBeCloseTo([0, 1, 0][a], 9));
  expect(all(eight).every(([x, , z]) => Math.abs(z) <= (Math.abs(x) * 2) / 3 + 1e-9)).toBe(true);
  expect(eight.area!.size).toBeCloseTo(12, 1);
  // A smaller square that is gone round a second time in one go.
  const twice = drawn([[-4, -3], [4, -3], [4, 3], [-4, 3], [-4, -3.5], [-1, -1], [1, -1], [1, 1], [-1, 1], [-1.2, -1.5]]); // prettier-ignore
  expect(kinds(twice)).toContain('area-crosses');
  expect(all(twice).some(([x, , z]) => Math.abs(x) < 0.9 && Math.abs(z) < 0.9)).toBe(false);
  // What only touches itself does not cross.
  const touches = drawn([[-3, -2], [0, 0], [3, -2], [3, 2], [0, 0], [-3, 2]]); // prettier-ignore
  expect(kinds(touches)).not.toContain('area-crosses');
});

test('what spans it, and the lines that hang between its places, join neighbours by the shortest net', () => {
  const joined = () => {
    let net: EvaluatedArrangement[] = [];
    const spread = { how: 'loose', amount: 'number', number: 120 };
    worked(scatter({ over: { kind: 'surfaces', surfaces: ['field'] }, spread }), (scene) => {
      const base = { name: 'Net', thread: 'woad' as const, props: [{ prop: 'p', weight: 1 }] };
      scene.arrangements.push(
        newArrangement('spans', { id: 'rails', ...base }, { on: 'tufts' }),
        newArrangement('strands', { id: 'ropes', ...base }, { from: { on: 'tufts' } }),
        newArrangement('riders', { id: 'birds', ...base }, { on: 'tufts', props: base.props }),
        newArrangement('spans', { id: 'wires', ...base }, { on: 'birds' }),
      );
      net = new Evaluator(ASSETS).evaluate(scene).arrangements;
    });
    return net;
  };
  const [posts, rails, ropes, , wires] = joined();
  const n = posts.placements.count;
  expect(n).toBe(120);
  const box = 0.5;
  const lengths = Array.from(
    rails.placements.scale.filter((_, i) => i % 3 === 2),
    (s) => s * box,
  );
  expect(lengths.length).toBe(n - 1);
  expect(lengths.reduce((a, b) => a + b)).toBeCloseTo(shortestByPrim(all(posts)), 6);
  // Each leaves a post of its own, so that a hand's corrections stay with it.
  expect(new Set(rails.placements.slot).size).toBe(n - 1);
  expect([...ropes.placements.slot].sort()).toEqual([...rails.placements.slot].sort());
  // What rides on them comes in no order either.
  expect([...wires.placements.slot].sort()).toEqual([...rails.placements.slot].sort());
  // To the second after: one on from the first. More than are asked for are not looked for.
  const once = new Map(nearNeighbours(posts.placements, { reach: 1, every: 1 }, n));
  for (const [a, b] of nearNeighbours(posts.placements, { reach: 2, every: 1 }, n)!)
    expect(b).toBe(once.get(once.get(a)!));
  expect(nearNeighbours(posts.placements, { reach: 1, every: 1 }, n - 1)).toBeNull();
});

test('inside a closed surface wherever it stands; an open one is named', () => {
  const over = { kind: 'volume', surface: 'ball' };
  const r = worked(scatter({ over, spread: { distance: 0.6 } }), (scene) => {
    scene.surfaces[0].position = [10, 5, 0];
    scene.surfaces[0].size = 2;
  });
  expect(r.area!.size / (36 * Math.PI * 8)).toBeCloseTo(1, 1);
  expect(all(r).every((p) => Math.hypot(p[0] - 10, p[1] - 5, p[2]) <= 6)).toBe(true);
  expect(closest(all(r).slice(0, 600))).toBeGreaterThanOrEqual(0.6 - 1e-9);
  expect(kinds(worked(scatter({ over: { kind: 'volume', surface: 'field' } })))).toContain(
    'area-volume-open',
  );
});

test('an open mesh is filled as if closed, or in its box; a shell of a ball is as thick as it is said', () => {
  const over = (more: object) => ({ over: { kind: 'volume', surface: 'ball', ...more } });
  const half = (scene: Scene) => {
    // The upper half of a ball: its border is a circle in its middle.
    scene.paths.push(
      newPath(
        'arc',
        'Arc',
        points(
          'corner',
          Array.from({ length: 33 }, (_, i): Vec3 => {
            const a = (i / 32) * (Math.PI / 2);
            return [3 * Math.cos(a), 3 * Math.sin(a), 0];
          }),
        ),
      ),
    );
    scene.surfaces[0] = made('ball', { shape: 'turned', path: 'arc', columns: 64, rows: 32 });
  };
  const open = worked(scatter({ ...over({}), spread: { distance: 0.7 } }), half);
  expect(kinds(open)).toContain('area-volume-open');
  const closed = worked(scatter({ ...over({ open: 'closed' }), spread: { distance: 0.7 } }), half);
  expect(kinds(closed)).toEqual([]);
  expect(closed.area!.size / (18 * Math.PI)).toBeCloseTo(1, 1);
  expect(all(closed).every((p) => Math.hypot(...p) <= 3 && p[1] >= 0)).toBe(true);
  const box = worked(scatter({ ...over({ open: 'box' }), spread: { distance: 0.7 } }), half);
  expect(box.area!.size / 108).toBeCloseTo(1, 1);
  expect(all(box).some((p) => Math.hypot(...p) > 3.6)).toBe(true);
  const shell = worked(
    scatter({ ...over({ shell: 0.5 }), spread: { how: 'loose', amount: 'number', number: 3000 } }),
  );
  const from = all(shell).map((p) => Math.hypot(...p));
  // But for the flat faces.
  expect(Math.min(...from)).toBeGreaterThan(2.48);
  expect(Math.abs(shell.placements.count / 3000 - 1)).toBeLessThan(0.25);
});

test('fronts lead away from the middle, or drift: nearly as the nearest does, and all ways in all', () => {
  const fronts = (heading: string, more = {}) => {
    const r = worked(
      scatter({
        over: { kind: 'surfaces', surfaces: ['field'] },
        spread: { distance: 0.5 },
        stand: { heading, ...more },
      }),
    );
    return all(r).map((p, i) => {
      const [x, y, z, w] = r.placements.rotation.subarray(i * 4, i * 4 + 4);
      return { p, f: [2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)] as Vec3 };
    });
  };
  const out = fronts('outward');
  const middle = [0, 1, 2].map((a) => out.reduce((s, { p }) => s + p[a] / out.length, 0));
  const dots = out.map(({ p, f }) => {
    const away = p.map((v, a) => v - middle[a]);
    return away.reduce((s, v, a) => s + v * f[a], 0) / Math.hypot(...away);
  });
  expect(Math.min(...dots)).toBeGreaterThan(1 - 1e-9);
  const drift = fronts('drift', { driftSpan: 4 });
  const nearest = drift.map(({ p, f }, i) => {
    const other = drift
      .filter((_, k) => k !== i)
      .reduce((b, c) =>
        Math.hypot(c.p[0] - p[0], c.p[2] - p[2]) < Math.hypot(b.p[0] - p[0], b.p[2] - p[2]) ? c : b,
      );
    return f.reduce((s, v, a) => s + v * other.f[a], 0);
  });
  expect(nearest.reduce((s, d) => s + d, 0) / nearest.length).toBeGreaterThan(0.85);
  const mean = [0, 1, 2].map((a) => drift.reduce((s, { f }) => s + f[a] / drift.length, 0));
  expect(Math.hypot(...mean)).toBeLessThan(0.75);
});

test('rows and columns; several about each place', () => {
  const field = { kind: 'surfaces', surfaces: ['field'] };
  const grid = worked(scatter({ over: field, spread: { how: 'grid', distance: 1, stagger: 'brick' } }));
  const rows = new Map<number, number[]>();
  for (const [x, , z] of all(grid)) rows.set(z, [...(rows.get(z) ?? []), x]);
  expect(rows.size).toBe(11);
  const lines = [...rows.entries()].map(([z, xs]) => [Math.round(z), xs.sort((a, b) => a - b)] as const);
  expect(lines.every(([z, xs]) => xs.every((x) => Math.abs((x - (z % 2 ? 0.5 : 0)) % 1) < 1e-9))).toBe(true);
  const spread = { how: 'clumps', amount: 'number', number: 12, each: [5, 5], wide: 0.4 };
  const clumps = worked(scatter({ over: field, spread }));
  // Over the border there is none.
  expect(clumps.placements.count).toBe(60);
  const middles = worked(scatter({ over: field, spread: { how: 'even', amount: 'number', number: 12 } }));
  expect(
    all(clumps).every((p) => all(middles).some((m) => Math.hypot(p[0] - m[0], p[2] - m[2]) <= 0.4 + 1e-9)),
  ).toBe(true);
});

test('rows by uv go round a tube and over a wall, as far apart as they are asked to be; without uv that is said', () => {
  const tube = (scene: Scene) => {
    scene.surfaces[1] = {
      ...made('field', { shape: 'plane', width: 20, depth: 10, columns: 80, rows: 4 }),
      deformers: [deformerSchema.parse({ id: 'd', kind: 'bend', along: 'x', towards: 'y', angleDeg: 300 })],
    };
  };
  const given = scatter({
    over: { kind: 'surfaces', surfaces: ['field'] },
    spread: { how: 'grid', rows: 'uv', distance: 1 },
    stand: { lean: 1 },
  });
  // Twenty columns and ten rows, half a metre in from each edge: on the surface at rest, and so on it as it is bent.
  const flat = all(worked(given));
  expect(flat).toHaveLength(200);
  expect(
    flat.every(
      ([x, , z]) => Math.abs(Math.abs(x % 1) - 0.5) < 1e-5 && Math.abs(Math.abs(z % 1) - 0.5) < 1e-5,
    ),
  ).toBe(true);
  const bent = worked(given, tube);
  expect(bent.placements.count).toBe(200);
  expect(closest(all(bent))).toBeGreaterThan(0.9);
  // Over the wall that rows from above find nothing on.
  const wall = worked(given, (scene) => {
    Object.assign(scene.surfaces[1], { tipDeg: 90 });
  });
  expect(wall.placements.count).toBe(200);
  const bare = worked({ ...given, over: { kind: 'surfaces', surfaces: ['bare'] } }, (scene) => {
    scene.surfaces.push(newSurface('bare', 'bare', { source: 'built', name: 'box' }));
  });
  expect(kinds(bare)).toEqual(['area-no-uv']);
});

test('rows find nothing on a wall, and that is said; its own surface is needed beside what hands have locked', () => {
  const wall = worked(
    scatter({ over: { kind: 'surfaces', surfaces: ['field'] }, spread: { how: 'grid' } }),
    (scene) => {
      Object.assign(scene.surfaces[1], { tipDeg: 90, position: [0, 0, 0.3] });
    },
  );
  expect(kinds(wall)).toEqual(['area-none']);
  const pin = { surface: 'small', face: 0, faces: 100, u: 0, v: 0, lift: 0, turnDeg: 0 };
  const on = { pin, position: [0, 0, 0], rotation: [0, 0, 0, 1] };
  const lock = { prop: 'p', s: 0, position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1], on };
  const given = scatter({ ground: { mode: 'land' }, hand: { 3: { lock } } });
  expect(surfacesOf(needsOf(given), ['field'])).toEqual(['field', 'ball', 'small']);
});

test('without props its places are there to be seen; too many are said with what fits', () => {
  const bare = worked(scatter({ props: [] }));
  expect(kinds(bare)).toEqual(['no-props']);
  expect(bare.placements.count).toBeGreaterThan(100);
  expect(bare.placements.state.every((s) => s === STATE.pause)).toBe(true);
  const many = worked(scatter({ spread: { distance: 0.001 } }));
  expect(kinds(many)).toEqual(['area-too-many']);
  const { distance } = many.findings[0].detail;
  expect(kinds(worked(scatter({ spread: { how: 'loose', distance: Number(distance) * 40 } })))).toEqual([]);
  expect(kinds(worked(scatter({ over: { kind: 'surfaces', surfaces: ['gone'] } })))).toEqual([
    'area-missing',
  ]);
  expect(kinds(worked(scatter({ over: { kind: 'surfaces', surfaces: [] } })))).toEqual(['area-nothing']);
});

const field = { kind: 'surfaces', surfaces: ['field'] };
const stroke = (more: object) => ({
  id: 's1',
  surface: 'field',
  radius: 1.5,
  softness: 0,
  dabs: [-4, 0, 1, 0, 0, 1, 4, 0, 1],
  ...more,
});
/** Where fronts point, as a compass sees it: 0 to the north, 90 to the east. */
const compassOf = ({ placements: p }: EvaluatedArrangement, i: number) => {
  const [x, y, z, w] = p.rotation.subarray(i * 4, i * 4 + 4);
  const front = [2 * (x * z + w * y), 1 - 2 * (x * x + y * y)];
  return ((Math.atan2(front[0], -front[1]) * 180) / Math.PI + 360) % 360;
};
const underCapsule = ([x, , z]: Vec3) => Math.hypot(x - Math.min(4, Math.max(-4, x)), z - 1) < 1.5;

test.each([
  ['along', {}, 180],
  ['compass', { compassDeg: 0 }, 0],
  ['target', { target: { kind: 'point', position: [0, 0, 1e6] } }, 180],
])(
  'combed, fronts turn the way of the stroke, by its share, whatever the heading: %s',
  (heading, more, own) => {
    const stand = { heading, ...more };
    const combed = (brushed: object[]) => worked(scatter({ over: field, stand, brushed }));
    const [plain, whole] = [combed([]), combed([stroke({ does: 'comb' })])];
    expect(whole.placements.position).toEqual(plain.placements.position);
    const under = all(plain).map(underCapsule);
    expect(under.filter(Boolean).length).toBeGreaterThan(20);
    under.forEach((is, i) => expect(compassOf(whole, i)).toBeCloseTo(is ? 90 : own, 2));
    const half = combed([stroke({ does: 'comb', strength: 0.5 })]);
    under.forEach((is, i) => expect(compassOf(half, i)).toBeCloseTo(is ? (own + 90) / 2 : own, 2));
    const back = combed([stroke({ does: 'comb' }), stroke({ id: 's2', does: 'uncomb' })]);
    under.forEach((_, i) => expect(compassOf(back, i)).toBeCloseTo(own, 2));
  },
);

test('what is combed goes with its material, and stays combed when it is nudged', () => {
  const given = (more: object = {}) =>
    scatter({ over: field, stand: { lean: 1 }, brushed: [stroke({ does: 'comb' })], ...more });
  const bent = worked(given(), (scene) => {
    scene.surfaces[1].deformers = [
      deformerSchema.parse({ id: 'd', kind: 'bend', along: 'x', towards: 'y', angleDeg: 90 }),
    ];
  });
  const flat = worked(given());
  const p = bent.placements;
  const slots = all(flat).flatMap((at, i) => (underCapsule(at) ? [flat.placements.slot[i]] : []));
  let most = 0;
  for (const slot of slots) {
    const i = p.slot.indexOf(slot);
    const [x, y, z, w] = p.rotation.subarray(i * 4, i * 4 + 4);
    // Along the bent strip, which lies in x and y: no part of it to the side.
    const front = [2 * (x * z + w * y), 2 * (y * z - w * x), 1 - 2 * (x * x + y * y)];
    expect(Math.abs(front[2])).toBeLessThan(1e-6);
    most = Math.max(most, Math.abs(front[1]));
  }
  // At the ends it rises as the strip does: by half of the bend.
  expect(most).toBeGreaterThan(0.5);
  const name = slotName(slots[0]);
  const nudged = worked(given({ hand: { [name]: { side: 0.3 } } }));
  const i = nudged.placements.slot.indexOf(slots[0]);
  expect(compassOf(nudged, i)).toBeCloseTo(90, 6);
  expect(at(nudged, i)).not.toEqual(at(flat, flat.placements.slot.indexOf(slots[0])));
});

test('the brush gives places another prop, by its strength as a share; what a hand swapped stays; and takes it back', () => {
  const props = [{ prop: 'p', weight: 1 }];
  const given = (brushed: object[], hand = {}) =>
    worked(scatter({ over: field, props, spread: { distance: 0.15 }, brushed, hand }));
  const isQ = ({ placements: p }: EvaluatedArrangement) => [...p.prop].map((k) => p.props[k] === 'q');
  const plain = given([]);
  const under = all(plain).map(underCapsule);
  const whole = isQ(given([stroke({ does: 'prop', prop: 'q' })]));
  expect(whole).toEqual(under);
  const third = isQ(given([stroke({ does: 'prop', prop: 'q', strength: 0.3 })]));
  const n = under.filter(Boolean).length;
  expect(Math.abs(third.filter(Boolean).length - 0.3 * n)).toBeLessThan(3 * Math.sqrt(n * 0.21));
  expect(third.every((is, i) => !is || under[i])).toBe(true);
  const back = [stroke({ does: 'prop', prop: 'q' }), stroke({ id: 's2', does: 'unprop' })];
  expect(isQ(given(back)).some(Boolean)).toBe(false);
  const [first, outside] = [under.indexOf(true), under.indexOf(false)].map((i) => plain.placements.slot[i]);
  const hand = { [slotName(first)]: { prop: 'p' }, [slotName(outside)]: { prop: 'q' } };
  const swapped = given([stroke({ does: 'prop', prop: 'q' })], hand);
  const of = (slot: number) => isQ(swapped)[swapped.placements.slot.indexOf(slot)];
  expect([of(first), of(outside)]).toEqual([false, true]);
  // Nothing else than who stands there: a mask beside it, and places settled once, say the same.
  const mask = maskSchema.parse({ id: 'm', name: 'All', layers: [{ kind: 'u', id: 'l', from: -2, to: -1 }] });
  const masked = worked(
    scatter({
      over: field,
      props,
      spread: { distance: 0.15, mask: 'm' },
      brushed: [stroke({ does: 'prop', prop: 'q' })],
    }),
    (scene) => void scene.masks.push(mask),
  );
  expect(isQ(masked)).toEqual(under);
});

test('the brush does not reach through a thin wall', () => {
  const wall = (id: string) => made(id, { shape: 'box', width: 8, height: 4, depth: 0.02, radius: 0.001 });
  const given = scatter({
    over: { kind: 'surfaces', surfaces: ['wall'] },
    props: [{ prop: 'p', weight: 1 }],
    spread: { distance: 0.3 },
    brushed: [stroke({ does: 'prop', prop: 'q', surface: 'wall', dabs: [0, 2, 0.01], radius: 1 })],
  });
  const r = worked(given, (scene) => void scene.surfaces.push(wall('wall')));
  const q = all(r).filter((_, i) => r.placements.props[r.placements.prop[i]] === 'q');
  expect(q.length).toBeGreaterThan(10);
  expect(q.every((p) => p[2] > 0)).toBe(true);
  expect(all(r).some((p) => p[2] < 0 && Math.hypot(p[0], p[1] - 2) < 0.9)).toBe(true);
});
