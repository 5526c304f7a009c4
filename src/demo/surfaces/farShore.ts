import { cos, exp, sin } from '@/core/math/portable';
import type { Vec3 } from '@/core/math/vec3';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS, Shape } from '../shape';

/** What lies across the water from the quay: a long headland with a hamlet at its foot, and its old light. */

/** Where it begins and ends, degrees from straight north (−Z), eastward; and how far off, metres. */
const FROM = -64;
const TO = 58;
const NEAR = 400;
const STEPS = 72;
const RINGS = [0, 5, 14, 30, 55, 95, 150];
const DEG = Math.PI / 180;

/** Colour of the air; what is far has some of it. */
const AIR = '#DCE4E3';

/** A colour with a share of another. */
function mixed(color: string, other: string, share: number): string {
  const of = (c: string, k: number) => parseInt(c.slice(1 + k * 2, 3 + k * 2), 16);
  const channel = (k: number) => Math.round(of(color, k) * (1 - share) + of(other, k) * share);
  return `#${[0, 1, 2].map((k) => channel(k).toString(16).padStart(2, '0')).join('')}`;
}

const bell = (x: number): number => exp(-x * x);

/** Height of the land above the water, so many degrees round and metres inland. */
function heightAt(angle: number, inland: number): number {
  const swell = 0.62 + 0.24 * sin(angle * 0.11) + 0.14 * sin(angle * 0.29 + 1.7) + 0.08 * sin(angle * 0.71);
  // It runs out into the water at both ends, in the east as a low spit.
  const ends = (1 - bell((angle - FROM) / 14)) * (1 - bell((TO - angle) / 22));
  const rise = 1 - bell(inland / 60) + 0.08 * (1 - exp(-inland / 4));
  return 27 * swell * ends * rise + 0.03 * inland * sin(angle * 1.9 + inland) * ends;
}

const place = (angle: number, inland: number, up: number): Vec3 => {
  const r = NEAR + 26 * sin(angle * 0.07 + 0.4) + 7 * sin(angle * 0.23) + inland;
  return [r * sin(angle * DEG), up, -r * cos(angle * DEG)];
};
const ground = (angle: number, inland: number): Vec3 => place(angle, inland, heightAt(angle, inland));

/** Sand at the water, grass above it, heath on the height, each with more air the farther off. */
function landColor(ring: number, i: number): string {
  const base = [COLORS.rope, COLORS.grass, COLORS.moss, COLORS.moss, '#8A7A6C', '#8A7A6C'][ring];
  const patch = sin(i * 12.9898 + ring * 78.233) > 0.55 ? mixed(base, COLORS.grass, 0.5) : base;
  return mixed(patch, AIR, 0.4 + 0.05 * ring);
}

/** One of the hamlet's houses: walls, and a roof with its ridge across. */
function house(shape: Shape, angle: number, inland: number, wide: number, walls: string, roof: string): void {
  const [x, y, z] = ground(angle, inland);
  const [high, deep, top] = [wide * 0.6, wide * 0.7, wide * 1.1];
  shape.moveTo(x, y - 1, z);
  shape.box(wide, high + 1, deep, mixed(walls, AIR, 0.25));
  const tile = mixed(roof, AIR, 0.28);
  const [a, b, e] = [wide * 0.56, deep * 0.6, high + 1];
  const [left, right]: [Vec3, Vec3] = [
    [-a, top + 1, 0],
    [a, top + 1, 0],
  ];
  shape.face([[-a, e, b], [a, e, b], right, left], tile);
  shape.face([[a, e, -b], [-a, e, -b], left, right], tile);
  shape.face([[-a, e, -b], [-a, e, b], left], mixed(walls, AIR, 0.25));
  shape.face([[a, e, b], [a, e, -b], right], mixed(walls, AIR, 0.25));
  shape.moveTo(0, 0, 0);
}

/** Degrees round, metres inland, metres wide, and what it is painted in. */
const HAMLET: [number, number, number, string, string][] = [
  [-19, 9, 9, COLORS.white, COLORS.madder],
  [-15.6, 7, 7, COLORS.linen, COLORS.ink],
  [-12.4, 12, 11, COLORS.white, COLORS.ink],
  [-9.2, 7, 7.5, COLORS.rope, COLORS.madder],
  [-6.6, 15, 8, COLORS.white, COLORS.wood],
  [-3.4, 8, 10, COLORS.linen, COLORS.madder],
  [0.2, 11, 7, COLORS.white, COLORS.ink],
  [13, 9, 8, COLORS.white, COLORS.madder],
  [16.4, 14, 9, COLORS.linen, COLORS.wood],
];

export function farShore(): Mesh {
  const shape = new Shape();
  const angle = (i: number) => FROM + ((TO - FROM) * i) / STEPS;
  for (let i = 0; i < STEPS; i++)
    for (let k = 0; k + 1 < RINGS.length; k++) {
      const [a, b, c, d] = [
        ground(angle(i), RINGS[k]),
        ground(angle(i + 1), RINGS[k]),
        ground(angle(i + 1), RINGS[k + 1]),
        ground(angle(i), RINGS[k + 1]),
      ];
      shape.face([a, b, c], landColor(k, i));
      shape.face([a, c, d], landColor(k, i + 0.5));
    }
  for (const [at, inland, wide, walls, roof] of HAMLET) house(shape, at, inland, wide, walls, roof);
  light(shape, ground(33, 22));
  return shape.mesh();
}

/** The old light on its height: a white tower with a band, and the lantern. */
function light(shape: Shape, [x, y, z]: Vec3): void {
  const ring = (r: number, up: number): Vec3[] =>
    Array.from({ length: 8 }, (_, k): Vec3 => [r * cos((k * Math.PI) / 4), up, -r * sin((k * Math.PI) / 4)]);
  const levels: [number, number, string][] = [
    [3.2, -2, COLORS.white],
    [2.8, 8, COLORS.madder],
    [2.5, 13, COLORS.white],
    [2.2, 20, COLORS.ink],
    [2.9, 20.4, COLORS.glow],
    [1.8, 23.4, COLORS.ink],
    [0.1, 26, COLORS.ink],
  ];
  shape.moveTo(x, y, z);
  for (let l = 0; l + 1 < levels.length; l++) {
    const [[r0, y0, color], [r1, y1]] = [levels[l], levels[l + 1]];
    const [low, high] = [ring(r0, y0), ring(r1, y1)];
    for (let k = 0; k < 8; k++) {
      const n = (k + 1) % 8;
      shape.face([low[k], low[n], high[n], high[k]], mixed(color, AIR, 0.25));
    }
  }
  shape.moveTo(0, 0, 0);
}
