import { quatMultiply, writeUnitQuat, type Quat } from '../math/quat';
import { cross, type Vec3 } from '../math/vec3';
import type { PropShape } from '../mesh/contact/support';
import type { Bounds } from '../mesh/mesh';
import { shapeOf, type ArrangeContext } from './context';
import { allocatePlacements, STATE, type Finding, type Placements } from './result';
import type { Say } from './say';
import { isPlain, settlePlain } from './settlePlain';
import type { Settled, Sites } from './sites';
import { parseSlotName } from './slotId';
import { collidingRows, giveWay } from './steps/collide';
import { aimAt, type Aim } from './steps/aim';
import { shapesAsOne } from './steps/asOne';
import { turnTipRoll, writeHeading, type Facings } from './steps/facing';
import { closeUp, decidedByHand, markGaps } from './steps/gaps';
import { groundStep, type GroundStep } from './steps/ground';
import type { Met } from './steps/groundContact';
import { lessen, masksOnSites, type SiteMasks } from './steps/maskedSites';
import type { Pose } from './steps/onSurface';
import { lockedNow, type Lock } from './steps/lock';
import { Misplaced } from './steps/misplaced';
import { placedBoxes } from './steps/placedBoxes';
import type { Facing, Gaps, Ground, Hand, HandCorrection, Variation } from './steps/schema';
import type { Travel } from './travel/schema';
import { travelled } from './travel/travelled';
import { waverer, type Wavered } from './steps/waver';
import { tintsOf, unvaried, VARIED, varier, type Varied, type Varier } from './steps/variation';

/** How what stands on sites is turned and sized there. */
export type Posing = Pick<
  Facing,
  'heading' | 'compassDeg' | 'target' | 'alternate' | 'lift' | 'turnDeg' | 'tipDeg' | 'rollDeg' | 'size'
>;

/** The steps of a recipe that are the same for every kind, and the seed that they draw from. */
export interface Recipe {
  id: string;
  seed: number;
  posing: Posing;
  gaps: Gaps;
  /** Absent for kinds that have none of it. */
  hand?: Hand;
  variation?: Variation;
  ground?: Ground;
  travel?: Travel;
}

/**
 * What is settled, with every field in its place. The loop over slots reads some thirty of them a slot: objects of one
 * shape are read much faster than those of as many shapes as there are kinds.
 */
const shaped = {
  posing: (p: Posing): Posing => ({
    heading: p.heading,
    compassDeg: p.compassDeg,
    target: p.target,
    alternate: p.alternate,
    lift: p.lift,
    turnDeg: p.turnDeg,
    tipDeg: p.tipDeg,
    rollDeg: p.rollDeg,
    size: p.size,
  }),
  recipe: (r: Recipe): Recipe => ({
    id: r.id,
    seed: r.seed,
    posing: shaped.posing(r.posing),
    gaps: r.gaps,
    hand: r.hand,
    variation: r.variation,
    ground: r.ground,
    travel: r.travel,
  }),
  sites: (s: Sites): Sites => ({
    slot: s.slot,
    prop: s.prop,
    s: s.s,
    position: s.position,
    front: s.front,
    up: s.up,
    rotation: s.rotation,
    outward: s.outward,
    size: s.size,
    scale: s.scale,
    turn: s.turn,
    fixed: s.fixed,
    odd: s.odd,
    faced: s.faced,
    otherSide: s.otherSide,
    axes: s.axes,
    before: s.before,
    state: s.state,
    along: s.along,
    lines: s.lines,
    around: s.around,
    past: s.past,
    keptOut: s.keptOut,
    moved: s.moved,
    held: s.held,
    lean: s.lean,
    made: s.made,
    asks: s.asks,
    endToEnd: s.endToEnd,
    nudged: s.nudged,
    reads: s.reads,
    settled: s.settled,
  }),
};

