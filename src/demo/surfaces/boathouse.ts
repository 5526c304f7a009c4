import { cos, sin } from '@/core/math/portable';
import type { Vec3 } from '@/core/math/vec3';
import { gridMesh } from '@/core/mesh/make/grid';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';

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

/** How far the walls stand in from the roof's ends and under its curve, and the door's half width and height, metres. */
const INSIDE = 0.25;
const UNDER = 0.06;
const DOOR = { half: 1.2, high: 2.1 };

/** The walls under the barrel roof: planked, a wide door towards the water at one end. */
export function walls(): Mesh {
  const shape = new Shape();
  const z = ROOF_LENGTH / 2 - INSIDE;
  /** The gable's outline from the right eave over the ridge to the left one. */
  const arch = Array.from({ length: 13 }, (_, i): [number, number] => {
    const a = EAVE + (Math.PI - 2 * EAVE) * (i / 12);
    return [(2.6 - 0.2) * cos(a), 1.2 + (1.7 - UNDER) * sin(a)];
  });
  const side = arch[0][0];
  const eave = arch[0][1];
  const planks = [C.paleWood, '#9C7650', '#B08B63', '#A27D56'];
  for (const s of [1, -1]) {
    const at = (x: number, y: number): Vec3 => [x * s, y, z * s];
    for (let k = 0; k < 12; k++) {
      const [[x1, y1], [x0, y0]] = [arch[k], arch[k + 1]];
      const door = s === 1 && Math.abs((x0 + x1) / 2) < DOOR.half;
      const low = door ? DOOR.high : -0.6;
      shape.face([at(x0, low), at(x1, low), at(x1, y1), at(x0, y0)], planks[k % 4]);
      if (door) shape.face([at(x0, -0.6), at(x1, -0.6), at(x1, low), at(x0, low)], k % 2 ? C.woad : C.ink);
    }
    for (let k = 0; k < 12; k++) {
      const [z0, z1] = [-z + (2 * z * k) / 12, -z + (2 * z * (k + 1)) / 12];
      const wall: Vec3[] = [
        [side * s, -0.6, z1 * s],
        [side * s, -0.6, z0 * s],
        [side * s, eave, z0 * s],
        [side * s, eave, z1 * s],
      ];
      shape.face(wall, planks[(k + 1) % 4]);
    }
  }
  return shape.mesh();
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
