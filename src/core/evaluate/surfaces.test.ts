import type { Pegs } from '../arrange/pegs/schema';
import { deformerSchema } from '../mesh/deform/schema';
import { shapeSchema } from '../mesh/make/schema';
import { pegsSchema } from '../arrange/pegs/schema';
import { groundSchema } from '../arrange/steps/schema';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '../scene/defaults';
import { pathSchema } from '../curve/schema';
import type { Scene } from '../scene/schema';
import { solidFacts } from '../mesh/solid/facts';
import type { Surface } from '../mesh/surfaceSchema';
import { ASSETS } from '../testing/scene';
import { Evaluator } from './scene';

const made = (id: string, shape: object): Surface =>
  newSurface(id, id, { source: 'made', shape: shapeSchema.parse(shape), color: '#D8CDB6' });
const [WIDTH, COLUMNS] = [12, 24];

/** A waving sheet, a line of constant v on it with a run that hugs it, and a peg. */
function waving(): Scene {
  const sheet = made('sheet', { shape: 'plane', width: WIDTH, depth: 4, columns: COLUMNS, rows: 4 });
  sheet.deformers = [
    deformerSchema.parse({ id: 'w', kind: 'wave', height: 0.4, length: 5, speed: 2, push: 'y' }),
    deformerSchema.parse({ id: 'n', kind: 'noise', height: 0.2, span: 3, speed: 1 }),
  ];
  const line = pathSchema.parse({
    id: 'line',
    name: 'Line',
    source: { kind: 'mesh', surface: 'sheet', take: { what: 'iso', along: 'v' } },
  });
  const run = newRun('run', 'Run', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 40 };
  run.ground = groundSchema.parse({ mode: 'hug', surfaces: ['sheet'], lean: 1 });
  const pegs = pegsSchema.parse({
    id: 'pegs',
    kind: 'pegs',
    name: 'Pegs',
    thread: 'woad',
    pegs: [
      [
        {
          id: 'peg1',
          prop: 'p',
          position: [0, 0, 0],
          pin: { surface: 'sheet', face: 61, u: 0.25, v: 0.5, faces: COLUMNS * 4 * 2 },
        },
      ],
    ],
  });
  return {
    ...emptyScene('Waving'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [sheet],
    paths: [line],
    arrangements: [run, pegs],
  };
}
const at = (scene: Scene, time: number, evaluator = new Evaluator(ASSETS)) => {
  const result = evaluator.evaluate(scene, undefined, time);
  const by = (id: string) => result.arrangements.find((a) => a.id === id)!;
  return { result, by, surface: result.surfaces[0] };
};

test('what stands on a moving surface is right in the same frame, in whatever order things were made', () => {
  const scene = waving();
  const turned: Scene = { ...scene, arrangements: [...scene.arrangements].reverse() };
  const evaluator = new Evaluator(ASSETS);
  for (const time of [0, 0.37, 2.5]) {
    const { by, surface } = at(scene, time, evaluator);
    const { positions: p, indices } = surface.mesh!;
    const [a, b, c] = [0, 1, 2].map((k) => indices[61 * 3 + k] * 3);
    const peg = by('pegs').placements;
    for (let k = 0; k < 3; k++)
      expect(peg.position[k]).toBeCloseTo(p[a + k] * 0.25 + p[b + k] * 0.25 + p[c + k] * 0.5, 5);
    // The line runs over the faces: every prop of it is on the cloth of this very time.
    const run = by('run').placements;
    const heights = new Map<number, number>();
    for (let v = 0; v < p.length; v += 3) if (Math.abs(p[v + 2]) < 1e-6) heights.set(p[v], p[v + 1]);
    const xs = [...heights.keys()].sort((m, n) => m - n);
    for (let i = 0; i < run.count; i++) {
      const x = run.position[i * 3];
      const j = Math.max(
        1,
        xs.findIndex((v) => v >= x),
      );
      const u = (x - xs[j - 1]) / (xs[j] - xs[j - 1]);
      const on = heights.get(xs[j - 1])! * (1 - u) + heights.get(xs[j])! * u;
      if (u >= 0 && u <= 1) expect(Math.abs(run.position[i * 3 + 1] - on)).toBeLessThan(0.02);
    }
    const other = at(turned, time);
    for (const id of ['run', 'pegs']) expect(other.by(id).placements).toEqual(by(id).placements);
  }
});

test('a moving surface that is thick is a closed shell at every time; what stands on it stands on its outer side', () => {
  const thin = waving();
  const thick = waving();
  // Outwards it grows with time, by moments.
  thick.surfaces[0].thickness = { outwards: 0, inwards: 0.1, rim: 'round' };
  const field = ['thickness', 'outwards'];
  const moments = [0, 4].map((t) => ({ at: t, value: t / 10, way: 'straight' as const }));
  thick.timed = [{ id: 't', node: 'sheet', field, moments }];
  const [evaluator, other] = [new Evaluator(ASSETS), new Evaluator(ASSETS)];
  // Of nothing it has as many vertices: frames of an animation have to.
  const none = waving();
  none.surfaces[0].thickness = { outwards: 0, inwards: 0, rim: 'round' };
  const nothing = at(none, 0, new Evaluator(ASSETS)).surface;
  expect(nothing.findings.map((f) => f.kind)).toEqual(['thickness-none']);
  const vertices = nothing.mesh!.positions.length;
  for (const time of [0, 0.37, 2.5]) {
    const [a, b] = [at(thin, time, evaluator), at(thick, time, other)];
    expect(b.surface.findings).toEqual([]);
    expect(solidFacts(b.surface.mesh!)).toMatchObject({ closed: true });
    expect(b.surface.mesh!.positions).toHaveLength(vertices);
    const faces = a.surface.mesh!.indices;
    expect(b.surface.mesh!.indices.subarray(0, faces.length)).toEqual(faces);
    const [from, to] = [a, b].map(({ by }) => by('pegs').placements.position);
    expect(Math.hypot(...[0, 1, 2].map((k) => to[k] - from[k]))).toBeCloseTo(time / 10, 2);
    expect([...b.by('run').placements.slot]).toEqual([...a.by('run').placements.slot]);
    const kinds = [a, b].map(({ by }) => by('run').findings.map((f) => f.kind));
    expect(kinds[1]).toEqual(kinds[0]);
  }
});

test('only what stands on a moving surface is worked out anew for another time', () => {
  const scene = waving();
  scene.paths.push(
    newPath('own', 'Own', [newPoint('a', 'corner', [0, 0, 0]), newPoint('b', 'corner', [3, 0, 0])]),
  );
  scene.arrangements.push(
    newRun('still', 'Still', 'moss', 'own', [newEntry('f', { kind: 'prop', prop: 'p' })]),
  );
  const evaluator = new Evaluator(ASSETS);
  const [a, b] = [at(scene, 0, evaluator), at(scene, 1, evaluator)];
  expect(b.by('still')).toBe(a.by('still'));
  for (const id of ['run', 'pegs']) expect(b.by(id).key).not.toBe(a.by(id).key);
  expect(b.surface.facesKey).toBe(a.surface.facesKey);
});

test('pegs on a surface whose triangles are others are found again by uv; lost ones are listed and stay', () => {
  const scene = waving();
  const [[peg]] = (scene.arrangements[1] as Pegs).pegs;
  peg.pin!.uv = [0.3, 0.4];
  scene.surfaces[0] = { ...made('sheet', { shape: 'plane', width: 24, depth: 8, columns: 50, rows: 31 }) };
  const found = at(scene, 0);
  expect(found.by('pegs').findings).toMatchObject([
    {
      kind: 'pin-found',
      severity: 'warning',
      detail: { count: 1, distance: expect.closeTo(Math.sqrt(4.8 ** 2 + 0.8 ** 2), 5) },
    },
  ]);
  expect([...found.by('pegs').placements.position]).toEqual(
    [(0.3 - 0.5) * 24, 0, (0.5 - 0.4) * 8].map((v) => expect.closeTo(v, 5)),
  );
  const gone = at({ ...scene, surfaces: [] }, 0);
  expect([...gone.by('pegs').placements.position]).toEqual([0, 0, 0]);
  expect(gone.by('pegs').findings.map((f) => f.kind)).toEqual(['pin-surface-missing']);
  expect(gone.by('run').findings.map((f) => f.kind)).toContain('path-surface-missing');
});

test('flat faces have a normal each; inside out and moved a surface keeps the numbers of its faces', () => {
  const scene = waving();
  const ball = made('sheet', { shape: 'sphere', radius: 2, columns: 12, rows: 6 });
  const pose = (change: Partial<Surface>) => {
    const { by } = at({ ...scene, paths: [], surfaces: [{ ...ball, ...change }] }, 0);
    return by('pegs').placements;
  };
  const peg = scene.arrangements[1];
  if (peg.kind === 'pegs') peg.pegs[0][0].pin!.faces = 144;
  const rest = pose({});
  const flat = pose({ normals: 'flat' });
  expect(flat.position).toEqual(rest.position);
  expect(flat.rotation).not.toEqual(rest.rotation);
  const grown = pose({ size: 2, position: [1, 2, 3] });
  grown.position.forEach((v, k) => expect(v).toBeCloseTo(rest.position[k] * 2 + [1, 2, 3][k], 6));
});

test('a surface and a path that are made from each other are a ring: both say so, the rest goes on', () => {
  const scene = waving();
  const tube = made('tube', { shape: 'tube', path: 'edge' });
  const edge = pathSchema.parse({
    id: 'edge',
    name: 'Edge',
    source: { kind: 'mesh', surface: 'tube', take: { what: 'borders' } },
  });
  const { result, by } = at(
    { ...scene, surfaces: [...scene.surfaces, { ...tube, visible: false }], paths: [...scene.paths, edge] },
    0,
  );
  expect(result.surfaces[1].findings[0]).toMatchObject({ kind: 'cycle', node: 'tube' });
  expect(result.paths[1].findings[0].kind).toBe('path-cycle');
  expect(by('run').placements.count).toBe(40);
});

test('a mesh with numbers that are none or without faces is no ground, and says so', () => {
  const scene = waving();
  const broken = { ...scene, surfaces: [newSurface('sheet', 'Sheet', { source: 'built', name: 'gone' })] };
  expect(at(broken, 0).surface.findings[0].kind).toBe('surface-mesh-missing');
  const nan = new Evaluator({
    mesh: (ref) => {
      const mesh = ASSETS.mesh(ref);
      if (!mesh || ref.source !== 'built' || ref.name !== 'floor') return mesh;
      const positions = mesh.positions.slice();
      positions[0] = NaN;
      return { ...mesh, positions };
    },
  });
  const holed = { ...scene, surfaces: [newSurface('sheet', 'Sheet', { source: 'built', name: 'floor' })] };
  const run = holed.arrangements[0];
  holed.paths = [
    newPath('line', 'Line', [newPoint('a', 'corner', [-8, 0, 7]), newPoint('b', 'corner', [8, 0, -7])]),
  ];
  const { by } = at({ ...holed, arrangements: [run] }, 0, nan);
  expect([...by('run').placements.position].every(Number.isFinite)).toBe(true);
});