/** A facing that adds nothing to how a place lies. */
export const AS_IT_LIES: Posing = {
  heading: 'along',
  compassDeg: 0,
  target: { kind: 'point', position: [0, 0, 0] },
  alternate: 'none',
  lift: 0,
  turnDeg: 0,
  tipDeg: 0,
  rollDeg: 0,
  size: 1,
};

const turnsWithTilt = ({ heading }: Posing) => heading === 'compass' || heading === 'target';

const STILL: Wavered = [0, 0, 0];

interface Work {
  context: ArrangeContext;
  /** Locked ones that are not where they were put on their surfaces. */
  misplaced: Misplaced;
  recipe: Recipe;
  hand: Map<number, HandCorrection>;
  decided: Map<number, boolean>;
  waver: ReturnType<typeof waverer>;
  wavered: Wavered;
  varier: Varier | null;
  varied: Varied;
  masks: SiteMasks | null;
  aim: Aim | null;
  ground: GroundStep | null;
  /** Those that have met the ground and wait for all others to have. */
  landings: Landing[];
  /** The frame of a slot that was moved over what it lies on, as the first row. */
  moved: Facings & { position: Float64Array };
  pose: Pose;
  settled: Settled;
}

/**
 * What comes to stand on sites, in one order for every kind: how far they have travelled, gaps, the hand's choices, size, position, pose, ground
 * (probe and lean, the pose again on the leaned frame, contact), overlap, tint. Order comes before, since how long
 * things are may say where they stand.
 * @param from within each of them gaps are counted in a row, and closed up
 * @param props ids that the sites' `prop` counts, and their boxes
 */
export function settle(
  given: Recipe,
  from: readonly Sites[],
  props: { ids: string[]; bounds: (Bounds | undefined)[] },
  context: ArrangeContext,
  say: Say,
): { placements: Placements; findings: Finding[] } {
  const stretches = given.travel?.on ? travelled(given.travel, from, context, say) : from;
  const total = stretches.reduce((sum, sites) => sum + sites.slot.length, 0);
  const out = allocatePlacements(total, props.ids);
  const recipe = shaped.recipe(given);
  const { posing } = recipe;
  const aim = posing.heading === 'target' ? aimAt(posing.target, context) : undefined;
  if (posing.heading === 'target' && !aim) say('target-missing', {});
  // The shape of a bundle costs as much as all that it holds.
  const shapes = recipe.ground ? props.ids.map((id) => shapeOf(context, id)) : [];
  const asOne = landsAsOne(given, stretches, props, shapes, context);
  const work: Work = {
    context,
    misplaced: new Misplaced(),
    recipe,
    hand: new Map(Object.entries(recipe.hand ?? {}).map(([name, h]) => [parseSlotName(name), h])),
    decided: decidedByHand(recipe.hand ?? {}),
    varier: recipe.variation ? varier(recipe.variation, recipe.seed, props.ids) : null,
    waver: recipe.variation ? waverer(recipe.variation, recipe.seed) : null,
    wavered: [0, 0, 0],
    varied: unvaried(),
    masks: null,
    aim: aim ?? null,
    ground: recipe.ground ? groundStep(recipe.ground, context, recipe.seed, shapes, asOne) : null,
    landings: [],
    moved: {
      position: new Float64Array(3),
      front: new Float64Array(3),
      up: new Float64Array(3),
      outward: 1,
    },
    pose: { position: [0, 0, 0], front: [0, 0, 1], up: [0, 1, 0] },
    settled: { i: 0, place: 0, row: 0, locked: false, lift: 0, turnDeg: 0 },
  };
  if (work.ground)
    out.before = { position: new Float64Array(total * 3), rotation: new Float64Array(total * 4) };
  let start = 0;
  for (const sites of stretches) {
    settleStretch(shaped.sites(sites), work, out, start);
    start += sites.slot.length;
  }
  work.misplaced.tell(say, context);
  if (given.travel?.on && out.bent) say('travel-shaped', {}, 'warning');
  const isKept = (row: number) => work.decided.get(out.slot[row]) === false;
  if (recipe.gaps.collide === 'leave-out') collidingRows(out, props.bounds, true, isKept);
  for (const k of recipe.gaps.keepOuts) {
    const others = k.kind === 'into' && context.arrangement?.(k.of);
    if (others) giveWay(out, props.bounds, placedBoxes(others, context), isKept);
  }
  const tint = recipe.variation && tintsOf(recipe.variation, recipe.seed, out.slot);
  if (tint) out.tint = tint;
  return { placements: out, findings: work.ground?.findings(recipe.id) ?? [] };
}

