import { encode } from 'fast-png';
import { cos, hypot, pow } from '@/core/math/portable';
import { channel, random01 } from '@/core/math/random';
import type { MaterialMap, MeshMaterial } from '@/core/mesh/material';
import { gridMesh } from '@/core/mesh/make/grid';
import { plane } from '@/core/mesh/make/plain';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C } from '../shape';

/** Water: nearly smooth, so that it mirrors the sky, with ripples as a picture of normals that repeats. */

/** Pixels and metres of the picture's side. */
const PIXELS = 128;
const TILE = 6.5;
/** Waves that it is added up from, and how steep they are together. */
const WAVES = 22;
const STEEP = 0.11;
const ACROSS = channel('across');
const ALONG = channel('along');
const PHASE = channel('phase');

/** Ripples seen from above: waves that each fit the picture a whole number of times, as normals. */
function ripples(): Uint8Array {
  const waves = Array.from({ length: WAVES }, (_, i) => {
    // Shorter ones are lower; most run with the breeze, which is along v.
    const kx = Math.round((random01(11, i, ACROSS) - 0.5) * (4 + i * 0.7));
    const ky = 1 + Math.round(random01(11, i, ALONG) * (2 + i * 0.55));
    return { kx, ky, slope: pow(hypot(kx, ky), -0.35), phase: 2 * Math.PI * random01(11, i, PHASE) };
  });
  const scale = STEEP / Math.sqrt(waves.reduce((sum, w) => sum + w.slope * w.slope, 0) / 2);
  const data = new Uint8Array(PIXELS * PIXELS * 3);
  for (let y = 0; y < PIXELS; y++)
    for (let x = 0; x < PIXELS; x++) {
      let [du, dv] = [0, 0];
      for (const { kx, ky, slope, phase } of waves) {
        const rise = slope * scale * cos((2 * Math.PI * (kx * x + ky * y)) / PIXELS + phase);
        du += (rise * kx) / hypot(kx, ky);
        dv += (rise * ky) / hypot(kx, ky);
      }
      const long = hypot(du, dv, 1);
      const byte = (n: number) => Math.round((n / long) * 127.5 + 127.5);
      data.set([byte(-du), byte(-dv), byte(1)], (y * PIXELS + x) * 3);
    }
  return encode({ width: PIXELS, height: PIXELS, channels: 3, depth: 8, data });
}

let picture: MaterialMap['picture'] | null = null;

/** @param wide, deep metres that u and v go over from 0 to 1 */
function rippled(wide: number, deep: number): Pick<MeshMaterial, 'maps' | 'roughness' | 'ior' | 'name'> {
  picture ??= { mime: 'image/png', bytes: ripples() };
  return {
    name: 'water',
    roughness: 0.06,
    ior: 1.33,
    maps: {
      normal: {
        picture,
        wrap: ['repeat', 'repeat'],
        transform: { offset: [0, 0], rotation: 0, scale: [wide / TILE, deep / TILE] },
        scale: 1,
      },
    },
  };
}

const withMaterial = (mesh: Mesh, material: Partial<MeshMaterial>): Mesh => ({
  ...mesh,
  materials: mesh.materials.map((m) => ({ ...m, ...material })),
});

/** A basin beside a quay, 60 × 26 m, fine enough to be set in motion. */
export function basin(): Mesh {
  const [width, depth] = [60, 26];
  const mesh = gridMesh(plane({ shape: 'plane', width, depth, columns: 60, rows: 26 }), C.water);
  return withMaterial(mesh, rippled(width, depth));
}

/** Half as wide as the water that one is near to, and as all of it, metres. */
const HARBOUR = 70;
const SEA = 1100;
/** Squares across the one, and from there to the end. */
const NEAR = 14;
const RINGS = 12;

/** A wide sheet of still water, and the open water around it as far as one sees. */
export function water(): Mesh {
  const across = NEAR + 2 * RINGS;
  const at = (t: number): number => {
    const i = t * across - across / 2;
    const out = (Math.abs(i) - NEAR / 2) / RINGS;
    if (out <= 0) return (i * 2 * HARBOUR) / NEAR;
    return Math.sign(i) * (HARBOUR + (SEA - HARBOUR) * out * out);
  };
  const mesh = gridMesh(
    [
      {
        columns: across,
        rows: across,
        at: (u, v) => ({ position: [at(u), 0, -at(v)], normal: [0, 1, 0] }),
      },
    ],
    C.water,
  );
  // However long its squares are, u and v go on evenly: ripples are as wide everywhere.
  const uvs = mesh.uvs!;
  for (let i = 0; i < uvs.length / 2; i++) {
    uvs[i * 2] = 0.5 + mesh.positions[i * 3] / (2 * SEA);
    uvs[i * 2 + 1] = 0.5 - mesh.positions[i * 3 + 2] / (2 * SEA);
  }
  return withMaterial(mesh, rippled(2 * SEA, 2 * SEA));
}
