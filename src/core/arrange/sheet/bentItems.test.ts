import { quatRotate, type Quat } from '../../math/quat';
import { distance, dot, type Vec3 } from '../../math/vec3';
import { AT, type Chart } from '../../mesh/chart/chart';
import type { Placements } from '../result';
import type { Mesh } from '../../mesh/mesh';
import { newProp } from '../../scene/defaults';
import { ASSETS } from '../../testing/scene';
import { sheetBender } from './bend';
import { newAt, sheetMap } from './map';
import { placed, sheet, turn, worked } from '../../testing/sheets';

/** Bent items of sheets, against the closed forms of cylinders, cones and planes. */

const cylinder = (radius: number, height: number): Chart => ({
  u: [0, 1],
  v: [0, 1],
  closedU: true,
  closedV: false,
  at(u, v, out) {
    const [c, s] = [Math.cos(2 * Math.PI * u), Math.sin(2 * Math.PI * u)];
    const k = 2 * Math.PI * radius;
    out.set([radius * c, v * height, -radius * s, c, 0, -s, -k * s, 0, -k * c, 0, height, 0]);
    return true;
  },
  line: (stays) => ({
    at: Float64Array.of(0, 1),
    s: Float64Array.of(0, stays === 0 ? height : 2 * Math.PI * radius),
  }),
});

