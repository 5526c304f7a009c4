import type { Run } from '@/core/arrange/run/schema';
import { propsOfOrder, type Gaps, type Ground, type OrderEntry } from '@/core/arrange/steps/schema';
import type { SpacingFacts } from '@/core/arrange/result';
import type { Scene } from '@/core/scene/schema';
import { degrees, metres, plural } from '@/words/numbers';

/** Each closed step of a run's recipe as a short phrase. */

const times = (t: readonly [number, number]) =>
  t[0] === t[1] ? (t[0] === 1 ? '' : ` ×${t[0]}`) : ` ×${Math.min(...t)}–${Math.max(...t)}`;

export function propsPhrase(run: Pick<Run, 'order'>, scene: Scene): string {
  const { entries, mode, bag } = run.order;
  if (entries.length === 0) return propsOfOrder(run.order).length ? 'Special places only' : 'None yet';
  const name = ({ item }: OrderEntry): string => {
    if (item.kind === 'group') return `(${item.entries.map((e) => name(e) + times(e.times)).join(', ')})`;
    return item.kind === 'pause' ? 'pause' : (scene.props.find((p) => p.id === item.prop)?.name ?? 'missing');
  };
  if (mode === 'mix') {
    const total = entries.reduce((sum, e) => sum + e.weight, 0);
    const share = (w: number) => (total > 0 ? ` ${Math.round((w / total) * 100)}%` : '');
    if (entries.length > 3) return `${bag ? 'Bag' : 'Mix'} of ${entries.length}`;
    return entries.map((e) => name(e) + (entries.length > 1 ? share(e.weight) : '')).join(', ');
  }
  if (entries.length > 3) return `Pattern of ${entries.length}`;
  return entries
    .map((e) => name(e) + (entries.length > 1 || e.times[1] !== 1 ? times(e.times) || ' ×1' : ''))
    .join(', ');
}

export function pathPhrase(run: Run, scene: Scene): string {
  if (run.paths.length === 0) return 'None yet';
  const name = scene.paths.find((p) => p.id === run.paths[0].path)?.name ?? 'missing';
  const more = run.paths.length > 1 ? ` and ${run.paths.length - 1} more` : '';
  const { side } = run.facing;
  const off = side === 0 ? '' : `, ${metres(Math.abs(side), scene.units)} ${side > 0 ? 'right' : 'left'}`;
  return `${name}${more}${off}`;
}

const LEFTOVER = { even: 'evened out', end: 'rest at end', centre: 'centred' } as const;

export function spacingPhrase(run: Run, facts: SpacingFacts, scene: Scene): string {
  const { spacing } = run;
  const loose = spacing.looseBy > 0 ? `, ± ${metres(spacing.looseBy, scene.units)}` : '';
  const { rows } = spacing;
  const many =
    rows.side === 'alternate'
      ? ', alternating'
      : rows.side === 'both'
        ? `, ${plural(rows.count * 2, 'row')}`
        : rows.count > 1
          ? `, ${plural(rows.count, 'row')}`
          : '';
  if (spacing.mode === 'count')
    return `${plural(spacing.count, 'slot')}${spacing.count > 1 ? `, ${pitchOf(facts, scene)} apart` : ''}${loose}${many}`;
  if (spacing.mode === 'touch') {
    const air = spacing.clearance === 0 ? '' : `, ${metres(spacing.clearance, scene.units)} between`;
    return `End to end${air}${many}`;
  }
  if (spacing.mode === 'divide') {
    const per = spacing.per === 'whole' ? '' : ` a ${spacing.per}`;
    return `${spacing.parts} parts${per}${spacing.every > 1 ? `, every ${ordinal(spacing.every)}` : ''}${many}`;
  }
  if (spacing.mode === 'points') return `At the ${spacing.at}${many}`;
  return `${facts.pitch ? pitchOf(facts, scene) : metres(facts.askedPitch, scene.units)}, ${LEFTOVER[spacing.leftover]}${loose}${many}`;
}

/** The pitch, or from which to which it goes over several paths. */
function pitchOf({ pitches: [least, most] }: SpacingFacts, scene: Scene): string {
  const [a, b] = [least, most].map((v) => metres(v, scene.units));
  return a === b ? a : `${a} to ${b}`;
}

const ordinal = (n: number) => (n === 2 ? '2nd' : n === 3 ? '3rd' : `${n}th`);

/** What the leftover rule made of the pitch, in a sentence. */
export function spacingNote(run: Run, facts: SpacingFacts, slots: number, scene: Scene): string {
  if (slots === 0) return 'No slot fits yet.';
  const room = metres(facts.usable, scene.units, 1);
  const fit = `${plural(slots, 'slot')} ${slots === 1 ? 'fits' : 'fit'} in ${room}`;
  if (run.spacing.mode === 'count')
    return run.spacing.count > 1 ? `${fit}; the pitch is ${pitchOf(facts, scene)}.` : `${fit}.`;
  if (run.spacing.mode === 'touch') {
    const scaled =
      Math.abs(facts.factor - 1) > 1e-6 ? `; all are scaled to ${(facts.factor * 100).toFixed(1)}%` : '';
    return `${fit}${scaled}.`;
  }
  if (run.spacing.mode !== 'pitch') return `${fit}.`;
  if (run.spacing.leftover === 'even') return `${fit}; pitch becomes ${pitchOf(facts, scene)}.`;
  return `${fit}.`;
}

