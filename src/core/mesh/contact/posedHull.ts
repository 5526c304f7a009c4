import type { Hull } from './hull';
import type { Patch } from './patch';

/** Sides steeper than this (their height over the length of their normal) bound nothing. */
const STEEP = 1e-6;

/** A hull as it is turned and sized in the frame of a fall: its points, and the planes of those sides that look down. */
export class PosedHull {
  hull: Hull | null = null;
  points = 0;
  x = new Float64Array(0);
  y = new Float64Array(0);
  z = new Float64Array(0);
  /** Least and greatest x and y, greatest height. */
  readonly wide = new Float64Array(4);
  top = 0;
  /** The number of the lowest point. */
  lowest = 0;
  /** Planes that look down, three numbers each of h = a·x + b·y + c; the widest first. */
  downs = 0;
  private planes = new Float64Array(0);
  private looksDown = new Uint8Array(0);
  /** How far inside its outline the face found last has the place that was asked for, metres, seen from above. */
  inside = 0;
  private pose = new Float64Array(9);
  private cofactors = new Float64Array(9);
  /** What was listed: numbers of points and their places, numbers of edges and both of their ends. */
  readonly low = {
    points: 0,
    point: new Int32Array(0),
    places: new Float64Array(0),
    edges: 0,
    edge: new Int32Array(0),
    ends: new Float64Array(0),
  };

  /** @param m rows of the matrix from the hull's own space to the frame */
  turn(hull: Hull, m: Float64Array): void {
    this.fit(hull);
    this.pose.set(m);
    const { x, y, z, wide } = this;
    const { points: p } = hull;
    let [x0, x1, y0, y1, top] = [Infinity, -Infinity, Infinity, -Infinity, -Infinity];
    let lowest = 0;
    for (let i = 0; i < this.points; i++) {
      const a = p[i * 3];
      const b = p[i * 3 + 1];
      const c = p[i * 3 + 2];
      const px = m[0] * a + m[1] * b + m[2] * c;
      const py = m[3] * a + m[4] * b + m[5] * c;
      const pz = m[6] * a + m[7] * b + m[8] * c;
      x[i] = px;
      y[i] = py;
      z[i] = pz;
      if (px < x0) x0 = px;
      if (px > x1) x1 = px;
      if (py < y0) y0 = py;
      if (py > y1) y1 = py;
      if (pz > top) top = pz;
      if (pz < z[lowest]) lowest = i;
    }
    wide[0] = x0;
    wide[1] = x1;
    wide[2] = y0;
    wide[3] = y1;
    this.top = top;
    this.lowest = lowest;
    this.lookDown(hull, m);
  }

  private fit(hull: Hull): void {
    if (this.hull === hull) return;
    this.hull = hull;
    this.points = hull.points.length / 3;
    if (this.x.length < this.points) {
      this.x = new Float64Array(this.points);
      this.y = new Float64Array(this.points);
      this.z = new Float64Array(this.points);
      this.low.point = new Int32Array(this.points);
      this.low.places = new Float64Array(this.points * 3);
    }
    const sides = hull.isSideReal.length;
    if (this.looksDown.length < sides) {
      this.looksDown = new Uint8Array(sides);
      this.planes = new Float64Array(sides * 3);
    }
    const edges = hull.isEdgeReal.length;
    if (this.low.edge.length >= edges) return;
    this.low.edge = new Int32Array(edges);
    this.low.ends = new Float64Array(edges * 6);
  }

  private lookDown({ sides, isSideReal, slack }: Hull, m: Float64Array): void {
    // A plane's normal goes over by the cofactors (the inverse turned, times the determinant).
    const k = this.cofactors;
    for (let r = 0; r < 3; r++) {
      const a = ((r + 1) % 3) * 3;
      const b = ((r + 2) % 3) * 3;
      k[r * 3] = m[a + 1] * m[b + 2] - m[a + 2] * m[b + 1];
      k[r * 3 + 1] = m[a + 2] * m[b] - m[a] * m[b + 2];
      k[r * 3 + 2] = m[a] * m[b + 1] - m[a + 1] * m[b];
    }
    const det = m[0] * k[0] + m[1] * k[1] + m[2] * k[2];
    const hand = det < 0 ? -1 : 1;
    const { planes, looksDown } = this;
    let n = 0;
    let widest = 0;
    for (let i = 0; i < isSideReal.length; i++) {
      const a = sides[i * 4];
      const b = sides[i * 4 + 1];
      const c = sides[i * 4 + 2];
      const up = k[6] * a + k[7] * b + k[8] * c;
      const down = -hand * up;
      looksDown[i] = down > 0 ? 1 : 0;
      if (!(down > 0)) continue;
      const nx = k[0] * a + k[1] * b + k[2] * c;
      const ny = k[3] * a + k[4] * b + k[5] * c;
      if (down < STEEP * (Math.abs(nx) + Math.abs(ny))) continue;
      const w = n++ * 3;
      planes[w] = -nx / up;
      planes[w + 1] = -ny / up;
      planes[w + 2] = (sides[i * 4 + 3] * det) / up - slack;
      if (down <= widest) continue;
      widest = down;
      for (let j = 0; j < 3; j++) {
        const first = planes[j];
        planes[j] = planes[w + j];
        planes[w + j] = first;
      }
    }
    this.downs = n;
  }