/**
 * What of a row may touch the ground, with all that lands as one with it: found where they stand before they land.
 * @returns undefined where nothing does
 */
function landsAsOne(
  given: Recipe,
  stretches: readonly Sites[],
  props: { ids: string[]; bounds: (Bounds | undefined)[] },
  shapes: (PropShape | undefined)[],
  context: ArrangeContext,
): ((out: Placements, row: number) => PropShape | undefined) | undefined {
  const { ground } = given;
  if (!ground || ground.mode === 'none' || ground.contact === 'foot') return undefined;
  const sitting = context.sitting?.(given.id);
  if (!sitting) return undefined;
  const { placements } = settle(
    { ...given, travel: undefined, ground: undefined, gaps: { ...given.gaps, collide: 'ignore' } },
    stretches.map((sites) => ({ ...sites, settled: undefined })),
    props,
    context,
    () => {},
  );
  const shapeAt = shapesAsOne(placements, sitting(placements), shapes, context);
  return (_, row) => shapeAt(row);
}

/** Fills rows from `start` on. */
function settleStretch(sites: Sites, work: Work, out: Placements, start: number): void {
  const { gaps, seed } = work.recipe;
  const { keptOut, past } = sites;
  const n = sites.slot.length;
  if (sites.fixed)
    for (let i = 0; i < n; i++)
      if (sites.fixed(i) && !work.decided.has(sites.slot[i])) work.decided.set(sites.slot[i], false);
  const state = out.state.subarray(start, start + n);
  const isKeptOut = keptOut ? (place: number) => !past?.[place] && keptOut(place) : () => false;
  const { before, lines, around } = sites;
  const row = { id: sites.slot, isPause: (i: number) => sites.prop[i] < 0, isKeptOut, before, lines, around };
  if (sites.state) state.set(sites.state);
  else markGaps(gaps, row, { seed, hand: work.decided }, state);
  const to = gaps.after === 'close' && !sites.endToEnd ? closeUp(state, isKeptOut) : null;
  out.slot.set(sites.slot, start);
  out.prop.set(sites.prop, start);
  for (let i = 0; i < n; i++) {
    const place = to ? to[i] : i;
    if (past?.[place] && state[i] === STATE.placed) state[i] = STATE.pastEnd;
    out.s[start + i] = sites.s[place];
    if (sites.made) (out.made ??= new Float64Array(out.count))[start + i] = sites.made[place];
  }
  work.masks = masksOnSites(sites, work.recipe, work.context);
  const asked = work.hand.size > 0 || work.ground || work.aim || work.masks || (work.waver && sites.along);
  const columns = !asked && isPlain(sites) ? (work.varier ? work.varier.columns(sites.slot) : []) : null;
  if (columns) settlePlain(sites, work.recipe.posing, columns, to, out, start);
  else for (let i = 0; i < n; i++) settleSlot(sites, work, i, to ? to[i] : i, out, start + i);
  const { ground, landings } = work;
  if (!ground || landings.length === 0) return;
  ground.restAll();
  for (const landing of landings) {
    vary(sites, work, landing.i, landing.place);
    const leaned = leanOnto(sites, work, ground, landing, out);
    if (leaned) Object.assign(landing, { frame: ofItsOwn(leaned), r: 0 });
  }
  ground.dropAll(out, landings);
  for (const landing of landings) putDown(sites, work, ground, landing, out);
  landings.length = 0;
}

