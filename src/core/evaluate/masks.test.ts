import { newArrangement, type Arrangement } from '../arrange/registry';
import { GAP_REASONS, STATE } from '../arrange/result';
import { deformerSchema } from '../mesh/deform/schema';
import { shapeSchema } from '../mesh/make/schema';
import { slotName } from '../arrange/slotId';
import { maskSchema } from '../mesh/mask/schema';
import { emptyScene, newEntry, newPath, newProp, newSurface } from '../scene/defaults';
import type { Scene } from '../scene/schema';
import { points } from '../testing/paths';
import { ASSETS } from '../testing/scene';
import { Evaluator } from './scene';

/** Masks where they are used: of every kind, of deformers, and by what they wait for. */

const made = (id: string, shape: object) =>
  newSurface(id, id, { source: 'made', shape: shapeSchema.parse(shape), color: '#D8CDB6' });
const mask = (id: string, layers: object[]) =>
  maskSchema.parse({ id, name: id, layers: layers.map((l, i) => ({ id: `${id}-${i}`, ...l })) });

/** East of the middle, x > 0, by u of the field. */
const EAST = mask('east', [{ kind: 'u', from: 0.5, to: 0.5 }]);
const base = (id: string) => ({ id, name: id, thread: 'moss' as const });

function sceneWith(change: (scene: Scene) => void): Scene {
  const scene: Scene = {
    ...emptyScene('Masks'),
    nextId: 100,
    props: [newProp('p', 'p', { source: 'built', name: 'box' })],
    surfaces: [made('field', { shape: 'plane', width: 20, depth: 10, columns: 40, rows: 20 })],
    paths: [
      newPath(
        'line',
        'Line',
        points('corner', [
          [-9, 0, 0],
          [9, 0, 0],
        ]),
      ),
      newPath(
        'ring',
        'Ring',
        points('corner', [
          [-3, 0, -3],
          [3, 0, -3],
          [3, 0, 3],
          [-3, 0, 3],
        ]),
        true,
      ),
    ],
    masks: [EAST],
  };
  change(scene);
  return scene;
}

const evaluated = (scene: Scene, time = 0) => new Evaluator(ASSETS).evaluate(scene, undefined, time);

const rowsOf = (scene: Scene, id: string, time = 0) => {
  const { placements: p } = evaluated(scene, time).arrangements.find((a) => a.id === id)!;
  return Array.from({ length: p.count }, (_, i) => ({
    slot: p.slot[i],
    x: p.position[i * 3],
    y: p.position[i * 3 + 1],
    z: p.position[i * 3 + 2],
    size: p.scale[i * 3 + 1],
    there: p.state[i] === STATE.placed,
    why: GAP_REASONS[p.state[i]],
  }));
};

const KEEP = [{ id: 'k', name: 'East only', kind: 'mask', mask: 'east' }];

const KINDS: [string, object][] = [
  ['run', { paths: [{ part: 0, path: 'line' }], spacing: { pitch: 0.5 } }],
  ['run', { paths: [{ part: 0, path: 'line' }], spacing: { mode: 'touch' } }],
  ['sheet', { surface: 'field' }],
  ['scatter', { over: { kind: 'surfaces', surfaces: ['field'] }, spread: { distance: 1 } }],
];

test.each(KINDS)('%s %#: gaps where the mask is 0, all where it is 1', (kind, more) => {
  const scene = sceneWith((s) => {
    s.arrangements = [
      withProps(newArrangement(kind as 'run', base('a'), { ...more, gaps: { keepOuts: KEEP } })),
    ];
  });
  const rows = rowsOf(scene, 'a').filter((r) => Math.abs(r.x) > 0.6);
  expect(rows.length).toBeGreaterThan(15);
  expect(new Set(rows.map((r) => `${r.x > 0} ${r.why}`))).toEqual(new Set(['true placed', 'false keep-out']));
});

function withProps(a: Arrangement): Arrangement {
  if ('order' in a) a.order.entries = [newEntry('e', { kind: 'prop', prop: 'p' })];
  else if ('props' in a) a.props = [{ prop: 'p', weight: 1 }];
  return a;
}

const scatter = (more: object = {}) =>
  withProps(
    newArrangement('scatter', base('tufts'), {
      over: { kind: 'surfaces', surfaces: ['field'] },
      spread: { distance: 0.5, mask: 'east' },
      ...more,
    }),
  );

