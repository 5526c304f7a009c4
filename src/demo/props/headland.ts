import { cos, sin } from '@/core/math/portable';
import type { Vec3 } from '@/core/math/vec3';
import type { Mesh } from '@/core/mesh/mesh';
import type { Motion } from '@/core/mesh/motion';
import { motionOf, wave, type Joint } from '../rig';
import { COLORS as C, Shape } from '../shape';

/** What grows on the headland, and what flies over it. */

/** A dome of spiny twigs with a yellow bloom. */
export function gorse(): Mesh {
  const s = new Shape();
  const greens = [C.moss, '#55703A', '#4B6434'];
  for (let k = 0; k < 46; k++) {
    const a = k * 2.399;
    const up = 0.1 + 0.9 * (((k * 7) % 46) / 46);
    const r = 0.42 * (1.25 - up * 0.75);
    const [x, z] = [cos(a) * r, sin(a) * r];
    const [dx, dz] = [cos(a) * 0.16, sin(a) * 0.16];
    const y = 0.62 * up;
    const low = Math.max(0, y * 0.6 - 0.04);
    s.sheet(
      [
        [x - dz * 0.5, low, z + dx * 0.5],
        [x + dz * 0.5, low, z - dx * 0.5],
        [x + dx, y + 0.16, z + dz],
      ],
      greens[k % 3],
    );
    if (k % 2 === 0)
      s.sheet(
        [
          [x + dx * 0.7 - dz * 0.22, y + 0.1, z + dz * 0.7 + dx * 0.22],
          [x + dx * 0.7 + dz * 0.22, y + 0.1, z + dz * 0.7 - dx * 0.22],
          [x + dx * 1.05, y + 0.2, z + dz * 1.05],
        ],
        C.weld,
      );
  }
  return s.mesh();
}

/** A cushion of narrow leaves with round heads of flowers on thin stalks. */
export function seaPink(): Mesh {
  const s = new Shape();
  for (let k = 0; k < 8; k++) {
    const a = k * 2.1;
    const [x, z] = [cos(a), sin(a)];
    s.sheet(
      [
        [-z * 0.02, 0, x * 0.02],
        [z * 0.02, 0, -x * 0.02],
        [x * 0.13, 0.09, z * 0.13],
      ],
      C.grass,
    );
  }
  for (let k = 0; k < 5; k++) {
    const a = k * 2.399;
    const r = 0.03 + 0.014 * k;
    const [x, z, h] = [cos(a) * r, sin(a) * r, 0.13 + 0.02 * ((k * 3) % 5)];
    s.sheet(
      [
        [x * 0.4 - 0.004, 0.02, z * 0.4],
        [x * 0.4 + 0.004, 0.02, z * 0.4],
        [x, h, z],
      ],
      C.moss,
    );
    s.moveTo(x, h, z)
      .turned(
        [
          [0, -0.012],
          [0.03, 0.006],
          [0, 0.028],
        ],
        5,
        ['#B8718C', '#C98AA0'],
      )
      .moveTo(0, 0, 0);
  }
  return s.mesh();
}

/** A gull on the wing: its front is its beak, its origin in the middle of its body. */
export const gull = (): Mesh => gullShape().mesh();

/** Where its wings beat: at its body, and half-way out. */
const WINGS: Joint[] = [
  { parent: -1, at: [0, 0, 0] },
  ...[1, -1].flatMap((side, k): Joint[] => [
    { parent: 0, at: [0.05 * side, 0.03, 0.03] },
    { parent: 1 + k * 2, at: [0.33 * side, 0.13, 0.03] },
  ]),
];
const AHEAD: Vec3 = [0, 0, 1];

