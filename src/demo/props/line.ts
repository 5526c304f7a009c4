import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';

/** What hangs on lines. The origin is where it is tied; front (+Z) runs along the line. */

/** A triangular flag whose upper edge lies on the line, slightly bellied so that it catches the light. */
export function pennant(color: string): () => Mesh {
  return () => {
    const s = new Shape();
    const [w, h, belly] = [0.17, 0.46, 0.035];
    s.sheet(
      [
        [0, 0, w],
        [0, 0, 0],
        [belly, -h * 0.45, 0],
        [belly, -h * 0.4, w * 0.55],
      ],
      color,
    );
    s.sheet(
      [
        [0, 0, 0],
        [0, 0, -w],
        [belly, -h * 0.4, -w * 0.55],
        [belly, -h * 0.45, 0],
      ],
      color,
    );
    s.sheet(
      [
        [belly, -h * 0.4, w * 0.55],
        [belly, -h * 0.45, 0],
        [0, -h, 0],
      ],
      color,
    );
    s.sheet(
      [
        [belly, -h * 0.45, 0],
        [belly, -h * 0.4, -w * 0.55],
        [0, -h, 0],
      ],
      color,
    );
    return s
      .moveTo(0, -0.015, 0)
      .box(0.014, 0.03, w * 2, C.linen)
      .mesh();
  };
}

export function squareFlag(): Mesh {
  const s = new Shape();
  const [w, h] = [0.24, 0.34];
  for (let k = 0; k < 4; k++) {
    const [a, b] = [w - (k * w) / 2, w - ((k + 1) * w) / 2];
    const [x, y] = [k % 2 ? 0.03 : 0, k % 2 ? 0 : 0.03];
    s.sheet(
      [
        [0, 0, a],
        [0, 0, b],
        [y, -h, b],
        [x, -h, a],
      ],
      k % 2 ? C.white : C.woad,
    );
  }
  return s.mesh();
}

export function lantern(): Mesh {
  return new Shape()
    .turned(
      [
        [0, -0.46],
        [0.07, -0.44],
        [0.07, -0.4],
        [0.16, -0.32],
        [0.19, -0.22],
        [0.16, -0.12],
        [0.07, -0.04],
        [0.07, -0.01],
        [0.02, 0],
        [0, 0],
      ],
      12,
      [C.madder, C.madder, C.glow, C.glow, C.glow, C.glow, C.madder, C.madder, C.madder],
      true,
    )
    .mesh([], { emissive: [0.12, 0.08, 0.01] });
}

export function bulb(): Mesh {
  return new Shape()
    .turned(
      [
        [0, -0.16],
        [0.045, -0.14],
        [0.06, -0.1],
        [0.03, -0.05],
        [0.03, 0],
        [0, 0],
      ],
      10,
      [C.glow, C.glow, C.glow, C.deepInk, C.deepInk],
      true,
    )
    .mesh([], { emissive: [0.15, 0.1, 0.02] });
}

export function netFloat(): Mesh {
  return new Shape()
    .turned(
      [
        [0.02, -0.11],
        [0.09, -0.09],
        [0.12, 0],
        [0.09, 0.09],
        [0.02, 0.11],
      ],
      10,
      [C.madder, C.weld, C.weld, C.madder],
      true,
    )
    .layDown()
    .mesh();
}

export function chainLink(): Mesh {
  return new Shape()
    .ring(0.05, 0.016, 14, 6, C.iron)
    .shaped((p) => [p[0], p[1], p[2] + (p[2] > 0 ? 0.04 : -0.04)])
    .mesh();
}

export function plank(): Mesh {
  return new Shape().box(0.9, 0.04, 0.16, C.paleWood).mesh();
}

export function rail(): Mesh {
  return new Shape().box(0.06, 0.09, 1.6, C.paleWood).mesh();
}

/** A stitch: a short thread that lies along its front. */
export function stitch(): Mesh {
  return new Shape().box(0.022, 0.018, 0.11, C.deepInk).mesh();
}
