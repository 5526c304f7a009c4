import { pegOfSlot } from '@/core/arrange/pegs/blocks';
import { has } from '@/core/arrange/registry';
import { pegNumber, type Peg, type Pegs, type Sits } from '@/core/arrange/pegs/schema';
import { poseOnSnap, sitsOn } from '@/core/arrange/pegs/sits';
import { DEG, quatRotate, type Quat } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { poseOn, restingFront, turnTowards, type Stance } from '@/core/mesh/pin';
import { addPegs, setPeg } from '@/store/commands/pegs';
import { cancelGesture, dispatch, endGesture, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectSlots, useSelection } from '@/store/selection';
import { ON_SURFACE, pegPlace, type PegPlace } from './pegPlace';
import { pick, type SurfacePlace } from './pick';
import type { Snap } from './snap/snap';
import { tiedNow } from './snap/snapPoints';
import { setPegging, useView } from './viewState';
import type { ViewHandle } from '@/view/handle';

/**
 * The peg tool: a prop follows the surface under the pointer, snaps to paths as drawing does, a click pins it there, a
 * drag slides one that is there.
 */

/** The prop that is pegged: the one in hand, else that of the last peg, else the first of the basket. */
export function peggedProp(): string | undefined {
  const { scene } = useDocument.getState();
  const { node } = useSelection.getState();
  if (node?.kind === 'prop') return node.id;
  const last = pegsInHand()?.pegs.at(-1)?.at(-1)?.prop;
  return scene.props.some((p) => p.id === last) ? last : scene.props[0]?.id;
}

function pegsInHand(): Pegs | undefined {
  const { arrangement } = useSelection.getState();
  const found = useDocument.getState().scene.arrangements.find((a) => a.id === arrangement);
  return has(found, 'pegs') ? found : undefined;
}

const local = (place: SurfacePlace) => ({ face: 0, u: place.u, v: place.v });

/** How a new prop stands at a place: facing as things of that steepness do, turned by what the wheel said. */
function stanceAt(place: SurfacePlace, { turnDeg, lift }: Pick<Stance, 'turnDeg' | 'lift'>): Stance {
  const normal = quatRotate(
    poseOn(place.around, local(place), { lift: 0, turnDeg: 0, lean: 1 }).rotation,
    [0, 1, 0],
  );
  const rest = turnTowards(place.around, local(place), 1, restingFront(normal));
  return { lift, turnDeg: rest + turnDeg, lean: 1 };
}

/** A peg as it stands on a place, turned and lifted by what the wheel said. */
export function standAt(
  { at, on, snap }: PegPlace,
  by: Pick<Stance, 'turnDeg' | 'lift'> = useView.getState().pegging,
): Pick<Peg, 'pin' | 'sits' | 'position' | 'rotation'> {
  const sits = seated(snap, by);
  if (sits) return sits;
  if (on) {
    const stance = stanceAt(on, by);
    return { pin: pinOf(on, stance), ...poseOn(on.around, local(on), stance) };
  }
  return { pin: null, ...freeAt(at, by.turnDeg * DEG, by.lift) };
}

/** A peg as it sits on a snap point; null where it snaps to none. */
function seated(
  snap: Snap | null,
  by: Partial<Sits>,
): Pick<Peg, 'pin' | 'sits' | 'position' | 'rotation'> | null {
  const place = snap?.tie && tiedNow(snap.tie, snap.at);
  if (!place) return null;
  const sits = { ...sitsOn(snap.tie!, place), ...by };
  return { pin: null, sits, ...poseOnSnap(place, sits) };
}

/** Upright on no surface. */
const freeAt = ([x, y, z]: Vec3, turn: number, lift: number): { position: Vec3; rotation: Quat } => ({
  position: [x, y + lift, z],
  rotation: [0, Math.sin(turn / 2), 0, Math.cos(turn / 2)],
});

const pinOf = (
  { surface, face, u, v, faces, uv }: SurfacePlace,
  stance: Stance,
): NonNullable<Peg['pin']> => ({
  surface,
  face,
  u,
  v,
  faces,
  uv,
  ...stance,
});

/** @param free asks for no snapping, in all of these */
export function pegAhead(view: ViewHandle, x: number, y: number, free: boolean): void {
  setPegging({ ahead: peggedProp() ? pegPlace(view, x, y, free) : null });
}

export function pegClick(view: ViewHandle, x: number, y: number, free: boolean): void {
  const prop = peggedProp();
  const place = pegPlace(view, x, y, free);
  if (!prop || !place) return;
  const { size } = useView.getState().pegging;
  put({ prop, ...standAt(place), scale: [size, size, size] });
}

/** A place by numbers: of the scene, or of a surface's texture. */
export type TypedPlace = { at: Vec3 } | { surface: string; uv: [number, number] };

