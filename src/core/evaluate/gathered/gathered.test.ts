import { WebIO } from '@gltf-transform/core';
import validator from 'gltf-validator';
import { writeAnimatedGlb } from '../../formats/glbAnimation';
import { loadKernel } from '../../mesh/solid/kernel';
import { solidFacts } from '../../mesh/solid/facts';
import { networkSchema } from '../../mesh/network/networkSchema';
import { newPath, newSurface } from '../../scene/defaults';
import { points } from '../../testing/paths';
import type { Scene } from '../../scene/schema';
import { ASSETS, exampleScene } from '../../testing/scene';
import { STATE } from '../../arrange/result';
import { shapeSchema } from '../../mesh/make/schema';
import { Evaluator } from '../scene';
import { shownGrounds } from './takes';

beforeAll(loadKernel);

const block = (id: string, x: number, visible = true) => ({
  ...newSurface(id, id, {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'box', width: 2, height: 2, depth: 2, fillet: 0 }),
    color: '#D8CDB6',
  }),
  position: [x, 0, 0] as [number, number, number],
  visible,
});
type How = 'join' | 'cut' | 'keep';
const solid = (id: string, ...steps: [how: How, of: string, on?: boolean][]) =>
  newSurface(id, id, {
    source: 'solid',
    steps: steps.map(([how, of, on = true], i) => ({
      id: `${id}-${i}`,
      how,
      of,
      on,
      mend: 'none' as const,
      grain: 0.05,
    })),
  });
const sceneOf = (change: (scene: Scene) => void): Scene => {
  const scene = exampleScene();
  change(scene);
  return scene;
};
const volume = (evaluator: Evaluator, id: string) => evaluator.lookups.solidOf(id)?.volume;

test('a solid is a surface: of surfaces and of what is placed, and follows them', () => {
  const evaluator = new Evaluator(ASSETS);
  const scene = sceneOf((s) => {
    s.surfaces.push(block('a', 0, false), block('b', 1, false), solid('whole', ['join', 'a'], ['cut', 'b']));
  });
  evaluator.evaluate(scene);
  expect(volume(evaluator, 'whole')).toBeCloseTo(4, 5);
  const moved = {
    ...scene,
    surfaces: scene.surfaces.map((s) => (s.id === 'b' ? block('b', 1.5, false) : s)),
  };
  evaluator.evaluate(moved);
  expect(volume(evaluator, 'whole')).toBeCloseTo(6, 5);
  const off = scene.surfaces.map((s) =>
    s.id === 'whole' ? solid('whole', ['join', 'a'], ['cut', 'b', false]) : s,
  );
  evaluator.evaluate({ ...scene, surfaces: off });
  expect(volume(evaluator, 'whole')).toBeCloseTo(8, 5);
  // A solid of a solid, and things on it.
  const deeper = sceneOf((s) => {
    s.surfaces = [...scene.surfaces, solid('deeper', ['join', 'whole'], ['join', 'b'])];
  });
  evaluator.evaluate(deeper);
  expect(volume(evaluator, 'deeper')).toBeCloseTo(12, 5);
});

test('placed boxes that do not touch are joined to as much as they hold, and follow their run', () => {
  const evaluator = new Evaluator(ASSETS);
  const scene = sceneOf((s) => s.surfaces.push(solid('whole', ['join', s.arrangements[0].id])));
  const boxes = () => {
    const { placements: p } = evaluator.evaluate(scene).arrangements[0];
    let sum = 0;
    for (let i = 0; i < p.count; i++)
      if (p.state[i] === STATE.placed)
        sum += 0.12 * Math.abs(p.scale[i * 3] * p.scale[i * 3 + 1] * p.scale[i * 3 + 2]);
    return sum;
  };
  const all = boxes();
  expect(volume(evaluator, 'whole')! / all).toBeGreaterThan(0.5);
  expect(volume(evaluator, 'whole')! / all).toBeLessThan(1 + 1e-5);
  expect(evaluator.evaluate(scene).surfaces.at(-1)!.findings).toEqual([]);
});

