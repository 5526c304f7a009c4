import { triMeshOf } from '../../testing/surfaces';
import { withUv } from '../makeUv';
import type { Place } from '../pin';
import { makeTriMesh, placeOn, type TriMesh } from '../triMesh';
import { AT } from './chart';
import { uvChart } from './uvChart';
import { uvIndex } from './uvIndex';

type Laid = TriMesh & { uvs: Float32Array };
const indexOf = (triMesh: TriMesh) => uvIndex(triMesh as Laid);
const WHOLE = { u: [0, 1] as [number, number], v: [0, 1] as [number, number] };

/** The first face that holds u, v, by looking at all of them. */
function bruteFind({ uvs, indices }: Laid, u: number, v: number): Place | null {
  for (let f = 0; f * 3 < indices.length; f++) {
    const [a, b, c] = [0, 1, 2].map((k) => indices[f * 3 + k] * 2);
    const [bu, bv] = [uvs[b] - uvs[a], uvs[b + 1] - uvs[a + 1]];
    const [cu, cv] = [uvs[c] - uvs[a], uvs[c + 1] - uvs[a + 1]];
    const det = bu * cv - cu * bv;
    const x = ((u - uvs[a]) * cv - (v - uvs[a + 1]) * cu) / det;
    const y = ((v - uvs[a + 1]) * bu - (u - uvs[a]) * bv) / det;
    if (x >= -1e-9 && y >= -1e-9 && x + y <= 1 + 1e-9) return { face: f, u: x, v: y };
  }
  return null;
}

const hills = triMeshOf({ shape: 'hills', width: 10, depth: 8, columns: 13, rows: 9, height: 2, seed: 4 });

test('a place of the texture is found where a look at every face finds it', () => {
  const index = indexOf(hills);
  const out: Place = { face: -1, u: 0, v: 0 };
  for (let i = 0; i < 400; i++) {
    const [u, v] = [(i * 0.6180339887) % 1, (i * 0.7548776662) % 1];
    expect(index.find(u, v, out)).toBe(true);
    const want = bruteFind(hills as Laid, u, v)!;
    const [p, q] = [out, want].map((w) => placeOn(hills, w.face, w.u, w.v));
    p.forEach((x, a) => expect(x).toBeCloseTo(q[a], 9));
  }
  expect(index.find(1.2, 0.5, out)).toBe(false);
});

test.each([
  [0, 0.37],
  [1, 0.61],
  [1, 0],
] as const)('the length of a line (%i stays at %f) is that of very many small steps', (stays, value) => {
  const chart = uvChart(hills, hills, 3, WHOLE)!;
  const line = chart.line(stays, value);
  expect([...line.at].every((t, i) => i === 0 || t > line.at[i - 1])).toBe(true);
  const n = 100_000;
  const at = new Float64Array(AT.length);
  let sum = 0;
  let last: number[] | null = null;
  for (let i = 0; i <= n; i++) {
    const ok = stays === 0 ? chart.at(value, i / n, at) : chart.at(i / n, value, at);
    if (!ok) throw new Error('Nothing there.');
    const now = [at[0], at[1], at[2]];
    if (last) sum += Math.hypot(now[0] - last[0], now[1] - last[1], now[2] - last[2]);
    last = now;
  }
  // The chart is told that a unit is 3 m.
  expect(Math.abs(line.s[line.s.length - 1] / (3 * sum) - 1)).toBeLessThan(1e-5);
});

test('derivatives are those of small steps; closed ways are known', () => {
  const chart = uvChart(hills, hills, 1, WHOLE)!;
  const [here, there] = [new Float64Array(AT.length), new Float64Array(AT.length)];
  chart.at(0.411, 0.533, here);
  chart.at(0.411 + 1e-6, 0.533, there);
  for (let r = 0; r < 3; r++) expect((there[r] - here[r]) / 1e-6).toBeCloseTo(here[AT.du + r], 3);
  chart.at(0.411, 0.533 + 1e-6, there);
  for (let r = 0; r < 3; r++) expect((there[r] - here[r]) / 1e-6).toBeCloseTo(here[AT.dv + r], 3);
  expect([chart.closedU, chart.closedV]).toEqual([false, false]);
  const ring = triMeshOf({ shape: 'torus' });
  const round = uvChart(ring, ring, 1, WHOLE)!;
  expect([round.closedU, round.closedV]).toEqual([true, true]);
  const part = uvChart(ring, ring, 1, { u: [0, 0.5], v: [0, 1] })!;
  expect([part.closedU, part.closedV]).toEqual([false, true]);
});

test('islands that lie on one another are named, and the first one is used', () => {
  const box = triMeshOf({ shape: 'box', width: 2, height: 2, depth: 2, fillet: 0, cells: 2 });
  const index = indexOf(box);
  expect(index.islands).toHaveLength(6);
  expect(index.islands.map((i) => i.on)).toEqual([-1, 0, 0, 0, 0, 0]);
  const out: Place = { face: -1, u: 0, v: 0 };
  expect(index.find(0.3, 0.4, out)).toBe(true);
  expect(out.face).toBeLessThan(box.indices.length / 3 / 6);
});

describe('uv that is made', () => {
  const ball = triMeshOf({ shape: 'sphere', radius: 2, columns: 24, rows: 12 });
  const bare = { ...ball, groups: [{ start: 0, count: ball.indices.length, material: 0 }] };
  test.each(['cylinder', 'sphere'] as const)('%s: closed round, each place where its angle says', (kind) => {
    const made = withUv(bare, kind);
    const { positions: p, uvs, indices } = made;
    let [round, up] = [0, 0];
    for (let v = 0; v * 3 < p.length; v++) {
      const [x, y, z] = [p[v * 3], p[v * 3 + 1], p[v * 3 + 2]];
      if (Math.hypot(x, z) < 1e-6) continue;
      const turn = (Math.atan2(-z, x) / (2 * Math.PI) + 1) % 1;
      const off = Math.abs(uvs[v * 2] - turn);
      round = Math.max(round, Math.min(off, 1 - off));
      const high = kind === 'cylinder' ? y / 4 + 0.5 : 0.5 + Math.asin(y / 2) / Math.PI;
      up = Math.max(up, Math.abs(uvs[v * 2 + 1] - high));
    }
    expect(round).toBeLessThan(1e-6);
    expect(up).toBeLessThan(5e-5);
    // No face spans the cut.
    for (let i = 0; i < indices.length; i += 3) {
      const us = [0, 1, 2].map((k) => uvs[indices[i + k] * 2]);
      expect(Math.max(...us) - Math.min(...us)).toBeLessThan(0.5);
    }
    const triMesh = makeTriMesh(made);
    expect(uvChart(triMesh, triMesh, 1, { u: [0, 1], v: [0.2, 0.8] })!.closedU).toBe(true);
  });
  test('plane: seen along the axis that most of it faces', () => {
    const floor = triMeshOf({ shape: 'plane', width: 6, depth: 4 });
    const made = withUv(
      { ...floor, groups: [{ start: 0, count: floor.indices.length, material: 0 }] },
      'plane',
    );
    for (let v = 0; v * 3 < made.positions.length; v++) {
      expect(made.uvs[v * 2]).toBeCloseTo(made.positions[v * 3] / 6 + 0.5, 5);
      expect(made.uvs[v * 2 + 1]).toBeCloseTo(0.5 - made.positions[v * 3 + 2] / 4, 5);
    }
  });
});