  /** The height of the widest plane that looks down over a place; nothing of the hull is lower there. */
  lowPlane(x: number, y: number): number {
    const { planes } = this;
    return this.downs === 0 ? -Infinity : planes[0] * x + planes[1] * y + planes[2];
  }

  /**
   * No room over a face is less than that of the widest plane that looks down, as far as the face is under the hull's
   * box: the least at its corners, or at those of the boxes of both, where it is flat.
   */
  over({ corners: c, planes, boxes, isFlat }: Patch, f: number): number {
    if (this.downs === 0) return -Infinity;
    const a = this.planes[0];
    const b = this.planes[1];
    const h = this.planes[2];
    const o = f * 9;
    const p = a * c[o] + b * c[o + 1] - c[o + 2];
    const q = a * c[o + 3] + b * c[o + 4] - c[o + 5];
    const r = a * c[o + 6] + b * c[o + 7] - c[o + 8];
    const least = (p < q ? (p < r ? p : r) : q < r ? q : r) + h;
    if (isFlat[f] === 0) return least;
    const da = a - planes[f * 3];
    const db = b - planes[f * 3 + 1];
    const { wide } = this;
    const x0 = boxes[f * 4] > wide[0] ? boxes[f * 4] : wide[0];
    const x1 = boxes[f * 4 + 1] < wide[1] ? boxes[f * 4 + 1] : wide[1];
    const y0 = boxes[f * 4 + 2] > wide[2] ? boxes[f * 4 + 2] : wide[2];
    const y1 = boxes[f * 4 + 3] < wide[3] ? boxes[f * 4 + 3] : wide[3];
    if (x0 > x1 || y0 > y1) return Infinity;
    const within = da * (da > 0 ? x0 : x1) + db * (db > 0 ? y0 : y1) + h - planes[f * 3 + 2];
    return within > least ? within : least;
  }

  /** The height of the hull from below at a place under it. */
  under(x: number, y: number): number {
    let most = -Infinity;
    for (let i = 0; i < this.downs * 3; i += 3) {
      const h = this.planes[i] * x + this.planes[i + 1] * y + this.planes[i + 2];
      if (h > most) most = h;
    }
    return most + this.hull!.slack;
  }

  /** Takes up those points, and those edges with a side that looks down, that are lower than a height. */
  listBelow(height: number): void {
    const { looksDown, x, y, z, low } = this;
    const { edgeSides, edges: of } = this.hull!;
    const { point, places } = low;
    let n = 0;
    for (let i = 0; i < this.points; i++) {
      if (z[i] >= height) continue;
      places[n * 3] = x[i];
      places[n * 3 + 1] = y[i];
      places[n * 3 + 2] = z[i];
      point[n++] = i;
    }
    low.points = n;
    n = 0;
    for (let e = 0; e < edgeSides.length / 2; e++) {
      const p = of[e * 2];
      const q = of[e * 2 + 1];
      if (z[p] >= height && z[q] >= height) continue;
      if (looksDown[edgeSides[e * 2]] === 0 && looksDown[edgeSides[e * 2 + 1]] === 0) continue;
      low.ends[n * 6] = x[p];
      low.ends[n * 6 + 1] = y[p];
      low.ends[n * 6 + 2] = z[p];
      low.ends[n * 6 + 3] = x[q];
      low.ends[n * 6 + 4] = y[q];
      low.ends[n * 6 + 5] = z[q];
      low.edge[n++] = e;
    }
    low.edges = n;
  }

  /** The face that looks down and has a place furthest inside; −1 where none has it. */
  faceOver(gx: number, gy: number): number {
    const { x, y, looksDown } = this;
    const { faces, sideOf } = this.hull!;
    let best = -1;
    this.inside = 0;
    for (let f = 0; f < sideOf.length; f++) {
      if (looksDown[sideOf[f]] === 0) continue;
      const a = faces[f * 3];
      const b = faces[f * 3 + 1];
      const c = faces[f * 3 + 2];
      const area = (x[b] - x[a]) * (y[c] - y[a]) - (y[b] - y[a]) * (x[c] - x[a]);
      const way = area < 0 ? -1 : 1;
      let least = Infinity;
      for (let k = 0; k < 3 && least >= 0; k++) {
        const i = faces[f * 3 + k];
        const j = faces[f * 3 + (k === 2 ? 0 : k + 1)];
        const ux = x[j] - x[i];
        const uy = y[j] - y[i];
        const side = (way * (ux * (gy - y[i]) - uy * (gx - x[i]))) / Math.sqrt(ux * ux + uy * uy);
        if (!(side >= least)) least = side;
      }
      if (!(least >= this.inside)) continue;
      this.inside = least;
      best = f;
    }
    return best;
  }
}
