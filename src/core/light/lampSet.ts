import { atan2, cos, hypot, sin } from '../math/portable';
import type { Vec3 } from '../math/vec3';
import { lampSchema, type Lamp } from './lampSchema';

/** Where lights are put to begin with. */

/** What lights are put around: a box, and where it is looked at from. */
export interface Subject {
  min: Vec3;
  max: Vec3;
  eye: Vec3;
}

/** The three lights of a portrait, about what is looked at: which way from the eye, how high, how strong, how warm. */
const SET = [
  { name: 'Main', turnDeg: 45, heightDeg: 40, strength: 1, warmth: 4300, size: 0.35 },
  { name: 'Fill', turnDeg: -55, heightDeg: 15, strength: 0.35, warmth: 6500, size: 0.9 },
  { name: 'Back', turnDeg: 160, heightDeg: 50, strength: 0.7, warmth: 5200, size: 0.25 },
] as const;
/** How far off they stand, in half diagonals of the box. */
const AWAY = 2.6;

type New = Omit<Lamp, 'id'>;
/** To three digits: what one reads in a field. */
const tidy = (v: number): number => Number(v.toPrecision(3));
/** To the millimetre. */
const place = (at: Vec3): Vec3 => at.map((v) => Number(v.toFixed(3))) as Vec3;

const lampOf = (values: Partial<Lamp>): New => {
  const { id: _, ...lamp } = lampSchema.parse({ id: 'new', name: 'Light', at: [0, 0, 0], ...values });
  return lamp;
};

/** The middle of a box, and half of its diagonal, metres; never nothing. */
function about({ min, max }: Subject): { middle: Vec3; half: number } {
  const middle = min.map((v, k) => (v + max[k]) / 2) as Vec3;
  return { middle, half: Math.max(0.1, hypot(max[0] - min[0], max[1] - min[1], max[2] - min[2]) / 2) };
}

/**
 * Main, fill and back: areas around a thing, turned to it. They are as strong at its middle as their names ask for, from
 * wherever they stand.
 * @param aimedAt what they stay turned to when it moves; null: to that place
 */
export function lampSet(subject: Subject, aimedAt: string | null): New[] {
  const { middle, half } = about(subject);
  const from = atan2(subject.eye[0] - middle[0], subject.eye[2] - middle[2]);
  const away = half * AWAY;
  return SET.map(({ name, turnDeg, heightDeg, strength, warmth, size }) => {
    const [turn, height] = [from + (turnDeg * Math.PI) / 180, (heightDeg * Math.PI) / 180];
    const at: Vec3 = [
      middle[0] + sin(turn) * cos(height) * away,
      middle[1] + sin(height) * away,
      middle[2] + cos(turn) * cos(height) * away,
    ];
    return lampOf({
      ...{ name, kind: 'area', at: place(at), aim: place(middle), aimedAt, warmth },
      ...{ size: tidy(size * away), strength: tidy(strength * away * away) },
    });
  });
}

/** One light over a thing, as strong at its middle as a clear day. */
export function lampOver(kind: Lamp['kind'], subject: Subject, aimedAt: string | null): New {
  const { middle, half } = about(subject);
  const away = half + Math.max(1, half * 0.6);
  const name = { point: 'Point light', area: 'Area light', spot: 'Spot light' }[kind];
  return lampOf({
    ...{ name, kind, at: place([middle[0], middle[1] + away, middle[2]]), aim: place(middle), aimedAt },
    ...{ size: kind === 'area' ? tidy(half) : 0.1, strength: tidy(away * away) },
  });
}
