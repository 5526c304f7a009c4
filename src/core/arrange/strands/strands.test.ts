import { strandsSchema, type Strands } from './schema';
import { Evaluator } from '../../evaluate/scene';
import { samplePath } from '../../curve/sample';
import { quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { firstHit, noHit } from '../../mesh/bvhQuery';
import { deformerSchema } from '../../mesh/deform/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newPath, newProp, newSurface } from '../../scene/defaults';
import { hangSchema } from '../../curve/hang/schema';
import { pathSchema, type Path } from '../../curve/schema';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { ASSETS } from '../../testing/scene';
import { newArrangement } from '../registry';
import { slotName } from '../slotId';

/** Lines hung between what runs have placed, against where snap points are by hand. */

const EYE: Vec3 = [0.1, 2, 0.3];

function run(id: string, path: string, more: object = {}) {
  return newArrangement(
    'run',
    { id, name: id, thread: 'moss' },
    {
      paths: [{ path, part: 0 }],
      order: { entries: [{ id: `e${id}`, item: { kind: 'prop', prop: 'post' } }] },
      spacing: { mode: 'count', count: 6 },
      ...more,
    },
  );
}

function sceneOf(strands: object, change: (scene: Scene) => void = () => {}): Scene {
  const line = (id: string, z: number) =>
    newPath(
      id,
      id,
      points('corner', [
        [-10, 0, z],
        [10, 1, z + 2],
      ]),
    );
  const scene: Scene = {
    ...emptyScene('Strands'),
    props: [
      {
        ...newProp('post', 'Post', { source: 'built', name: 'box' }),
        snapPoints: [{ name: 'eye', position: EYE, direction: [0, 1, 0] }],
      },
      newProp('rope', 'Rope', { source: 'built', name: 'box' }),
    ],
    paths: [line('a', -4), line('b', 4)],
    arrangements: [
      run('posts', 'a', { facing: { turnDeg: 30, size: 1.5 } }),
      run('others', 'b', { spacing: { mode: 'count', count: 4 } }),
      strandsSchema.parse({
        id: 'lines',
        kind: 'strands',
        name: 'Lines',
        thread: 'weld',
        from: { on: 'posts', snap: 'eye' },
        to: { snap: 'eye' },
        ...strands,
      }),
    ],
  };
  change(scene);
  return scene;
}

const evaluated = (scene: Scene, time = 0) => {
  const evaluator = new Evaluator(ASSETS);
  const { arrangements, paths } = evaluator.evaluate(scene, undefined, time);
  return { evaluator, arrangements, paths, lines: arrangements.find((a) => a.id === 'lines')! };
};
type Result = ReturnType<typeof evaluated>;

const eyesOf = ({ arrangements }: Result, id: string): Vec3[] => {
  const { placements: p } = arrangements.find((a) => a.id === id)!;
  return Array.from({ length: p.count }, (_, i) => {
    const own = EYE.map((v, a) => v * p.scale[i * 3 + a]) as Vec3;
    const at = quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, own);
    return [0, 1, 2].map((a) => p.position[i * 3 + a] + at[a]) as Vec3;
  });
};
/** Both ends of each line as it is drawn. */
const endsOf = ({ lines }: Result): [Vec3, Vec3][] => {
  const { each, position, slot } = lines.lines!;
  return Array.from(slot, (_, k) => {
    const o = k * each * 3;
    const last = o + (each - 1) * 3;
    return [[...position.subarray(o, o + 3)] as Vec3, [...position.subarray(last, last + 3)] as Vec3];
  });
};
const near = (a: Vec3, b: Vec3) => a.forEach((v, k) => expect(Math.abs(v - b[k])).toBeLessThan(1e-5));

