import type { Mesh } from '@/core/mesh/mesh';
import { atan2, cos, hypot, sin } from '@/core/math/portable';
import { COLORS as C, Shape } from '../shape';

/** What lines are made of, and what they are made fast to. */

/** Metres in which the strands of a rope go round once: behind itself it goes on without a seam. */
const LAY = 0.16;

/** Three strands, twisted; one lay of them, to be repeated along any line. */
export function rope(): Mesh {
  const rings = 10;
  const round = 0.02;
  const profile = Array.from({ length: rings + 1 }, (_, i): [number, number] => [round, (LAY * i) / rings]);
  return new Shape()
    .turned(profile, 12, C.rope)
    .shaped(([x, y, z]) => {
      const r = hypot(x, z);
      if (r < 1e-9) return [x, y, z];
      const angle = atan2(z, x);
      const out = round * (0.82 + 0.22 * cos(3 * angle - (2 * Math.PI * y) / LAY));
      return [out * cos(angle), y, out * sin(angle)];
    })
    .layDown()
    .mesh();
}

/** A plain cord a metre long with round ends, to be stretched along any line. */
export function cord(): Mesh {
  const r = 0.014;
  const end = [0, 1, 2, 3].map((k): [number, number] => [
    r * sin((k * Math.PI) / 6),
    r * (1 - cos((k * Math.PI) / 6)),
  ]);
  return new Shape()
    .turned([...end, ...end.toReversed().map(([x, y]): [number, number] => [x, 1 - y])], 8, C.linen, true)
    .layDown()
    .mesh();
}

/** An eye on a screw: it goes in at its foot, to the back; lines leave it to the front. */
export function screwEye(): Mesh {
  return new Shape()
    .turned(
      [
        [0, 0],
        [0.05, 0],
        [0.05, 0.012],
        [0.014, 0.014],
        [0.014, 0.06],
      ],
      8,
      C.iron,
    )
    .layDown()
    .moveTo(0, 0, 0.1)
    .ring(0.036, 0.011, 10, 5, C.iron)
    .mesh([{ name: 'eye', position: [0, 0, 0.1], direction: [0, 0, 1] }]);
}
