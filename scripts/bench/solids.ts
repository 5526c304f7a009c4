import { builtMesh } from '@/demo/library';
import { buildBvh } from '@/core/mesh/bvh';
import { firstHit, noHit } from '@/core/mesh/bvhQuery';
import { dustSchema } from '@/core/mesh/dust/dustSchema';
import { dustSheet } from '@/core/mesh/dust/dustSheet';
import { makeMesh } from '@/core/mesh/make';
import { shapeSchema } from '@/core/mesh/make/schema';
import { mergedMeshes, type PlacedMesh } from '@/core/mesh/merged';
import { keptBounds, propMatrix, type Mesh } from '@/core/mesh/mesh';
import { joining } from '@/core/mesh/solid/joining';
import { loadKernel } from '@/core/mesh/solid/kernel';
import { printable } from '@/core/mesh/solid/printable';

/** Solids: bumps joined to a vase, what a printer asks of it; a dust sheet. Run by itself: `npx tsx scripts/bench/solids.ts`. */

const made = (settings: object): Mesh => {
  const mesh = makeMesh(shapeSchema.parse(settings), '#D8CDB6', { path: () => undefined });
  if (typeof mesh === 'string') throw new Error(mesh);
  return mesh;
};
const placed = (mesh: Mesh, x: number, y: number, z: number): PlacedMesh => ({
  mesh,
  matrix: Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1),
  wears: undefined,
  of: 'it',
});
function all<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const next = work.next();
    if (next.done) return next.value;
  }
}
const timed = <T>(work: () => T): [ms: number, made: T] => {
  const began = performance.now();
  const result = work();
  return [performance.now() - began, result];
};
const line = (what: string, ms: number, reference: string, by: number) =>
  console.log(
    `${what.padEnd(58)} ${ms.toFixed(0).padStart(7)} ms  ${(ms / by).toFixed(2).padStart(7)} of ${reference}`,
  );

const kernel = await loadKernel();
const vase = made({ shape: 'sphere', radius: 1, columns: 100, rows: 101 });
const bump = made({ shape: 'sphere', radius: 0.05, columns: 8, rows: 6 });
const bumps = Array.from({ length: 500 }, (_, i) => {
  const y = 1 - (2 * (i + 0.5)) / 500;
  const [r, a] = [Math.sqrt(1 - y * y), i * 2.399963];
  return placed(bump, r * Math.cos(a), y, r * Math.sin(a));
});
const step = (parts: PlacedMesh[]) => ({
  how: 'join' as const,
  node: 'n',
  mend: 'none' as const,
  grain: 0.05,
  parts,
});
// What the library itself takes for as many faces without us: balls of its own.
const [plain] = timed(() => {
  const small = kernel.Manifold.sphere(0.05, 8);
  const many = bumps.map(({ matrix }) => small.translate([matrix[12], matrix[13], matrix[14]]));
  const whole = kernel.Manifold.sphere(1, 140).add(kernel.Manifold.union(many));
  return whole.numTri();
});
const [joins, joined] = timed(() => all(joining(kernel, [step([placed(vase, 0, 0, 0)]), step(bumps)])));
line(`500 bumps of 80 faces joined to ${vase.indices.length / 3} faces`, joins, 'the library alone', plain);
const positions = Float64Array.from(joined.mesh.positions);
const [tree] = timed(() => buildBvh(positions, joined.mesh.indices));
const [asked] = timed(() =>
  all(
    printable(
      { positions, indices: joined.mesh.indices },
      { wall: 0.01, detail: 0.005, overhangDeg: 45, up: [0, 1, 0] },
    ),
  ),
);
line('walls, gaps and overhangs of that', asked, 'building its tree', tree);

const crate = builtMesh('crate')!;
const own = propMatrix({ unitScale: 1, foot: { at: 'base' }, front: '+z', up: '+y' }, keptBounds(crate));
const props = Array.from({ length: 500 }, (_, i): PlacedMesh => {
  const matrix = own.slice();
  matrix[12] += (i % 25) * 0.4;
  matrix[14] += Math.floor(i / 25) * 0.4;
  return { mesh: crate, matrix, wears: undefined, of: 'crates' };
});
const spec = dustSchema.parse({ source: 'dust', cell: 0.052, softness: 0.2, beyond: 0.1 });
const sheets = Array.from({ length: 7 }, () => timed(() => dustSheet(props, spec))[0]).sort((a, b) => a - b);
const whole = mergedMeshes(props);
const [rays] = timed(() => {
  const bvh = buildBvh(Float64Array.from(whole.positions), whole.indices);
  const hit = noHit();
  for (let v = 0; v <= 200; v++)
    for (let u = 0; u <= 200; u++) firstHit(bvh, u * 0.05, 9, v * 0.04, 0, -1, 0, 0, 99, hit);
});
line('a dust sheet 200 × 200 over 500 crates', sheets[3], 'a ray for each of its corners', rays);
