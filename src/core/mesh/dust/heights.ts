/** A field of heights over a rectangle of squares, seen from above. */
export interface Heights {
  /** x and z of its first corner, metres. */
  x: number;
  z: number;
  /** Metres a square. */
  cell: number;
  columns: number;
  rows: number;
  /** (columns + 1) × (rows + 1) corners, row after row. */
  y: Float64Array;
}

/** The highest that triangles come to in each square of a rectangle; below everything where there is nothing. */
export class Highest {
  readonly y: Float64Array;

  constructor(
    private x: number,
    private z: number,
    private cell: number,
    private columns: number,
    private rows: number,
  ) {
    this.y = new Float64Array(columns * rows).fill(-Infinity);
  }

  /** Takes a mesh in: each square keeps at least the highest point that a triangle has over it. */
  add(p: ArrayLike<number>, indices: ArrayLike<number>): void {
    for (let i = 0; i < indices.length; i += 3)
      this.triangle(p, indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3);
  }

  private triangle(p: ArrayLike<number>, a: number, b: number, c: number): void {
    const { cell } = this;
    // In squares.
    const ax = (p[a] - this.x) / cell;
    const az = (p[a + 2] - this.z) / cell;
    const bx = (p[b] - this.x) / cell;
    const bz = (p[b + 2] - this.z) / cell;
    const cx = (p[c] - this.x) / cell;
    const cz = (p[c + 2] - this.z) / cell;
    const top = Math.max(p[a + 1], p[b + 1], p[c + 1]);
    const u0 = Math.max(0, Math.floor(Math.min(ax, bx, cx)));
    const u1 = Math.min(this.columns - 1, Math.floor(Math.max(ax, bx, cx)));
    const v0 = Math.max(0, Math.floor(Math.min(az, bz, cz)));
    const v1 = Math.min(this.rows - 1, Math.floor(Math.max(az, bz, cz)));
    // Twice its area from above, and how its height rises along both ways.
    const area = (bx - ax) * (cz - az) - (cx - ax) * (bz - az);
    const upB = p[b + 1] - p[a + 1];
    const upC = p[c + 1] - p[a + 1];
    const isUpright = Math.abs(area) < 1e-9;
    const alongX = isUpright ? 0 : (upB * (cz - az) - upC * (bz - az)) / area;
    const alongZ = isUpright ? 0 : (upC * (bx - ax) - upB * (cx - ax)) / area;
    const side = area < 0 ? -1 : 1;
    for (let v = v0; v <= v1; v++)
      for (let u = u0; u <= u1; u++) {
        if (
          beyond(ax, az, bx, bz, side, u, v) ||
          beyond(bx, bz, cx, cz, side, u, v) ||
          beyond(cx, cz, ax, az, side, u, v)
        )
          continue;
        // Its plane is highest at one of the square's corners, and never higher than its own highest corner.
        const x = u + (alongX > 0 ? 1 : 0) - ax;
        const z = v + (alongZ > 0 ? 1 : 0) - az;
        const y = isUpright ? top : Math.min(top, p[a + 1] + alongX * x + alongZ * z);
        const at = v * this.columns + u;
        if (y > this.y[at]) this.y[at] = y;
      }
  }

  /** Corners as high as the highest of the squares about each: what spans them lies under nothing. @param floor of empty ones */
  corners(floor: number): Heights {
    const { columns, rows, x, z, cell } = this;
    const y = new Float64Array((columns + 1) * (rows + 1));
    for (let v = 0; v <= rows; v++)
      for (let u = 0; u <= columns; u++) {
        let most = floor;
        for (let dv = -1; dv <= 0; dv++)
          for (let du = -1; du <= 0; du++) {
            const [s, t] = [u + du, v + dv];
            if (s >= 0 && t >= 0 && s < columns && t < rows) most = Math.max(most, this.y[t * columns + s]);
          }
        y[v * (columns + 1) + u] = most;
      }
    return { x, z, cell, columns, rows, y };
  }
}

/** Whether all of a square lies on the outer side of a triangle's side, seen from above. */
function beyond(ax: number, az: number, bx: number, bz: number, side: number, u: number, v: number): boolean {
  const nx = -(bz - az) * side;
  const nz = (bx - ax) * side;
  // The corner of the square that is farthest in.
  const x = u + (nx > 0 ? 1 : 0) - ax;
  const z = v + (nz > 0 ? 1 : 0) - az;
  return nx * x + nz * z < 0;
}

/** Heights kept a distance away from: the surface of a ball rolled over all of them. */
export function keptAway({ y, columns, rows, cell, ...at }: Heights, distance: number): Heights {
  const reach = Math.floor(distance / cell);
  if (distance <= 0) return { y, columns, rows, cell, ...at };
  const width = columns + 1;
  const out = new Float64Array(y.length).fill(-Infinity);
  for (let dv = -reach; dv <= reach; dv++)
    for (let du = -reach; du <= reach; du++) {
      const square = distance * distance - (du * du + dv * dv) * cell * cell;
      if (square < 0) continue;
      const up = Math.sqrt(square);
      for (let v = Math.max(0, -dv); v <= Math.min(rows, rows - dv); v++)
        for (let u = Math.max(0, -du); u <= Math.min(columns, columns - du); u++) {
          const to = v * width + u;
          const from = y[to + dv * width + du] + up;
          if (from > out[to]) out[to] = from;
        }
    }
  return { y: out, columns, rows, cell, ...at };
}
