import type { CompiledPath } from '../../curve/compile';
import { polyline } from '../../curve/sample';
import { cos } from '../../math/portable';
import { distance, dot, length, lerp, sub, type Vec3 } from '../../math/vec3';
import { makeMesh } from '../make';
import { shapeSchema } from '../make/schema';
import { plainMaterial } from '../material';
import type { PlacedMesh } from '../merged';
import { meetings, type Meeting } from './joints';
import type { NetworkSpec } from './networkSchema';
import { closedTube } from './tube';

/** A network as parts that are still to be joined. */
export interface Network {
  parts: PlacedMesh[];
  /** Where lines are joined, and where they come nearly as near without being so. */
  joints: Meeting[];
  misses: Meeting[];
}

/** A line that turns by more than so much at a place is parted there, with a ball between. */
const CORNER = cos((25 * Math.PI) / 180);
/** Lines are told of that miss each other by less than so many times what would still be joined. */
const NEARLY = 3;

/** A line of the network: places along it, that it may be closed. */
interface Line {
  places: Vec3[];
  closed: boolean;
}

/** @param strokes of all its paths, in their order */
export function networkOf(strokes: readonly CompiledPath[], spec: NetworkSpec): Network {
  const { radius, reach, sides, color } = spec;
  const material = plainMaterial('Network', color, false);
  const lines = strokes.map(lineOf).filter((l) => l.places.length > 1);
  const rings = lines.map(({ places, closed }) => (closed ? [...places, places[0]] : places));
  const far = 2 * radius + Math.max(NEARLY * reach, 2 * radius);
  const met = meetings(rings, far, 4 * Math.max(radius, spec.joint));
  const gap = (m: Meeting) => m.distance - 2 * radius;
  const joints = met.filter((m) => gap(m) <= reach);
  const misses = met.filter((m) => gap(m) > reach);
  const parts: PlacedMesh[] = [];
  const add = (mesh: PlacedMesh['mesh'], [x, y, z]: Vec3 = [0, 0, 0]) =>
    parts.push({
      mesh,
      matrix: Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1),
      wears: undefined,
      of: 'network',
    });
  const balls = new Map<number, PlacedMesh['mesh']>();
  const ball = (r: number, at: Vec3) => {
    let mesh = balls.get(r);
    if (!mesh) {
      const shape = shapeSchema.parse({
        shape: 'sphere',
        radius: r,
        columns: sides,
        rows: Math.max(4, sides >> 1),
      });
      const made = makeMesh(shape, color, { path: () => undefined });
      if (typeof made === 'string') return;
      balls.set(r, (mesh = { ...made, uvs: undefined, materials: [material] }));
    }
    add(mesh, at);
  };
  for (const line of lines)
    for (const { places, closed } of partedAtCorners(line)) {
      add(closedTube(places, radius, sides, closed, material));
      if (!closed) for (const end of [places[0], places.at(-1)!]) ball(radius, end);
    }
  for (const { a, b, distance: apart } of joints) {
    if (apart > radius * 0.1) add(closedTube([a, b], radius, sides, false, material));
    if (spec.joint > radius) ball(spec.joint, lerp(a, b, 0.5));
  }
  return { parts, joints, misses };
}

function lineOf(stroke: CompiledPath): Line {
  const { position } = polyline(stroke, 0.12);
  const places: Vec3[] = [];
  for (let i = 0; i * 3 < position.length; i++) {
    const at: Vec3 = [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]];
    if (!isSame(places.at(-1), at)) places.push(at);
  }
  const { closed } = stroke;
  if (closed && places.length > 1 && isSame(places[0], places.at(-1)!)) places.pop();
  return { places, closed: closed && places.length > 2 };
}

const isSame = (a: Vec3 | undefined, b: Vec3): boolean => a !== undefined && distance(a, b) < 1e-9;

/** A line as stretches without sharp corners. */
function partedAtCorners({ places, closed }: Line): Line[] {
  const n = places.length;
  const turns = (i: number): boolean => {
    const [p, q, r] = [places[(i + n - 1) % n], places[i], places[(i + 1) % n]];
    const [u, v] = [sub(q, p), sub(r, q)];
    return dot(u, v) < CORNER * length(u) * length(v);
  };
  const corners = places.flatMap((_, i) => (closed || (i > 0 && i < n - 1) ? (turns(i) ? [i] : []) : []));
  if (corners.length === 0) return [{ places, closed }];
  const at = closed ? corners : [0, ...corners, n - 1];
  const ends = closed ? [...at, at[0] + n] : at;
  return ends.slice(1).map((end, i) => ({
    places: Array.from({ length: end - ends[i] + 1 }, (_, k) => places[(ends[i] + k) % n]),
    closed: false,
  }));
}
