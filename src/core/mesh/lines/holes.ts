import { cross, distance, dot, length, normalize, sub, type Vec3 } from '../../math/vec3';
import type { Mesh } from '../mesh';
import { borders, featureEdges } from './edges';
import type { MeshLine } from './topology';

/** The middles of holes, rings and round ends of a mesh, found from the closed edges about them. */

export interface Hole {
  /** Of the area within its rim. */
  centre: Vec3;
  /** Square to its rim, of unit length. */
  normal: Vec3;
  /** The mean distance of its rim from its centre. */
  radius: number;
}

/** Edges where faces turn by more than this are rims. */
const SHARP = (30 * Math.PI) / 180;
/** Of its radius: so far a rim may be off a plane, and off a circle. */
const OFF_PLANE = 0.1;
const OFF_ROUND = 0.35;
/** A rim of fewer corners is a face's outline. */
const LEAST_CORNERS = 5;
/** Of their radius: holes nearer to each other than this are one. */
const SAME = 0.02;

/**
 * Holes of a mesh in its own space, the largest first: round closed borders, and round closed edges between faces that
 * turn away from each other. What is neither flat nor round is none; rims about one centre close together are told once, as
 * the smallest.
 */
export function holesOf(mesh: Pick<Mesh, 'positions' | 'indices'>): Hole[] {
  const whole = mesh as Mesh;
  const rims = [...borders(whole), ...featureEdges(whole, SHARP)].flatMap((line) => rimOf(line) ?? []);
  rims.sort((a, b) => a.radius - b.radius);
  const found: Hole[] = [];
  for (const rim of rims)
    if (!found.some((h) => distance(h.centre, rim.centre) < SAME * rim.radius)) found.push(rim);
  return found.reverse();
}

function rimOf({ points, closed }: MeshLine): Hole | null {
  if (!closed || points.length < LEAST_CORNERS) return null;
  const [o] = points;
  // Newell: twice the area as a vector, and the centroid of the triangles about the first corner.
  let area: Vec3 = [0, 0, 0];
  for (let i = 1; i + 1 < points.length; i++) {
    const c = cross(sub(points[i], o), sub(points[i + 1], o));
    area = [area[0] + c[0], area[1] + c[1], area[2] + c[2]];
  }
  const whole = length(area);
  if (!(whole > 0)) return null;
  const normal = normalize(area);
  const centre: Vec3 = [0, 0, 0];
  for (let i = 1; i + 1 < points.length; i++) {
    const part = dot(cross(sub(points[i], o), sub(points[i + 1], o)), normal) / whole;
    for (let a = 0; a < 3; a++) centre[a] += (part * (o[a] + points[i][a] + points[i + 1][a])) / 3;
  }
  const far = points.map((p) => distance(p, centre));
  const radius = far.reduce((sum, d) => sum + d, 0) / far.length;
  const flat = points.every((p) => Math.abs(dot(sub(p, centre), normal)) < OFF_PLANE * radius);
  const round = far.every((d) => Math.abs(d - radius) < OFF_ROUND * radius);
  return flat && round ? { centre, normal, radius } : null;
}
