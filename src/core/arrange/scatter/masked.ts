import type { MaskField } from '../../mesh/mask/field';
import { changesSince } from '../../mesh/mask/changes';
import { placesBelow, placesNear, placesOn, type MaskGround, type MaskPlaces } from '../../mesh/mask/places';
import type { ArrangeContext } from '../context';
import type { Say } from '../say';
import { decidedByHand } from '../steps/gaps';
import { standsBy } from '../steps/masked';
import { masksOfSteps } from '../steps/masksOf';
import type { Scatter } from './schema';
import type { SiteList } from './sites';

/** Which places of a list its mask lets stand, rising (null: all), and what masks and brush read at all of them. */
export interface MaskedPlaces {
  rows: Uint32Array | null;
  reads?: MaskPlaces;
}

/**
 * Leaves out what the mask of a scatter refuses: each place by a draw of its own, so that moving the mask changes
 * nothing where it gives what it gave. What a hand decided to keep stays.
 */
export function maskedPlaces(
  scatter: Scatter,
  list: SiteList,
  context: ArrangeContext,
  say: Say,
): MaskedPlaces {
  const { mask } = scatter.spread;
  const field = mask === null ? undefined : context.mask?.(mask);
  if (mask !== null && !field) say('mask-missing', { mask }, 'warning');
  if (!field && masksOfSteps(scatter).length === 0 && scatter.brushed.length === 0) return { rows: null };
  const reads = readAt(scatter, list, context);
  if (!field) return { rows: null, reads };
  const values = field.at(
    reads,
    (kind) => kind === 'mask-no-uv' && say(kind, { mask: field.mask.id }, 'warning'),
  );
  const decided = decidedByHand(scatter.hand);
  const standing = standingIn(list, values, scatter.seed);
  const { count, rows } = decided.size > 0 ? orByHand(list, standing, decided) : standing;
  if (count === 0 && list.count > 0)
    say('mask-refuses', { mask: field.mask.id, ...refusing(field, reads) }, 'warning');
  return { rows: count === list.count ? null : rows, reads };
}

/** Which places of a list stand by the values of a mask, and how many. */
interface Standing {
  seed: number;
  values: Float64Array;
  stands: Uint8Array;
  count: number;
  /** Those that stand, rising. */
  rows: Uint32Array;
}
const lastStanding = new WeakMap<SiteList, Standing>();

/** Draws for the places at which the mask gives another value than it did the last time. */
function standingIn(list: SiteList, values: Float64Array, seed: number): Standing {
  const have = lastStanding.get(list);
  const last = have?.seed === seed ? have : undefined;
  const stands = last?.stands ?? new Uint8Array(list.count);
  let count = last?.count ?? 0;
  const standsAt = standsBy(seed);
  let changed = false;
  const look = (i: number) => {
    const now = standsAt(values[i], list.slot[i]) ? 1 : 0;
    changed ||= now !== stands[i];
    count += now - stands[i];
    stands[i] = now;
  };
  const changes = last && changesSince(values, last.values);
  if (changes) changes.forEach(look);
  else if (last?.values !== values)
    for (let i = 0; i < list.count; i++) if (!last || last.values[i] !== values[i]) look(i);
  const rows = last && count === last.count && !changed ? last.rows : rowsWhere(stands, count);
  const made = { seed, values, stands, count, rows };
  lastStanding.set(list, made);
  return made;
}

function rowsWhere(stands: Uint8Array, count: number): Uint32Array {
  const rows = new Uint32Array(count);
  for (let i = 0, n = 0; n < count; i++) if (stands[i] === 1) rows[n++] = i;
  return rows;
}

/** Those that stand, and those that a hand decided to keep. */
function orByHand(
  { count, slot }: SiteList,
  { stands }: Standing,
  decided: ReadonlyMap<number, boolean>,
): Pick<Standing, 'count' | 'rows'> {
  const all = Uint8Array.from(stands, (s, i) => (s === 1 || decided.get(slot[i]) === false ? 1 : 0));
  const kept = all.subarray(0, count).reduce((sum, s) => sum + s, 0);
  return { count: kept, rows: rowsWhere(all, kept) };
}

/** The first layer that refuses everything by itself; none where only all of them together do. */
function refusing(field: MaskField, reads: MaskPlaces): { number?: number; layer?: string } {
  if (field.mask.combine !== 'product') return {};
  const at = field.mask.layers.findIndex((l) => l.on && field.layerAt(l, reads).every((v) => v === 0));
  return at < 0 ? {} : { number: at + 1, layer: field.mask.layers[at].kind };
}

interface Known {
  of: readonly object[];
  key: string;
  places: MaskPlaces;
}

/** What was read before of the same places. */
const known = new WeakMap<SiteList, Known>();

function readAt(scatter: Scatter, list: SiteList, context: ArrangeContext): MaskPlaces {
  const grounds = context.maskGrounds?.(scatter.id) ?? [];
  const { over, ground } = scatter;
  const of = grounds.flatMap((g) => [g.read, g.now ?? g.read]);
  const key = JSON.stringify([grounds.map((g) => g.id), over.kind, ground.mode, ground.above]);
  const have = known.get(list);
  if (have && have.key === key && have.of.length === of.length && of.every((o, i) => o === have.of[i]))
    return have.places;
  const places = newPlaces(scatter, list, grounds);
  known.set(list, { of, key, places });
  return places;
}

function newPlaces({ over, ground }: Scatter, list: SiteList, grounds: readonly MaskGround[]): MaskPlaces {
  const position = list.position.subarray(0, list.count * 3);
  if (over.kind === 'surfaces') {
    const on = list.surfaces(grounds.map((g) => g.id));
    const face = list.face.subarray(0, list.count);
    const u = Float64Array.from(face, (_, i) => list.weights[i * 2]);
    const v = Float64Array.from(face, (_, i) => list.weights[i * 2 + 1]);
    return placesOn(grounds, on, face, u, v);
  }
  if (over.kind === 'paths' && ground.mode === 'land') return placesBelow(position, grounds, ground.above);
  return placesNear(position, grounds);
}