test('a scatter thins out by its mask: as much as that gives, the same places while its edge moves elsewhere', () => {
  const at = (layer: object) =>
    rowsOf(
      sceneWith((s) => {
        s.masks = [mask('east', [layer])];
        s.arrangements = [scatter()];
      }),
      'tufts',
    );
  const all = at({ kind: 'u', from: -1, to: -1 });
  const thin = at({ kind: 'u', from: 0, to: 1 });
  expect(Math.abs(thin.length / all.length - 0.5)).toBeLessThan(0.04);
  const third = (k: number) => thin.filter((r) => Math.abs(r.x - k) < 3.33).length / (all.length / 3);
  [-6.67, 0, 6.67].forEach((x, i) => expect(Math.abs(third(x) - (1 + 2 * i) / 6)).toBeLessThan(0.08));
  const [narrow, wide] = [0.6, 0.4].map((from) => at({ kind: 'u', from, to: from }).map((r) => r.slot));
  expect(wide).toEqual(expect.arrayContaining(narrow));
  expect(all.map((r) => r.slot)).toEqual(expect.arrayContaining(thin.map((r) => r.slot)));
});

test('what stays is what it would be if all were worked out at once, whichever way the mask came there', () => {
  const more = {
    stand: { lean: 1, alternate: 'turn' },
    variation: {
      size: [0.5, 1.5],
      turnDeg: [0, 360],
      tint: { colors: ['#B4472F', '#61793F'], strength: [0, 1] },
      sizeMask: 'north',
      mask: 'north',
    },
  };
  const at = (from: number, own = {}) =>
    sceneWith((s) => {
      s.masks = [mask('east', [{ kind: 'u', from, to: 1 }]), mask('north', [{ kind: 'v' }])];
      s.arrangements = [scatter({ ...more, ...own })];
    });
  const evaluator = new Evaluator(ASSETS);
  const [first] = [at(0)];
  for (const from of [0.5, 0, 0.8, 0.2, 0.2]) {
    const now = { ...first, masks: at(from).masks };
    expect(evaluator.evaluate(now).arrangements[0].placements).toEqual(
      evaluated(at(from)).arrangements[0].placements,
    );
  }
  // Another seed, or other turns, are drawn anew.
  const [other] = at(0.2, { seed: 9 }).arrangements;
  expect(
    evaluator.evaluate({ ...first, masks: at(0.2).masks, arrangements: [other] }).arrangements[0].placements,
  ).toEqual(evaluated(at(0.2, { seed: 9 })).arrangements[0].placements);
});

test('painted dab by dab, with a hand, another seed and a ramp between, it is what it would be at once', () => {
  const painted = (dabs: number[], to = 1) =>
    mask('east', [
      { kind: 'u', from: -0.5, to },
      {
        kind: 'painted',
        surface: 'field',
        base: 1,
        strokes: [{ id: 's', does: 'take', radius: 2, strength: 0.9, dabs }],
      },
    ]);
  const at = (dabs: number[], { to = 1, ...own }: { to?: number; seed?: number; hand?: object } = {}) =>
    sceneWith((s) => {
      s.masks = [painted(dabs, to)];
      s.arrangements = [scatter(own)];
    });
  const steps = [
    at([-6, 0, 0]),
    at([-6, 0, 0, -5, 0, 1]),
    at([-6, 0, 0, -5, 0, 1, -3, 0, 1]),
    at([-6, 0, 0, -5, 0, 1, -3, 0, 1], { seed: 5 }),
    at([-6, 0, 0, -5, 0, 1, -3, 0, 1]),
    at([-6, 0, 0, -5, 0, 1, -3, 0, 1, 0, 0, 0], { to: 1.5 }),
    at([-6, 0, 0, -5, 0, 1]),
    at([-6, 0, 0, -5, 0, 1], { hand: { [rowsOf(at([9, 0, 4]), 'tufts')[40].slot]: { removed: false } } }),
    at([-6, 0, 0, -5, 0, 1, 9, 0, 0]),
  ];
  const evaluator = new Evaluator(ASSETS);
  // The surface is the same one all the while, as it is where one paints.
  const { surfaces } = steps[0];
  for (const scene of steps)
    expect(evaluator.evaluate({ ...scene, surfaces }).arrangements[0].placements).toEqual(
      evaluated(scene).arrangements[0].placements,
    );
});

