import { asinh, cosh, exp, hypot, log, sinh } from '../../math/portable';

/** Lines that lie on the ground where they would hang through it. */

/**
 * Ground under a line, in the plane that it hangs in: x and y from its beginning, x rising from 0 to its end; y is −∞
 * where there is none. Between neighbours it is no higher than straight.
 */
export type GroundProfile = Float64Array;

/** One piece of a line: straight, or a catenary of its own length that hangs freely. */
interface LyingPiece {
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

/** Of its level way: at a pull that small it follows the ground, and none of it falls between two places of that. */
const LOOSEST = 1 / 50;
/** At one that great it is straight. */
const TAUT = 1e7;

interface Knot {
  x: number;
  y: number;
  /** Place in the profile; neighbours there have ground between them. */
  k: number;
}

/** A catenary of a pull `a` between two places: its slopes at both ends are sinh(m − u) and sinh(m + u). */
function hanging(p: Knot, q: Knot, a: number): { m: number; u: number } {
  const u = (q.x - p.x) / (2 * a);
  return { u, m: asinh((q.y - p.y) / (2 * a * sinh(u))) };
}

const isGround = (p: Knot, q: Knot): boolean => q.k - p.k === 1;

/** How long a piece is: between neighbours it lies on the ground. */
function lengthOfPiece(p: Knot, q: Knot, a: number): number {
  if (isGround(p, q)) return hypot(q.x - p.x, q.y - p.y);
  const { m, u } = hanging(p, q, a);
  return 2 * a * cosh(m) * sinh(u);
}

/** The places that hold a line of a pull `a` up, ends included: at each it turns down, as over a crest. */
function held(all: readonly Knot[], a: number): Knot[] {
  const stack: Knot[] = [];
  for (const knot of all) {
    while (stack.length > 1) {
      const top = stack[stack.length - 1];
      const before = hanging(stack[stack.length - 2], top, a);
      const after = hanging(top, knot, a);
      // Where it arrives more steeply than it leaves, the place holds it.
      if (before.m + before.u > after.m - after.u) break;
      stack.pop();
    }
    stack.push(knot);
  }
  return stack;
}

const lengthOf = (knots: readonly Knot[], a: number): number => {
  let sum = 0;
  for (let i = 1; i < knots.length; i++) sum += lengthOfPiece(knots[i - 1], knots[i], a);
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
  // The profile's own first and last places are those of its ends.
  const all: Knot[] = [{ x: 0, y: 0, k: 0 }];
  for (let k = 0; k * 2 < ground.length; k++) {
    const [x, y] = [ground[k * 2], ground[k * 2 + 1]];
    if (y > -Infinity && x > 1e-9 * h && x < h * (1 - 1e-9)) all.push({ x, y, k });
  }
  all.push({ x: h, y: v, k: ground.length / 2 - 1 });
  const pieces = (knots: readonly Knot[], a: number): LyingPiece[] =>
    knots.slice(1).map((q, i) => {
      const p = knots[i];
      const straight = a >= h * TAUT || isGround(p, q);
      const length = straight ? hypot(q.x - p.x, q.y - p.y) : lengthOfPiece(p, q, a);
      return { to: [q.x, q.y], length, straight };
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
  const [, high] = fallsTo(
    (t) => lengthOf(held(all, exp(t)), exp(t)) - wanted,
    [log(h * LOOSEST), log(h * TAUT)],
    1e-9 * wanted,
  );
  const knots = held(all, exp(high));
  if (knots.length === 2) return null;
  // Where it just comes to touch another place its length jumps by that one's distance from a catenary: there it is
  // made as long as is asked for with the places that it has.
  const [, exact] = fallsTo(
    (t) => lengthOf(knots, exp(t)) - wanted,
    [high - 0.1, high + 0.1],
    1e-13 * wanted,
  );
  return done(knots, exp(exact));
}

/**
 * Where a function that falls comes to nothing, between two places: false position (Illinois), halved now and then.
 * @param nothing values no larger than that are @returns the last places on both sides
 */
function fallsTo(f: (t: number) => number, [low, high]: [number, number], nothing: number): [number, number] {
  let [atLow, atHigh] = [f(low), f(high)];
  for (let i = 0; i < 120 && high - low > 1e-15; i++) {
    const guess = low - (atLow * (high - low)) / (atHigh - atLow);
    const t = i % 4 === 3 || !(guess > low && guess < high) ? (low + high) / 2 : guess;
    const e = f(t);
    if (Math.abs(e) <= nothing) return [t, t];
    if (e > 0) {
      [low, atLow] = [t, e];
      atHigh /= 2;
    } else {
      [high, atHigh] = [t, e];
      atLow /= 2;
    }
  }
  return [low, high];
}
