import { STATE, type Placements } from '@/core/arrange/result';
import type { MaskShades } from '@/core/mesh/mask/shades';
import type { Plan } from './plan';

/** Colours of the plan, as the theme has them. */
interface Inks {
  thread: string;
  text: string;
  edge: string;
  soft: string;
}

export interface Drawn {
  placements: Placements;
  /** A mask beneath it all. */
  shades: readonly MaskShades[];
  plan: Plan;
  /** Lines for bearings, xyz a place each. */
  lines: readonly ArrayLike<number>[];
  /** Metres from one to the next. */
  distance: number;
  /** Places wait for a first prop. */
  waiting: boolean;
  hovered: number | null;
  chosen: ReadonlySet<number>;
  box: readonly [number, number, number, number] | null;
  inks: Inks;
}

const ROUND = 2 * Math.PI;
/** Steps of grey that a mask is drawn in. */
const STEPS = 16;

/** A mask seen from above: a square about each of its corners, those of one shade at once. */
function drawShades(paint: CanvasRenderingContext2D, { above, values, cell }: MaskShades, plan: Plan): void {
  const size = Math.max(1, cell * plan.k * 1.05);
  const at = new Float64Array(3);
  const shades: number[][] = Array.from({ length: STEPS + 1 }, () => []);
  values.forEach((v, i) => shades[Math.round(v * STEPS)].push(i));
  shades.forEach((corners, step) => {
    if (step === 0) return;
    paint.fillStyle = `rgb(214 160 43 / ${(0.5 * step) / STEPS})`;
    paint.beginPath();
    for (const i of corners) {
      at[0] = above[i * 2];
      at[2] = above[i * 2 + 1];
      paint.rect(plan.x(at, 0) - size / 2, plan.y(at, 0) - size / 2, size, size);
    }
    paint.fill();
  });
}

/** Draws the plan: what is placed as dots, gaps as rings, what is hovered or chosen in ink. */
export function drawPlan(paint: CanvasRenderingContext2D, drawn: Drawn): void {
  const { placements: p, plan, hovered, chosen, box, inks } = drawn;
  for (const s of drawn.shades) drawShades(paint, s, plan);
  paint.lineWidth = 1;
  paint.strokeStyle = inks.edge;
  for (const line of drawn.lines) {
    paint.beginPath();
    for (let i = 0; i * 3 < line.length; i++) paint.lineTo(plan.x(line, i), plan.y(line, i));
    paint.stroke();
  }
  // As wide as leaves air between neighbours.
  const r = Math.min(6, Math.max(0.7, 0.28 * plan.k * drawn.distance));
  paint.fillStyle = inks.thread;
  paint.strokeStyle = inks.soft;
  for (let i = 0; i < p.count; i++) {
    const [x, y] = [plan.x(p.position, i), plan.y(p.position, i)];
    const filled = p.state[i] === STATE.placed || drawn.waiting;
    if (r < 2 && (filled || r < 1.2)) {
      if (filled) paint.fillRect(x - r, y - r, 2 * r, 2 * r);
    } else {
      paint.beginPath();
      paint.arc(x, y, filled ? r : Math.max(1.5, r * 0.8), 0, ROUND);
      if (filled) paint.fill();
      else paint.stroke();
    }
  }
  for (let i = 0; i < p.count; i++) {
    const lit = p.slot[i] === hovered;
    if (!lit && !chosen.has(p.slot[i])) continue;
    paint.beginPath();
    paint.arc(plan.x(p.position, i), plan.y(p.position, i), Math.max(4, r + 2), 0, ROUND);
    paint.fillStyle = inks.text;
    paint.strokeStyle = inks.text;
    if (p.state[i] === STATE.placed) paint.fill();
    else paint.stroke();
  }
  if (!box) return;
  paint.strokeStyle = inks.text;
  paint.setLineDash([4, 3]);
  paint.strokeRect(
    Math.min(box[0], box[2]),
    Math.min(box[1], box[3]),
    Math.abs(box[2] - box[0]),
    Math.abs(box[3] - box[1]),
  );
  paint.setLineDash([]);
}