/** Draws what is varied of a slot `i` at a place. */
function vary(sites: Sites, { varier: draws, varied, masks }: Work, i: number, place: number): void {
  if (!draws) return;
  draws.vary(sites.slot[i], sites.prop[i], varied);
  if (masks?.amount) lessen(varied, masks.amount[place]);
}

/** One slot `i` at the place `place`: another one where the others have closed up. */
function settleSlot(sites: Sites, work: Work, i: number, place: number, out: Placements, row: number): void {
  const { recipe, varier: draws } = work;
  const ground = sites.held?.(place) ? null : work.ground;
  const { posing } = recipe;
  const slot = sites.slot[i];
  const hand = work.hand.size > 0 ? work.hand.get(slot) : undefined;
  const o = row * 3;
  if (hand?.lock) {
    lock(hand.lock, slot, work, out, row);
    if (sites.settled) tell(sites, work, out, i, place, row, true, 0, 0);
    return;
  }
  vary(sites, work, i, place);
  const v = draws ? work.varied : null;
  const along = sites.endToEnd ? 0 : (v ? v[VARIED.along] : 0) + (sites.nudged ? 0 : (hand?.along ?? 0));
  const wavers = work.waver !== null && sites.along !== undefined;
  if (wavers) work.waver!(sites.along!, sites.s[place], work.wavered);
  const wavered = wavers ? work.wavered : STILL;
  const side = (v ? v[VARIED.side] : 0) + (hand?.side ?? 0) + wavered[0];
  const lift = posing.lift + (v ? v[VARIED.lift] : 0) + (hand?.lift ?? 0) + wavered[1];
  const walked =
    sites.moved && (sites.asks || along !== 0 || side !== 0)
      ? sites.moved(place, along, side, work.pose)
      : false;
  writeSize(sites, work, i, place, hand, out, row);
  if (walked === 'off') {
    if (out.state[row] === STATE.placed) out.state[row] = STATE.missed;
    out.rotation[row * 4 + 3] = 1;
    return;
  }
  let frame: Facings & { position: Float64Array } = sites;
  let r = place * 3;
  if (walked) {
    frame = work.moved;
    frame.outward = sites.outward;
    for (let a = 0; a < 3; a++) {
      frame.position[a] = work.pose.position[a];
      frame.front[a] = work.pose.front[a];
      frame.up[a] = work.pose.up[a];
    }
    r = 0;
  }
  const { position, front, up } = frame;
  const axes = sites.axes;
  const right = walked ? 0 : axes ? side * axes[place * 3] : side;
  const on = walked ? 0 : axes ? along * axes[place * 3 + 2] : along;
  const raised = axes ? lift * axes[place * 3 + 1] : lift;
  // On the ground it is lifted from there.
  const above = ground ? 0 : raised;
  // Right of the way along is front × up.
  out.position[o] =
    position[r] +
    front[r] * on +
    (front[r + 1] * up[r + 2] - front[r + 2] * up[r + 1]) * right +
    up[r] * above;
  out.position[o + 1] =
    position[r + 1] +
    front[r + 1] * on +
    (front[r + 2] * up[r] - front[r] * up[r + 2]) * right +
    up[r + 1] * above;
  out.position[o + 2] =
    position[r + 2] +
    front[r + 2] * on +
    (front[r] * up[r + 1] - front[r + 1] * up[r]) * right +
    up[r + 2] * above;
  const turnDeg = (hand?.turnDeg ?? 0) + (sites.turn ? sites.turn(i) : 0) + wavered[2];
  writeTurn(sites, work, frame, r, i, place, turnDeg, out, row);
  if (out.before) keepBefore(out, out.before, row);
  const turned = posing.alternate === 'turn' && sites.odd(i) ? 180 : 0;
  const turns = posing.turnDeg + turned + (v ? v[VARIED.turnDeg] : 0) + turnDeg;
  if (!ground) {
    if (sites.settled) tell(sites, work, out, i, place, row, false, lift, turns);
    return;
  }
  const met = ground.meet(out, row, slot, frame, r);
  const landing = { i, place, row, met, frame, r, raised, lift, turnDeg, turns };
  if (ground.landsTogether) {
    work.landings.push(walked ? { ...landing, frame: ofItsOwn(frame) } : landing);
    return;
  }
  const leaned = leanOnto(sites, work, ground, landing, out);
  putDown(sites, work, ground, leaned ? { ...landing, frame: leaned, r: 0 } : landing, out);
}

