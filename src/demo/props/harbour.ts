import type { Vec3 } from '@/core/math/vec3';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';
import { cos, sin } from '@/core/math/portable';

/** What stands on the quay. Metres, Y up, front +Z, base at y = 0. */

function bollardShape(body: string, band: string): Mesh {
  return new Shape()
    .turned(
      [
        [0, 0],
        [0.26, 0],
        [0.26, 0.06],
        [0.19, 0.1],
        [0.16, 0.42],
        [0.17, 0.5],
        [0.24, 0.56],
        [0.25, 0.64],
        [0.2, 0.74],
        [0.1, 0.79],
        [0, 0.8],
      ],
      14,
      [body, body, body, body, body, band, body, body, body, body],
      true,
    )
    .mesh([{ name: 'neck', position: [0, 0.47, 0.16], direction: [0, 0, 1] }]);
}

export const bollard = () => bollardShape(C.ink, C.ink);
export const paintedBollard = () => bollardShape(C.weld, C.linen);

export function lampPost(): Mesh {
  const s = new Shape()
    .turned(
      [
        [0, 0],
        [0.2, 0],
        [0.18, 0.18],
        [0.1, 0.26],
        [0.075, 2.2],
        [0.06, 3.9],
        [0, 3.9],
      ],
      10,
      C.wood,
    )
    .moveTo(0, 3.5, 0)
    .box(0.9, 0.07, 0.07, C.wood)
    .moveTo(0, 3.9, 0)
    .turned(
      [
        [0, 0],
        [0.2, 0.16],
        [0.13, 0.42],
        [0, 0.5],
      ],
      6,
      [C.deepInk, C.glow, C.deepInk],
    );
  return s.mesh([
    { name: 'left arm', position: [0.45, 3.5, 0] },
    { name: 'right arm', position: [-0.45, 3.5, 0] },
  ]);
}

export function ropePost(): Mesh {
  return new Shape()
    .turned(
      [
        [0, 0],
        [0.07, 0],
        [0.065, 0.86],
        [0.09, 0.9],
        [0.07, 1],
        [0, 1.02],
      ],
      8,
      C.paleWood,
    )
    .moveTo(0, 0.72, 0)
    .ring(0.075, 0.022, 10, 5, C.rope)
    .mesh([{ name: 'top', position: [0, 0.76, 0] }]);
}

export function bench(): Mesh {
  const s = new Shape();
  for (const z of [-0.16, 0, 0.16]) s.moveTo(0, 0.42, z).box(1.5, 0.045, 0.13, C.paleWood);
  for (const y of [0.58, 0.76]) s.moveTo(0, y, -0.27).box(1.5, 0.12, 0.04, C.paleWood);
  for (const x of [-0.6, 0.6]) {
    s.moveTo(x, 0, 0.14).box(0.07, 0.42, 0.07, C.iron).moveTo(x, 0, -0.27).box(0.07, 0.9, 0.06, C.iron);
    s.moveTo(x, 0.36, -0.05).box(0.06, 0.06, 0.46, C.iron);
  }
  return s.mesh();
}

export function crate(): Mesh {
  const s = new Shape().moveTo(0, 0.03, 0).box(0.6, 0.46, 0.44, C.wood);
  for (const y of [0.02, 0.18, 0.34]) {
    for (const z of [-0.235, 0.235]) s.moveTo(0, y, z).box(0.64, 0.13, 0.03, C.paleWood);
    for (const x of [-0.315, 0.315]) s.moveTo(x, y, 0).box(0.03, 0.13, 0.44, C.paleWood);
  }
  for (const x of [-0.3, 0.3])
    for (const z of [-0.25, 0.25]) s.moveTo(x, 0, z).box(0.05, 0.5, 0.05, C.paleWood);
  return s.mesh();
}

export function barrel(): Mesh {
  return new Shape()
    .turned(
      [
        [0, 0],
        [0.26, 0],
        [0.3, 0.14],
        [0.315, 0.2],
        [0.34, 0.44],
        [0.315, 0.68],
        [0.3, 0.74],
        [0.26, 0.88],
        [0.235, 0.88],
        [0.235, 0.84],
        [0, 0.84],
      ],
      14,
      [C.wood, C.wood, C.iron, C.wood, C.wood, C.iron, C.wood, C.wood, C.wood, C.paleWood],
    )
    .mesh();
}

export function ropeCoil(): Mesh {
  const s = new Shape();
  for (let k = 0; k < 4; k++)
    s.moveTo(k % 2 ? 0.015 : -0.01, 0.045 + k * 0.08, k > 1 ? 0.015 : 0).ring(
      0.3 - k * 0.012,
      0.045,
      16,
      6,
      C.rope,
    );
  return s.mesh();
}

