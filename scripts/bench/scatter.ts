import { BufferAttribute, BufferGeometry, Mesh, Vector3 } from 'three';
import { MeshSurfaceSampler } from 'three/examples/jsm/math/MeshSurfaceSampler.js';
import { triMeshOf } from '@/core/testing/surfaces';
import { normalOn, placeOn, type TriMesh } from '@/core/mesh/triMesh';
import { areasOf } from '@/core/mesh/scatter/areas';
import { maskField } from '@/core/mesh/mask/field';
import { placesOn } from '@/core/mesh/mask/places';
import { maskSchema } from '@/core/mesh/mask/schema';
import { evenSpots } from '@/core/mesh/scatter/even';
import { looseSpots, type Spots } from '@/core/mesh/scatter/spots';
import { COUNT, measure } from './reference';

const hills = triMeshOf({
  shape: 'hills',
  width: 200,
  depth: 200,
  columns: 200,
  rows: 200,
  height: 4,
  span: 20,
  layers: 3,
  seed: 2,
});
const geometry = new BufferGeometry();
geometry.setAttribute('position', new BufferAttribute(Float32Array.from(hills.positions), 3));
geometry.setAttribute('normal', new BufferAttribute(Float32Array.from(hills.normals), 3));
geometry.setIndex(new BufferAttribute(hills.indices, 1));

const MANY = 1_000_000;

/** Places and normals of spots, as an arrangement reads them. */
function read(mesh: TriMesh, spots: Spots): Float64Array {
  const out = new Float64Array(spots.count * 6);
  for (let i = 0; i < spots.count; i++) {
    out.set(placeOn(mesh, spots.face[i], spots.u[i], spots.v[i]), i * 6);
    out.set(normalOn(mesh, spots.face[i], spots.u[i], spots.v[i]), i * 6 + 3);
  }
  return out;
}

const SIDE = 512;
const picture = {
  width: SIDE,
  height: SIDE,
  values: Float32Array.from({ length: SIDE * SIDE }, (_, i) => (i % SIDE) / SIDE),
};
const where = maskSchema.parse({
  id: 'm',
  name: 'Where',
  layers: [
    { id: 'a', kind: 'slope', from: 5, to: 30, over: true },
    {
      id: 'b',
      kind: 'picture',
      picture: { hash: 'a'.repeat(64), fileName: 'where.png' },
      by: 'above',
      frame: { width: 200, depth: 200 },
    },
  ],
});

/** Even places, and what a mask of slope and picture gives each of them. */
function maskedPlaces(distance: number): Float64Array {
  const rest = { ...hills };
  const spots = evenSpots(rest, 1, { distance });
  const [face, u, v] = [spots.face, spots.u, spots.v].map((list) => list.subarray(0, spots.count));
  const places = placesOn([{ id: 'g', rest, read: rest }], new Int32Array(spots.count), face, u, v);
  const sources = { path: () => undefined, thing: () => undefined, picture: () => picture, keyOf: () => '' };
  return maskField(where, 'where', sources).at(places);
}

/** Dart throwing as one writes it down: each against all that are near, by a grid of one place a cell. */
function plainDarts(mesh: TriMesh, distance: number, number: number): number {
  const cell = distance / Math.sqrt(3);
  const grid = new Map<string, number[]>();
  const spots = looseSpots(mesh, 3, number);
  let kept = 0;
  for (let i = 0; i < spots.count; i++) {
    const p = placeOn(mesh, spots.face[i], spots.u[i], spots.v[i]);
    const [x, y, z] = p.map((v) => Math.floor(v / cell));
    let free = true;
    for (let a = x - 2; free && a <= x + 2; a++)
      for (let b = y - 2; free && b <= y + 2; b++)
        for (let c = z - 2; free && c <= z + 2; c++) {
          const q = grid.get(`${a} ${b} ${c}`);
          if (q && Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]) < distance) free = false;
        }
    if (!free) continue;
    grid.set(`${x} ${y} ${z}`, p);
    kept++;
  }
  return kept;
}

/** At this distance about a hundred thousand fit. */
const CLOSE = Math.sqrt((0.72 * areasOf(hills).total) / COUNT);

await measure('scatter', [
  [
    'three: MeshSurfaceSampler, 1,000,000',
    () => {
      const sampler = new MeshSurfaceSampler(new Mesh(geometry)).build();
      const [at, normal] = [new Vector3(), new Vector3()];
      for (let i = 0; i < MANY; i++) sampler.sample(at, normal);
    },
  ],
  ['1,000,000 loose, with normals', () => void read(hills, looseSpots({ ...hills }, 1, MANY))],
  ['100,000 even', () => void evenSpots({ ...hills }, 1, { distance: CLOSE })],
  ['100,000 even, by slope and a picture', () => void maskedPlaces(CLOSE)],
  ['plain darts, 200,000 thrown at the same distance', () => void plainDarts(hills, CLOSE, 200_000)],
]);
