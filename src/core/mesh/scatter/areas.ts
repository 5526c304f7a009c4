import { faceCross } from '../face';
import type { Triangles } from '../lines/topology';

/** The areas of a mesh's faces added up, so that a share of the whole names a face. */
export interface Areas {
  /** Square metres of all faces. */
  total: number;
  /** Of each face, those of all up to it. */
  upTo: Float64Array;
  /** The first face that reaches each of as many equal shares as there are faces. */
  guide: Uint32Array;
}

const kept = new WeakMap<Triangles, Areas>();

/** Works the areas out once a mesh. */
export function areasOf(mesh: Triangles): Areas {
  const have = kept.get(mesh);
  if (have) return have;
  const faces = mesh.indices.length / 3;
  const upTo = new Float64Array(faces);
  const across = new Float64Array(3);
  let total = 0;
  for (let f = 0; f < faces; f++) {
    faceCross(mesh.positions, mesh.indices, f, across);
    const x = across[0];
    const y = across[1];
    const z = across[2];
    total += Math.sqrt(x * x + y * y + z * z) / 2;
    upTo[f] = total;
  }
  const guide = new Uint32Array(faces);
  for (let b = 0, f = 0; b < faces; b++) {
    while (f < faces - 1 && upTo[f] <= (b / faces) * total) f++;
    guide[b] = f;
  }
  const made = { total, upTo, guide };
  kept.set(mesh, made);
  return made;
}

/** The face at a share (0 to below 1) of the whole area; faces without area are never met. */
export function faceAt({ total, upTo, guide }: Areas, share: number): number {
  const wanted = share * total;
  const last = upTo.length - 1;
  let f = guide[Math.min(last, Math.floor(share * upTo.length))];
  while (f < last && upTo[f] <= wanted) f++;
  return f;
}
