import { cos, sin } from '@/core/math/portable';
import type { Vec3 } from '@/core/math/vec3';
import { gridMesh } from '@/core/mesh/make/grid';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C } from '../shape';

/** The boathouse's roof and the hull that stands before it. Both have u along their length. */

const ROOF_LENGTH = 7;
const EAVE = 0.12 * Math.PI;

/** A barrel roof on its eaves: u along the ridge, v from one eave over the ridge to the other. */
export function roof(): Mesh {
  return gridMesh(
    [
      {
        columns: 14,
        rows: 28,
        at: (u, v) => {
          const a = EAVE + (Math.PI - 2 * EAVE) * v;
          const position: Vec3 = [-2.6 * cos(a), 1.2 + 1.7 * sin(a), (u - 0.5) * ROOF_LENGTH];
          return { position };
        },
      },
    ],
    C.wood,
  );
}

/** A boat's hull, 5 m long, keel down: u from stern to bow, v from one side round the keel to the other. */
export function hull(): Mesh {
  return gridMesh(
    [
      {
        columns: 40,
        rows: 28,
        at: (u, v) => {
          const t = 2 * u - 1;
          const fine = 1 - t * t * t * t;
          const a = (v - 0.5) * Math.PI;
          const y = 1.15 - 0.95 * (0.55 + 0.45 * fine) * cos(a) + 0.25 * t * t;
          return { position: [5 * (u - 0.5), y, 0.95 * (0.12 + 0.88 * fine) * sin(a)] };
        },
      },
    ],
    C.woad,
  );
}
