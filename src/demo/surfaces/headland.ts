import { linearColor } from '@/core/math/color';
import { noise3 } from '@/core/math/noise';
import { atan2, cos, hypot, sin } from '@/core/math/portable';
import type { Vec3 } from '@/core/math/vec3';
import { gridMesh } from '@/core/mesh/make/grid';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';

/** A head of land with cliffs round it, the keeper's house on it, and a footpath from the one to the other end. */

const SMOOTH = (t: number) => {
  const k = Math.min(1, Math.max(0, t));
  return k * k * (3 - 2 * k);
};
const bumps = noise3(11);

/** How far the land reaches in a direction, metres from its middle. */
const reach = (a: number): number => 43 + 6 * sin(2 * a + 0.6) + 4 * sin(3 * a + 1.1) + 2.2 * sin(5 * a);

/** The level ground that the house and its plot stand on: its middle, its height, and how far it goes. */
export const YARD = { x: -9, z: -12, y: 8.4, radius: 9 };

/** Height of the headland over the sea. */
export function heightAt(x: number, z: number): number {
  const from = hypot(x, z);
  const inside = reach(atan2(z, x)) - from;
  const rolling = 7.6 + 1.5 * sin(0.055 * x + 0.3) * cos(0.06 * z) + 0.7 * bumps(x / 9, 0.3, z / 9);
  const level = SMOOTH((YARD.radius + 6 - hypot(x - YARD.x, z - YARD.z)) / 6);
  const top = rolling + (YARD.y - rolling) * level;
  const rough = 0.9 * bumps(x / 3.1, 2.7, z / 3.1) + 0.4 * bumps(x / 1.3, 5.1, z / 1.3);
  const edge = (inside + 1.5 + rough) / 5.5;
  return -3.2 + (top + 3.2) * SMOOTH(edge) + rough * 0.5 * (1 - SMOOTH(edge - 0.6));
}

/** The footpath, x and z. */
export const FOOTPATH: [number, number][] = [
  [36, 9],
  [27, 7],
  [19, 9.5],
  [11, 6],
  [5, -1],
  [-3, -6],
];

/** The cliff's edge, x and z: so far in from where the land ends. */
export const cliffEdge = (inset: number, count: number): [number, number][] =>
  Array.from({ length: count }, (_, i) => {
    const a = (2 * Math.PI * i) / count;
    const r = reach(a) - inset;
    return [r * cos(a), r * sin(a)];
  });

function awayFromPath(x: number, z: number): number {
  let least = Infinity;
  for (let i = 0; i + 1 < FOOTPATH.length; i++) {
    const [ax, az] = FOOTPATH[i];
    const [bx, bz] = [FOOTPATH[i + 1][0] - ax, FOOTPATH[i + 1][1] - az];
    const k = Math.min(1, Math.max(0, ((x - ax) * bx + (z - az) * bz) / (bx * bx + bz * bz)));
    least = Math.min(least, hypot(x - ax - k * bx, z - az - k * bz));
  }
  return least;
}

const [TURF, DRY, ROCK, DARK, SAND] = ['#98A56C', '#B4B67C', '#A39A8C', '#7A7468', '#DCC9A0'].map(
  linearColor,
);
const mixed = (a: readonly number[], b: readonly number[], k: number) => a.map((v, i) => v + (b[i] - v) * k);

/** The headland: u round it, v from its middle outwards; turf on top, rock where it is steep, sand on the path. */
export function headland(): Mesh {
  const mesh = gridMesh(
    [
      {
        columns: 280,
        rows: 64,
        at: (u, v) => {
          const a = 2 * Math.PI * u;
          // Finer towards the cliffs.
          const r = (reach(a) + 2.5) * (1 - (1 - v) * (1 - v) * 0.55 - (1 - v) * 0.45);
          const [x, z] = [r * cos(a), r * sin(a)];
          return { position: [x, heightAt(x, z), z] as Vec3 };
        },
      },
    ],
    C.grass,
  );
  const colors = new Float32Array(mesh.positions.length);
  for (let o = 0; o < colors.length; o += 3) {
    const [x, y, z] = mesh.positions.subarray(o, o + 3);
    const steep = SMOOTH((0.93 - mesh.normals[o + 1]) / 0.22);
    const dry = SMOOTH(0.5 + 0.9 * bumps(x / 7, 7.7, z / 7));
    const rock = mixed(ROCK, DARK, SMOOTH(0.5 + bumps(x / 2, y / 1.2, z / 2) + (1 - y) * 0.2));
    const ground = mixed(mixed(TURF, DRY, dry), SAND, SMOOTH(1.5 - awayFromPath(x, z) / 0.7));
    colors.set(mixed(ground, rock, Math.max(steep, SMOOTH((1.6 - y) / 1.2))), o);
  }
  return { ...mesh, colors };
}

/** The keeper's house: white walls, a slated roof, a chimney at one end, its door to the south. */
export function keepersHouse(): Mesh {
  const s = new Shape();
  const [w, d, h, ridge] = [4, 2.4, 2.7, 4.5];
  const slate = ['#4C5964', '#55636E', '#46525C'];
  s.box(w * 2, h + 0.6, d * 2, C.white, -0.6);
  for (const k of [1, -1]) {
    const gable: Vec3[] = [
      [w * k, h, d * k],
      [w * k, h, -d * k],
      [w * k, ridge, 0],
    ];
    s.face(gable, C.white);
    for (let i = 0; i < 8; i++) {
      const [x0, x1] = [-w - 0.25 + ((w * 2 + 0.5) * i) / 8, -w - 0.25 + ((w * 2 + 0.5) * (i + 1)) / 8];
      const slope: Vec3[] = [
        [x0, h - 0.18, (d + 0.3) * k],
        [x1, h - 0.18, (d + 0.3) * k],
        [x1, ridge + 0.08, 0],
        [x0, ridge + 0.08, 0],
      ];
      s.sheet(k > 0 ? slope : [...slope].reverse(), slate[i % 3], C.wood);
    }
  }
  const pane = (x: number, y: number, width: number, height: number, color: string) =>
    s.face(
      [
        [x - width / 2, y, d + 0.02],
        [x + width / 2, y, d + 0.02],
        [x + width / 2, y + height, d + 0.02],
        [x - width / 2, y + height, d + 0.02],
      ],
      color,
    );
  pane(0, 0, 1, 2, C.madder);
  for (const x of [-2.3, 2.3]) {
    pane(x, 0.95, 1.15, 1.15, C.woad);
    pane(x, 1.03, 0.98, 0.98, '#DCE7EA');
  }
  s.moveTo(-3.4, 0, 0).box(0.8, 1.7, 0.7, C.darkStone, 3.7).moveTo(0, 0, 0);
  return s.mesh();
}
