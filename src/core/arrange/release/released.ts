import { rowFinder } from '../rowFinder';
import { STATE, type ArrangementResult, type Placements } from '../result';
import { sayInto } from '../say';
import { rideNow, type Fall } from './fall';
import { PHASE, RATE, type Around } from './spec';
import type { Release } from './schema';

/**
 * What an arrangement has placed, as it lies at a moment of its fall.
 * @param seconds since the release @param surfaces as they are at that moment, for what rides on them
 */
export function released(
  node: string,
  { rows: _, ...held }: ArrangementResult,
  fall: Fall,
  release: Release,
  seconds: number,
  surfaces: Around['surfaces'],
): ArrangementResult {
  const placements = lying(held.placements, fall, seconds, surfaces);
  const findings = held.findings.slice();
  const say = sayInto(findings, node);
  const tell = (kind: Parameters<typeof say>[0], rows: readonly number[], detail = {}) => {
    const slots = rows.map((row) => fall.slots[row]);
    if (rows.length > 0) say(kind, { count: rows.length, ...detail }, 'warning', slots);
  };
  const byNow = (since: ReadonlyMap<number, number>) =>
    [...since].flatMap(([row, frame]) => (frame <= seconds * RATE + 1e-6 ? [row] : []));
  tell('release-inside', byNow(fall.inside));
  tell('release-lost', byNow(fall.lost), { floor: release.floor });
  tell('release-restless', byNow(fall.restless), { seconds: fall.lastFrame / RATE });
  tell('release-shaped', fall.shaped);
  const { left } = fall.strikers;
  if (left > 0) say('release-against', { count: left }, 'warning');
  return { ...held, placements, findings };
}

function lying(held: Placements, fall: Fall, seconds: number, surfaces: Around['surfaces']): Placements {
  const at = Math.max(0, Math.min(seconds * RATE, fall.frames.length - 1));
  // A moment that is a frame but for rounding is that frame.
  const k = Math.min(fall.frames.length - 1, Math.floor(at + 1e-6));
  const [now, next] = [fall.frames[k], fall.frames[Math.min(k + 1, fall.frames.length - 1)]];
  const share = Math.max(0, at - k);
  const position = held.position.slice();
  const rotation = held.rotation.slice();
  const state = held.state.slice();
  const rowOf = rowFinder({ slot: fall.slots });
  for (let i = 0; i < held.count; i++) {
    const row = held.slot[i] === fall.slots[i] ? i : rowOf(held.slot[i]);
    const phase = row < 0 ? PHASE.held : now.phase[row];
    if (phase === PHASE.held) continue;
    // It falls on, also when its place has left what it went along meanwhile.
    state[i] = phase === PHASE.gone ? STATE.fallen : STATE.placed;
    const ride = phase === PHASE.rest ? fall.rides.get(row) : undefined;
    if (ride) {
      const there = rideNow(ride, surfaces);
      position.set(there.position, i * 3);
      rotation.set(there.rotation, i * 4);
      continue;
    }
    for (let c = 0; c < 3; c++) {
      const [a, b] = [now.position[row * 3 + c], next.position[row * 3 + c]];
      position[i * 3 + c] = fall.origin[c] + a + (b - a) * share;
    }
    between(now.rotation, next.rotation, row * 4, share, rotation, i * 4);
  }
  return { ...held, position, rotation, state };
}

/** A turn between two that are near each other, of unit length. */
function between(
  a: Float32Array,
  b: Float32Array,
  o: number,
  share: number,
  out: Float64Array,
  to: number,
): void {
  let dot = 0;
  for (let c = 0; c < 4; c++) dot += a[o + c] * b[o + c];
  const side = dot < 0 ? -1 : 1;
  let long = 0;
  for (let c = 0; c < 4; c++) {
    out[to + c] = a[o + c] + (side * b[o + c] - a[o + c]) * share;
    long += out[to + c] * out[to + c];
  }
  long = Math.sqrt(long);
  for (let c = 0; c < 4; c++) out[to + c] /= long;
}
