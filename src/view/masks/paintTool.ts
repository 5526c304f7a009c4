import { has, type Arrangement } from '@/core/arrange/registry';
import type { Vec3 } from '@/core/math/vec3';
import { maskGiven } from '@/store/commands/masks';
import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import type { ViewHandle } from '@/view/handle';
import { pick } from '../pick';
import { setBrush, useView, type Brush } from '../viewState';

/**
 * What the paint tool paints, and where: a painted layer (the one that was chosen, that of the mask in hand, or that of
 * the arrangement in hand, which gets one with its first stroke), or what the arrangement in hand has placed: which way
 * it turns, which prop stands there, or which of it is selected.
 */

export interface PaintTarget {
  mask: string;
  layer: string;
}

const paintedIn = (mask: string | null | undefined): PaintTarget | null => {
  const found = useDocument.getState().scene.masks.find((m) => m.id === mask);
  const layer = found?.layers.find((l) => l.kind === 'painted' && l.on);
  return found && layer ? { mask: found.id, layer: layer.id } : null;
};

export type Target =
  | { layer: PaintTarget }
  /** Gets a mask. */
  | { arrangement: Arrangement; what: 'density' | 'size' }
  /** Strokes go into the arrangement itself. */
  | { arrangement: Arrangement; what: 'turn'; prop?: never }
  | { arrangement: Arrangement; what: 'prop'; prop: string }
  /** What is under the brush is selected. */
  | { arrangement: Arrangement; what: 'slots' };

/** What an arrangement must have for the brush to paint that of it. */
const NEEDS: Record<Brush['what'], string[]> = {
  density: ['gaps'],
  size: ['variation'],
  turn: ['brushed'],
  prop: ['brushed'],
  slots: [],
};

export const canPaint = (a: Arrangement | undefined, what: Brush['what']): boolean =>
  a !== undefined && has(a, ...NEEDS[what]);

/** The prop that the brush gives: the chosen one, or the first of the basket. */
export function brushProp(): string | null {
  const { props } = useDocument.getState().scene;
  const { prop } = useView.getState().brush;
  return props.some((p) => p.id === prop) ? prop : (props[0]?.id ?? null);
}

/** What the brush paints; null where nothing can be painted. */
export function paintTarget(): Target | null {
  const { scene } = useDocument.getState();
  const { node, arrangement } = useSelection.getState();
  const { what, layer: chosen } = useView.getState().brush;
  const isThere = (l: PaintTarget) =>
    scene.masks.some((m) => m.id === l.mask && m.layers.some((x) => x.id === l.layer));
  if (chosen && isThere(chosen)) return { layer: chosen };
  const inHand = node?.kind === 'mask' ? paintedIn(node.id) : null;
  if (inHand) return { layer: inHand };
  const a = scene.arrangements.find((x) => x.id === arrangement);
  if (!a || !canPaint(a, what)) return null;
  if (what === 'turn' || what === 'slots') return { arrangement: a, what };
  if (what === 'prop') {
    const prop = brushProp();
    return prop === null ? null : { arrangement: a, what, prop };
  }
  const own = paintedIn(maskGiven(a, what));
  return own ? { layer: own } : { arrangement: a, what };
}

export interface Under {
  surface: string;
  at: Vec3;
  normal: Vec3;
}

/** The surface under the pointer, and where. */
export function under(view: ViewHandle, x: number, y: number): Under | null {
  const hit = pick(view, x, y, 'surfaces');
  return hit?.kind === 'surface' ? { surface: hit.id, at: hit.point, normal: hit.normal } : null;
}

/** Where the brush would paint. */
export function paintAhead(view: ViewHandle, x: number, y: number): void {
  const place = under(view, x, y);
  setBrush({ ahead: place && { at: place.at, normal: place.normal } });
}

/** Whether a target can be painted on a surface: a layer lies on one alone, the one that it began on. */
export function takes(target: Target, surface: string): boolean {
  const on = 'layer' in target ? surfacePainted(target.layer) : null;
  return on === null || on === surface;
}

/** The surface that a layer is painted on; null while that is open. */
export function surfacePainted({ mask, layer }: PaintTarget): string | null {
  const found = useDocument.getState().scene.masks.find((m) => m.id === mask);
  const own = found?.layers.find((l) => l.id === layer);
  return own?.kind === 'painted' ? own.surface : null;
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