test('from each to the next, to every second, over gaps none; ends are on the snap points', () => {
  const r = evaluated(sceneOf({}));
  const eyes = eyesOf(r, 'posts');
  expect(endsOf(r).length).toBe(5);
  endsOf(r).forEach(([from, to], i) => {
    near(from, eyes[i]);
    near(to, eyes[i + 1]);
  });
  const far = endsOf(evaluated(sceneOf({ reach: 2, every: 2 })));
  expect(far.length).toBe(2);
  near(far[1][0], eyes[2]);
  near(far[1][1], eyes[4]);
  const gap = evaluated(
    sceneOf({}, (scene) => {
      scene.arrangements[0] = run('posts', 'a', { hand: { 3: { removed: true } } });
    }),
  );
  expect(endsOf(gap).length).toBe(3);
});

test.each<[Strands['pairs'], number[][]]>([
  [
    'same',
    [
      [0, 0],
      [1, 1],
      [2, 2],
      [3, 3],
    ],
  ],
  [
    'cross',
    [
      [0, 3],
      [1, 2],
      [2, 1],
      [3, 0],
    ],
  ],
])('to another arrangement: %s', (pairs, wanted) => {
  const r = evaluated(sceneOf({ pairs, to: { on: 'others', snap: 'eye' } }));
  const [from, to] = [eyesOf(r, 'posts'), eyesOf(r, 'others')];
  expect(endsOf(r).length).toBe(wanted.length);
  endsOf(r).forEach(([a, b], i) => {
    near(a, from[wanted[i][0]]);
    near(b, to[wanted[i][1]]);
  });
});

test('to the nearest, as all of them tell one by one; by chance to any; row to row', () => {
  const many = (scene: Scene) => {
    scene.arrangements[1] = run('others', 'b', {
      spacing: { mode: 'count', count: 40, rows: { count: 5, distance: 0.7 } },
      variation: { side: [-3, 3], along: [-1, 1] },
    });
  };
  const r = evaluated(sceneOf({ pairs: 'nearest', to: { on: 'others', snap: null } }, many));
  const { placements: p } = r.arrangements.find((a) => a.id === 'others')!;
  const from = r.arrangements.find((a) => a.id === 'posts')!.placements;
  endsOf(r).forEach(([, to], i) => {
    const d = (k: number) =>
      Math.hypot(...[0, 1, 2].map((a) => p.position[k * 3 + a] - from.position[i * 3 + a]));
    let best = 0;
    for (let k = 1; k < p.count; k++) if (d(k) < d(best)) best = k;
    near(to, [...p.position.subarray(best * 3, best * 3 + 3)] as Vec3);
  });
  const chance = endsOf(evaluated(sceneOf({ pairs: 'random', to: { on: 'others', snap: null } }, many)));
  expect(chance.length).toBe(6);
  expect(new Set(chance.map(([, to]) => to.join())).size).toBeGreaterThan(3);
  const rows = evaluated(
    sceneOf({ pairs: 'rows', from: { on: 'others', snap: null }, to: { snap: null } }, (scene) => {
      scene.arrangements[1] = run('others', 'b', {
        spacing: { mode: 'count', count: 7, rows: { count: 3, distance: 2 } },
      });
    }),
  );
  expect(endsOf(rows).length).toBe(14);
  for (const [a, b] of endsOf(rows)) expect(Math.hypot(...a.map((v, k) => v - b[k]))).toBeCloseTo(2, 5);
});

test('drawn in closed form they lie on the path that they are when something hangs on them', () => {
  for (const hang of [
    { slack: 0.2 },
    { how: 'stiff', slack: 0.4 },
    { by: 'sag', sag: 0.7, wind: {} },
    { how: 'taut' },
  ]) {
    const scene = sceneOf({ hang }, (s) => s.paths.push(linesPath()));
    const r = evaluated(scene, 1.7);
    const path = r.evaluator.compiledPath('along');
    if (!path?.ok) throw new Error('no lines');
    const { each, position } = r.lines.lines!;
    expect(path.strokes.length).toBe(5);
    path.strokes.forEach((stroke, k) => {
      const { position: s } = samplePath(
        stroke,
        Array.from({ length: 801 }, (_, i) => (stroke.length * i) / 800),
      );
      for (let i = 0; i < each; i++) {
        const at = position.subarray((k * each + i) * 3, (k * each + i) * 3 + 3);
        let least = Infinity;
        for (let j = 0; j <= 800; j++)
          least = Math.min(least, Math.hypot(...[0, 1, 2].map((a) => s[j * 3 + a] - at[a])));
        // Half a step between two samples.
        expect(least).toBeLessThan(stroke.length / 1500);
      }
    });
  }
});

