'use client';

import { travelOf, type Arrangement } from '@/core/arrange/registry';
import type { Travel } from '@/core/arrange/travel/schema';
import { setTravel, type TravelValues } from '@/store/commands/travel';
import { dispatch, useDocument } from '@/store/document';
import { THREAD_COLORS } from '@/view/colors';
import { Button } from '../../controls/Button';
import { Choice } from '../../controls/Choice';
import { LinkScope } from '../../controls/LinkScope';
import { NumberFields, PlaceField, type FieldSpec } from '../../controls/NumberFields';
import { Segmented } from '../../controls/Segmented';
import { Toggle } from '../../controls/Toggle';
import { travelPhrase } from '../../words/travelPhrase';
import { Step } from '../Step';

const WAYS = [
  { value: 'over', text: 'Over', hint: 'In u and v of a surface' },
  { value: 'along', text: 'Along', hint: 'As a path runs, each beside it as it is' },
  { value: 'turn', text: 'Turn', hint: 'About an axis' },
] as const;
const BORDERS = [
  { value: 'stop', text: 'all stop' },
  { value: 'back', text: 'all turn back' },
  { value: 'around', text: 'each comes in opposite' },
  { value: 'leave', text: 'each is gone' },
] as const;
const POSTURES = [
  { value: 'upright', text: 'Upright', hint: 'Turned with the path as seen from above' },
  { value: 'slope', text: 'Slope', hint: 'Tipped up and down with it' },
  { value: 'bank', text: 'Bank', hint: 'Rolled with it too' },
] as const;
const AXES = [
  { value: 'x', text: 'X', hint: 'About a level axis, to the right' },
  { value: 'y', text: 'Y', hint: 'About an upright axis' },
  { value: 'z', text: 'Z', hint: 'About a level axis, to the front' },
] as const;
const NONE = '';

type Axis = 'u' | 'v' | 'along' | 'turn';

const lengths = (label: string, what: string): FieldSpec[] => [
  { name: 'by', label, hint: `How far it has gone ${what}`, dimension: 'length', step: 0.1, reset: 0 },
  {
    name: 'speed',
    label: `${label} a second`,
    hint: `How far it goes on ${what} each second`,
    dimension: 'length',
    step: 0.05,
    reset: 0,
  },
];
const ANGLES: FieldSpec[] = [
  { name: 'byDeg', label: 'Angle', hint: 'How far it is turned', dimension: 'angle', step: 5, reset: 0 },
  {
    name: 'speed',
    label: 'Angle a second',
    hint: 'How far it turns on each second',
    dimension: 'angle',
    step: 1,
    reset: 0,
  },
];

/** How a whole arrangement moves, by hand or at a speed; it is there once it has been let travel. */
export function TravelStep({ arrangement: a }: { arrangement: Arrangement }) {
  const scene = useDocument((s) => s.scene);
  const travel = travelOf(a);
  if (!travel) return null;
  return (
    <Step name="travel" title="Travel" color={THREAD_COLORS[a.thread]} phrase={travelPhrase(travel, scene)}>
      <Toggle
        label="Travels"
        hint="The whole arrangement moves, by hand or at a speed"
        value={travel.on}
        onChange={(on) => dispatch(setTravel, { id: a.id, values: { on } })}
      />
      {travel.on && <Going id={a.id} travel={travel} />}
      <div className="mt-1.5">
        <Button
          look="bordered"
          title="It stays where its recipe puts it, and this step goes"
          onClick={() => dispatch(setTravel, { id: a.id, values: null })}
        >
          Take travel away
        </Button>
      </div>
    </Step>
  );
}

function Going({ id, travel }: { id: string; travel: Travel }) {
  const surfaces = useDocument((s) => s.scene.surfaces);
  const paths = useDocument((s) => s.scene.paths);
  const set = (values: TravelValues, key?: string) => dispatch(setTravel, { id, values }, key);
  const { way } = travel;
  const go = (axis: Axis, fields: FieldSpec[]) => (
    <LinkScope node={id} at={`travel.${axis}`} key={axis}>
      <NumberFields
        within=""
        fields={fields}
        values={travel[axis]}
        set={(values, key) => set({ [axis]: values }, key)}
      />
    </LinkScope>
  );
  return (
    <>
      <Segmented
        shown
        tight
        label="Way"
        hint="What it goes over, along or about"
        value={way}
        options={WAYS}
        onChange={(to) => set({ way: to })}
      />
      {way === 'along' && (
        <Choice
          label="Path"
          hint="Each goes on along it at its own distance beside it"
          value={travel.path ?? NONE}
          none="none"
          options={paths.map((p) => ({ value: p.id, text: p.name }))}
          onChange={(path) => set({ path })}
        />
      )}
      <Choice
        label={way === 'over' ? 'Surface' : 'Kept on'}
        hint={
          way === 'over' ? 'What it goes over' : 'A surface that it does not leave, as high over it as it is'
        }
        value={travel.surface ?? NONE}
        none="none"
        options={[
          ...(way === 'over' ? [] : [{ value: NONE, text: 'nothing' }]),
          ...surfaces.map((s) => ({ value: s.id, text: s.name })),
        ]}
        onChange={(surface) => set({ surface: surface || null })}
      />
      {way === 'over' && [go('u', lengths('Along u', 'along u')), go('v', lengths('Along v', 'along v'))]}
      {way === 'along' && go('along', lengths('Distance', 'along the path'))}
      {way === 'turn' && (
        <>
          {go('turn', ANGLES)}
          <Segmented
            shown
            tight
            label="Axis"
            hint="The direction of the axis"
            value={travel.axis}
            options={AXES}
            onChange={(axis) => set({ axis })}
          />
          <span className="text-sm">Centre</span>
          <PlaceField
            label="Centre"
            hint="A point of the axis: x, y, z"
            value={travel.centre}
            onChange={(centre, key) => set({ centre }, key)}
          />
        </>
      )}
      {way === 'along' && (
        <Segmented
          shown
          tight
          label="Posture"
          hint="How it is turned with the path"
          value={travel.posture}
          options={POSTURES}
          onChange={(posture) => set({ posture })}
        />
      )}
      {way !== 'turn' && (
        <Choice
          label="At a border"
          hint="What becomes of it where what it goes over ends; let it fall too, and it falls there"
          value={travel.border}
          options={BORDERS}
          onChange={(border) => set({ border })}
        />
      )}
      <Toggle
        label="Steers"
        hint="Fronts point the way that they go"
        value={travel.steers}
        onChange={(steers) => set({ steers })}
      />
    </>
  );
}
