import { XMLParser } from 'fast-xml-parser';
import { strFromU8, unzipSync } from 'fflate';
import { STATE } from '../../arrange/result';
import { Evaluator } from '../../evaluate/scene';
import { ASSETS, exampleScene } from '../../testing/scene';
import { mergedFacts, writeMerged, type MergedOptions } from '.';

/** Files of whole meshes, read back by readers of other hands. */

const scene = exampleScene();
const result = new Evaluator(ASSETS).evaluate(scene);
const OPTIONS: MergedOptions = { scale: 1, up: 'y', surfaces: false };

type Triangle = number[][];

/** By the format's own description: 80 bytes, a count, and 50 bytes a triangle. */
function readStl(bytes: Uint8Array): Triangle[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const count = view.getUint32(80, true);
  expect(bytes.length).toBe(84 + count * 50);
  return Array.from({ length: count }, (_, t) =>
    [0, 1, 2].map((k) => [0, 1, 2].map((c) => view.getFloat32(84 + t * 50 + 12 + k * 12 + c * 4, true))),
  );
}

const volumeOf = (triangles: Triangle[]): number =>
  triangles.reduce(
    (sum, [a, b, c]) =>
      sum +
      (a[0] * (b[1] * c[2] - b[2] * c[1]) +
        a[1] * (b[2] * c[0] - b[0] * c[2]) +
        a[2] * (b[0] * c[1] - b[1] * c[0])) /
        6,
    0,
  );

/** Ways along edges that are not gone back as often. */
function openWays(triangles: Triangle[]): number {
  const ways = new Map<string, number>();
  for (const t of triangles)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [t[k].join(), t[(k + 1) % 3].join()];
      ways.set(`${a}|${b}`, (ways.get(`${a}|${b}`) ?? 0) + 1);
      ways.set(`${b}|${a}`, (ways.get(`${b}|${a}`) ?? 0) - 1);
    }
  return [...ways.values()].filter((n) => n > 0).length;
}

/** What the placed boxes hold: theirs is 0.4 × 0.6 × 0.5 m. */
const held = result.arrangements.reduce((sum, { placements: p }) => {
  for (let i = 0; i < p.count; i++)
    if (p.state[i] === STATE.placed)
      sum += 0.12 * Math.abs(p.scale[i * 3] * p.scale[i * 3 + 1] * p.scale[i * 3 + 2]);
  return sum;
}, 0);

test('STL: millimetres, closed, as much as all that is placed holds; at 1:200 as many times smaller, Z up', () => {
  expect(held).toBeGreaterThan(0.5);
  const whole = readStl(writeMerged('stl', scene, result, ASSETS, OPTIONS));
  expect(openWays(whole)).toBe(0);
  expect(volumeOf(whole) / (held * 1e9)).toBeCloseTo(1, 5);
  const small = readStl(writeMerged('stl', scene, result, ASSETS, { ...OPTIONS, scale: 200, up: 'z' }));
  expect(small).toHaveLength(whole.length);
  small.forEach((t, i) =>
    t.forEach(([x, y, z], k) => {
      const [X, Y, Z] = whole[i][k];
      for (const [a, b] of [
        [x, X / 200],
        [y, -Z / 200],
        [z, Y / 200],
      ])
        expect(Math.abs(a - b)).toBeLessThan(1e-4);
    }),
  );
});

test('3MF: a package whose model has an object a part, its name, its colours, its vertices but once', () => {
  const named = { ...scene, name: 'Quay <& "more">' };
  const bytes = writeMerged('3mf', named, result, ASSETS, { ...OPTIONS, surfaces: true });
  expect(bytes).toEqual(writeMerged('3mf', named, result, ASSETS, { ...OPTIONS, surfaces: true }));
  const files = unzipSync(bytes);
  expect(Object.keys(files).sort()).toEqual(['3D/3dmodel.model', '[Content_Types].xml', '_rels/.rels']);
  const always = new Set(['object', 'item', 'vertex', 'triangle', 'm:color', 'metadata']);
  const { model } = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '',
    isArray: (name) => always.has(name),
  }).parse(strFromU8(files['3D/3dmodel.model']));
  expect(model.unit).toBe('millimeter');
  expect(model.metadata[0]['#text']).toBe('Quay <& "more">');
  const { object: objects } = model.resources;
  expect(objects.map((o: { name: string }) => o.name)).toEqual([
    ...scene.arrangements.map((a) => a.name),
    'Floor',
  ]);
  expect(model.build.item.map((i: { objectid: string }) => i.objectid)).toEqual(
    objects.map((o: { id: string }) => o.id),
  );
  const triangles = objects.slice(0, -1).flatMap((o: Record<string, never>) => {
    const at = (o.mesh['vertices']['vertex'] as Record<string, string>[]).map((v) =>
      [v.x, v.y, v.z].map(Number),
    );
    expect(new Set(at.map(String)).size).toBe(at.length);
    return (o.mesh['triangles']['triangle'] as Record<string, string>[]).map((t) =>
      [t.v1, t.v2, t.v3].map((v) => at[Number(v)]),
    );
  });
  expect(openWays(triangles)).toBe(0);
  expect(volumeOf(triangles) / (held * 1e9)).toBeCloseTo(1, 5);
  // Linear 0.5, 0.4, 0.3 as it is shown (IEC 61966-2-1).
  expect(model.resources['m:colorgroup']['m:color'][0].color).toBe('#BCAA95FF');
});

test('OBJ: metres, an object a part, corners with places and normals that are there', () => {
  const text = new TextDecoder().decode(writeMerged('obj', scene, result, ASSETS, OPTIONS));
  const lines = text.split('\n').map((l) => l.split(' '));
  const numbers = (head: string) => lines.filter((l) => l[0] === head).map((l) => l.slice(1).map(Number));
  const [at, normals] = [numbers('v'), numbers('vn')];
  const triangles = lines
    .filter((l) => l[0] === 'f')
    .map((l) =>
      l.slice(1).map((corner) => {
        const [v, vt, vn] = corner.split('/');
        expect(vt).toBe('');
        expect(Math.hypot(...normals[Number(vn) - 1])).toBeCloseTo(1, 5);
        return at[Number(v) - 1].slice(0, 3);
      }),
    );
  expect(volumeOf(triangles) / held).toBeCloseTo(1, 5);
  expect(lines.filter((l) => l[0] === 'o').map((l) => l[1])).toEqual(
    scene.arrangements.map((a) => a.name.replace(/ /g, '_')),
  );
  expect(at[0].slice(3)).toEqual([0.7354, 0.6652, 0.5838]);
});

test('what it will be is told before: parts, size, and which of them are not closed', () => {
  const facts = mergedFacts(scene, result, ASSETS, { ...OPTIONS, scale: 10, surfaces: true });
  expect(facts.open).toEqual(['Floor']);
  expect(facts.parts).toBe(scene.arrangements.length + 1);
  expect(facts.size[0]).toBeCloseTo(1.8, 5);
});

test('nothing that is shown is an error in a sentence', () => {
  const hidden = { ...scene, arrangements: scene.arrangements.map((a) => ({ ...a, visible: false })) };
  expect(() => writeMerged('stl', hidden, result, ASSETS, OPTIONS)).toThrow(/Nothing that is shown/);
});