export function cleat(): Mesh {
  return new Shape()
    .box(0.12, 0.03, 0.34, C.iron)
    .moveTo(0, 0.03, 0)
    .box(0.07, 0.09, 0.07, C.iron)
    .moveTo(0, 0.12, 0)
    .box(0.055, 0.05, 0.46, C.iron)
    .mesh();
}

export function mooringRing(): Mesh {
  return new Shape()
    .ring(0.14, 0.022, 16, 6, C.iron)
    .layDown()
    .moveTo(0, 0.13, 0)
    .box(0.07, 0.07, 0.09, C.iron)
    .mesh();
}

export function lifeRing(): Mesh {
  return new Shape()
    .ring(0.3, 0.075, 24, 8, [C.madder, C.white, C.madder, C.white, C.madder, C.white, C.madder, C.white])
    .layDown()
    .mesh();
}

export function buoy(): Mesh {
  return new Shape()
    .turned(
      [
        [0, 0],
        [0.2, 0.06],
        [0.33, 0.24],
        [0.34, 0.36],
        [0.24, 0.52],
        [0.08, 0.62],
        [0.05, 0.95],
        [0, 0.97],
      ],
      12,
      [C.madder, C.madder, C.white, C.madder, C.madder, C.deepInk, C.deepInk],
      true,
    )
    .mesh([{ name: 'top', position: [0, 0.97, 0] }]);
}

export function boulder(): Mesh {
  const rough = (p: readonly number[]) =>
    1 + 0.14 * sin(5.1 * p[0] + 2.3 * p[2]) + 0.1 * sin(7.7 * p[1] + 3.1 * p[0]);
  return new Shape()
    .turned(
      [
        [0, 0],
        [0.34, 0.02],
        [0.46, 0.18],
        [0.42, 0.36],
        [0.24, 0.5],
        [0, 0.54],
      ],
      9,
      C.darkStone,
    )
    .shaped((p) => [p[0] * rough(p), p[1], p[2] * rough(p) * 0.82])
    .mesh();
}

export function grassTuft(): Mesh {
  const s = new Shape();
  for (let k = 0; k < 12; k++) {
    const a = k * 2.4;
    const [x, z] = [cos(a), sin(a)];
    const h = 0.24 + 0.12 * Math.abs(sin(k * 1.7));
    const r = 0.03 + 0.012 * k;
    s.sheet(
      [
        [x * r - z * 0.02, 0, z * r + x * 0.02],
        [x * r + z * 0.02, 0, z * r - x * 0.02],
        [x * (r + 0.12), h, z * (r + 0.12)],
      ],
      k % 3 ? C.grass : C.moss,
    );
  }
  return s.mesh();
}

/** A small open boat: front is the bow, the foot lies on the water line. */
export function dinghy(): Mesh {
  // Along the keel: how far on, half widths above and below, heights below and above.
  const ribs: [number, number, number, number, number][] = [
    [-1.4, 0.55, 0.38, -0.1, 0.42],
    [-0.5, 0.7, 0.5, -0.18, 0.4],
    [0.6, 0.64, 0.42, -0.18, 0.44],
    [1.6, 0.05, 0.03, -0.02, 0.62],
  ];
  const s = new Shape();
  const at = ([z, top, below, low, high]: (typeof ribs)[number], side: number, up: boolean): Vec3 => [
    side * (up ? top : below),
    up ? high : low,
    z,
  ];
  for (let i = 0; i + 1 < ribs.length; i++) {
    const [a, b] = [ribs[i], ribs[i + 1]];
    for (const side of [1, -1])
      s.sheet(
        [at(a, side, false), at(b, side, false), at(b, side, true), at(a, side, true)],
        C.madder,
        C.paleWood,
      );
    s.sheet([at(a, -1, false), at(a, 1, false), at(b, 1, false), at(b, -1, false)], C.paleWood, C.deepInk);
  }
  const stern = ribs[0];
  s.sheet(
    [at(stern, 1, false), at(stern, -1, false), at(stern, -1, true), at(stern, 1, true)],
    C.wood,
    C.wood,
  );
  s.moveTo(0, 0.22, -0.75).box(1.2, 0.05, 0.3, C.linen);
  s.moveTo(0, 0.22, 0.35).box(1.24, 0.05, 0.28, C.linen);
  return s.moveTo(0, 0, 0).mesh([{ name: 'bow', position: [0, 0.6, 1.55], direction: [0, 0.3, 1] }]);
}