test('one made anew piece by piece shows the last good one until it is done, and says how far it is', () => {
  const evaluator = new Evaluator(ASSETS);
  const many = Array.from({ length: 200 }, (_, i) => block(`b${i}`, i * 0.5, false));
  const scene = sceneOf((s) => {
    s.surfaces.push(block('a', 0, false), ...many, solid('whole', ['join', 'a']));
  });
  evaluator.evaluate(scene);
  const before = volume(evaluator, 'whole');
  const steps = many.slice(0, 49).map((b): [How, string] => ['join', b.id]);
  const longer = {
    ...scene,
    surfaces: scene.surfaces.map((s) => (s.id === 'whole' ? solid('whole', ['join', 'a'], ...steps) : s)),
  };
  evaluator.goOn = () => false;
  const shares: number[] = [];
  for (let n = 0; n < 100; n++) {
    const { unfinished } = evaluator.evaluate(longer);
    if (!unfinished) break;
    expect(unfinished.name).toBe('whole');
    expect(volume(evaluator, 'whole')).toBe(before);
    shares.push(unfinished.done);
  }
  expect(shares.length).toBeGreaterThan(40);
  expect(shares).toEqual([...shares].sort((a, b) => a - b));
  // From −1 to 25: one box beside the other, half over each other.
  expect(volume(evaluator, 'whole')).toBeCloseTo(26 * 4, 3);
});

test('what a step takes that is open or gone is named; a ring of solids too', () => {
  const evaluator = new Evaluator(ASSETS);
  const findings = (scene: Scene, id: string) =>
    evaluator.evaluate(scene).surfaces.find((s) => s.id === id)!.findings;
  const scene = sceneOf((s) => {
    s.surfaces.push(block('a', 0), solid('whole', ['join', 'a'], ['join', 'surface3'], ['cut', 'nothing']));
    s.surfaces.push(solid('x', ['join', 'y']), solid('y', ['join', 'x']), solid('empty', ['cut', 'a']));
  });
  expect(findings(scene, 'whole')).toMatchObject([
    { kind: 'solid-missing' },
    { kind: 'solid-open', detail: { of: 'surface3', count: 1, edges: 4 } },
  ]);
  expect(volume(evaluator, 'whole')).toBeCloseTo(8, 5);
  expect(findings(scene, 'x')[0].kind).toBe('cycle');
  expect(findings(scene, 'empty')).toMatchObject([{ kind: 'solid-nothing' }]);
});

test('what is placed lands on what its solid was made of, never on the solid', () => {
  const [a, b] = [block('a', 0, false), block('b', 3)];
  expect(shownGrounds([a, b])).toEqual(['b']);
  expect(shownGrounds([a, b, solid('s', ['join', 'a'], ['join', 'run'])])).toEqual(['a', 'b']);
  expect(shownGrounds([a, b, solid('s', ['join', 'a'])])).toEqual(['a', 'b', 's']);
});

test('a material that a part wears goes into the solid at once', () => {
  const evaluator = new Evaluator(ASSETS);
  const scene = sceneOf((s) => s.surfaces.push(solid('whole', ['join', s.arrangements[0].id])));
  const looks = (of: Scene) =>
    evaluator
      .evaluate(of)
      .surfaces.at(-1)!
      .mesh!.materials.map((m) => m.wears);
  expect(new Set(looks(scene))).toEqual(new Set([undefined]));
  const [run, ...rest] = scene.arrangements;
  expect(looks({ ...scene, arrangements: [{ ...run, material: 'brass' }, ...rest] })).toContain('brass');
});

