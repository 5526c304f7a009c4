import fc from 'fast-check';
import { distance, dot, normalize, sub, type Vec3 } from '../math/vec3';
import { triMeshOf as made } from '../testing/surfaces';
import { nearestPlace, noHit } from './bvhQuery';
import { layLine } from './lines/lay';
import { normalOn, placeOn, type TriMesh } from './triMesh';
import { newGeodesic, followGeodesic } from './geodesic';

function start(triMesh: TriMesh, at: Vec3, way: Vec3) {
  const hit = noHit();
  nearestPlace(triMesh.tree(), ...at, Infinity, hit);
  return { ...newGeodesic(), face: hit.face, u: hit.u, v: hit.v, dx: way[0], dy: way[1], dz: way[2] };
}
const place = (triMesh: TriMesh, w: { face: number; u: number; v: number }) =>
  placeOn(triMesh, w.face, w.u, w.v);

test('on a plane the way is the straight line, and ends at the border with what is left', () => {
  const plane = made({ shape: 'plane', width: 10, depth: 10, columns: 7, rows: 9 });
  const share = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(share, share, share, share, (x, z, dx, dz) => {
      fc.pre(Math.hypot(dx, dz) > 0.01);
      const from: Vec3 = [x * 4.9, 0, z * 4.9];
      const way = normalize([dx, 0, dz]);
      const w = start(plane, from, way);
      followGeodesic(plane, w, 3);
      const to = place(plane, w);
      expect(
        distance(to, [from[0] + way[0] * (3 - w.left), 0, from[2] + way[2] * (3 - w.left)]),
      ).toBeLessThan(1e-9);
      if (w.left > 0) expect(Math.max(Math.abs(to[0]), Math.abs(to[2]))).toBeCloseTo(5, 9);
      else expect(Math.max(Math.abs(to[0]), Math.abs(to[2]))).toBeLessThan(5 + 1e-9);
    }),
  );
});

test('over the edges of a box the way is the straight line of its unfolded sides', () => {
  const box = made({ shape: 'box', width: 4, depth: 4, height: 4, fillet: 0 });
  // From the top, aslant over the edge at x = 2 and down that side.
  const way = normalize([3, 0, 1]);
  const w = start(box, [1, 4, 0.2], way);
  followGeodesic(box, w, 3);
  // Unfolded, 1 m of it lies before the edge as seen along x; what is beyond goes down.
  const beyond = 3 * way[0] - 1;
  const [x, y, z] = place(box, w);
  expect([x, y, z]).toEqual([2, 4 - beyond, 0.2 + 3 * way[2]].map((v) => expect.closeTo(v, 9)));
  expect([w.dx, w.dy, w.dz]).toEqual([0, -way[0], way[2]].map((v) => expect.closeTo(v, 9)));
});

test('on a tube of many sides the way is the straight line of the rolled-up plane', () => {
  const [sides, tall] = [64, 8];
  const angle = (x: number) => (x * 2 * Math.PI) / sides;
  const tube = made({ shape: 'plane', width: sides, depth: tall, columns: sides, rows: 5 }, ([x, , z]) => [
    Math.cos(angle(x)),
    z,
    Math.sin(angle(x)),
  ]);
  const chord = 2 * Math.sin(Math.PI / sides);
  const way = normalize([0, 1, 2]);
  // From the middle of a side, several times round, over the seam.
  const from: Vec3 = [
    Math.cos(Math.PI / sides) * Math.cos(angle(0.5)),
    -3.9,
    Math.cos(Math.PI / sides) * Math.sin(angle(0.5)),
  ];
  const tangent: Vec3 = [-Math.sin(angle(0.5)), 0, Math.cos(angle(0.5))];
  const w = start(tube, from, [tangent[0] * way[2], way[1], tangent[2] * way[2]]);
  followGeodesic(tube, w, 16);
  const [x, y, z] = place(tube, w);
  expect(y).toBeCloseTo(-3.9 + 16 * way[1], 9);
  // Sides walked along, by chords of the polygon: so far round, on that side.
  const walked = 0.5 + (16 * way[2]) / chord;
  const side = Math.floor(walked);
  const [p, q] = [side, side + 1].map((k) => [Math.cos(angle(k)), Math.sin(angle(k))]);
  const share = walked - side;
  expect(x).toBeCloseTo(p[0] + (q[0] - p[0]) * share, 8);
  expect(z).toBeCloseTo(p[1] + (q[1] - p[1]) * share, 8);
});

test.each([
  ['hills', { shape: 'hills', width: 20, depth: 20, columns: 40, rows: 40, height: 3, seed: 4 }],
  ['sphere', { shape: 'sphere', radius: 5 }],
  ['box', { shape: 'box', width: 6, depth: 6, height: 3, fillet: 0 }],
])('%s: a line laid down lies within one face from place to place', (_, shape) => {
  const triMesh = made(shape);
  const at: number[] = [];
  for (let i = 0; i <= 60; i++) at.push(-4 + i * 0.13, 3 + Math.sin(i / 9), -2 + i * 0.05);
  const line = layLine(triMesh, at)!;
  expect(line.asked.length).toBe(61);
  const hit = noHit();
  let bridges = 0;
  for (let k = 0; k < line.pieces.length; k++) {
    const face = line.pieces[k];
    if (face < 0) {
      bridges++;
      continue;
    }
    const [a, b] = [k, k + 1].map((i) =>
      placeOn(triMesh, line.face[i], line.weights[i * 2], line.weights[i * 2 + 1]),
    );
    for (const t of [0.25, 0.5, 0.9]) {
      const p = a.map((v, i) => v + (b[i] - v) * t) as Vec3;
      nearestPlace(triMesh.tree(), ...p, Infinity, hit);
      expect(hit.t).toBeLessThan(1e-7);
      // In the plane of its own face, not only of some other.
      expect(Math.abs(dot(sub(p, placeOn(triMesh, face, 0, 0)), faceUp(triMesh, face)))).toBeLessThan(1e-7);
    }
  }
  expect(bridges).toBe(0);
});

const faceUp = (triMesh: TriMesh, face: number) =>
  normalOn({ ...triMesh, normals: new Float64Array(triMesh.positions.length) }, face, 0.3, 0.3);
