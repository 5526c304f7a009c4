import { pegOfSlot } from '@/core/arrange/pegs/blocks';
import { has } from '@/core/arrange/registry';
import { pegNumber, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import { quatRotate, type Quat } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { poseOn, restingFront, turnTowards, type Stance } from '@/core/mesh/pin';
import { addPegs, setPeg } from '@/store/commands/pegs';
import { cancelGesture, dispatch, endGesture, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectSlots, useSelection } from '@/store/selection';
import { pick, pickPlace, type SurfacePlace } from './pick';
import { onPlane } from './project';
import { setPegging, useView } from './viewState';
import type { ViewHandle } from '@/view/handle';

/** The peg tool: a prop follows the surface under the pointer, a click pins it there, a drag slides one that is there. */

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
export function stanceAt(
  place: SurfacePlace,
  { turnDeg, lift }: Pick<Stance, 'turnDeg' | 'lift'> = useView.getState().pegging,
): Stance {
  const normal = quatRotate(
    poseOn(place.around, local(place), { lift: 0, turnDeg: 0, lean: 1 }).rotation,
    [0, 1, 0],
  );
  const rest = turnTowards(place.around, local(place), 1, restingFront(normal));
  return { lift, turnDeg: rest + turnDeg, lean: 1 };
}

export const poseAt = (place: SurfacePlace, stance: Stance) => poseOn(place.around, local(place), stance);

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

export function pegAhead(view: ViewHandle, x: number, y: number): void {
  setPegging({ ahead: peggedProp() ? pickPlace(view, x, y) : null });
}

export function pegClick(view: ViewHandle, x: number, y: number): void {
  const prop = peggedProp();
  const place = pickPlace(view, x, y);
  if (!prop || !place) return;
  const stance = stanceAt(place);
  const { size } = useView.getState().pegging;
  put({ prop, pin: pinOf(place, stance), ...poseAt(place, stance), scale: [size, size, size] });
}

/** A prop let go over the scene stands there as a peg: on the surface under it, or free on the ground. */
export function pegDrop(view: ViewHandle, x: number, y: number, prop: string): void {
  const place = pickPlace(view, x, y);
  if (place) {
    const stance = stanceAt(place, { turnDeg: 0, lift: 0 });
    return put({ prop, pin: pinOf(place, stance), ...poseAt(place, stance), scale: [1, 1, 1] });
  }
  const position = onPlane(view, x, y, [0, 1, 0], [0, 0, 0]);
  if (position) put({ prop, pin: null, position, rotation: [0, 0, 0, 1], scale: [1, 1, 1] });
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

  move(view: ViewHandle, x: number, y: number): void {
    const place = pickPlace(view, x, y);
    if (!place) return;
    const lean = this.peg.pin?.lean ?? 1;
    const turnDeg = turnTowards(place.around, local(place), lean, this.front);
    const stance = { lift: this.peg.pin?.lift ?? 0, turnDeg, lean };
    const pose = poseAt(place, stance);
    this.front = quatRotate(pose.rotation, [0, 0, 1]);
    dispatch(
      setPeg,
      { id: this.id, peg: this.peg.id, values: { pin: pinOf(place, stance), ...pose } },
      this.key,
    );
  }

  end(): void {
    endGesture();
  }

  cancel(): void {
    cancelGesture(this.key);
  }
}

/** How a peg is turned right now, its surface's motion included. */
function rotationNow(id: string, peg: Peg): Quat {
  const p = engine().state.result.arrangements.get(id)?.placements;
  const row = p ? p.slot.indexOf(pegNumber(peg.id)) : -1;
  return row < 0 ? peg.rotation : ([...p!.rotation.subarray(row * 4, row * 4 + 4)] as Quat);
}
