'use client';

import type { Arrangement } from '@/core/arrange/registry';
import { newRelease, type Release } from '@/core/arrange/release/schema';
import { canLie, setRelease } from '@/store/commands/release';
import { dispatch, useDocument } from '@/store/document';
import { play, setTime } from '@/store/clock';
import { THREAD_COLORS } from '@/view/colors';
import { Button } from '../../controls/Button';
import { Choice } from '../../controls/Choice';
import { NumberField } from '../../controls/NumberField';
import { Segmented } from '../../controls/Segmented';
import { SeveralNodes } from '../../controls/SeveralNodes';
import { SurfacesChoice } from '../../controls/SurfacesChoice';
import { Toggle } from '../../controls/Toggle';
import { releasePhrase } from '../../words/releasePhrase';
import { leaveAsItLies } from '../leaveAsItLies';
import { Step } from '../Step';

const WHO = [
  { value: 'all', text: 'all at once' },
  { value: 'turn', text: 'one after the other' },
  { value: 'chance', text: 'each by chance' },
  { value: 'place', text: 'passing a place of the path' },
  { value: 'region', text: 'leaving closed paths' },
  { value: 'border', text: 'coming to a border' },
] as const;
const THEN = [
  { value: 'stay', text: 'Stays', hint: 'It lies where it has come to rest' },
  { value: 'ride', text: 'Rides', hint: 'It goes with what moves under it' },
  { value: 'go', text: 'Is gone', hint: 'A second after it has come to rest' },
] as const;
const SHAPES = [
  { value: 'auto', text: 'Auto', hint: 'Hollow things by parts, all others by their hull' },
  { value: 'hulls', text: 'Hulls', hint: 'Quickest: what is hollow is filled' },
  { value: 'parts', text: 'Parts', hint: 'Several hulls a prop, as its hollows ask for' },
] as const;

/**
 * From when on props fall, how, and what becomes of them. The same for every kind that places props; it is there once they
 * have been let go.
 */
export function ReleaseStep({ arrangement: a }: { arrangement: Arrangement }) {
  const scene = useDocument((s) => s.scene);
  const { release } = a;
  if (!release) return null;
  return (
    <Step name="release" title="Release" color={THREAD_COLORS[a.thread]} phrase={releasePhrase(release)}>
      <Toggle
        label="Let go"
        hint="From a moment on its props fall, onto surfaces and onto each other"
        value={release.on}
        onChange={(on) => dispatch(setRelease, { id: a.id, values: { on } })}
      />
      {release.on && <Falling arrangement={a} release={release} others={scene.arrangements} />}
    </Step>
  );
}

type FieldOf = { [F in keyof Release]: Release[F] extends number ? F : never }[keyof Release];

function Falling({
  arrangement: a,
  release: r,
  others,
}: {
  arrangement: Arrangement;
  release: Release;
  others: readonly Arrangement[];
}) {
  const unit = useDocument((s) => s.scene.units);
  const paths = useDocument((s) => s.scene.paths);
  const set = (values: Partial<Release>, key?: string) => dispatch(setRelease, { id: a.id, values }, key);
  const reset = newRelease();
  const number = (
    label: string,
    field: FieldOf,
    hint: string,
    more: Partial<Parameters<typeof NumberField>[0]> = {},
  ) => (
    <NumberField
      label={label}
      hint={hint}
      step={0.1}
      min={0}
      value={r[field]}
      reset={reset[field]}
      onChange={(v, key) => set({ [field]: v ?? reset[field] }, key)}
      {...more}
    />
  );
  const length = { dimension: 'length', unit } as const;
  const seconds = { suffix: 's' };
  return (
    <>
      {number('At', 'at', 'The moment from which they are let go', seconds)}
      <Choice
        label="Who"
        hint="Which are let go when"
        value={r.who}
        options={WHO}
        onChange={(who) => set({ who })}
      />
      {r.who === 'turn' && number('Every', 'every', 'From one to the next', seconds)}
      {r.who === 'chance' && number('Within', 'over', 'So long until all are let go', seconds)}
      {r.who === 'place' &&
        number('Place', 'place', 'Metres along the path; what comes past it is let go', {
          ...length,
          min: undefined,
        })}
      {r.who === 'border' &&
        number('Near', 'near', 'So near a border of the surface they are let go', length)}
      {r.who === 'region' && (
        <SeveralNodes
          what="closed path"
          label="Closed paths that they leave"
          of={paths}
          chosen={r.region}
          onChange={(region) => set({ region })}
        />
      )}
      {number('Fades over', 'fade', 'So long the hold takes to let go; 0: at once', seconds)}
      <SurfacesChoice legend="Surfaces to fall onto" chosen={r.onto} onChange={(onto) => set({ onto })} />
      <SeveralNodes
        what="arrangement to fall onto"
        label="Arrangements to fall onto"
        of={others.filter((o) => o.id !== a.id)}
        chosen={r.against}
        onChange={(against) => set({ against })}
      />
      {number('Gravity', 'gravity', 'Metres a second, a second; 9.81 on Earth')}
      {number('Friction', 'friction', '0 slides like ice; from 1 on hardly anything slides', {
        step: 0.05,
        max: 10,
      })}
      {number('Rolling friction', 'rolling', 'What rolls is slowed by this share of gravity; 0 rolls on', {
        step: 0.01,
        max: 10,
      })}
      {number('Bounce', 'bounce', 'How much of its speed it keeps where it strikes', {
        dimension: 'percent',
        step: 0.05,
        max: 1,
      })}
      {number('Drag', 'drag', 'How much of its speed the air takes, a second', { step: 0.05, max: 100 })}
      <Segmented
        shown
        tight
        label="Strikes by"
        hint="What of a prop strikes"
        value={r.shapes}
        options={SHAPES}
        onChange={(shapes) => set({ shapes })}
      />
      <Segmented
        shown
        tight
        label="At rest"
        hint="What becomes of what has come to rest"
        value={r.then}
        options={THEN}
        onChange={(then) => set({ then })}
      />
      {number('Floor', 'floor', 'What falls onto nothing stops at this height', {
        ...length,
        min: undefined,
        step: 1,
      })}
      {number('At most', 'seconds', 'So long they may fall before they are held to rest', {
        ...seconds,
        step: 1,
        min: 0.1,
        max: 600,
      })}
      <div className="mt-1.5 flex flex-wrap gap-1">
        <Button
          look="bordered"
          title="Plays the time from the moment of the release"
          onClick={() => {
            setTime(r.at);
            play(true);
          }}
        >
          Play the fall
        </Button>
        <Button
          look="bordered"
          title="The moment at which all has come to rest"
          onClick={() => {
            play(false);
            setTime(r.at + r.seconds);
          }}
        >
          Show at rest
        </Button>
        {canLie(a) && (
          <Button
            look="bordered"
            title="What you see stays as it lies, by hand, and is corrected like anything else"
            onClick={() => void leaveAsItLies(a)}
          >
            Take as it lies
          </Button>
        )}
      </div>
    </>
  );
}