const linesPath = (): Path =>
  pathSchema.parse({ id: 'along', name: 'Along', source: { kind: 'lines', of: 'lines' } });

test('what hangs on them goes with them: a post that is moved takes line, path and what hangs there along', () => {
  const hung = (scene: Scene) => {
    scene.paths.push(linesPath());
    scene.arrangements.push(run('flags', 'along', { spacing: { mode: 'count', count: 5 } }));
  };
  const at = (r: Result) => r.arrangements.find((a) => a.id === 'flags')!.placements;
  const before = at(evaluated(sceneOf({}, hung)));
  expect(before.count).toBe(25);
  const after = at(
    evaluated(
      sceneOf({}, (scene) => {
        hung(scene);
        scene.arrangements[0] = run('posts', 'a', {
          facing: { turnDeg: 30, size: 1.5 },
          hand: { [slotName(1)]: { side: 2 } },
        });
      }),
    ),
  );
  const moved = (i: number) =>
    Math.hypot(...[0, 1, 2].map((a) => after.position[i * 3 + a] - before.position[i * 3 + a]));
  expect(moved(0)).toBeCloseTo(2, 3);
  expect(moved(2)).toBeGreaterThan(0.5);
  // Those of the second line on stay where they were.
  expect(moved(5)).toBe(0);
  expect(moved(24)).toBe(0);
});

test('what lies along a line is as long as it, its ends as they are; repeated by its own length', () => {
  const hang = { slack: 0.1 };
  const bodies = (fit: string) =>
    evaluated(sceneOf({ hang, fit, size: 0.5, props: [{ prop: 'rope' }] })).lines.placements;
  const bare = evaluated(sceneOf({ hang }));
  const eyes = eyesOf(bare, 'posts');
  for (const fit of ['stretch', 'repeat']) {
    const p = bodies(fit);
    expect(p.count).toBe(5);
    expect(p.bent!.length).toBe(5);
    for (let i = 0; i < 5; i++) {
      const { positions } = p.bent![p.shape![i]];
      // Its own box is 0.4 wide: at half the size all of it lies so near to the line, and both ends are reached.
      const vertex = (o: number) => [0, 1, 2].map((a) => positions[o + a] + p.position[i * 3 + a]) as Vec3;
      const reach = (to: Vec3) => {
        let least = Infinity;
        for (let o = 0; o < positions.length; o += 3)
          least = Math.min(least, Math.hypot(...vertex(o).map((v, a) => v - to[a])));
        return least;
      };
      expect(reach(eyes[i])).toBeLessThan(0.3);
      expect(reach(eyes[i + 1])).toBeLessThan(0.3);
    }
  }
});

test('what is missing is said: a snap point, an arrangement, two places; lines shorter than the way are named', () => {
  const kinds = (strands: object, change?: (scene: Scene) => void) =>
    evaluated(sceneOf(strands, change)).lines.findings.map((f) => f.kind);
  expect(kinds({})).toEqual([]);
  expect(kinds({ from: { on: 'posts', snap: 'hook' } })).toEqual(['strands-snap-missing', 'strands-alone']);
  expect(kinds({ from: { on: 'gone' } })).toEqual(['ends-missing']);
  expect(kinds({ reach: 9 })).toEqual(['strands-alone']);
  expect(kinds({ hang: { by: 'length', length: 2 } })).toEqual(['hang-short']);
  // On a path that they are themselves.
  const ring = evaluated(
    sceneOf({}, (scene) => {
      scene.paths.push(linesPath());
      scene.arrangements[0] = run('posts', 'along');
    }),
  );
  expect(ring.lines.findings.map((f) => f.kind)).toEqual(['cycle']);
});

