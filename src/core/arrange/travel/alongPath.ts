import type { CompiledPath } from '../../curve/compile';
import { framesAlong, type Frames } from '../../curve/frames';
import { nearestOnPath } from '../../curve/nearest';
import { quatConjugate, quatFromUpFront, quatMultiply, quatRotate, type Quat } from '../../math/quat';
import { sub, type Vec3 } from '../../math/vec3';
import { isOnTheWayBack, placeAfter, roomOf, together } from './border';
import type { Travel } from './schema';
import { pointOf, type Places, type Way } from './way';

/**
 * As strokes of a path run: each place keeps its distance beside and above the stroke that it is nearest to, and goes
 * on along that.
 */
export function alongPath(
  { along, border, posture }: Travel,
  strokes: readonly CompiledPath[],
  places: Places,
  time: number,
): Way {
  const n = places.count;
  const stroke = new Int32Array(n);
  const at = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let least = Infinity;
    strokes.forEach((path, k) => {
      const found = nearestOnPath(path, pointOf(places, i));
      if (found.distance >= least) return;
      least = found.distance;
      stroke[i] = k;
      at[i] = found.s;
    });
  }
  const way = along.by + along.speed * time;
  const isFree = (i: number) => strokes[stroke[i]].closed;
  const room = roomOf(at, (i) => (isFree(i) ? [-Infinity, Infinity] : [0, strokes[stroke[i]].length]));
  const far = together(border, way, room);
  const there = new Float64Array(n).fill(NaN);
  for (let i = 0; i < n; i++) {
    const { length, closed } = strokes[stroke[i]];
    there[i] = placeAfter(border, at[i], closed ? way : far, [0, length], closed) ?? NaN;
  }
  const frames = (s: Float64Array) => byStroke(strokes, stroke, s, posture);
  const was = frames(at);
  const is = frames(there.map((s, i) => (Number.isNaN(s) ? at[i] : s)));
  const sign = Math.sign(along.speed || along.by) * (isOnTheWayBack(border, way, room) ? -1 : 1);
  return (i, _, out) => {
    if (Number.isNaN(there[i])) return false;
    const [from, to] = [lying(was, i), lying(is, i)];
    out.turned = quatMultiply(to, quatConjugate(from));
    const beside = quatRotate(out.turned, sub(pointOf(places, i), row(was.position, i)));
    out.made = strokes[stroke[i]].closed ? way : far;
    for (let a = 0; a < 3; a++) {
      out.position[a] = is.position[i * 3 + a] + beside[a];
      out.going[a] = is.front[i * 3 + a] * sign;
    }
    return true;
  };
}

const row = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];

const lying = ({ up, front }: Frames, i: number): Quat => quatFromUpFront(row(up, i), row(front, i));

/** Frames at lengths of several strokes, in the order of the lengths. */
function byStroke(
  strokes: readonly CompiledPath[],
  stroke: Int32Array,
  s: Float64Array,
  posture: Travel['posture'],
): Frames {
  const out: Frames = {
    position: new Float64Array(s.length * 3),
    front: new Float64Array(s.length * 3),
    up: new Float64Array(s.length * 3),
  };
  strokes.forEach((path, k) => {
    const rows = Uint32Array.from([...stroke.keys()].filter((i) => stroke[i] === k));
    const own = framesAlong(
      path,
      Float64Array.from(rows, (i) => s[i]),
      posture,
    );
    for (const name of ['position', 'front', 'up'] as const)
      rows.forEach((i, j) => out[name].set(own[name].subarray(j * 3, j * 3 + 3), i * 3));
  });
  return out;
}
