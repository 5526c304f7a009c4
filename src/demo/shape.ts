import type { Mesh } from '@/core/mesh/mesh';
import type { MeshMaterial } from '@/core/mesh/material';
import { linearColor } from '@/core/math/color';
import { cross, normalize, sub, type Vec3 } from '@/core/math/vec3';
import { cos, hypot, sin } from '@/core/math/portable';

/** The palette of the demo world: linen, ink and the dyes, with a few woods and stones between. */
export const COLORS = {
  linen: '#E8DFCE',
  ink: '#33465A',
  deepInk: '#1E2A36',
  madder: '#B4472F',
  woad: '#2C5F86',
  weld: '#D6A02B',
  moss: '#61793F',
  plum: '#7A4A6B',
  wood: '#6B4630',
  paleWood: '#A9825A',
  rope: '#C9AE7C',
  iron: '#4B5560',
  stone: '#CFC4AE',
  darkStone: '#A99E8A',
  glow: '#F2CE6B',
  water: '#A6BEC0',
  white: '#F4EEE2',
  grass: '#7E9150',
} as const;

const MATERIAL: MeshMaterial = {
  name: 'painted',
  color: [1, 1, 1, 1],
  metallic: 0,
  roughness: 0.85,
  emissive: [0, 0, 0],
  doubleSided: false,
};

/** Collects coloured triangles. Faces are flat unless a part is round; triangles run counter-clockwise outside. */
export class Shape {
  private p: number[] = [];
  private n: number[] = [];
  private c: number[] = [];
  private i: number[] = [];
  private at: Vec3 = [0, 0, 0];

  /** Where in the vertices each joint's parts begin, for things that move. */
  readonly joints: { joint: number; from: number }[] = [];

  /** Following parts hang on that joint. */
  on(joint: number): this {
    this.joints.push({ joint, from: this.p.length / 3 });
    return this;
  }

  /** Following parts are put here. */
  moveTo(x: number, y: number, z: number): this {
    this.at = [x, y, z];
    return this;
  }

  private vertex(p: Vec3, n: Vec3, color: Vec3): number {
    this.p.push(p[0] + this.at[0], p[1] + this.at[1], p[2] + this.at[2]);
    this.n.push(...n);
    this.c.push(...color);
    return this.p.length / 3 - 1;
  }

  /** A flat polygon, corners counter-clockwise as seen from outside; it must be convex. */
  face(corners: Vec3[], color: string): this {
    const n = normalize(cross(sub(corners[1], corners[0]), sub(corners[2], corners[0])), [0, 1, 0]);
    const rgb = linearColor(color);
    const first = corners.map((p) => this.vertex(p, n, rgb))[0];
    for (let k = 1; k + 1 < corners.length; k++) this.i.push(first, first + k, first + k + 1);
    return this;
  }

  /** The same polygon seen from both sides. */
  sheet(corners: Vec3[], color: string, back = color): this {
    return this.face(corners, color).face([...corners].reverse(), back);
  }

  box(width: number, height: number, depth: number, color: string, y = 0): this {
    const [a, b] = [width / 2, depth / 2];
    const t = y + height;
    this.face(
      [
        [-a, t, b],
        [a, t, b],
        [a, t, -b],
        [-a, t, -b],
      ],
      color,
    );
    this.face(
      [
        [-a, y, -b],
        [a, y, -b],
        [a, y, b],
        [-a, y, b],
      ],
      color,
    );
    this.face(
      [
        [-a, y, b],
        [a, y, b],
        [a, t, b],
        [-a, t, b],
      ],
      color,
    );
    this.face(
      [
        [a, y, -b],
        [-a, y, -b],
        [-a, t, -b],
        [a, t, -b],
      ],
      color,
    );
    this.face(
      [
        [a, y, b],
        [a, y, -b],
        [a, t, -b],
        [a, t, b],
      ],
      color,
    );
    return this.face(
      [
        [-a, y, -b],
        [-a, y, b],
        [-a, t, b],
        [-a, t, -b],
      ],
      color,
    );
  }

