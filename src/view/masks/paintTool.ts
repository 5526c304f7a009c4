import { has, type Arrangement } from '@/core/arrange/registry';
import type { Vec3 } from '@/core/math/vec3';
import { addDabs, addStroke, maskGiven, paintOnto } from '@/store/commands/masks';
import { cancelGesture, dispatch, endGesture, useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import type { ViewHandle } from '@/view/handle';
import { restPlace } from '../onSurface';
import { pick } from '../pick';
import { setBrush, useView } from '../viewState';

/**
 * The paint tool: a press begins a stroke on the surface under the pointer, a drag goes on with it, and it goes into a
 * painted layer: the one that was chosen, that of the mask in hand, or that of the arrangement in hand, which gets one
 * with its first stroke.
 */

/** Dabs are a quarter of the radius apart: between them a stroke is straight. */
const APART = 0.25;

export interface PaintTarget {
  mask: string;
  layer: string;
}

const paintedIn = (mask: string | null | undefined): PaintTarget | null => {
  const found = useDocument.getState().scene.masks.find((m) => m.id === mask);
  const layer = found?.layers.find((l) => l.kind === 'painted' && l.on);
  return found && layer ? { mask: found.id, layer: layer.id } : null;
};

/** What the brush paints: a layer, an arrangement that gets one, or nothing. */
export function paintTarget(): { layer: PaintTarget } | { arrangement: Arrangement } | null {
  const { scene } = useDocument.getState();
  const { node, arrangement } = useSelection.getState();
  const { brush } = useView.getState();
  const chosen = brush.layer;
  const isThere = (l: PaintTarget) =>
    scene.masks.some((m) => m.id === l.mask && m.layers.some((x) => x.id === l.layer));
  if (chosen && isThere(chosen)) return { layer: chosen };
  const inHand = node?.kind === 'mask' ? paintedIn(node.id) : null;
  if (inHand) return { layer: inHand };
  const a = scene.arrangements.find((x) => x.id === arrangement);
  if (!a || !(brush.what === 'size' ? has(a, 'variation') : has(a, 'gaps'))) return null;
  const own = paintedIn(maskGiven(a, brush.what));
  return own ? { layer: own } : { arrangement: a };
}

interface Under {
  surface: string;
  at: Vec3;
  normal: Vec3;
}

function under(view: ViewHandle, x: number, y: number): Under | null {
  const hit = pick(view, x, y, 'surfaces');
  return hit?.kind === 'surface' ? { surface: hit.id, at: hit.point, normal: hit.normal } : null;
}

/** Where the brush would paint. */
export function paintAhead(view: ViewHandle, x: number, y: number): void {
  const place = under(view, x, y);
  setBrush({ ahead: place && { at: place.at, normal: place.normal } });
}

/** Whether a target can be painted on a surface: a layer lies on one alone, the one that it began on. */
function takes(target: NonNullable<ReturnType<typeof paintTarget>>, surface: string): boolean {
  const on = 'layer' in target ? surfacePainted(target.layer) : null;
  return on === null || on === surface;
}

/** The surface that a layer is painted on; null while that is open. */
export function surfacePainted({ mask, layer }: PaintTarget): string | null {
  const found = useDocument.getState().scene.masks.find((m) => m.id === mask);
  const own = found?.layers.find((l) => l.id === layer);
  return own?.kind === 'painted' ? own.surface : null;
}

let strokes = 0;

/** A stroke while it is drawn: one step of the undo list. */
export class BrushStroke {
  private last: Vec3;

  private constructor(
    private key: string,
    private target: PaintTarget,
    private id: string,
    private surface: string,
    at: Vec3,
  ) {
    this.last = at;
  }

  /** @param away paint is taken away: what is otherwise added */
  static begin(view: ViewHandle, x: number, y: number, away: boolean): BrushStroke | null {
    const place = under(view, x, y);
    const target = paintTarget();
    const { scene, readOnly } = useDocument.getState();
    if (!place || !target || readOnly || !takes(target, place.surface)) return null;
    const { brush } = useView.getState();
    const size = scene.surfaces.find((s) => s.id === place.surface)?.size ?? 1;
    const rest = restPlace(place.surface, place.at)?.rest;
    if (!rest) return null;
    const does = away ? (brush.does === 'take' ? 'add' : 'take') : brush.does;
    const stroke = {
      does,
      radius: brush.radius / size,
      softness: brush.softness,
      strength: brush.strength,
      dabs: [...rest],
    };
    endGesture();
    const key = `brush ${++strokes}`;
    let layer = 'layer' in target ? target.layer : null;
    if ('arrangement' in target) {
      const made = dispatch(paintOnto, { id: target.arrangement.id, what: brush.what, does }, key);
      if (!made) return null;
      const [mask, id] = made.split(' ');
      layer = { mask, layer: id };
    }
    const { mask, layer: painted } = layer!;
    const id = dispatch(addStroke, { id: mask, layer: painted, surface: place.surface, stroke }, key);
    paintAhead(view, x, y);
    return id ? new BrushStroke(key, layer!, id, place.surface, place.at) : null;
  }

  move(view: ViewHandle, x: number, y: number): void {
    const place = under(view, x, y);
    paintAhead(view, x, y);
    if (place?.surface !== this.surface) return;
    const { radius } = useView.getState().brush;
    const away = Math.hypot(...place.at.map((v, k) => v - this.last[k]));
    if (away < radius * APART) return;
    const rest = restPlace(place.surface, place.at)?.rest;
    if (!rest) return;
    this.last = place.at;
    const { mask, layer } = this.target;
    dispatch(addDabs, { id: mask, layer, stroke: this.id, dabs: [...rest] }, this.key);
  }

  end(): void {
    endGesture();
  }

  cancel(): void {
    cancelGesture(this.key);
  }
}

/** One dab where the keys' cursor is. */
export function paintDab(view: ViewHandle, x: number, y: number): void {
  BrushStroke.begin(view, x, y, false)?.end();
}

const held = (v: number, low: number, high: number) =>
  Number(Math.min(high, Math.max(low, v)).toPrecision(3));

/** Makes the brush larger or smaller by some. */
export const resizeBrush = (steps: number): void =>
  setBrush({ radius: held(useView.getState().brush.radius * 1.15 ** steps, 0.001, 1e4) });

/** Makes the brush stronger or weaker by some. */
export const strengthenBrush = (steps: number): void =>
  setBrush({ strength: held(useView.getState().brush.strength + 0.1 * steps, 0.05, 1) });

/** The wheel sizes the brush; with Alt it strengthens it. */
export function brushWheel(e: { deltaY: number; deltaX: number; altKey: boolean }): void {
  const way = -Math.sign(e.deltaY || e.deltaX) || 0;
  if (e.altKey) strengthenBrush(way);
  else resizeBrush(way);
}
