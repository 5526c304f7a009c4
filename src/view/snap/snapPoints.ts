import type { ServedArrangement } from '@/engine/served';
import { snapInRow } from '@/core/arrange/snapPlace';
import { tiedPlace, type TiedPlace } from '@/core/arrange/tiedPlace';
import { STATE } from '@/core/arrange/result';
import { slotName } from '@/core/arrange/slotId';
import type { Tie } from '@/core/curve/hang/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { Prop } from '@/core/mesh/propSchema';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { eachNear, pickFrustum } from '../near';
import { toScreen } from '../project';
import type { ViewHandle } from '../handle';
import { shownPointsOf } from '../onSurface';

/** Snap points of everything that is placed, where they are in the scene. */

/** More of one arrangement are not offered: they would lie closer than anyone can point. */
const MOST = 60_000;

export interface ShownSnap {
  at: Vec3;
  tie: Extract<Tie, { to: 'slot' }>;
  label: string;
}

/** All snap points of one arrangement: places one behind the other, and the row and name of each. */
interface Known {
  props: readonly Prop[];
  places: Float32Array;
  rows: Uint32Array;
  names: string[];
}
const known = new WeakMap<ServedArrangement['placements'], Known>();

/** What of props is asked for where their snap points are looked up. */
const factsOf = (props: readonly Prop[]) => (id: string) => ({
  state: 'ready' as const,
  bounds: { min: [0, 0, 0] as Vec3, max: [0, 0, 0] as Vec3 },
  snapPoints: props.find((q) => q.id === id)?.snapPoints ?? [],
});

function snapsOf({ placements: p }: ServedArrangement, props: readonly Prop[]): Known {
  const have = known.get(p);
  if (have?.props === props) return have;
  const points = p.props.map((id) => props.find((q) => q.id === id)?.snapPoints ?? []);
  const facts = factsOf(props);
  const out: { places: number[]; rows: number[]; names: string[] } = { places: [], rows: [], names: [] };
  for (let i = 0; i < p.count && out.rows.length < MOST; i++) {
    if (p.state[i] !== STATE.placed || p.prop[i] < 0) continue;
    for (const { name } of points[p.prop[i]]) {
      const found = snapInRow(p, i, name, facts);
      if (!found) continue;
      out.places.push(...found.position);
      out.rows.push(i);
      out.names.push(name);
    }
  }
  const made: Known = {
    props,
    places: Float32Array.from(out.places),
    rows: Uint32Array.from(out.rows),
    names: out.names,
  };
  known.set(p, made);
  return made;
}

/** Where what a tie names is now; the nearest of its name to `last` where that is gone. */
export function tiedNow(tie: Tie, last: Vec3): TiedPlace | null {
  const own = tie.to === 'point' && shownPointsOf(tie.path).find((p) => p.id === tie.point);
  if (own) return { position: own.position, direction: null, rotation: [0, 0, 0, 1] };
  return tiedPlace(tie, last, {
    arrangement: (id) => engine().state.result.arrangements.get(id)?.placements,
    prop: factsOf(useDocument.getState().scene.props),
    path: () => undefined,
  });
}

/** A slot of an arrangement. */
export interface OneSlot {
  arrangement: string;
  slot: string;
}

/** Snap points near a pixel, of what is shown. @param at `held`: what is in hand, whose own are no places to go to */
export function snapsNear(
  view: ViewHandle,
  { x, y, held }: { x: number; y: number; held?: OneSlot },
  pixels: number,
): ShownSnap[] {
  const { props, arrangements } = useDocument.getState().scene;
  if (props.every((p) => p.snapPoints.length === 0)) return [];
  const around = pickFrustum(view, x, y, pixels);
  return arrangements.flatMap((a): ShownSnap[] => {
    const result = a.visible ? engine().state.result.arrangements.get(a.id) : undefined;
    if (!result || result.placements.count === 0) return [];
    const { places, rows, names } = snapsOf(result, props);
    const found: ShownSnap[] = [];
    eachNear(around, places, (k) => {
      const at = [places[k * 3], places[k * 3 + 1], places[k * 3 + 2]] as Vec3;
      const p = toScreen(view, at);
      if (!p.ahead || Math.abs(p.x - x) > pixels || Math.abs(p.y - y) > pixels) return;
      const slot = slotName(result.placements.slot[rows[k]]);
      if (held?.arrangement === a.id && held.slot === slot) return;
      found.push({
        at,
        tie: { to: 'slot', arrangement: a.id, slot, snap: names[k] },
        label: `${names[k]} of ${a.name} #${slot}`,
      });
    });
    return found;
  });
}

/** All snap points that are shown, for their marks while something can be connected to them. */
export function allSnaps(most: number): Vec3[] {
  const { props, arrangements } = useDocument.getState().scene;
  const out: Vec3[] = [];
  for (const a of arrangements) {
    const result = a.visible ? engine().state.result.arrangements.get(a.id) : undefined;
    if (!result) continue;
    const { places, rows } = snapsOf(result, props);
    for (let k = 0; k < rows.length && out.length < most; k++)
      out.push([places[k * 3], places[k * 3 + 1], places[k * 3 + 2]]);
  }
  return out;
}
