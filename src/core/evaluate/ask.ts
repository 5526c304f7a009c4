import type { ArrangeContext } from '../arrange/context';
import { needsOf, surfacesOf, type Arrangement } from '../arrange/registry';
import { GAP_REASONS, STATE, type GapReason, type Placements } from '../arrange/result';
import { slotName, slotParts } from '../arrange/slotId';
import { inKeepOut } from '../arrange/steps/gaps';
import { keepOutsAround } from '../arrange/steps/keepOuts';
import { maskPlacesOf } from '../arrange/steps/masked';
import type { HandCorrection, KeepOut } from '../arrange/steps/schema';
import type { Vec3 } from '../math/vec3';
import type { MaskPlaces } from '../mesh/mask/places';
import type { MaskLayerKind } from '../mesh/mask/schema';

/** What made a place of a scene what it is. */

/** One reason, of a step of an arrangement or of a mask. Numbers and ids; the words are the interface's. */
export type Cause = { node: string } & (
  | { why: 'placed'; prop: string }
  | { why: 'gap'; reason: GapReason; share?: number }
  | { why: 'hand'; slot: string; hand: HandCorrection }
  | { why: 'keep-out'; name: string; kind: KeepOut['kind'] }
  /** What a mask gives the place, 0–1, and what it is for. */
  | { why: 'mask'; mask: string; value: number; for: 'gaps' | 'spread' | 'size' | 'variation' }
  /** What one of its layers gives it; those that give least come first. */
  | { why: 'layer'; mask: string; layer: string; number: number; kind: MaskLayerKind; value: number }
  | { why: 'released' }
);

/** Why a slot has its prop, or is empty; nothing where there is no such slot. */
export function askSlot(a: Arrangement, p: Placements, slot: number, context: ArrangeContext): Cause[] {
  const row = p.slot.indexOf(slot);
  if (row < 0) return [];
  const node = a.id;
  const at: Vec3 = [p.position[row * 3], p.position[row * 3 + 1], p.position[row * 3 + 2]];
  const out: Cause[] = [];
  const reason = GAP_REASONS[p.state[row]];
  if (p.state[row] === STATE.placed) out.push({ node, why: 'placed', prop: p.props[p.prop[row]] });
  else out.push({ node, why: 'gap', reason, ...shareOf(a, reason) });
  const hand = 'hand' in a ? a.hand[slotName(slot)] : undefined;
  if (hand) out.push({ node, why: 'hand', slot: slotName(slot), hand });
  out.push(...keptOutBy(a, at, p.s[row], slot, context), ...masksAt(a, at, context));
  if (a.release?.on) out.push({ node, why: 'released' });
  return out;
}

/** What arrangements that could stand on a surface make of a place of it. */
export function askPlace(
  surface: string,
  at: Vec3,
  arrangements: readonly Arrangement[],
  context: ArrangeContext,
): Cause[] {
  return arrangements.flatMap((a): Cause[] => {
    if (!a.visible || !surfacesOf(needsOf(a), context.grounds?.() ?? []).includes(surface)) return [];
    return [...keptOutBy(a, at, NaN, NaN, context), ...masksAt(a, at, context)];
  });
}

/** How likely what has left a slot empty was, where that is a share. */
function shareOf(a: Arrangement, reason: GapReason): { share?: number } {
  const gaps = 'gaps' in a ? (a.gaps as { chance?: number; taken?: { share: number } }) : {};
  const share = reason === 'chance' ? gaps.chance : reason === 'taken' ? gaps.taken?.share : undefined;
  return share === undefined ? {} : { share };
}

/** The keep-outs that a place is in, each asked by itself. */
function keptOutBy(a: Arrangement, at: Vec3, s: number, slot: number, context: ArrangeContext): Cause[] {
  if (!('gaps' in a)) return [];
  const isIn = (k: KeepOut): boolean => {
    if (k.kind === 'range') {
      const { part, stroke } = slotParts(slot);
      return k.part === part && k.stroke === stroke && inKeepOut(k, s, false);
    }
    // What a mask keeps out is told by the mask.
    if (k.kind === 'mask' || k.kind === 'into') return false;
    const [test] = keepOutsAround({ id: a.id, seed: a.seed, gaps: { keepOuts: [k] } }, context, () => {});
    return test?.(at, slot) ?? false;
  };
  return (a.gaps.keepOuts as readonly KeepOut[])
    .filter(isIn)
    .map(({ name, kind }) => ({ node: a.id, why: 'keep-out', name, kind }));
}

/** What the masks of an arrangement give a place, and their layers, those first that give least. */
function masksAt(a: Arrangement, at: Vec3, context: ArrangeContext): Cause[] {
  const uses = new Map<string, Extract<Cause, { why: 'mask' }>['for']>();
  const note = (id: unknown, what: Extract<Cause, { why: 'mask' }>['for']) =>
    typeof id === 'string' && !uses.has(id) && uses.set(id, what);
  const { gaps, spread, variation } = a as {
    gaps?: { keepOuts: readonly KeepOut[] };
    spread?: { mask?: string | null };
    variation?: { mask?: string | null; sizeMask?: string | null };
  };
  note(spread?.mask, 'spread');
  for (const k of gaps?.keepOuts ?? []) if (k.kind === 'mask') note(k.mask, 'gaps');
  note(variation?.sizeMask, 'size');
  note(variation?.mask, 'variation');
  if (uses.size === 0) return [];
  const places = maskPlacesOf(a.id, Float64Array.from(at), context);
  return [...uses].flatMap(([mask, what]) => maskAt(a.id, mask, what, places, context));
}

function maskAt(
  node: string,
  mask: string,
  what: Extract<Cause, { why: 'mask' }>['for'],
  places: MaskPlaces,
  context: ArrangeContext,
): Cause[] {
  const field = context.mask?.(mask);
  if (!field) return [];
  const layers = field.mask.layers
    .map((layer, i) => ({ layer, number: i + 1 }))
    .filter(({ layer }) => layer.on)
    .map(({ layer, number }): Extract<Cause, { why: 'layer' }> => {
      const [value] = field.layerAt(layer, places);
      return { node, why: 'layer', mask, layer: layer.id, number, kind: layer.kind, value };
    })
    .sort((x, y) => x.value - y.value || x.number - y.number);
  return [{ node, why: 'mask', mask, value: field.at(places)[0], for: what }, ...layers];
}