/** It beats its wings, the outer halves a little behind, and glides. */
export function gullMotion(): Motion {
  const shape = gullShape();
  const beat = (deg: number, outer: number, mean: number) => [
    { joint: 0, moved: (t: number): Vec3 => [0, -0.0012 * deg * wave(t), 0] },
    ...[1, -1].flatMap((side, k) => [
      { joint: 1 + k * 2, about: { axis: AHEAD, deg: (t: number) => side * (mean + deg * wave(t)) } },
      { joint: 2 + k * 2, about: { axis: AHEAD, deg: (t: number) => side * outer * wave(t, -0.17) } },
    ]),
  ];
  return motionOf(shape, shape.mesh(), WINGS, [
    { name: 'Beat', duration: 0.72, swings: beat(30, 26, 4) },
    { name: 'Glide', duration: 3.2, swings: beat(3, 3, 2) },
  ]);
}

function gullShape(): Shape {
  const s = new Shape().on(0);
  const rings: [z: number, r: number, color: string][] = [
    [-0.3, 0.012, C.white],
    [-0.16, 0.055, C.white],
    [0.02, 0.075, C.white],
    [0.16, 0.06, C.white],
    [0.25, 0.035, C.white],
    [0.32, 0.008, C.weld],
  ];
  const at = (z: number, r: number, k: number): Vec3 => [
    cos((k * Math.PI) / 3) * r,
    sin((k * Math.PI) / 3) * r * 0.85,
    z,
  ];
  for (let i = 0; i + 1 < rings.length; i++)
    for (let k = 0; k < 6; k++)
      s.face(
        [
          at(rings[i][0], rings[i][1], k),
          at(rings[i][0], rings[i][1], k + 1),
          at(rings[i + 1][0], rings[i + 1][1], k + 1),
          at(rings[i + 1][0], rings[i + 1][1], k),
        ].reverse() as Vec3[],
        rings[i + 1][2],
      );
  for (const [k, side] of [1, -1].entries()) {
    const wing = (joint: number, points: Vec3[], color: string) =>
      s.on(joint + k * 2).sheet(
        points.map(([x, y, z]) => [x * side, y, z]),
        color,
        C.white,
      );
    const grey = '#9AA7B0';
    wing(
      1,
      [
        [0.05, 0.03, 0.12],
        [0.05, 0.03, -0.06],
        [0.34, 0.13, -0.04],
        [0.32, 0.13, 0.1],
      ],
      grey,
    );
    wing(
      2,
      [
        [0.32, 0.13, 0.1],
        [0.34, 0.13, -0.04],
        [0.6, 0.08, -0.12],
        [0.56, 0.09, -0.02],
      ],
      grey,
    );
    wing(
      2,
      [
        [0.56, 0.09, -0.02],
        [0.6, 0.08, -0.12],
        [0.7, 0.05, -0.17],
      ],
      C.deepInk,
    );
  }
  s.on(0).sheet(
    [
      [-0.03, 0, -0.26],
      [0.03, 0, -0.26],
      [0.07, 0, -0.4],
      [-0.07, 0, -0.4],
    ],
    C.white,
  );
  return s;
}

/** A head of cabbage in its outer leaves. */
export function cabbage(): Mesh {
  const s = new Shape().turned(
    [
      [0, 0.04],
      [0.1, 0.06],
      [0.13, 0.14],
      [0.09, 0.22],
      [0, 0.25],
    ],
    8,
    '#9DB37A',
    true,
  );
  for (let k = 0; k < 9; k++) {
    const a = k * 2.399;
    const [x, z] = [cos(a), sin(a)];
    const far = 0.2 + 0.012 * k;
    s.sheet(
      [
        [x * 0.05 - z * 0.04, 0.02, z * 0.05 + x * 0.04],
        [x * 0.05 + z * 0.04, 0.02, z * 0.05 - x * 0.04],
        [x * far + z * 0.1, 0.1, z * far - x * 0.1],
        [x * (far + 0.06), 0.15, z * (far + 0.06)],
        [x * far - z * 0.1, 0.1, z * far + x * 0.1],
      ],
      k % 2 ? '#7F9A5C' : '#8BA468',
    );
  }
  return s.mesh();
}
