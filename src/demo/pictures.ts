import { contentHash } from '@/core/formats/hash';
import type { Mesh } from '@/core/mesh/mesh';
import DRAWN from './pictures.json';

/** Pictures of the built-in props ship as files in public/props; `npm run pictures` draws them anew. */

const drawn: Record<string, string> = DRAWN;

/** Where the picture of a built-in prop is served; undefined for one that has none. */
export const shippedPicture = (name: string): string | undefined =>
  name in drawn ? `/props/${name}.png` : undefined;

/** What of a mesh shows in its picture, as 16 hex digits. */
export function pictureKey({ positions, normals, colors, indices, groups, materials }: Mesh): string {
  const arrays = [positions, normals, colors ?? new Float32Array(0), indices];
  const looks = new TextEncoder().encode(JSON.stringify([groups, materials]));
  const parts = [...arrays.map((a) => new Uint8Array(a.buffer, a.byteOffset, a.byteLength)), looks];
  const all = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return contentHash(all).slice(0, 16);
}

/** The key of the mesh that a shipped picture was drawn from. */
export const drawnKey = (name: string): string | undefined => drawn[name];
