import { cos, sin } from '../../math/portable';
import { layered } from '../../math/noise';
import type { Vec3 } from '../../math/vec3';
import type { Grid } from './grid';
import type { SurfaceShape } from './schema';

type Of<S extends SurfaceShape['shape']> = Extract<SurfaceShape, { shape: S }>;

/** A flat rectangle seen from above: u to the right (+X), v away from the viewer (−Z). */
const level =
  (width: number, depth: number, height: (x: number, z: number, u: number, v: number) => number) =>
  (u: number, v: number): { position: Vec3 } => {
    const x = (u - 0.5) * width;
    const z = (0.5 - v) * depth;
    return { position: [x, height(x, z, u, v), z] };
  };

/** A level rectangle about the origin, its uv from corner to corner. */
export const plane = (s: Of<'plane'>): Grid[] => [
  {
    columns: s.columns,
    rows: s.rows,
    at: (u, v) => ({ ...level(s.width, s.depth, () => 0)(u, v), normal: [0, 1, 0] }),
  },
];

/** A rectangle whose height is noise in layers, each half as high and twice as fine as the one before. */
export function hills(s: Of<'hills'>): Grid[] {
  const noise = layered(s.seed, s.layers);
  const at = level(s.width, s.depth, (x, z) => s.height * 1.6 * noise(x / s.span, 0.37, z / s.span));
  return [{ columns: s.columns, rows: s.rows, at }];
}

const TURN = 2 * Math.PI;

/** A sphere by longitude and latitude, u round it and v from its south pole to its north pole. */
export const sphere = (s: Of<'sphere'>): Grid[] => [
  {
    columns: s.columns,
    rows: s.rows,
    at: (u, v) => {
      const a = u * TURN;
      const b = (v - 0.5) * Math.PI;
      const n: Vec3 = [cos(b) * sin(a), sin(b), cos(b) * cos(a)];
      return { position: [n[0] * s.radius, n[1] * s.radius, n[2] * s.radius], normal: n };
    },
  },
];

/** A torus about Y: u round the hole, v round the tube. */
export const torus = (s: Of<'torus'>): Grid[] => [
  {
    columns: s.columns,
    rows: s.rows,
    at: (u, v) => {
      const a = u * TURN;
      const b = v * TURN;
      const n: Vec3 = [cos(b) * sin(a), sin(b), cos(b) * cos(a)];
      const r = s.radius + s.thickness * cos(b);
      return { position: [r * sin(a), s.thickness * sin(b), r * cos(a)], normal: n };
    },
  },
];

/** A box on the ground with rounded edges: six faces, each pulled onto a core box grown by the radius. */
export function box(s: Of<'box'>): Grid[] {
  const half = [s.width / 2, s.height / 2, s.depth / 2];
  const r = Math.min(s.fillet, ...half);
  const faces: [Vec3, Vec3, Vec3][] = [
    [
      [1, 0, 0],
      [0, 0, -1],
      [0, 1, 0],
    ],
    [
      [1, 0, 0],
      [0, 0, 1],
      [0, -1, 0],
    ],
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ],
    [
      [-1, 0, 0],
      [0, 1, 0],
      [0, 0, -1],
    ],
    [
      [0, 0, -1],
      [0, 1, 0],
      [1, 0, 0],
    ],
    [
      [0, 0, 1],
      [0, 1, 0],
      [-1, 0, 0],
    ],
  ];
  const extent = (d: Vec3) => Math.abs(d[0]) * half[0] + Math.abs(d[1]) * half[1] + Math.abs(d[2]) * half[2];
  return faces.map(([right, up, out]) => {
    const [w, h, d] = [extent(right), extent(up), extent(out)];
    // Cells are spent where the edges bend: as many on each rounding as there are asked for.
    const bend = r > 0 ? Math.max(2, Math.ceil(s.cells / 2)) : 0;
    const cells = s.cells + 2 * bend;
    const along = (t: number, reach: number) => {
      const k = Math.round(t * cells);
      if (k <= bend && bend > 0) return { c: -(reach - r), a: -(1 - k / bend) };
      if (k >= cells - bend && bend > 0) return { c: reach - r, a: (k - cells + bend) / bend };
      return { c: -(reach - r) + ((k - bend) / s.cells) * 2 * (reach - r), a: 0 };
    };
    return {
      columns: cells,
      rows: cells,
      at: (u, v) => {
        const [x, y] = [along(u, w), along(v, h)];
        // The direction on a cube's corner, brought to length one: meets its neighbours' exactly at the diagonals.
        const n: Vec3 = [0, 1, 2].map((i) => out[i] + right[i] * x.a + up[i] * y.a) as Vec3;
        const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
        const normal = n.map((c) => c / l) as Vec3;
        const position = [0, 1, 2].map(
          (i) => right[i] * x.c + up[i] * y.c + out[i] * (d - r) + normal[i] * r + (i === 1 ? half[1] : 0),
        ) as Vec3;
        return { position, normal };
      },
    };
  });
}