/** A slot that is posed and has met the ground, or has found none. */
interface Landing {
  i: number;
  place: number;
  row: number;
  met: Met | null;
  /** As it is posed, from `r` on. */
  frame: Facings;
  r: number;
  /** How far it is lifted, in its frame and as it was asked for; metres. */
  raised: number;
  lift: number;
  /** Degrees about its up beside its heading: by hand and the like, and in all. */
  turnDeg: number;
  turns: number;
}

/** A frame of one row that stays as it is when its arrays are used for the next. */
const ofItsOwn = ({ front, up, outward }: Facings): Facings => ({
  front: front.slice(0, 3),
  up: up.slice(0, 3),
  outward,
});

/**
 * Leans a slot and poses it again. Its varied values stand in `work.varied`.
 * @returns the frame it is posed on now, as its first row, until the next is asked for; null where it has not leaned
 */
function leanOnto(
  sites: Sites,
  work: Work,
  ground: GroundStep,
  { i, place, row, met, frame, r, turnDeg }: Landing,
  out: Placements,
): Facings | null {
  let leaned = met && ground.lean(frame, r, met.normal);
  if (!leaned) return null;
  writeTurn(sites, work, leaned, 0, i, place, turnDeg, out, row);
  // A heading of the scene lies another way on another tilt, and that may want another tilt: it has the last word.
  if (ground.tilts && turnsWithTilt(work.recipe.posing)) {
    leaned = ground.lean(frame, r, ground.atRest(out, row, met!, leaned, 0)) ?? leaned;
    writeTurn(sites, work, leaned, 0, i, place, turnDeg, out, row);
    tiltRow(out, row, leaned, ground.atRest(out, row, met!, leaned, 0));
  }
  return leaned;
}

/** Puts a slot that has leaned onto what it met. */
function putDown(sites: Sites, work: Work, ground: GroundStep, landing: Landing, out: Placements): void {
  const { i, place, row, met, frame, r, raised, lift, turns } = landing;
  if (met) ground.rest(out, row, out.slot[row], met, frame, r, raised);
  else for (let a = 0; a < 3; a++) out.position[row * 3 + a] += frame.up[r + a] * raised;
  ground.landed(out, row);
  if (sites.settled) tell(sites, work, out, i, place, row, false, lift, turns);
}

/** Keeps where a row stood before it landed. */
function keepBefore(out: Placements, before: NonNullable<Placements['before']>, row: number): void {
  for (let o = row * 3; o < row * 3 + 3; o++) before.position[o] = out.position[o];
  for (let o = row * 4; o < row * 4 + 4; o++) before.rotation[o] = out.rotation[o];
}

/** Turns a row by the shortest way so that the up of its frame becomes a normal. */
function tiltRow(out: Placements, row: number, { up }: Facings, normal: Vec3): void {
  const [x, y, z] = cross([up[0], up[1], up[2]], normal);
  const q: Quat = [x, y, z, 1 + up[0] * normal[0] + up[1] * normal[1] + up[2] * normal[2]];
  const own = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  writeUnitQuat(out.rotation, row * 4, quatMultiply(q, own));
  up.set(normal);
}