test('a dust sheet lies over what is placed, moves with it, and is given thickness like any surface', () => {
  const evaluator = new Evaluator(ASSETS);
  const sheet = newSurface('sheet', 'Sheet', {
    source: 'dust',
    over: ['a'],
    cell: 0.1,
    distance: 0,
    softness: 0,
    beyond: 0.5,
    floor: null,
    color: '#E9E4D8',
  });
  const scene = sceneOf((s) => s.surfaces.push(block('a', 0), { ...sheet, thickness: null }));
  const top = (of: Scene) => {
    const { positions } = evaluator.evaluate(of).surfaces.find((s) => s.id === 'sheet')!.mesh!;
    return Math.max(...positions.filter((_, i) => i % 3 === 1));
  };
  const low = top(scene);
  const raised = scene.surfaces.map((s) =>
    s.id === 'a' ? { ...s, position: [0, 2, 0] as [number, number, number] } : s,
  );
  expect(top({ ...scene, surfaces: raised }) - low).toBeCloseTo(2, 6);
  const thick = scene.surfaces.map((s) =>
    s.id === 'sheet' ? { ...s, thickness: { outwards: 0, inwards: 0.02, rim: 'square' as const } } : s,
  );
  const { mesh } = evaluator.evaluate({ ...scene, surfaces: thick }).surfaces.at(-1)!;
  expect(solidFacts(mesh!).closed).toBe(true);
});

test('a network of paths is closed, follows them, and says where lines nearly meet', () => {
  const evaluator = new Evaluator(ASSETS);
  const straight = (id: string, y: number, along: 'x' | 'z') => ({
    ...newPath(
      id,
      id,
      points(
        'corner',
        along === 'x'
          ? [
              [-1, y, 0],
              [1, y, 0],
            ]
          : [
              [0, y, -1],
              [0, y, 1],
            ],
      ),
    ),
  });
  const network = newSurface(
    'net',
    'Net',
    networkSchema.parse({ source: 'network', paths: ['p', 'q'], radius: 0.1, joint: 0, reach: 0.02 }),
  );
  const at = (y: number) =>
    sceneOf((s) => {
      s.paths.push(straight('p', 0, 'x'), straight('q', y, 'z'));
      s.surfaces.push(network);
    });
  const { findings, mesh } = evaluator.evaluate(at(0)).surfaces.at(-1)!;
  expect(findings).toEqual([]);
  expect(solidFacts(mesh!).closed).toBe(true);
  const crossing = volume(evaluator, 'net')!;
  const apart = evaluator.evaluate(at(0.25)).surfaces.at(-1)!;
  expect(apart.findings).toMatchObject([{ kind: 'network-near', severity: 'warning', detail: { count: 1 } }]);
  expect(apart.findings[0].detail.apart).toBeCloseTo(0.05, 9);
  expect(apart.findings[0]).toMatchObject({ marks: [[[0, 0, 0], [0, 0.25, 0]]] }); // prettier-ignore
  expect(volume(evaluator, 'net')!).toBeGreaterThan(crossing);
  const gone = sceneOf((s) => s.surfaces.push(network));
  expect(evaluator.evaluate(gone).surfaces.at(-1)!.findings).toMatchObject([
    { kind: 'network-missing' },
    { kind: 'solid-nothing' },
  ]);
});

test('sent out as an animation, a solid whose faces change is a node for each that it is, seen in its turn', async () => {
  const evaluator = new Evaluator(ASSETS);
  const at = (x: number) =>
    sceneOf((s) => {
      s.arrangements = [];
      s.surfaces = [block('a', 0, false), block('b', x, false), solid('whole', ['join', 'a'], ['cut', 'b'])];
    });
  const results = [1, 1, 1.5, 1].map((x) => evaluator.evaluate(at(x)));
  const times = Float32Array.of(0, 1, 2, 3);
  const bytes = await writeAnimatedGlb(at(1), { times, results }, ASSETS, { surfaces: true });
  const { issues } = await validator.validateBytes(bytes);
  expect(issues.numErrors).toBe(0);
  const root = (await new WebIO().readBinary(bytes)).getRoot();
  const shown = root
    .listAnimations()[0]
    .listSamplers()
    .map((s) => {
      expect(s.getInterpolation()).toBe('STEP');
      return [0, 1, 2, 3].map((i) => s.getOutput()!.getElement(i, [0, 0, 0])[0]);
    });
  expect(shown).toEqual([
    [1, 1, 0, 1],
    [0, 0, 1, 0],
  ]);
  const [first, second] = root
    .listMeshes()
    .map((m) => m.listPrimitives()[0].getAttribute('POSITION')!.getCount());
  expect([first, second].every((n) => n > 8)).toBe(true);
});
