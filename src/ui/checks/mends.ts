import { fieldOf, type Fits } from '@/core/evaluate/checks/fits';
import { has, kindOf, type Arrangement } from '@/core/arrange/registry';
import type { Finding } from '@/core/arrange/result';
import { valueAt } from '@/core/scene/guard';
import { setSlotsRemoved, setStep } from '@/store/commands/arrangements';
import { addKeepOut } from '@/store/commands/gaps';
import { liftEach, pushEach } from '@/store/commands/mends';
import { setSetting } from '@/store/commands/onTop';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { say } from '../uiState';

/** A way to mend a finding, at one click. */
export interface Mend {
  text: string;
  hint: string;
  run: () => void;
}

/** The ways to mend a finding, of those that its arrangement has. None for what no setting mends. */
export function mendsOf(a: Arrangement, f: Finding): Mend[] {
  const other = typeof f.detail.other === 'string' ? f.detail.other : null;
  switch (f.kind) {
    case 'too-tight':
    case 'overlap':
    case 'doubled':
      return other ? apartFrom(a, f, other) : roomier(a);
    case 'through':
      return [...standOn(a, String(f.detail.surface)), ...takeOut(a, f)];
    case 'buried':
    case 'floating':
      return [...touchLowest(a), ...liftOut(a, f), ...takeOut(a, f)];
    case 'ground-missed':
      return has(a, 'ground')
        ? [
            {
              text: 'Leave them out',
              hint: 'Where there is no ground nothing stands',
              run: () => setGround(a, { missed: 'leave-out' }),
            },
          ]
        : [];
    default:
      return [];
  }
}

const setGround = (a: Arrangement, values: object) =>
  void dispatch(setStep, { id: a.id, step: 'ground', values } as never);

/** What gives an arrangement room among its own. */
function roomier(a: Arrangement): Mend[] {
  const out: Mend[] = [];
  const pitch = has(a, 'spacing') && valueAt(a, ['spacing', 'mode']) === 'pitch' && fieldOf(a, 'pitch');
  if (pitch)
    out.push({
      text: 'Widen the pitch',
      hint: 'Until nothing of it reaches into its own',
      run: () => void untilItFits(a, 'pitch', pitch),
    });
  const size = fieldOf(a, 'size');
  if (size)
    out.push({
      text: 'Shrink them',
      hint: 'All of them, until none reaches into another',
      run: () => void untilItFits(a, 'size', size),
    });
  if (has(a, 'paths', 'hand'))
    out.push({
      text: 'Push them along',
      hint: 'On along the path, each out of the one before it, by hand',
      run: () => void pushAlong(a),
    });
  if (has(a, 'gaps') && 'collide' in a.gaps)
    out.push({
      text: 'Leave out the later',
      hint: 'Whatever reaches into one before it becomes a gap',
      run: () =>
        void dispatch(setStep, { id: a.id, step: 'gaps', values: { collide: 'leave-out' } } as never),
    });
  return out;
}

async function pushAlong(a: Arrangement): Promise<void> {
  const made = await engine().pushed(a.id);
  if (!made)
    return say(`There is no room on the path of “${a.name}” to push them apart. Widen it, or take some out.`);
  dispatch(pushEach, { id: a.id, ...made });
}

async function untilItFits(a: Arrangement, fits: Fits, field: string[]): Promise<void> {
  const facts = engine().state.result.arrangements.get(a.id)?.facts;
  const now = valueAt(a, field);
  const from = typeof now === 'number' ? now : (facts?.pitch ?? 0);
  const value = await engine().fitting(a.id, fits, from);
  if (value === null)
    return say(`No ${fits} was found at which “${a.name}” stands clear of itself. Try another way.`);
  const title = fits === 'pitch' ? 'pitch that fits' : 'size that fits';
  dispatch(setSetting, { id: a.id, field, value, title });
}

