import type { Picture } from '../material';
import type { Mesh } from '../mesh';
import type { Stamp } from '../meshRef';

/**
 * A stamp as a flat card, up on +y, the upper side of its picture at −z: how large it is, and what is seen of it where it
 * lies on no surface.
 * @param picture its colours, where they are at hand
 */
export function stampCard({ width, length }: Stamp, picture: Picture | undefined): Mesh {
  const [x, z] = [width / 2, length / 2];
  return {
    positions: Float32Array.of(-x, 0, -z, x, 0, -z, x, 0, z, -x, 0, z),
    normals: Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0),
    uvs: Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1),
    indices: Uint32Array.of(0, 2, 1, 0, 3, 2),
    groups: [{ start: 0, count: 6, material: 0 }],
    materials: [
      {
        name: 'stamp',
        color: [1, 1, 1, 1],
        metallic: 0,
        roughness: 0.9,
        emissive: [0, 0, 0],
        doubleSided: true,
        ...(picture && {
          alpha: { mode: 'mask', cutoff: 0.5 },
          maps: { color: { picture, wrap: ['clamp', 'clamp'] } },
        }),
      },
    ],
  };
}