test('a hand keeps what the mask would refuse; a mask that refuses everything is said with the layer that does', () => {
  const [some] = rowsOf(
    sceneWith((s) => {
      s.masks = [];
      s.arrangements = [scatter({ spread: { distance: 0.5 } })];
    }),
    'tufts',
  ).filter((r) => r.x < -5);
  const scene = sceneWith((s) => {
    s.masks = [
      mask('east', [
        { kind: 'u', from: -1, to: -1 },
        { kind: 'height', from: 3, to: 4 },
      ]),
    ];
    s.arrangements = [scatter({ hand: { [slotName(some.slot)]: { removed: false } } })];
  });
  expect(rowsOf(scene, 'tufts').map((r) => r.slot)).toEqual([some.slot]);
  const none = structuredClone(scene);
  Object.assign(none.arrangements[0], { hand: {} });
  const { findings } = evaluated(none).arrangements[0];
  expect(findings.map((f) => [f.kind, f.detail])).toEqual([
    ['mask-refuses', { mask: 'east', number: 2, layer: 'height' }],
  ]);
});

test('size and the ranges of variation go by masks', () => {
  const scene = sceneWith((s) => {
    s.masks.push(mask('ramp', [{ kind: 'u' }]));
    s.arrangements = [
      scatter({
        spread: { distance: 1 },
        variation: { sizeMask: 'ramp', sizeLeast: 0.5, lift: [0, 2], mask: 'ramp' },
      }),
    ];
  });
  const rows = rowsOf(scene, 'tufts');
  const share = (x: number) => (x + 10) / 20;
  expect(Math.max(...rows.map((r) => Math.abs(r.size - (0.5 + 0.5 * share(r.x)))))).toBeLessThan(1e-6);
  expect(rows.every((r) => r.y <= 2 * share(r.x) + 1e-9)).toBe(true);
  expect(Math.max(...rows.map((r) => r.y))).toBeGreaterThan(1.2);
});

test('a wave only where the mask lets it; what reads the surface itself reads it undeformed', () => {
  const wave = (more: object) =>
    sceneWith((s) => {
      s.masks.push(mask('flat', [{ kind: 'slope', from: 1, to: 1, over: true }]));
      s.surfaces[0].deformers = [
        deformerSchema.parse({
          id: 'd',
          kind: 'wave',
          height: 1,
          length: 4,
          speed: 1,
          mask: 'east',
          ...more,
        }),
      ];
    });
  const heights = (scene: Scene, time: number) => {
    const { mesh } = evaluated(scene, time).surfaces[0];
    return Array.from({ length: mesh!.positions.length / 3 }, (_, i) => ({
      x: mesh!.positions[i * 3],
      y: Math.abs(mesh!.positions[i * 3 + 1]),
    }));
  };
  for (const time of [0.3, 1.1]) {
    const at = heights(wave({}), time);
    expect(Math.max(...at.filter((p) => p.x < -0.01).map((p) => p.y))).toBe(0);
    expect(Math.max(...at.filter((p) => p.x > 0).map((p) => p.y))).toBeGreaterThan(0.9);
    // Steep as its waves are, it is level before them: the mask lets all of them be.
    expect(heights(wave({ mask: 'flat' }), time)).toEqual(heights(wave({ mask: null }), time));
  }
  const gone = wave({ mask: 'gone' });
  expect(evaluated(gone).surfaces[0].findings.map((f) => f.kind)).toEqual(['mask-missing']);
});

test('counts stay while the surface moves, by slope too: it is read as it is at first', () => {
  const scene = sceneWith((s) => {
    s.masks = [mask('east', [{ kind: 'slope', from: 0, to: 40 }])];
    s.surfaces[0].deformers = [
      deformerSchema.parse({ id: 'd', kind: 'wave', height: 1, length: 6, speed: 2 }),
    ];
    const row = newArrangement('run', base('row'), {
      paths: [{ part: 0, path: 'line' }],
      spacing: { pitch: 0.25 },
      gaps: { keepOuts: KEEP },
    });
    s.arrangements = [scatter(), withProps(row)];
  });
  const slots = (time: number) => rowsOf(scene, 'tufts', time).map((r) => r.slot);
  expect(slots(0).length).toBeGreaterThan(100);
  expect(slots(0.7)).toEqual(slots(0));
  expect(slots(1.9)).toEqual(slots(0));
});

