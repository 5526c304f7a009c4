import type { Mesh } from '../mesh';
import { faceCross } from '../face';
import { bodyTopology, unclosed } from './bodies';

/** What a mesh is as a body. */
export interface SolidFacts {
  /** Every edge has two faces, and both agree on which side is out. */
  closed: boolean;
  /** Edges with one face only. */
  open: number;
  /** Edges with more than two faces, or whose two faces disagree. */
  unsound: number;
  /** Cubic metres within, by the divergence theorem; of an open mesh null. Below 0 where it is inside out. */
  volume: number | null;
  /** Square metres of all faces. */
  area: number;
}

/** @param mesh in its own frame @param scale metres per unit of that frame */
export function solidFacts(mesh: Pick<Mesh, 'positions' | 'indices'>, scale = 1): SolidFacts {
  const { positions: p, indices } = mesh;
  const { open, unsound } = unclosed(bodyTopology(mesh), indices);
  const cross = new Float64Array(3);
  let [six, two] = [0, 0];
  for (let f = 0; f * 3 < indices.length; f++) {
    faceCross(p, indices, f, cross);
    const a = indices[f * 3] * 3;
    six += p[a] * cross[0] + p[a + 1] * cross[1] + p[a + 2] * cross[2];
    two += Math.sqrt(cross[0] * cross[0] + cross[1] * cross[1] + cross[2] * cross[2]);
  }
  const closed = open === 0 && unsound === 0 && indices.length > 0;
  const square = scale * scale;
  return {
    closed,
    open,
    unsound,
    volume: open ? null : (six / 6) * square * scale,
    area: (two / 2) * square,
  };
}
