import { channel, random01 } from '../../math/random';
import type { ArrangeContext } from '../context';
import { STATE, type ArrangementResult, type Placements } from '../result';
import { sayInto } from '../say';
import type { Posable, PosedMesh } from './posable';
import type { Poses } from './schema';

const BEGIN = channel('poses.begin');
const PACE = channel('poses.pace');
const HOLD = channel('poses.hold');

/** A prop and the clip of it that is played. */
interface Played {
  of: Posable;
  clip: string;
  duration: number;
  /** Metres for once through, where it goes by the way. */
  stride: number | undefined;
}

/**
 * A result in which every placed prop that brings an animation along stands in a pose of it. Poses are made once and
 * shared: so many as there are steps, however many slots there are. Rows with a shape of their own keep that.
 */
export function withPoses(
  { id, seed, poses }: { id: string; seed: number; poses: Poses },
  result: ArrangementResult,
  context: ArrangeContext,
): ArrangementResult {
  const { placements: p } = result;
  const findings = [...result.findings];
  const played = p.props.map((prop) => playedOf(poses, context, prop));
  const say = sayInto(findings, id);
  const some = played.filter((x) => x !== null);
  if (p.props.length > 0 && some.length === 0) say('poses-none', {}, 'warning');
  else if (some.length > 0 && poses.clip !== null && some.every(({ clip }) => clip !== poses.clip))
    say('poses-no-clip', { clip: poses.clip }, 'warning');
  if (some.length > 0 && some.every(({ of, clip }) => !of.moves(clip))) say('poses-still', {}, 'warning');
  const posed: PosedMesh[] = [];
  const pose = new Int32Array(p.count).fill(-1);
  const index = new Map<number, number>();
  const { steps } = poses;
  for (let i = 0; i < p.count; i++) {
    const prop = p.prop[i];
    const plays = prop < 0 ? null : played[prop];
    if (!plays || p.state[i] !== STATE.placed || (p.shape?.[i] ?? -1) >= 0) continue;
    const share = shareAt(poses, seed, p, i, plays, context.time ?? 0);
    // The nearest pose; the one after the last is the first.
    const k = Math.floor((share - Math.floor(share)) * steps + 0.5) % steps;
    let at = index.get(prop * steps + k);
    if (at === undefined) {
      index.set(prop * steps + k, (at = posed.length));
      posed.push(plays.of.pose(plays.clip, k, steps));
    }
    pose[i] = at;
  }
  const { rows: _, ...rest } = result;
  return { ...rest, findings, placements: { ...p, pose, posed } };
}

function playedOf({ clip }: Poses, context: ArrangeContext, prop: string): Played | null {
  const facts = context.prop(prop);
  const of = facts?.state === 'ready' ? facts.posable?.() : undefined;
  const found = of && (of.clips.find((c) => c.name === clip) ?? of.clips[0]);
  return found ? { of, clip: found.name, duration: found.duration, stride: found.stride } : null;
}

/** How far through its animation a row is: whole numbers are its beginning. */
function shareAt(
  { plays, begin, every, pace, stride, hold }: Poses,
  seed: number,
  { slot, s, made }: Placements,
  i: number,
  { duration, stride: own }: Played,
  time: number,
): number {
  const between = ([a, b]: readonly [number, number], key: number) =>
    a === b ? a : a + (b - a) * random01(seed, slot[i], key);
  if (plays === 'hold') return between(hold, HOLD);
  const begins = begin === 'chance' ? random01(seed, slot[i], BEGIN) : 0;
  const way = stride ?? own;
  if (way !== undefined) return begins + (way > 0 ? (s[i] + (made?.[i] ?? 0)) / way : 0);
  if (!(duration > 0)) return 0;
  const since = begin === 'turn' ? time - i * every : time;
  return begins + (since * between(pace, PACE)) / duration;
}