/** Puts the prop in hand to a place by numbers. @returns whether there is such a place */
export async function pegTyped(place: TypedPlace): Promise<boolean> {
  const prop = peggedProp();
  if (!prop) return false;
  const { turnDeg, lift, size } = useView.getState().pegging;
  const turn = turnDeg * DEG;
  const front: Vec3 = [Math.sin(turn), 0, Math.cos(turn)];
  const scale: Vec3 = [size, size, size];
  if ('uv' in place) {
    const found = await engine().pinAtUv(place.surface, place.uv, { front, lift });
    if (found) put({ prop, ...found, scale });
    return found !== null;
  }
  const [pin] = await engine().pinPlaces([{ at: place.at, front, lift, within: ON_SURFACE }], 'nearest');
  put({ prop, pin, ...freeAt(place.at, turn, pin ? 0 : lift), scale });
  return true;
}

/** A prop let go over the scene stands there as a peg: on the surface under it, or free on the ground. */
export function pegDrop(view: ViewHandle, x: number, y: number, prop: string): void {
  const place = pegPlace(view, x, y, true);
  if (place) put({ prop, ...standAt(place, { turnDeg: 0, lift: 0 }), scale: [1, 1, 1] });
}

/** Adds a peg to those in hand, or begins some, and takes hold of it. */
function put(peg: Omit<Peg, 'id'>): void {
  const made = dispatch(addPegs, { id: pegsInHand()?.id ?? null, pegs: [peg] });
  if (!made) return;
  const [id, pegId] = made.split(' ');
  selectSlots(id, [pegNumber(pegId)]);
}

/** The wheel over a surface turns what is held; with Shift it lifts, with Alt it sizes. */
export function pegWheel(e: { deltaY: number; deltaX: number; shiftKey: boolean; altKey: boolean }): void {
  const { turnDeg, lift, size } = useView.getState().pegging;
  // With Shift some systems scroll sideways.
  const way = Math.sign(e.deltaY || e.deltaX) || 0;
  if (e.shiftKey) setPegging({ lift: Number((lift - way * 0.05).toFixed(3)) });
  else if (e.altKey)
    setPegging({ size: Number(Math.max(0.05, size * (way < 0 ? 1.05 : 1 / 1.05)).toFixed(3)) });
  else setPegging({ turnDeg: (turnDeg + way * 15) % 360 });
}

/** A peg under a pixel that may be slid. */
function pegUnder(view: ViewHandle, x: number, y: number): { id: string; peg: Peg } | null {
  const hit = pick(view, x, y);
  if (hit?.kind !== 'prop' || useDocument.getState().readOnly) return null;
  const found = useDocument.getState().scene.arrangements.find((a) => a.id === hit.arrangement);
  if (!has(found, 'pegs')) return null;
  const peg = pegOfSlot(found.pegs, hit.slot);
  return peg ? { id: found.id, peg } : null;
}

/** Slides a peg over the surfaces. It goes on facing as it did, as nearly as each place lets it. */
export class PegSlide {
  private front: Vec3;
  private constructor(
    private id: string,
    private peg: Peg,
  ) {
    this.front = quatRotate(rotationNow(id, peg), [0, 0, 1]);
  }

  /** Begins at a pixel; null where no peg is. */
  static at(view: ViewHandle, x: number, y: number): PegSlide | null {
    const found = pegUnder(view, x, y);
    if (!found) return null;
    selectSlots(found.id, [pegNumber(found.peg.id)]);
    endGesture();
    setPegging({ ahead: null });
    return new PegSlide(found.id, found.peg);
  }

  private get key() {
    return `slide ${this.peg.id}`;
  }

  move(view: ViewHandle, x: number, y: number, free: boolean): void {
    const held = { arrangement: this.id, slot: String(pegNumber(this.peg.id)) };
    const place = pegPlace(view, x, y, free, held);
    // One that is pinned is not let go beside its surface, unless a path holds it there.
    if (!place || (!place.on && !place.snap && this.peg.pin)) return;
    setPegging({ snap: place.snap });
    const values = this.standing(place);
    dispatch(setPeg, { id: this.id, peg: this.peg.id, values }, this.key);
  }

  private standing({ at, on, snap }: PegPlace): Partial<Peg> {
    const before = this.peg.sits;
    const sits = seated(snap, { turnDeg: before?.turnDeg ?? 0, lift: before?.lift ?? 0 });
    if (sits) return sits;
    if (!on) return { pin: null, ...freeAt(at, Math.atan2(this.front[0], this.front[2]), 0) };
    const lean = this.peg.pin?.lean ?? 1;
    const turnDeg = turnTowards(on.around, local(on), lean, this.front);
    const stance = { lift: this.peg.pin?.lift ?? 0, turnDeg, lean };
    const pose = poseOn(on.around, local(on), stance);
    this.front = quatRotate(pose.rotation, [0, 0, 1]);
    return { pin: pinOf(on, stance), ...pose };
  }

  end(): void {
    setPegging({ snap: null });
    endGesture();
  }

  cancel(): void {
    setPegging({ snap: null });
    cancelGesture(this.key);
  }
}

/** How a peg is turned right now, its surface's motion included. */
function rotationNow(id: string, peg: Peg): Quat {
  const p = engine().state.result.arrangements.get(id)?.placements;
  const row = p ? p.slot.indexOf(pegNumber(peg.id)) : -1;
  return row < 0 ? peg.rotation : ([...p!.rotation.subarray(row * 4, row * 4 + 4)] as Quat);
}