test('masks wait for what their layers name, keep up with it, and a ring of them is named', () => {
  const scene = sceneWith((s) => {
    s.masks = [mask('east', [{ kind: 'distance', of: 'things', arrangements: ['row'], from: 2, to: 2 }])];
    s.arrangements = [
      scatter({ spread: { distance: 0.7, mask: 'east' } }),
      withProps(
        newArrangement('run', base('row'), {
          paths: [{ part: 0, path: 'line' }],
          spacing: { mode: 'count', count: 2 },
        }),
      ),
    ];
  });
  const evaluator = new Evaluator(ASSETS);
  const near = (of: Scene) => {
    const { placements: p } = evaluator.evaluate(of).arrangements[0];
    return Array.from({ length: p.count }, (_, i) =>
      Math.hypot(Math.abs(p.position[i * 3]) - 9, p.position[i * 3 + 2]),
    );
  };
  // A box of one metre stands at each end.
  const away = near(scene);
  expect(away.length).toBeGreaterThan(200);
  expect(Math.min(...away)).toBeGreaterThan(2);
  const moved = structuredClone(scene);
  Object.assign(moved.arrangements[1], { paths: [] });
  expect(Math.min(...near(moved))).toBeLessThan(0.7);
  expect(near(scene)).toEqual(away);
  const ring = structuredClone(scene);
  Object.assign(ring.arrangements[1], {
    gaps: {
      ...(ring.arrangements[1] as { gaps: object }).gaps,
      keepOuts: [{ id: 'k', name: '', kind: 'near', of: { kind: 'arrangement', id: 'tufts' }, distance: 1 }],
    },
  });
  const result = evaluator.evaluate(ring);
  expect(result.masks[0].findings.map((f) => [f.kind, f.detail.ring])).toEqual([
    ['cycle', expect.stringContaining('“east”')],
  ]);
});

test('a path that crosses itself is named by the layer and by the keep-out that go by its inside', () => {
  const named = (corners: [number, number][]) => {
    const { masks, arrangements } = evaluated(
      sceneWith((s) => {
        s.paths[1] = newPath('ring', 'Ring', points('corner', corners.map(([x, z]) => [x, 0, z])), true); // prettier-ignore
        s.masks = [mask('in', [{ kind: 'inside', paths: ['ring'] }])];
        const keepOuts = [{ id: 'k', name: 'K', kind: 'region', path: 'ring', where: 'inside' }];
        s.arrangements = [scatter({ spread: { distance: 1, mask: 'in' }, gaps: { keepOuts } })];
      }),
    );
    return [...masks[0].findings, ...arrangements[0].findings].map((f) => [
      f.kind,
      f.severity,
      f.detail.path,
    ]);
  };
  const crossed = named([[-3, -2], [3, 2], [3, -2], [-3, 2]]); // prettier-ignore
  expect(crossed).toContainEqual(['mask-crosses', 'warning', 'ring']);
  expect(crossed).toContainEqual(['keep-out-crosses', 'warning', 'ring']);
  const plain = named([[-3, -2], [3, -2], [3, 2], [-3, 2]]); // prettier-ignore
  expect(plain.map(([kind]) => kind)).not.toEqual(expect.arrayContaining([expect.stringMatching(/crosses/)]));
});

test('what a change of a mask works out anew is what goes by it', () => {
  const scene = sceneWith((s) => {
    s.arrangements = [scatter(), scatter({ spread: { distance: 1 } })];
    s.arrangements[1].id = 'others';
  });
  const evaluator = new Evaluator(ASSETS);
  const first = evaluator.evaluate(scene);
  const after = evaluator.evaluate({ ...scene, masks: [mask('east', [{ kind: 'u', from: 0.2, to: 0.2 }])] });
  expect(after.arrangements[0]).not.toBe(first.arrangements[0]);
  expect(after.arrangements[1]).toBe(first.arrangements[1]);
  const missing = evaluator.evaluate({ ...scene, masks: [] });
  expect(missing.arrangements[0].findings.map((f) => f.kind)).toEqual(['mask-missing']);
  expect(evaluator.evaluate(scene).arrangements[0].placements.count).toBe(
    first.arrangements[0].placements.count,
  );
});
