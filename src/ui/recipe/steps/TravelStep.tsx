'use client';

import { travelOf, type Arrangement } from '@/core/arrange/registry';
import { newTravel, type Travel } from '@/core/arrange/travel/schema';
import { setTravel, type TravelValues } from '@/store/commands/travel';
import { dispatch, useDocument } from '@/store/document';
import { THREAD_COLORS } from '@/view/colors';
import { Button } from '../../controls/Button';
import { Choice } from '../../controls/Choice';
import { LinkScope } from '../../controls/LinkScope';
import { NumberField } from '../../controls/NumberField';
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
  const unit = useDocument((s) => s.scene.units);
  const surfaces = useDocument((s) => s.scene.surfaces);
  const paths = useDocument((s) => s.scene.paths);
  const set = (values: TravelValues, key?: string) => dispatch(setTravel, { id, values }, key);
  const { way } = travel;
  const length = { dimension: 'length', unit } as const;
  const go = (axis: 'u' | 'v' | 'along', label: string, what: string) => (
    <LinkScope node={id} at={`travel.${axis}`} key={axis}>
      <NumberField
        {...length}
        label={label}
        field="by"
        hint={`How far it has gone ${what}`}
        step={0.1}
        value={travel[axis].by}
        reset={0}
        onChange={(by, key) => set({ [axis]: { by: by ?? 0 } }, key)}
      />
      <NumberField
        {...length}
        label={`${label} a second`}
        field="speed"
        hint={`How far it goes on ${what} each second`}
        step={0.05}
        value={travel[axis].speed}
        reset={0}
        onChange={(speed, key) => set({ [axis]: { speed: speed ?? 0 } }, key)}
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
      {way === 'over' && [go('u', 'Along u', 'along u'), go('v', 'Along v', 'along v')]}
      {way === 'along' && go('along', 'Distance', 'along the path')}
      {way === 'turn' && <Turning id={id} travel={travel} set={set} />}
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

/** About which axis, how far and how fast. */
function Turning({
  id,
  travel,
  set,
}: {
  id: string;
  travel: Travel;
  set: (values: TravelValues, key?: string) => void;
}) {
  const unit = useDocument((s) => s.scene.units);
  const { turn, centre } = travel;
  const reset = newTravel();
  return (
    <>
      <LinkScope node={id} at="travel.turn">
        <NumberField
          label="Angle"
          field="byDeg"
          hint="How far it is turned"
          dimension="angle"
          step={5}
          value={turn.byDeg}
          reset={0}
          onChange={(byDeg, key) => set({ turn: { byDeg: byDeg ?? 0 } }, key)}
        />
        <NumberField
          label="Angle a second"
          field="speed"
          hint="How far it turns on each second"
          dimension="angle"
          step={1}
          value={turn.speed}
          reset={0}
          onChange={(speed, key) => set({ turn: { speed: speed ?? 0 } }, key)}
        />
      </LinkScope>
      <Segmented
        shown
        tight
        label="Axis"
        hint="The direction of the axis"
        value={travel.axis}
        options={AXES}
        onChange={(axis) => set({ axis })}
      />
      {(['X', 'Y', 'Z'] as const).map((letter, k) => (
        <NumberField
          key={letter}
          label={`Centre ${letter}`}
          hint="A point of the axis"
          dimension="length"
          unit={unit}
          step={0.1}
          value={centre[k]}
          reset={reset.centre[k]}
          onChange={(v, key) =>
            set({ centre: centre.map((c, i) => (i === k ? (v ?? 0) : c)) as Travel['centre'] }, key)
          }
        />
      ))}
    </>
  );
}