describe('bent items', () => {
  const mesh = {
    positions: Float64Array.from(
      [0, 1, 2, 3, 4, 5, 6, 7, 8].flatMap((i) => [
        (i % 3) * 0.4 - 0.4,
        0.1 * (i % 2),
        Math.floor(i / 3) * 0.3,
      ]),
    ),
    normals: Float64Array.from({ length: 27 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
    indices: Uint32Array.from([0, 3, 1, 1, 3, 4, 4, 5, 1, 1, 5, 2]),
    groups: [{ start: 0, count: 12, material: 0 }],
  };
  const box = { min: [-0.4, 0, 0] as Vec3, max: [0.4, 0.1, 0.6] as Vec3 };

  test('on a cylinder are where the closed form has them', () => {
    const [radius, height] = [1.5, 4];
    const tiles = sheet({ facing: { bend: true, tolerance: 1 } });
    const map = sheetMap(cylinder(radius, height), tiles);
    const [a, b] = [0.83, 0.3];
    const at = newAt();
    map.at(a, b, at);
    const bender = sheetBender(map, tiles.facing, [mesh], [box]);
    const out = {
      count: 1,
      props: ['p'],
      prop: Int32Array.of(0),
      slot: Float64Array.of(1),
      state: new Uint8Array(1),
      position: at.slice(AT.position, 3),
      rotation: new Float64Array(4),
      scale: Float64Array.of(1, 1, 1),
      s: new Float64Array(1),
    } as Placements;
    // Y out of the wall, Z up it.
    const angle = 2 * Math.PI * a;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const axes = [
      [s, 0, c],
      [c, 0, -s],
      [0, 1, 0],
    ];
    out.rotation.set(fromAxes(axes));
    bender.bend(a, b, at, [0, 1, 0], 0, out, 0);
    const bent = out.bent![out.shape![0]];
    for (let i = 0; i < 9; i++) {
      const [x, y, z] = [0, 1, 2].map((k) => mesh.positions[i * 3 + k]);
      // X is left: against the way round.
      const phi = angle - x / radius;
      const r = radius + y;
      const want: Vec3 = [r * Math.cos(phi), b * height + z, -r * Math.sin(phi)];
      const p = [...bent.positions.subarray(i * 3, i * 3 + 3)] as Vec3;
      const turned = quatRotate([...out.rotation] as Quat, p);
      const got: Vec3 = [
        turned[0] + out.position[0],
        turned[1] + out.position[1],
        turned[2] + out.position[2],
      ];
      expect(distance(got, want)).toBeLessThan(1e-9);
      const n = quatRotate([...out.rotation] as Quat, [...bent.normals.subarray(i * 3, i * 3 + 3)] as Vec3);
      expect(dot(n, [Math.cos(phi), 0, -Math.sin(phi)])).toBeCloseTo(1, 6);
    }
  });

  test('on a plane stay as they are; a mesh of a cylinder is as near as its chords', () => {
    const flat = worked(sheet({ facing: { bend: true }, grid: { columns: 6, rows: 3 } }), {
      shape: 'plane',
      width: 8,
      depth: 4,
    });
    expect(flat.placements.bent).toBeUndefined();
    const sides = 80;
    const round = worked(sheet({ facing: { bend: true }, grid: { columns: 8, rows: 2 } }), {
      radius: 2,
      columns: sides,
    });
    const p = round.placements;
    const chord = 2 * (1 - Math.cos(Math.PI / sides));
    for (const i of placed(p)) {
      const bent = p.bent![p.shape![i]];
      const own = ASSETS.mesh({ source: 'built', name: 'box' }) as Mesh;
      const lows = new Set<number>();
      for (let v = 0; v * 3 < bent.positions.length; v++) {
        const q = quatRotate(
          [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat,
          [...bent.positions.subarray(v * 3, v * 3 + 3)] as Vec3,
        );
        const r = Math.hypot(q[0] + round.at(i)[0], q[2] + round.at(i)[2]);
        // The box is 0.6 high, from the wall out.
        expect(r).toBeGreaterThan(2 - chord - 1e-6);
        expect(r).toBeLessThan(2.6 + 0.002);
        if (r < 2 + 1e-6) lows.add(v);
      }
      expect(lows.size).toBeGreaterThan(4);
      expect(bent.indices.length).toBeGreaterThanOrEqual(own.indices.length);
    }
    // Round a form that is the same all over, alike shapes are one; the faces meet each of eight columns alike.
    expect(p.bent!.length).toBe(1);
  });

  test('a prop may keep its shape among bent ones, and a hand may decide otherwise for one', () => {
    const order = ['p', 'q'].map((prop) => ({ id: prop, item: { kind: 'prop', prop } }));
    const two = (facing: object, hand: object = {}) => {
      const { placements: p } = worked(
        sheet({ order: { entries: order }, grid: { columns: 4, rows: 1 }, facing, hand }),
        { radius: 2, columns: 80 },
        (s) => s.props.push(newProp('q', 'Q', { source: 'built', name: 'box' })),
      );
      return [0, 1, 2, 3].map((i) => (p.shape?.[i] ?? -1) >= 0);
    };
    expect(two({ bend: true })).toEqual([true, true, true, true]);
    expect(two({ bend: true, rigid: ['q'] })).toEqual([true, false, true, false]);
    const hand = { '1': { bend: false }, '2': { bend: true } };
    expect(two({ bend: true, rigid: ['q'] }, hand)).toEqual([false, true, true, false]);
    expect(two({}, hand)).toEqual([false, true, false, false]);
  });

  test('an item across the seam is whole, and the same as one beside it', () => {
    const grid = { columns: 8, rows: 2, stagger: 'brick' };
    const { placements: p, at } = worked(sheet({ grid, facing: { bend: true } }), { radius: 2, columns: 80 });
    // The last of the moved row stands on the seam itself.
    const seam = placed(p).find((i) => at(i)[1] > 3 && Math.abs(Math.atan2(at(i)[2], at(i)[0])) < 1e-6)!;
    const beside = placed(p).find((i) => at(i)[1] > 3 && i !== seam)!;
    const extent = (i: number) => {
      const { positions } = p.bent![p.shape![i]];
      const x = positions.filter((_, k) => k % 3 === 0);
      return Math.max(...x) - Math.min(...x);
    };
    expect(extent(seam)).toBeCloseTo(extent(beside), 6);
    expect(extent(seam)).toBeLessThan(0.6);
  });

  test('relief is a factor on heights over the wall, and leaves what lies on it where it is', () => {
    const heights = (relief: number, lift = 0) => {
      const { placements: p, at } = worked(
        sheet({ facing: { bend: true, relief, lift }, grid: { columns: 8, rows: 2 } }),
        { radius: 2, columns: 80 },
      );
      const { positions } = p.bent![p.shape![0]];
      return Array.from({ length: positions.length / 3 }, (_, v) => {
        const q = turn(p, 0, [positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]]);
        return Math.hypot(q[0] + at(0)[0], q[2] + at(0)[2]) - 2;
      });
    };
    const [plain, twice, over] = [1, 2.5, -0.5].map((relief) => heights(relief));
    // Lengths along the normal, to how far the sides of the wall are from round.
    plain.forEach((h, v) => {
      expect(Math.abs(twice[v] - 2.5 * h)).toBeLessThan(0.004);
      expect(Math.abs(over[v] + 0.5 * h)).toBeLessThan(0.004);
    });
    // Lifted by as much everywhere, thickness kept.
    heights(1, 0.2).forEach((h, v) => expect(Math.abs(h - plain[v] - 0.2)).toBeLessThan(0.004));
    expect(Math.max(...twice)).toBeCloseTo(1.5, 2);
    expect(Math.min(...over)).toBeCloseTo(-0.3, 2);
  });

  test('every second one is turned half round, or mirrored: bent ones as rigid ones', () => {
    const grid = { columns: 8, rows: 2 };
    const wall = { radius: 2, columns: 80 };
    const of = (facing: object) => worked(sheet({ facing, grid }), wall).placements;
    const ends = of({ alternate: 'turn' });
    for (let i = 0; i < 16; i++) {
      const odd = (Math.floor(i / 8) + i) % 2 === 1;
      expect(turn(ends, i, [0, 0, 1])[1]).toBeCloseTo(odd ? -1 : 1, 9);
      expect(ends.scale[i * 3]).toBe(1);
    }
    const mirrored = of({ alternate: 'mirror' });
    for (let i = 0; i < 16; i++) {
      expect(turn(mirrored, i, [0, 0, 1])[1]).toBeCloseTo(1, 9);
      expect(mirrored.scale[i * 3]).toBe((Math.floor(i / 8) + i) % 2 === 1 ? -1 : 1);
    }
    // The box stands 1 to 1.4 m to the left of its origin: mirrored it is bent as far to the right.
    const bent = of({ alternate: 'mirror', bend: true });
    const sides = [0, 1].map((i) => {
      const x = bent.bent![bent.shape![i]].positions.filter((_, k) => k % 3 === 0);
      return [Math.min(...x), Math.max(...x)];
    });
    expect(sides[1][0]).toBeCloseTo(-sides[0][1], 2);
    expect(sides[1][1]).toBeCloseTo(-sides[0][0], 2);
  });

  test('distortion: none on a cone in true size, known when it is stretched', () => {
    const cone = { radius: 3, top: 1, height: 5 };
    const plain = worked(sheet({ grid: { columns: 12, rows: 4 } }), cone).sheet!.distortion;
    for (let i = 0; i < plain.length; i += 2) expect(plain[i]).toBeCloseTo(1, 1);
    const stretched = worked(sheet({ fit: 'stretch', grid: { columns: 12, rows: 4 } }), cone);
    const { distortion, width } = stretched.sheet!;
    [0.125, 0.375, 0.625, 0.875].forEach((t, j) => {
      const r = 3 - 2 * t;
      expect(distortion[j * 24]).toBeCloseTo((2 * 60 * r * Math.sin(Math.PI / 60)) / width, 1);
    });
  });
});

function fromAxes([x, y, z]: number[][]): Quat {
  const w = Math.sqrt(Math.max(0, 1 + x[0] + y[1] + z[2])) / 2;
  if (w > 0.1) {
    const k = 1 / (4 * w);
    return [(y[2] - z[1]) * k, (z[0] - x[2]) * k, (x[1] - y[0]) * k, w];
  }
  throw new Error('Turned too far for this test.');
}
