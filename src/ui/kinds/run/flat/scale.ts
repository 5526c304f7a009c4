/** Between metres along the path and pixels of the flat view. */
export interface FlatScale {
  from: number;
  to: number;
  width: number;
  x: (s: number) => number;
  s: (x: number) => number;
}

const MARGIN = 30;

export function flatScale(from: number, to: number, width: number): FlatScale {
  const k = Math.max(1, width - 2 * MARGIN) / Math.max(1e-9, to - from);
  return { from, to, width, x: (s) => MARGIN + (s - from) * k, s: (x) => from + (x - MARGIN) / k };
}

/** A step of 1, 2 or 5 times a power of ten that leaves at least `pixels` between marks. */
export function rulerStep(scale: FlatScale, pixels = 72): number {
  const least = ((scale.to - scale.from) / Math.max(1, scale.width - 2 * MARGIN)) * pixels;
  const power = 10 ** Math.floor(Math.log10(Math.max(1e-12, least)));
  return [1, 2, 5, 10].map((m) => m * power).find((step) => step >= least * (1 - 1e-9))!;
}

/** Zoomed by `factor` about `centre`, held to the path. */
export function zoomed(
  scale: FlatScale,
  centre: number,
  factor: number,
  length: number,
): { from: number; to: number } {
  const span = Math.min(length, Math.max(length * 1e-5, (scale.to - scale.from) / factor));
  const share = (centre - scale.from) / Math.max(1e-12, scale.to - scale.from);
  const from = Math.min(length - span, Math.max(0, centre - share * span));
  return { from, to: from + span };
}
