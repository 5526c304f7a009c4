import { cos } from './portable';

/** Gauss–Legendre nodes and weights on [-1, 1], found by Newton on the Legendre polynomial. */
export function gaussLegendre(n: number): { nodes: Float64Array; weights: Float64Array } {
  const nodes = new Float64Array(n);
  const weights = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let x = cos((Math.PI * (i + 0.75)) / (n + 0.5));
    let slope = 0;
    for (let round = 0; round < 100; round++) {
      let p0 = 1;
      let p1 = x;
      for (let k = 2; k <= n; k++) [p0, p1] = [p1, ((2 * k - 1) * x * p1 - (k - 1) * p0) / k];
      slope = (n * (x * p1 - p0)) / (x * x - 1);
      const step = p1 / slope;
      x -= step;
      if (Math.abs(step) < 1e-16) break;
    }
    nodes[i] = x;
    weights[i] = 2 / ((1 - x * x) * slope * slope);
  }
  return { nodes, weights };
}
