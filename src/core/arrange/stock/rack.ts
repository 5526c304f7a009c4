import { quatRotate, type Quat } from '../../math/quat';
import { cross, dot, length, scale, type Vec3 } from '../../math/vec3';
import { boardsOf, type Board } from '../../mesh/boards';
import { throughInverse } from '../../mesh/surface';
import { shapeOf, type ArrangeContext, type SurfaceStates } from '../context';
import { STATE } from '../result';
import { parseSlotName } from '../slotId';
import { straightEdge, type Edge } from './edge';
import type { Shelf } from './schema';

/** A board of a rack as an edge in the scene. Metres. */
export interface RackBoard {
  edge: Edge;
  depth: number;
  /** Infinity where nothing is above. */
  height: number;
}

/** The axes of a rack's frame in the scene, as long as a metre of it is there, and where it begins. */
interface Axes {
  x: Vec3;
  y: Vec3;
  z: Vec3;
  at: Vec3;
}

type RackShelf = Exclude<Shelf, { from: 'path' }>;

/** The boards of the rack that a shelf names, as it stands now; null where it is not there. */
export const rackBoards = (shelf: RackShelf, context: ArrangeContext): RackBoard[] | null =>
  shelf.from === 'surface' ? ofSurface(shelf, context) : ofProp(shelf, context);

/** X and Z of a rack by its front, in the surface's own frame. */
const TURNS: Record<Extract<Shelf, { from: 'surface' }>['front'], [Vec3, Vec3]> = {
  '+z': [
    [1, 0, 0],
    [0, 0, 1],
  ],
  '-z': [
    [-1, 0, 0],
    [0, 0, -1],
  ],
  '+x': [
    [0, 0, -1],
    [1, 0, 0],
  ],
  '-x': [
    [0, 0, 1],
    [-1, 0, 0],
  ],
};

function ofSurface(shelf: Extract<Shelf, { from: 'surface' }>, context: ArrangeContext): RackBoard[] | null {
  const states = context.surfaceStates?.(shelf.surface);
  if (!states) return null;
  const { place: m } = states;
  const [x, z] = TURNS[shelf.front];
  const turned = (v: Vec3): Vec3 =>
    [0, 1, 2].map((r) => m[r] * v[0] + m[4 + r] * v[1] + m[8 + r] * v[2]) as Vec3;
  const axes = { x: turned(x), y: turned([0, 1, 0]), z: turned(z), at: [m[12], m[13], m[14]] as Vec3 };
  return edgesOf(boardsOf(inFrame(states, shelf.front)), axes);
}

const frames = new WeakMap<object, Map<string, { positions: Float64Array; indices: Uint32Array }>>();

/** A surface as it stands now, in its own frame turned so that its front is +Z; the same one for the same surface. */
function inFrame({ now, place }: SurfaceStates, front: Front) {
  let known = frames.get(now);
  if (!known) frames.set(now, (known = new Map()));
  const key = `${front} ${place.join()}`;
  let made = known.get(key);
  if (!made) {
    const [x, z] = TURNS[front];
    const positions = new Float64Array(now.positions.length);
    for (let o = 0; o < positions.length; o += 3) {
      const [a, b, c] = [now.positions[o], now.positions[o + 1], now.positions[o + 2]];
      const own = throughInverse(place, [a, b, c]);
      positions[o] = dot(own, x);
      positions[o + 1] = own[1];
      positions[o + 2] = dot(own, z);
    }
    known.set(key, (made = { positions, indices: now.indices }));
  }
  return made;
}

function ofProp(shelf: Extract<Shelf, { from: 'prop' }>, context: ArrangeContext): RackBoard[] | null {
  const placed = context.arrangement?.(shelf.arrangement);
  const row = placed ? placed.slot.indexOf(parseSlotName(shelf.slot)) : -1;
  if (!placed || row < 0 || placed.prop[row] < 0 || placed.state[row] !== STATE.placed) return null;
  const shape = shapeOf(context, placed.props[placed.prop[row]]);
  if (!shape) return null;
  const q = [...placed.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  const [sx, sy, sz] = placed.scale.subarray(row * 3, row * 3 + 3);
  const sized = (v: Vec3): Vec3 => quatRotate(q, [v[0] * sx, v[1] * sy, v[2] * sz]);
  const [x, z] = TURNS[shelf.front];
  return edgesOf(boardsOf(soup(shape.triangles(), shelf.front)), {
    x: sized(x),
    y: sized([0, 1, 0]),
    z: sized(z),
    at: [...placed.position.subarray(row * 3, row * 3 + 3)] as Vec3,
  });
}

type Front = keyof typeof TURNS;
const soups = new WeakMap<Float64Array, Map<Front, { positions: Float64Array; indices: Uint32Array }>>();

/** Faces without shared corners as a mesh that is turned so that its front is +Z; the same one for the same faces. */
function soup(given: Float64Array, front: Front) {
  let known = soups.get(given);
  if (!known) soups.set(given, (known = new Map()));
  let made = known.get(front);
  if (!made) {
    const [x, z] = TURNS[front];
    const positions = front === '+z' ? given : given.slice();
    for (let o = 0; front !== '+z' && o < positions.length; o += 3) {
      const own: Vec3 = [given[o], given[o + 1], given[o + 2]];
      positions[o] = dot(own, x);
      positions[o + 2] = dot(own, z);
    }
    made = { positions, indices: Uint32Array.from({ length: positions.length / 3 }, (_, k) => k) };
    known.set(front, made);
  }
  return made;
}

/** Boards of a rack's own frame as edges in the scene, from left to right as seen from the front. */
function edgesOf(boards: Board[], { x, y, z, at }: Axes): RackBoard[] {
  const [lx, ly, lz] = [length(x), length(y), length(z)];
  const mirrored = dot(cross(x, y), z) < 0;
  return boards.map((b) => {
    const from = mirrored ? b.x1 : b.x0;
    const origin = at.map((v, a) => v + x[a] * from + y[a] * b.y + z[a] * b.z1) as Vec3;
    const along = scale(x, (mirrored ? -1 : 1) / lx);
    return {
      edge: straightEdge(origin, along, scale(y, 1 / ly), (b.x1 - b.x0) * lx),
      depth: (b.z1 - b.z0) * lz,
      height: b.clear * ly,
    };
  });
}
