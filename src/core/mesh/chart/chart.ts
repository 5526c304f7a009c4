/** Numbers that {@link Chart.at} writes: a place, its normal, and how the place moves with u and with v. */
export const AT = { position: 0, normal: 3, du: 6, dv: 9, length: 12 } as const;

/** Lengths along a line of a chart where one parameter stays the same. */
export interface ChartLine {
  /** Rising values of the other parameter. */
  at: Float64Array;
  /** Metres from the first of them to each. */
  s: Float64Array;
}

/** A stretch of surface with two parameters over it. */
export interface Chart {
  u: [number, number];
  v: [number, number];
  /** The line at the highest value is that at the lowest. */
  closedU: boolean;
  closedV: boolean;
  /** Lines are measured by the parameters themselves, not over the surface. */
  flat?: boolean;
  /** Its lines are the same for every chart of this object, window and size: they are kept by it. */
  lengthsOf?: object;
  size?: number;
  /** Writes what {@link AT} tells, xyz each: metres in the scene, the normal of length 1. @returns false where there is nothing */
  at(u: number, v: number, out: Float64Array): boolean;
  /** @param stays which parameter stays at `value` (0: u, 1: v); the line runs over the whole range of the other */
  line(stays: 0 | 1, value: number): ChartLine;
}