  /**
   * A turned form about Y: [radius, height] from the bottom up, round across, smooth along where `smooth` is set.
   * A colour a band, or one for all.
   */
  turned(profile: [number, number][], sides: number, colors: string | string[], smooth = false): this {
    const bandNormal = (k: number): [number, number] => {
      const dr = profile[k + 1][0] - profile[k][0];
      const dy = profile[k + 1][1] - profile[k][1];
      const l = hypot(dr, dy) || 1;
      return [dy / l, -dr / l];
    };
    for (let k = 0; k + 1 < profile.length; k++) {
      const rgb = linearColor(typeof colors === 'string' ? colors : colors[k % colors.length]);
      const own = bandNormal(k);
      const mean = (other: number): [number, number] => {
        if (!smooth || other < 0 || other + 1 >= profile.length) return own;
        const b = bandNormal(other);
        const l = hypot(own[0] + b[0], own[1] + b[1]) || 1;
        return [(own[0] + b[0]) / l, (own[1] + b[1]) / l];
      };
      const rows = [
        { at: profile[k], normal: mean(k - 1) },
        { at: profile[k + 1], normal: mean(k + 1) },
      ].map(({ at, normal }) =>
        Array.from({ length: sides + 1 }, (_, s) => {
          const a = (2 * Math.PI * s) / sides;
          const [x, z] = [cos(a), -sin(a)];
          return this.vertex(
            [at[0] * x, at[1], at[0] * z],
            normalize([normal[0] * x, normal[1], normal[0] * z]),
            rgb,
          );
        }),
      );
      for (let s = 0; s < sides; s++) {
        const [a, b, c, d] = [rows[0][s], rows[0][s + 1], rows[1][s + 1], rows[1][s]];
        if (profile[k][0] > 0) this.i.push(a, b, c);
        if (profile[k + 1][0] > 0) this.i.push(a, c, d);
      }
    }
    return this;
  }

  /** A ring (torus) about Y. */
  ring(
    radius: number,
    thick: number,
    around: number,
    across: number,
    colors: string | string[],
    height = thick,
  ): this {
    const rgb = (k: number) =>
      linearColor(typeof colors === 'string' ? colors : colors[Math.floor((k * colors.length) / around)]);
    for (let k = 0; k < around; k++) {
      const rows = [k, k + 1].map((s) =>
        Array.from({ length: across + 1 }, (_, q) => {
          const a = (2 * Math.PI * s) / around;
          const b = (2 * Math.PI * q) / across;
          const r = radius + thick * cos(b);
          const dir: Vec3 = [cos(a), 0, -sin(a)];
          return this.vertex(
            [dir[0] * r, height * sin(b), dir[2] * r],
            normalize([dir[0] * cos(b), sin(b), dir[2] * cos(b)]),
            rgb(k),
          );
        }),
      );
      for (let q = 0; q < across; q++) {
        const [a, b, c, d] = [rows[0][q], rows[1][q], rows[1][q + 1], rows[0][q + 1]];
        this.i.push(a, b, c, a, c, d);
      }
    }
    return this;
  }

  /** Turns everything so far so that what pointed up (Y) points to the front (Z). */
  layDown(): this {
    for (const a of [this.p, this.n]) {
      for (let o = 0; o < a.length; o += 3) [a[o + 1], a[o + 2]] = [-a[o + 2], a[o + 1]];
    }
    return this;
  }

  /** Moves every corner by a function, e.g. to weather a stone; faces become flat again. */
  shaped(move: (p: Vec3) => Vec3): this {
    for (let o = 0; o < this.p.length; o += 3) {
      const q = move([this.p[o], this.p[o + 1], this.p[o + 2]]);
      for (let k = 0; k < 3; k++) this.p[o + k] = q[k];
    }
    return this.flatten();
  }

  /** One normal a triangle. */
  private flatten(): this {
    const p: number[] = [];
    const n: number[] = [];
    const c: number[] = [];
    const read = (a: number[], i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];
    for (let t = 0; t < this.i.length; t += 3) {
      const corners = [0, 1, 2].map((k) => read(this.p, this.i[t + k]));
      const normal = normalize(cross(sub(corners[1], corners[0]), sub(corners[2], corners[0])), [0, 1, 0]);
      for (let k = 0; k < 3; k++) {
        p.push(...corners[k]);
        n.push(...normal);
        c.push(...read(this.c, this.i[t + k]));
      }
    }
    Object.assign(this, { p, n, c, i: p.filter((_, k) => k % 3 === 0).map((_, k) => k) });
    return this;
  }

  mesh(snapPoints: Mesh['snapPoints'] = [], material: Partial<MeshMaterial> = {}): Mesh {
    return {
      positions: Float32Array.from(this.p),
      normals: Float32Array.from(this.n),
      colors: Float32Array.from(this.c),
      indices: Uint32Array.from(this.i),
      groups: [{ start: 0, count: this.i.length, material: 0 }],
      materials: [{ ...MATERIAL, ...material }],
      snapPoints,
    };
  }
}