/** What keeps two arrangements apart. */
function apartFrom(a: Arrangement, f: Finding, other: string): Mend[] {
  const name = nameOf(other);
  const out: Mend[] = [];
  if (has(a, 'gaps'))
    out.push({
      text: `Give way to “${name}”`,
      hint: 'What would reach into it is left out, now and later',
      run: () => void dispatch(addKeepOut, { id: a.id, keepOut: { kind: 'into', of: other } as never }),
    });
  const smaller = smallerOf(a, other);
  if (smaller && f.kind !== 'doubled') {
    const own = smaller === a ? f : findingOf(smaller, f.kind, a.id);
    if (own && kindOf(smaller).removeSlots)
      out.push({
        text: 'Take out the smaller',
        hint: `By hand, out of “${smaller.name}”: they can be brought back one by one`,
        run: () => remove(smaller, own),
      });
  }
  return [...out, ...takeOut(a, f)];
}

const nameOf = (id: string) => useDocument.getState().scene.arrangements.find((x) => x.id === id)?.name ?? '';

const findingOf = ({ id }: Arrangement, kind: Finding['kind'], other: string): Finding | undefined =>
  engine()
    .state.checks.get(id)
    ?.find((f) => f.kind === kind && f.detail.other === other);

/** Of two arrangements that whose props are mostly smaller, by their boxes; null where that cannot be said. */
function smallerOf(a: Arrangement, other: string): Arrangement | null {
  const b = useDocument.getState().scene.arrangements.find((x) => x.id === other);
  const [one, two] = [usualSize(a.id), usualSize(other)];
  return b && one !== two ? (one < two ? a : b) : null;
}

function usualSize(id: string): number {
  const { result } = engine().state;
  const p = result.arrangements.get(id)?.placements;
  if (!p) return 0;
  const sizes: number[] = [];
  for (let i = 0; i < p.count; i++) {
    const box = result.propBounds[p.props[p.prop[i]]];
    if (!box || p.state[i] !== 0) continue;
    const spans = [0, 1, 2].map((k) => (box.max[k] - box.min[k]) * Math.abs(p.scale[i * 3 + k]));
    sizes.push(Math.hypot(...spans));
  }
  return sizes.sort((x, y) => x - y)[sizes.length >> 1] ?? 0;
}

const remove = (a: Arrangement, { slots = [] }: Finding) =>
  void dispatch(setSlotsRemoved, { id: a.id, slots, removed: true });

const takeOut = (a: Arrangement, f: Finding): Mend[] =>
  kindOf(a).removeSlots && (f.slots?.length ?? 0) > 0
    ? [
        {
          text: f.slots!.length === 1 ? 'Take it out' : `Take ${f.slots!.length} out`,
          hint: 'By hand: they can be brought back one by one',
          run: () => remove(a, f),
        },
      ]
    : [];

const standOn = (a: Arrangement, surface: string): Mend[] =>
  has(a, 'ground')
    ? [
        {
          text: 'Let them stand on it',
          hint: 'They land on that surface, by their lowest part',
          run: () =>
            setGround(a, { mode: 'land', direction: 'down', surfaces: [surface], contact: 'lowest' }),
        },
      ]
    : [];

const touchLowest = (a: Arrangement): Mend[] =>
  has(a, 'ground')
    ? [
        {
          text: 'Touch by the lowest part',
          hint: 'Instead of the foot: nothing goes in, nothing hangs over',
          run: () => setGround(a, { contact: 'lowest' }),
        },
      ]
    : [];

const liftOut = (a: Arrangement, { kind, slots = [], amounts }: Finding): Mend[] =>
  has(a, 'hand') && amounts?.length === slots.length
    ? [
        {
          text: kind === 'buried' ? 'Lift each out' : 'Lower each',
          hint: 'By hand, each by its own measure',
          run: () =>
            void dispatch(liftEach, {
              id: a.id,
              slots,
              by: amounts.map((v) => (kind === 'buried' ? v : -v)),
            }),
        },
      ]
    : [];
