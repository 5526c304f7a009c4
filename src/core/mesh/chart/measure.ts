import { uvIndex } from './uvIndex';

/** What texture coordinates measure on their surface. */

interface WithUvs {
  positions: ArrayLike<number>;
  indices: Uint32Array;
  uvs: Float32Array;
}

interface Measure {
  metres: [number, number];
  fill: number;
}

const kept = new WeakMap<Float32Array, { of: ArrayLike<number>; measure: Measure }>();

/** Metres that a whole unit of u, and one of v, are in the mean over the surface. @param size metres a unit of the mesh */
export function metresPerUv(mesh: WithUvs, size: number): [number, number] {
  const [u, v] = measureOf(mesh).metres;
  return [u * size, v * size];
}

/** The share of the rectangle about all texture coordinates that has something on it: 1 for a grid. */
export const fillOf = (mesh: WithUvs): number => measureOf(mesh).fill;

function measureOf(mesh: WithUvs): Measure {
  const have = kept.get(mesh.uvs);
  if (have?.of === mesh.positions) return have.measure;
  const { positions: p, indices, uvs } = mesh;
  let [whole, alongU, alongV] = [0, 0, 0];
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [indices[f], indices[f + 1], indices[f + 2]];
    const [bu, bv] = [uvs[b * 2] - uvs[a * 2], uvs[b * 2 + 1] - uvs[a * 2 + 1]];
    const [cu, cv] = [uvs[c * 2] - uvs[a * 2], uvs[c * 2 + 1] - uvs[a * 2 + 1]];
    const twice = bu * cv - cu * bv;
    if (twice === 0) continue;
    let [du, dv] = [0, 0];
    for (let k = 0; k < 3; k++) {
      const eb = p[b * 3 + k] - p[a * 3 + k];
      const ec = p[c * 3 + k] - p[a * 3 + k];
      const [x, y] = [eb * cv - ec * bv, ec * bu - eb * cu];
      du += x * x;
      dv += y * y;
    }
    // In the mean over u and v: each face by what it takes of the texture, which is in the lengths already.
    alongU += Math.sqrt(du);
    alongV += Math.sqrt(dv);
    whole += Math.abs(twice);
  }
  const { u, v } = uvIndex(mesh);
  const rectangle = (u[1] - u[0]) * (v[1] - v[0]);
  const measure: Measure = {
    // A surface without any extent one way has no measure there.
    metres: [alongU / whole || 1, alongV / whole || 1],
    fill: rectangle > 0 ? whole / 2 / rectangle : 0,
  };
  kept.set(mesh.uvs, { of: mesh.positions, measure });
  return measure;
}