function tell(
  sites: Sites,
  { settled }: Work,
  out: Placements,
  i: number,
  place: number,
  row: number,
  locked: boolean,
  lift: number,
  turnDeg: number,
): void {
  settled.i = i;
  settled.place = place;
  settled.row = row;
  settled.locked = locked;
  settled.lift = lift;
  settled.turnDeg = turnDeg;
  sites.settled!(settled, out);
}

/** What stays just so, whatever else changes. */
function lock(held: Lock, slot: number, { context, misplaced }: Work, out: Placements, row: number): void {
  const { position, rotation } = lockedNow(held, slot, context, misplaced);
  out.position.set(position, row * 3);
  writeUnitQuat(out.rotation, row * 4, rotation);
  out.scale.set(held.scale, row * 3);
  if (out.before) keepBefore(out, out.before, row);
}

function writeSize(
  sites: Sites,
  { recipe, varier: draws, varied: v, masks }: Work,
  i: number,
  place: number,
  hand: HandCorrection | undefined,
  out: Placements,
  row: number,
): void {
  const { posing } = recipe;
  const own = sites.size ? sites.size(i, place) : 1;
  const sized = masks?.size ? masks.size[place] : 1;
  const size = posing.size * own * sized * (draws ? v[VARIED.size] : 1) * (hand?.size ?? 1);
  const flips = posing.alternate === 'mirror' && sites.odd(i);
  const handed = sites.axes !== undefined && sites.axes[place * 3] < 0;
  const mirrored = (flips !== (draws !== null && v[VARIED.mirrored] > 0)) !== handed;
  out.scale[row * 3] = size * (draws ? v[VARIED.sizeX] : 1) * (mirrored ? -1 : 1);
  out.scale[row * 3 + 1] = size * (draws ? v[VARIED.sizeY] : 1);
  out.scale[row * 3 + 2] = size * (draws ? v[VARIED.sizeZ] : 1);
  if (sites.scale) for (let a = 0; a < 3; a++) out.scale[row * 3 + a] *= sites.scale[place * 3 + a];
}

/** Writes the rotation of slot `i` on a frame whose row begins at `r`. Its varied values stand in `work.varied`. */
function writeTurn(
  sites: Sites,
  { recipe, varier: draws, varied: v, aim }: Work,
  frame: Facings,
  r: number,
  i: number,
  place: number,
  byHandDeg: number,
  out: Placements,
  row: number,
): void {
  const { posing } = recipe;
  const f = row * 4;
  // On what is mirrored left to right everything turns the other way.
  const k = sites.axes !== undefined && sites.axes[place * 3] < 0 ? -1 : 1;
  const to = aim && towards(aim, out.position, row * 3);
  if (sites.rotation && frame === sites && posing.heading === 'along')
    for (let a = 0; a < 4; a++) out.rotation[f + a] = sites.rotation[place * 4 + a];
  else
    writeHeading(
      out.rotation,
      f,
      sites.faced?.[place] ? AS_IT_LIES : posing,
      frame,
      r,
      to,
      sites.otherSide?.(i) ?? false,
    );
  const turned = posing.alternate === 'turn' && sites.odd(i) ? 180 : 0;
  turnTipRoll(out.rotation, f, (posing.turnDeg + turned) * k, posing.tipDeg, posing.rollDeg * k);
  if (draws) turnTipRoll(out.rotation, f, v[VARIED.turnDeg] * k, v[VARIED.tipDeg], v[VARIED.rollDeg] * k);
  if (byHandDeg !== 0) turnTipRoll(out.rotation, f, byHandDeg * k, 0, 0);
}

/** The direction from the foot in row `o` to what it looks at. */
function towards(aim: Aim, position: Float64Array, o: number): Vec3 | null {
  const at: Vec3 = [position[o], position[o + 1], position[o + 2]];
  const to = aim(at);
  return to && [to[0] - at[0], to[1] - at[1], to[2] - at[2]];
}