const HEADING = {
  along: 'Along path',
  across: 'Across path',
  outward: 'Outward',
  compass: 'Compass',
  target: 'Towards a target',
} as const;
const POSTURE = {
  upright: 'upright',
  slope: 'with the slope',
  bank: 'banking',
  surface: 'square to the surface',
} as const;

const TURNED = { turn: 'turned', tip: 'tipped', roll: 'rolled' };

export function facingPhrase(run: Run): string {
  const { facing } = run;
  const heading =
    facing.heading === 'compass' ? `Compass ${degrees(facing.compassDeg)}` : HEADING[facing.heading];
  const turn = (['turn', 'tip', 'roll'] as const)
    .filter((k) => facing[`${k}Deg`] !== 0)
    .map((k) => `, ${TURNED[k]} ${degrees(facing[`${k}Deg`])}`)
    .join('');
  const each = facing.turnEachDeg === 0 ? '' : `, each ${degrees(facing.turnEachDeg)} more`;
  const flips =
    facing.alternate === 'none'
      ? ''
      : facing.alternate === 'turn'
        ? ', every 2nd turned'
        : ', every 2nd mirrored';
  return `${heading}, ${POSTURE[facing.posture]}${turn}${each}${flips}`;
}

const CONTACT = { foot: '', lowest: ', lowest point', footprint: ', by footprint' } as const;

export function groundPhrase(ground: Ground, scene: Scene): string {
  if (ground.mode === 'none') return 'None';
  const names = ground.surfaces.map((id) => scene.surfaces.find((s) => s.id === id)?.name ?? 'missing');
  const on = names.length === 0 ? 'any surface' : names.length === 1 ? names[0] : `${names.length} surfaces`;
  const lean = ground.lean > 0 ? `, leaning ${Math.round(ground.lean * 100)}%` : '';
  return `${ground.mode === 'land' ? 'Lands on' : 'Hugs'} ${on}${CONTACT[ground.contact]}${lean}`;
}

const span = (r: readonly [number, number], show: (v: number) => string) =>
  Math.abs(r[0] + r[1]) < 1e-9
    ? `±${show(Math.abs(r[1]))}`
    : `${show(Math.min(...r))} to ${show(Math.max(...r))}`;

export function variationPhrase(run: Pick<Run, 'variation'>, scene: Scene): string {
  const v = run.variation;
  const parts: string[] = [];
  const on = (r: readonly [number, number], rest = 0) => r[0] !== rest || r[1] !== rest;
  const shifts = (['along', 'side', 'lift'] as const).filter((k) => on(v[k]));
  if (shifts.length)
    parts.push(
      shifts.length === 1 ? `${shifts[0]} ${span(v[shifts[0]], (x) => metres(x, scene.units))}` : 'shift',
    );
  for (const k of ['turn', 'tip', 'roll'] as const)
    if (on(v[`${k}Deg`])) parts.push(`${k} ${span(v[`${k}Deg`], degrees)}`);
  if (on(v.size, 1))
    parts.push(`size ${Math.round(Math.min(...v.size) * 100)}–${Math.round(Math.max(...v.size) * 100)}%`);
  if (v.waverSide > 0 || v.waverLift > 0 || v.waverTurnDeg > 0) parts.push('waver');
  if (v.mirror > 0) parts.push('mirrored');
  if (v.tint.colors.length) parts.push('tint');
  if (Object.keys(v.perProp).length) parts.push('own ranges');
  if (parts.length === 0) return 'None';
  const text = parts.slice(0, 2).join(', ') + (parts.length > 2 ? ` +${parts.length - 2}` : '');
  return text[0].toUpperCase() + text.slice(1);
}

export function gapsPhrase({ gaps }: { gaps: Partial<Gaps> }): string {
  const { chance = 0, keepOuts = [], taken, collide, after } = gaps;
  const parts: string[] = [];
  if (chance > 0) parts.push(`${Number((chance * 100).toFixed(1))}% chance`);
  if (keepOuts.length) parts.push(plural(keepOuts.length, 'keep-out'));
  if (taken && taken.share > 0) parts.push(`${Math.round(taken.share * 100)}% taken`);
  if (collide === 'leave-out') parts.push('no collisions');
  if (after === 'close') parts.push('closed up');
  return parts.join(', ') || 'None';
}

export function handPhrase(run: Pick<Run, 'hand'> & { brushed?: readonly { does: string }[] }): string {
  const all = Object.values(run.hand);
  const brushed = run.brushed?.length ? plural(run.brushed.length, 'stroke') : null;
  if (all.length === 0) return brushed ?? 'Nothing';
  const removed = all.filter((h) => h.removed).length;
  const locked = all.filter((h) => h.lock).length;
  const parts = [removed && `${removed} removed`, locked && `${locked} locked`].filter(Boolean);
  const rest = all.filter((h) => h.removed === undefined && !h.lock).length;
  if (rest) parts.push(`${rest} changed`);
  if (brushed) parts.push(brushed);
  return parts.join(', ') || plural(all.length, 'slot');
}
