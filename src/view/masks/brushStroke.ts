import { STATE } from '@/core/arrange/result';
import type { Vec3 } from '@/core/math/vec3';
import type { PaintStroke } from '@/core/mesh/mask/schema';
import { addBrushed, addBrushedDabs, type NewBrushed } from '@/store/commands/brushed';
import { addDabs, addStroke, paintOnto } from '@/store/commands/masks';
import { cancelGesture, dispatch, endGesture, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectSlots, useSelection } from '@/store/selection';
import type { ViewHandle } from '@/view/handle';
import { restPlace } from '../onSurface';
import { useView } from '../viewState';
import { paintAhead, paintTarget, takes, under, type PaintTarget, type Target } from './paintTool';

/**
 * A press of the paint tool begins a stroke on the surface under the pointer, and a drag goes on with it: paint in a
 * layer, or what an arrangement has placed is combed, gets another prop, or is selected.
 */

/** Dabs are a quarter of the radius apart: between them a stroke is straight. */
const APART = 0.25;

/** Where the dabs of a stroke go. */
type Ink = (dabs: number[]) => void;

let strokes = 0;

/** A stroke while it is drawn: one step of the undo list. */
export class BrushStroke {
  private last: Vec3;

  private constructor(
    private key: string,
    private ink: Ink,
    private surface: string,
    at: Vec3,
  ) {
    this.last = at;
  }

  /** @param away paint is taken away: what is otherwise added */
  static begin(view: ViewHandle, x: number, y: number, away: boolean): BrushStroke | SlotsStroke | null {
    const place = under(view, x, y);
    const target = paintTarget();
    const { scene, readOnly } = useDocument.getState();
    if (!place || !target) return null;
    if (!('layer' in target) && target.what === 'slots')
      return SlotsStroke.begin(view, x, y, target.arrangement.id, away);
    if (readOnly || !takes(target, place.surface)) return null;
    const { brush } = useView.getState();
    const size = scene.surfaces.find((s) => s.id === place.surface)?.size ?? 1;
    const rest = restPlace(place.surface, place.at)?.rest;
    if (!rest) return null;
    const line = {
      radius: brush.radius / size,
      softness: brush.softness,
      strength: brush.strength,
      dabs: [...rest],
    };
    endGesture();
    const key = `brush ${++strokes}`;
    const ink = inkFor(target, place.surface, line, away, key);
    paintAhead(view, x, y);
    return ink && new BrushStroke(key, ink, place.surface, place.at);
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
    this.ink([...rest]);
  }

  end(): void {
    endGesture();
  }

  cancel(): void {
    cancelGesture(this.key);
  }
}

interface Line {
  radius: number;
  softness: number;
  strength: number;
  dabs: number[];
}

/** Begins a stroke in what is painted. @returns where its further dabs go; null where there is no such thing */
function inkFor(target: Target, surface: string, line: Line, away: boolean, key: string): Ink | null {
  const { does: chosen } = useView.getState().brush;
  // What smooths cannot be turned about: with Shift it takes away as well.
  const does = away ? (chosen === 'take' ? 'add' : 'take') : chosen;
  if ('layer' in target) return paint(target.layer, { does, ...line }, surface, key);
  const { id } = target.arrangement;
  if (target.what === 'slots') return null;
  if (target.what === 'turn' || target.what === 'prop')
    return brushOver(id, brushing(target, does === 'take', { surface, ...line }), key);
  const made = dispatch(paintOnto, { id, what: target.what, does }, key)?.split(' ');
  return made ? paint({ mask: made[0], layer: made[1] }, { does, ...line }, surface, key) : null;
}

function paint(
  { mask, layer }: PaintTarget,
  stroke: Line & Pick<PaintStroke, 'does'>,
  surface: string,
  key: string,
): Ink | null {
  const made = dispatch(addStroke, { id: mask, layer, surface, stroke }, key);
  return made ? (dabs) => void dispatch(addDabs, { id: mask, layer, stroke: made, dabs }, key) : null;
}

function brushOver(id: string, stroke: NewBrushed, key: string): Ink | null {
  const made = dispatch(addBrushed, { id, stroke }, key);
  return made ? (dabs) => void dispatch(addBrushedDabs, { id, stroke: made, dabs }, key) : null;
}

function brushing(
  target: Extract<Target, { what: 'turn' | 'prop' }>,
  back: boolean,
  line: Line & { surface: string },
): NewBrushed {
  if (target.what === 'turn') return { does: back ? 'uncomb' : 'comb', ...line };
  return back ? { does: 'unprop', ...line } : { does: 'prop', prop: target.prop, ...line };
}

/** What lies under the brush is selected, or taken out of what is. */
export class SlotsStroke {
  private readonly had: readonly number[];
  private readonly ids: Set<number>;

  private constructor(
    private arrangement: string,
    private away: boolean,
  ) {
    const { slots } = useSelection.getState();
    this.had = slots?.arrangement === arrangement ? slots.ids : [];
    this.ids = new Set(this.had);
  }

  static begin(view: ViewHandle, x: number, y: number, arrangement: string, away: boolean): SlotsStroke {
    const takesOut = away !== (useView.getState().brush.does === 'take');
    const stroke = new SlotsStroke(arrangement, takesOut);
    stroke.move(view, x, y);
    return stroke;
  }

  move(view: ViewHandle, x: number, y: number): void {
    paintAhead(view, x, y);
    const { ahead, radius } = useView.getState().brush;
    const p = engine().state.result.arrangements.get(this.arrangement)?.placements;
    if (!ahead || !p) return;
    const [ax, ay, az] = ahead.at;
    let changed = false;
    for (let i = 0, o = 0; i < p.count; i++, o += 3) {
      const [dx, dy, dz] = [p.position[o] - ax, p.position[o + 1] - ay, p.position[o + 2] - az];
      if (p.state[i] !== STATE.placed || dx * dx + dy * dy + dz * dz > radius * radius) continue;
      if (this.ids.has(p.slot[i]) !== this.away) continue;
      changed = true;
      if (this.away) this.ids.delete(p.slot[i]);
      else this.ids.add(p.slot[i]);
    }
    if (changed) selectSlots(this.arrangement, [...this.ids]);
  }

  end(): void {}

  cancel(): void {
    selectSlots(this.arrangement, [...this.had]);
  }
}

/** A stroke that keys go on with, dab by dab. */
let byKeys: BrushStroke | null = null;

/**
 * One dab where the keys' cursor is. What has a direction needs two: there keys go on with a stroke, from dab to dab,
 * until one is made where the last one was.
 */
export function paintDab(view: ViewHandle, x: number, y: number, stayed: boolean): void {
  const target = paintTarget();
  const combs = target !== null && !('layer' in target) && target.what === 'turn';
  if (byKeys && combs && !stayed) return byKeys.move(view, x, y);
  byKeys?.end();
  byKeys = null;
  if (stayed && combs) return;
  const begun = BrushStroke.begin(view, x, y, false);
  if (combs && begun instanceof BrushStroke) byKeys = begun;
  else begun?.end();
}
