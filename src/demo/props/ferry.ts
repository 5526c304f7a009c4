import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';

/** What rides on a line or lies along it. Front (+Z) runs along the line. */

/** A small open car of a cable ferry: a tapered hull with a deck, posts at the corners and a striped roof. */
export function ferryCar(): Mesh {
  const s = new Shape();
  s.box(1.05, 0.48, 1.9, C.woad).shaped(([x, y, z]) => {
    const end = Math.abs(z) / 0.95;
    const narrow = 1 - 0.22 * end * end * end;
    const foot = y < 0.2 ? 0.78 : 1;
    return [x * narrow * foot, y, z * (y < 0.2 ? 0.9 : 1)];
  });
  s.moveTo(0, 0, 0).box(0.86, 0.05, 1.62, C.paleWood, 0.48);
  for (const [x, z] of [
    [-0.4, 0.62],
    [0.4, 0.62],
    [0.4, -0.62],
    [-0.4, -0.62],
  ])
    s.moveTo(x, 0, z).box(0.05, 1.0, 0.05, C.wood, 0.5);
  s.moveTo(0, 0, 0);
  for (let k = 0; k < 6; k++)
    s.moveTo(0, 0, -0.6 + k * 0.24).box(1.0, 0.05, 0.24, k % 2 ? C.white : C.madder, 1.5);
  return s
    .moveTo(0, 0, 0.86)
    .box(0.16, 0.16, 0.12, C.weld, 0.5)
    .mesh([{ name: 'deck', position: [0, 0.53, 0] }]);
}

/** A hand's breadth of rope, to be laid end to end along any line. */
export function ropePiece(): Mesh {
  return new Shape()
    .turned(
      [
        [0.013, -0.03],
        [0.016, -0.015],
        [0.016, 0.015],
        [0.013, 0.03],
      ],
      7,
      [C.rope, C.linen, C.rope],
      true,
    )
    .layDown()
    .mesh();
}

/** A stake with a cross-arm that carries the line of a cable ferry; open to the front and back. */
export function linePylon(): Mesh {
  const s = new Shape();
  s.box(0.16, 2.3, 0.16, C.wood);
  s.moveTo(0, 0, 0).box(0.9, 0.1, 0.1, C.wood, 2.1);
  s.moveTo(0.36, 0, 0).box(0.05, 0.26, 0.05, C.iron, 1.88);
  s.moveTo(-0.36, 0, 0).box(0.05, 0.26, 0.05, C.iron, 1.88);
  return s
    .moveTo(0, 0, 0)
    .box(0.3, 0.08, 0.3, C.darkStone)
    .mesh([{ name: 'arm', position: [0.36, 1.9, 0] }]);
}
