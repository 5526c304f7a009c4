import fc from 'fast-check';
import { arbitraryOf } from '../testing/arbitrary';
import { cases, SEED } from '../testing/prove';
import { ASSETS as GIVEN, exampleMesh } from '../testing/scene';
import type { Mesh } from '../mesh/mesh';
import { writeCsv } from '../formats/csv';
import { pathSchema } from '../curve/schema';
import { maskSchema } from '../mesh/mask/schema';
import { propSchema } from '../mesh/propSchema';
import { SCENE_VERSION } from '../scene/version';
import { sceneSchema, type Scene } from '../scene/schema';
import { surfaceSchema } from '../mesh/surfaceSchema';
import { SceneChecks } from './checks/sceneChecks';
import { Evaluator, type Assets, type SceneResult } from './scene';

/** Meshes with nothing in them, all in one place, and without width, beside those of the other tests. */
const box = exampleMesh();
const MESHES: Record<string, Mesh> = {
  empty: {
    ...box,
    positions: new Float32Array(0),
    normals: new Float32Array(0),
    indices: new Uint32Array(0),
    groups: [],
  },
  point: { ...box, positions: box.positions.map(() => 1) },
  line: { ...box, positions: box.positions.map((v, i) => (i % 3 === 0 ? v : 0)) },
};
const ASSETS: Assets = {
  mesh: (ref) => (ref.source === 'built' && MESHES[ref.name]) || GIVEN.mesh(ref),
};

/** Scenes of anything that the schema admits: each node's ids are its own, what it stands on is mostly there. */
const IDS = [
  ...['prop1', 'prop2', 'path1', 'path2', 'surface1', 'surface2', 'node1', 'node2', 'mask1', 'mask2'],
  'nothing',
];
const mesh = fc
  .constantFrom('box', 'floor', 'missing', 'empty', 'point', 'line')
  .map((name) => ({ source: 'built', name }));
const [, pegs] = sceneSchema.shape.arrangements.element.options;
const others = sceneSchema.shape.arrangements.element.options.filter((o) => o !== pegs);
const from = (schema: Parameters<typeof arbitraryOf>[0], id: string, more = {}) =>
  arbitraryOf(schema, IDS, { id: fc.constant(id), ...more }) as fc.Arbitrary<never>;
const nodes = (schema: Parameters<typeof arbitraryOf>[0], kind: string, more = {}) =>
  fc.tuple(from(schema, `${kind}1`, more), from(schema, `${kind}2`, more));

/** Ids inside of nodes: what would be two of one name is told apart by its place. */
function renumbered<T>(value: T): T {
  let n = 10;
  const seen = new Set<string>();
  const walk = (v: unknown): void => {
    if (typeof v !== 'object' || v === null) return;
    const it = v as { id?: string };
    if (typeof it.id === 'string' && seen.has(it.id)) it.id = `x${n++}`;
    if (typeof it.id === 'string') seen.add(it.id);
    Object.values(v).forEach(walk);
  };
  walk(value);
  return value;
}

const anyScene: fc.Arbitrary<Scene> = fc
  .record({
    props: nodes(propSchema, 'prop', { mesh }),
    paths: nodes(pathSchema, 'path'),
    surfaces: nodes(surfaceSchema, 'surface', {
      mesh: fc.oneof(mesh, arbitraryOf(surfaceSchema.shape.mesh.options[2], IDS)),
    }),
    masks: nodes(maskSchema, 'mask'),
    arrangements: fc.tuple(
      fc.oneof(...others.map((o) => from(o, 'node1'))),
      fc.oneof(from(pegs, 'node2'), ...others.map((o) => from(o, 'node2'))),
    ),
  })
  .map((parts) =>
    sceneSchema.parse(
      renumbered({
        format: 'clothesline',
        version: SCENE_VERSION,
        name: 'Any',
        nextId: 1000,
        ...structuredClone(parts),
      }),
    ),
  );

/** Every number in facts, layouts and parts, whatever they are called. */
function* numbersIn(value: unknown): Generator<number> {
  if (typeof value === 'number') yield value;
  else if (ArrayBuffer.isView(value)) yield* value as unknown as Iterable<number>;
  else if (typeof value === 'object' && value !== null)
    for (const v of Object.values(value)) yield* numbersIn(v);
}

const finite = (list: ArrayLike<number>) => Array.prototype.every.call(list, Number.isFinite);

/** What is wrong with the numbers of a result, a line each. */
function faults({ surfaces, paths, arrangements, masks }: SceneResult): string[] {
  const found: string[] = [];
  const look = (id: string, name: string, list?: ArrayLike<number>) => {
    if (list && !finite(list)) found.push(`${id}: ${name} is not finite`);
  };
  for (const { id, findings } of [...surfaces, ...paths, ...arrangements, ...masks])
    for (const f of findings) if (f.kind.endsWith('failed')) found.push(`${id}: threw “${f.detail.message}”`);
  for (const s of surfaces) {
    look(s.id, 'positions', s.mesh?.positions);
    look(s.id, 'normals', s.mesh?.normals);
    look(s.id, 'uvs', s.mesh?.uvs);
    look(s.id, 'matrix', s.matrix);
  }
  for (const p of paths)
    for (const s of p.strokes) {
      look(p.id, 'position', s.position);
      look(p.id, 's', s.s);
    }
  for (const { id, placements: p, facts, parts, sheet, findings } of arrangements) {
    for (const [name, value] of Object.entries({ facts, parts, sheet, findings }))
      for (const n of numbersIn(value))
        if (!Number.isFinite(n)) {
          found.push(`${id}: ${name} are not finite`);
          break;
        }
    for (const name of ['position', 'rotation', 'scale', 's'] as const) look(id, name, p[name]);
    look(id, 'tint', p.tint);
    for (const b of p.bent ?? []) {
      look(id, 'a bent shape', b.positions);
      look(id, 'a bent shape’s normals', b.normals);
    }
    for (let i = 0; i < p.count; i++) {
      const r = p.rotation.subarray(i * 4, i * 4 + 4);
      if (Math.abs(Math.hypot(...r) - 1) > 1e-9) found.push(`${id}: rotation ${i} is not unit`);
    }
    if (new Set(p.slot).size !== p.count) found.push(`${id}: slots of one name`);
  }
  return found;
}

test('whatever scene the schema admits, nothing throws, and every number that comes of it is one', () => {
  fc.assert(
    fc.property(anyScene, fc.constantFrom(0, 0.7, 20), (scene, time) => {
      const evaluator = new Evaluator(ASSETS);
      const result = evaluator.evaluate(scene, undefined, time);
      expect(faults(result)).toEqual([]);
      const work = new SceneChecks().look(scene, result, evaluator.contextAt(time));
      let step = work.next();
      while (!step.done) step = work.next();
      for (const findings of step.value.values())
        for (const f of findings) expect([...numbersIn(f)].every(Number.isFinite)).toBe(true);
      expect(writeCsv(scene, result, { gaps: true })).not.toMatch(/NaN|Infinity/);
    }),
    // Made smaller, a scene of this size would be worked out for an hour.
    { seed: SEED, numRuns: cases(2000), endOnFailure: true },
  );
});