test('each end has a snap point of its own', () => {
  const r = evaluated(
    sceneOf({ from: { on: 'posts', snap: 'eye' }, to: { snap: 'other' } }, (scene) => {
      scene.props[0].snapPoints.push({ name: 'other', position: [-EYE[0], EYE[1], EYE[2]] });
    }),
  );
  const eyes = eyesOf(r, 'posts');
  endsOf(r).forEach(([from, to], i) => {
    near(from, eyes[i]);
    expect(Math.hypot(...to.map((v, k) => v - eyes[i + 1][k]))).toBeCloseTo(2 * 0.1 * 1.5, 5);
  });
});

test('lines that lie are nowhere below the ground at any time, as long as asked; too long is said', () => {
  const shape = shapeSchema.parse({
    shape: 'hills',
    width: 26,
    depth: 26,
    columns: 52,
    rows: 52,
    height: 3,
    seed: 3,
  });
  const scene = sceneOf({ hang: { by: 'slack', slack: 0.15, lies: { clear: 0.05, above: 6 } } }, (s) => {
    const hills = newSurface('hills', 'Hills', { source: 'made', shape, color: '#889977' });
    hills.position = [0, 1.2, 0];
    hills.deformers = [deformerSchema.parse({ id: 'd', kind: 'wave', height: 0.4, length: 5, speed: 1 })];
    s.surfaces.push(hills);
    s.paths.push(pathSchema.parse({ id: 'p', name: 'P', source: { kind: 'lines', of: 'lines' } }));
  });
  const evaluator = new Evaluator(ASSETS);
  const hit = noHit();
  let lay = 0;
  for (const time of [0, 0.6, 2.2]) {
    const { paths, arrangements } = evaluator.evaluate(scene, undefined, time);
    const ground = evaluator.contextAt(time).surface!('hills')!.tree();
    const strokes = paths.find((p) => p.id === 'p')!.strokes;
    const { lines } = arrangements[2];
    expect(strokes.length).toBe(5);
    strokes.forEach((stroke, k) => {
      const from = [...lines!.position.subarray(k * lines!.each * 3, k * lines!.each * 3 + 3)];
      const to = [...lines!.position.subarray(((k + 1) * lines!.each - 1) * 3, (k + 1) * lines!.each * 3)];
      const wanted = Math.hypot(...from.map((v, a) => v - to[a])) * 1.15;
      // Ends are told in 32 bits.
      expect(Math.abs(stroke.length / wanted - 1)).toBeLessThan(1e-6);
      const o = k * lines!.each * 3;
      for (let i = 1; i + 1 < lines!.each; i++) {
        const [x, y, z] = lines!.position.subarray(o + i * 3, o + i * 3 + 3);
        if (!firstHit(ground, x, y + 3, z, 0, -1, 0, 0, 9, hit)) continue;
        const above = hit.t - 3;
        expect(above).toBeGreaterThan(0.05 - 0.03);
        if (above < 0.07) lay++;
      }
    });
  }
  expect(lay).toBeGreaterThan(60);
  const long = structuredClone(scene);
  Object.assign(long.arrangements[2] as Strands, {
    hang: { ...(long.arrangements[2] as Strands).hang, slack: 4 },
  });
  expect(evaluator.evaluate(long).arrangements[2].findings.map((f) => f.kind)).toContain('hang-over');
  // A surface that is gone is told, of lines and of paths, and what is left carries.
  const hang = { by: 'slack' as const, slack: 0.15, lies: { surfaces: ['hills', 'gone'], above: 6 } };
  const gone = structuredClone(scene);
  const strands = gone.arrangements[2] as Strands;
  gone.arrangements[2] = { ...strands, hang: hangSchema.parse(hang) };
  const alone = points('corner', [
    [-9, 3, 0],
    [9, 3, 0],
  ]);
  const own = newPath('own', 'Own', alone);
  gone.paths.push({ ...own, source: { ...own.source, hang: hangSchema.parse(hang) } } as Path);
  const told = evaluator.evaluate(gone);
  expect(told.arrangements[2].findings.map((f) => f.kind)).toContain('hang-ground');
  expect(told.paths.find((p) => p.id === 'own')!.findings.map((f) => f.kind)).toContain('hang-ground');
});
