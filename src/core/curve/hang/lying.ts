import { asinh, cosh, exp, hypot, log, sinh } from '../../math/portable';

/** Lines that lie on the ground where they would hang through it. */

/**
 * Ground under a line, in the plane that it hangs in: x and y from its beginning, x rising from 0 to its end; y is −∞
 * where there is none. Between neighbours it is no higher than straight.
 */
export type GroundProfile = Float64Array;

/** One piece of a line: straight, or a catenary of its own length that hangs freely. */
export interface LyingPiece {
  to: [x: number, y: number];
  length: number;
  straight: boolean;
}

export interface Lying {
  pieces: LyingPiece[];
  /** Metres that it is longer than the ground between its ends: there is nowhere for them to be. */
  over: number;
  /** It is to be shorter than the way over the ground. */
  short: boolean;
}

/** Of its level way: at a pull that small it follows the ground. */
const LOOSEST = 1 / 1200;
/** At one that great it is straight. */
const TAUT = 1e7;

interface Knot {
  x: number;
  y: number;
  /** Place in the profile; neighbours there have ground between them. */
  k: number;
}

/** How a piece between two places hangs with a pull `a`: its slopes at both ends, and its length. */
function between(p: Knot, q: Knot, a: number): { left: number; right: number; length: number } {
  const [h, v] = [q.x - p.x, q.y - p.y];
  if (Math.abs(q.k - p.k) === 1) return { left: v / h, right: v / h, length: hypot(h, v) };
  const u = h / (2 * a);
  const m = asinh(v / (2 * a * sinh(u)));
  return { left: sinh(m - u), right: sinh(m + u), length: 2 * a * cosh(m) * sinh(u) };
}

/** The places that hold a line of a pull `a` up, ends included: at each it turns down, as over a crest. */
function held(all: readonly Knot[], a: number): Knot[] {
  const stack: Knot[] = [];
  for (const knot of all) {
    while (stack.length > 1) {
      const top = stack[stack.length - 1];
      const arrives = between(stack[stack.length - 2], top, a).right;
      if (arrives > between(top, knot, a).left) break;
      stack.pop();
    }
    stack.push(knot);
  }
  return stack;
}

const lengthOf = (knots: readonly Knot[], a: number): number => {
  let sum = 0;
  for (let i = 1; i < knots.length; i++) sum += between(knots[i - 1], knots[i], a).length;
  return sum;
};

/**
 * A line of a given length that lies on the ground where it would hang through it. Its level pull is the same all along,
 * as where the ground holds it: its free pieces are catenaries of one parameter, found by halving; for each parameter
 * they are the hull of the ground by such catenaries, in one pass, as that by straight lines is (Andrew 1979).
 *
 * @param h level distance of its ends, above 0 @param v how much higher its end is @param wanted metres; null: taut
 * @returns null where it nowhere touches the ground
 */
export function lyingOver(h: number, v: number, ground: GroundProfile, wanted: number | null): Lying | null {
  const all: Knot[] = [{ x: 0, y: 0, k: -2 }];
  for (let k = 0; k * 2 < ground.length; k++) {
    const [x, y] = [ground[k * 2], ground[k * 2 + 1]];
    if (y > -Infinity && x > 1e-9 * h && x < h * (1 - 1e-9)) all.push({ x, y, k });
  }
  all.push({ x: h, y: v, k: ground.length });
  const pieces = (knots: readonly Knot[], a: number): LyingPiece[] =>
    knots.slice(1).map((q, i) => {
      const p = knots[i];
      const straight = a >= h * TAUT || Math.abs(q.k - p.k) === 1;
      return {
        to: [q.x, q.y],
        length: straight ? hypot(q.x - p.x, q.y - p.y) : between(p, q, a).length,
        straight,
      };
    });
  const done = (knots: readonly Knot[], a: number, over = 0, short = false): Lying | null =>
    knots.length > 2 ? { pieces: pieces(knots, a), over, short } : null;
  const taut = held(all, h * TAUT);
  const least = lengthOf(taut, h * TAUT);
  if (wanted === null || wanted <= least * (1 + 1e-12))
    return done(taut, h * TAUT, 0, wanted !== null && wanted < least * (1 - 1e-9));
  const loose = held(all, h * LOOSEST);
  const most = lengthOf(loose, h * LOOSEST);
  if (wanted >= most) return done(loose, h * LOOSEST, wanted - most);
  let [low, high] = [log(h * LOOSEST), log(h * TAUT)];
  for (let i = 0; i < 200 && high - low > 1e-14; i++) {
    const mid = (low + high) / 2;
    const a = exp(mid);
    if (lengthOf(held(all, a), a) > wanted) low = mid;
    else high = mid;
  }
  const knots = held(all, exp(high));
  if (knots.length === 2) return null;
  // Where it just comes to touch another place its length jumps by that one's distance from a catenary: there it is
  // made as long as is asked for with the places that it has.
  let [loosest, tightest] = [high - 0.05, high + 0.05];
  for (let i = 0; i < 100 && tightest - loosest > 1e-16; i++) {
    const mid = (loosest + tightest) / 2;
    if (lengthOf(knots, exp(mid)) > wanted) loosest = mid;
    else tightest = mid;
  }
  return done(knots, exp((loosest + tightest) / 2));
}
