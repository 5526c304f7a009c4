'use client';

import type { Riders } from '@/core/arrange/riders/schema';
import { setArrangement, type ArrangementValues } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { THREAD_COLORS } from '@/view/colors';
import { Choice } from '../../../controls/Choice';
import { NumberFields, PlaceField } from '../../../controls/NumberFields';
import { angleFields, sizeField } from '../../../controls/poseFields';
import { Segmented } from '../../../controls/Segmented';
import { groundPhrase } from '../../../words/phrases';
import { GroundStep } from '../../../recipe/steps/GroundStep';
import { VariationOf, GapsOf, HandOf } from '../../../recipe/steps/CommonSteps';
import { Step } from '../../../recipe/Step';
import { WeightedProps } from '../../../recipe/steps/WeightedProps';

const SEATS = [
  { value: 'top', text: 'Its top', hint: 'What of the leader is highest there' },
  { value: 'foot', text: 'Its foot' },
] as const;
const LANDINGS = [
  { value: 'one', text: 'As one', hint: 'Goes with the leader as it lands and leans' },
  { value: 'each', text: 'On its own', hint: 'Lands too, from its seat' },
  { value: 'leader', text: 'Leader only', hint: 'Stays where it was before the leader landed' },
] as const;

/** Riders: which props, where they sit on their leaders, how they land, and how they vary. */
export function RidersRecipe({ arrangement: a }: { arrangement: Riders }) {
  const scene = useDocument((s) => s.scene);
  const color = THREAD_COLORS[a.thread];
  const nameOf = (id: string) => scene.props.find((p) => p.id === id)?.name ?? 'missing';
  const set = (values: ArrangementValues, key?: string) =>
    dispatch(setArrangement, { id: a.id, values }, key);
  const leaders = scene.arrangements.filter((other) => other.id !== a.id);
  const leader = scene.arrangements.find((other) => other.id === a.on);
  return (
    <>
      <Step
        name="props"
        title="Props"
        color={color}
        phrase={a.props.map((p) => nameOf(p.prop)).join(', ') || 'None yet'}
      >
        <WeightedProps
          label="Props of the riders"
          value={a.props}
          onChange={(props, key) => set({ props }, key)}
        />
        <NumberFields
          fields={[
            {
              name: 'share',
              label: 'Leaders that carry one',
              hint: 'Of a hundred leaders so many carry a rider, by chance',
              dimension: 'percent',
              step: 0.05,
              min: 0,
              max: 1,
              reset: 1,
            },
          ]}
          values={{ share: a.share }}
          set={set}
        />
      </Step>
      <Step
        name="spacing"
        title="Seat"
        color={color}
        phrase={`${leader?.name ?? 'Nothing'}, ${a.seat === 'top' ? 'its top' : 'its foot'}${a.only.length ? `, #${a.only.join(', #')} only` : ''}`}
      >
        <Choice
          label="On"
          hint="The arrangement whose props carry these"
          value={a.on}
          options={leaders.map((l) => ({ value: l.id, text: l.name }))}
          none="Missing"
          onChange={(on) => set({ on, only: [] })}
        />
        <Segmented
          shown
          label="From"
          hint="The point of each leader that they sit on"
          value={a.seat}
          options={SEATS}
          onChange={(seat) => set({ seat })}
        />
        <PlaceField
          label="Offset"
          hint="Metres from there: left, up, to the front of the leader"
          value={a.offset}
          onChange={(offset, key) => set({ offset }, key)}
        />
        <NumberFields
          fields={[...angleFields(), { ...sizeField(), max: undefined }]}
          values={{ turnDeg: a.turnDeg, tipDeg: a.tipDeg, rollDeg: a.rollDeg, size: a.size }}
          set={set}
        />
      </Step>
      <Step
        name="ground"
        title="Landing"
        color={color}
        phrase={
          a.landing === 'one'
            ? 'As one'
            : a.landing === 'leader'
              ? 'Leader only'
              : groundPhrase(a.ground, scene)
        }
      >
        <Segmented
          fill
          label="Landing"
          hint="What of a leader and its riders comes down to the ground"
          value={a.landing}
          options={LANDINGS}
          // On its own it is meant to land: where nothing was set, straight down.
          onChange={(landing) =>
            set({
              landing,
              ...(landing === 'each' &&
                a.ground.mode === 'none' && { ground: { ...a.ground, mode: 'land' as const } }),
            })
          }
        />
        {a.landing === 'each' && (
          <div className="mt-2">
            <GroundStep arrangement={a} />
          </div>
        )}
      </Step>
      <VariationOf arrangement={a} />
      <GapsOf arrangement={a} />
      <HandOf arrangement={a} />
    </>
  );
}
