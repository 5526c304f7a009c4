'use client';

import { Columns3, Plus, X } from 'lucide-react';
import { useState } from 'react';
import { has } from '@/core/arrange/registry';
import { STEP_OF, restOf, type Channel, type Spread, type Variation } from '@/core/arrange/steps/schema';
import { resetStep, setSeed, setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { PropPicture } from '../../basket/PropPicture';
import { Button, IconButton } from '../../controls/Button';
import { NumberBox, NumberField } from '../../controls/NumberField';
import { Optional } from '../../controls/Optional';
import { PlainMenu } from '../../controls/PlainMenu';
import { RangeField } from '../../controls/RangeField';
import { Segmented } from '../../controls/Segmented';
import { SpreadButton } from '../../controls/SpreadButton';
import { Toggle } from '../../controls/Toggle';
import { MaskChoice } from '../../masks/MaskChoice';
import { openDialog } from '../../uiState';
import type { StepProps } from './stepProps';

/** How each channel is shown. */
const VARIATION_FIELDS: Record<
  Channel,
  {
    label: string;
    hint: string;
    dimension: 'length' | 'angle' | 'percent';
    step: number;
    track: [number, number];
  }
> = {
  along: {
    label: 'Along',
    hint: 'Each prop moved along the path, or to its front',
    dimension: 'length',
    step: 0.01,
    track: [-1, 1],
  },
  side: {
    label: 'Side',
    hint: 'Each prop moved to its side',
    dimension: 'length',
    step: 0.01,
    track: [-1, 1],
  },
  lift: {
    label: 'Lift',
    hint: 'Each prop moved up or down',
    dimension: 'length',
    step: 0.01,
    track: [-1, 1],
  },
  turnDeg: {
    label: 'Turn',
    hint: 'Each prop turned about up',
    dimension: 'angle',
    step: 1,
    track: [-180, 180],
  },
  tipDeg: {
    label: 'Tip',
    hint: 'Each prop tipped forwards or back',
    dimension: 'angle',
    step: 1,
    track: [-45, 45],
  },
  rollDeg: {
    label: 'Roll',
    hint: 'Each prop rolled to its side',
    dimension: 'angle',
    step: 1,
    track: [-45, 45],
  },
  size: {
    label: 'Size',
    hint: 'Each prop larger or smaller as a whole',
    dimension: 'percent',
    step: 0.01,
    track: [0.5, 1.5],
  },
  sizeX: {
    label: 'Width',
    hint: 'Each prop wider or narrower',
    dimension: 'percent',
    step: 0.01,
    track: [0.5, 1.5],
  },
  sizeY: {
    label: 'Height',
    hint: 'Each prop taller or lower',
    dimension: 'percent',
    step: 0.01,
    track: [0.5, 1.5],
  },
  sizeZ: {
    label: 'Length',
    hint: 'Each prop longer or shorter',
    dimension: 'percent',
    step: 0.01,
    track: [0.5, 1.5],
  },
};
const CHANNELS: Channel[] = [
  'turnDeg',
  'size',
  'side',
  'along',
  'lift',
  'tipDeg',
  'rollDeg',
  'sizeX',
  'sizeY',
  'sizeZ',
];

export function VariationStep({ arrangement: run }: StepProps<'variation'>) {
  const v = run.variation;
  const unit = useDocument((s) => s.scene.units);
  const props = useDocument((s) => s.scene.props);
  const [steps, setSteps] = useState(Object.values(STEP_OF).some((f) => Number(v[f!]) > 0));
  const set = (values: Partial<Variation>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'variation', values }, key);
  const channel = (c: Channel) => {
    const f = VARIATION_FIELDS[c];
    const stepField = STEP_OF[c];
    return (
      <div key={c}>
        <RangeField
          {...f}
          unit={unit}
          rest={restOf(c)}
          min={restOf(c) === 1 ? 0.01 : undefined}
          value={v[c]}
          spread={v.spread[c]}
          onChange={(r, key) => set({ [c]: r }, key)}
          after={
            <SpreadButton
              label={f.label}
              value={v.spread[c]}
              onChange={(spread: Spread) => set({ spread: { ...v.spread, [c]: spread } })}
            />
          }
        />
        {steps && stepField && (
          <NumberField
            label={`${f.label} in steps of`}
            hint="Values are whole steps from the middle; 0: any value"
            dimension={f.dimension}
            unit={unit}
            step={f.dimension === 'angle' ? 5 : 0.05}
            min={0}
            value={v[stepField] as number}
            reset={0}
            onChange={(x, key) => set({ [stepField]: Math.max(0, x ?? 0) }, key)}
          />
        )}
      </div>
    );
  };
  return (
    <>
      <div className="mb-1 flex items-center gap-2">
        <span className="text-sm">Seed</span>
        <NumberBox
          label="Seed"
          whole
          value={run.seed}
          step={1}
          onChange={(seed, key) => seed !== null && dispatch(setSeed, { id: run.id, seed }, key)}
          className="w-16"
        />
        <IconButton name="Next seed" onClick={() => dispatch(setSeed, { id: run.id, seed: run.seed + 1 })}>
          <Plus size={15} />
        </IconButton>
        <Button
          look="bordered"
          title="Six seeds side by side, to keep one"
          className="flex-1 !px-1"
          onClick={() => openDialog('seeds')}
        >
          <Columns3 size={14} />
          Compare seeds
        </Button>
      </div>
      <Optional
        parts={[
          ...CHANNELS.map((c) => ({
            label: VARIATION_FIELDS[c].label,
            hint: VARIATION_FIELDS[c].hint,
            isSet: v[c].some((end) => end !== restOf(c)),
            content: channel(c),
          })),
          ...(has(run, 'paths')
            ? [
                {
                  label: 'Waver',
                  hint: 'Props stray from the path, smoothly along it',
                  isSet: v.waverSide > 0 || v.waverLift > 0 || v.waverTurnDeg > 0,
                  content: <WaverFields v={v} set={set} />,
                },
              ]
            : []),
          {
            label: 'Size by mask',
            hint: 'Whole where a mask is 1, smaller where it is less',
            isSet: v.sizeMask !== null,
            content: <SizeMask v={v} set={set} />,
          },
          {
            label: 'Amount by mask',
            hint: 'How much of all these ranges counts at a place',
            isSet: v.mask !== null,
            content: (
              <MaskChoice
                label="Amount by"
                hint="A mask: how much of all ranges counts at a place"
                value={v.mask}
                onChange={(mask) => set({ mask })}
              />
            ),
          },
          {
            label: 'Mirrored',
            hint: 'Share of the props that are mirrored left to right',
            isSet: v.mirror > 0,
            content: (
              <NumberField
                label="Mirrored"
                hint="Share of the props that are mirrored left to right"
                dimension="percent"
                step={0.05}
                min={0}
                max={1}
                value={v.mirror}
                reset={0}
                onChange={(x, key) => set({ mirror: Math.min(1, Math.max(0, x ?? 0)) }, key)}
              />
            ),
          },
          {
            label: 'Tint',
            hint: 'Colours that lie over the props’ own, drawn for each prop',
            isSet: v.tint.colors.length > 0,
            content: <TintFields value={v.tint} set={(tint, key) => set({ tint }, key)} />,
          },
        ]}
      />
      {Object.keys(v.perProp).map((id) => (
        <OwnRanges
          key={id}
          id={id}
          name={props.find((p) => p.id === id)?.name ?? 'Missing prop'}
          own={v.perProp[id]}
          set={(ranges, key) => {
            const perProp = { ...v.perProp };
            if (ranges) perProp[id] = ranges;
            else delete perProp[id];
            set({ perProp }, key);
          }}
        />
      ))}
      <div className="mt-1 flex items-center gap-1 text-[12.5px] text-soft">
        <PlainMenu
          name="Ranges of its own for a prop"
          entries={props
            .filter((p) => !v.perProp[p.id])
            .map((p) => ({
              text: p.name,
              icon: <PropPicture prop={p} size={22} />,
              run: () => set({ perProp: { ...v.perProp, [p.id]: { size: [1, 1], turnDeg: [0, 0] } } }),
            }))}
        >
          <Plus size={15} />
        </PlainMenu>
        <span className="flex-1">Own ranges for a prop</span>
        <Button
          title="Takes all variation away"
          className="!px-1.5 !py-0.5 !text-[12.5px]"
          onClick={() => dispatch(resetStep, { id: run.id, step: 'variation' })}
        >
          None
        </Button>
      </div>
      <Toggle
        label="In steps"
        hint="Values jump: only multiples of a step are drawn"
        value={steps}
        onChange={setSteps}
      />
    </>
  );
}

/** A mask that sizes props, and how small they are where it is nothing. */
function SizeMask({ v, set }: { v: Variation; set: (values: Partial<Variation>, key?: string) => void }) {
  return (
    <>
      <MaskChoice
        label="Size by"
        hint="A mask: what stands where it is 1 has its whole size"
        value={v.sizeMask}
        onChange={(sizeMask) => set({ sizeMask })}
      />
      {v.sizeMask !== null && (
        <NumberField
          label="Least size"
          hint="Of what stands where the mask is 0"
          dimension="percent"
          step={0.05}
          min={0.01}
          max={100}
          value={v.sizeLeast}
          reset={0.2}
          onChange={(x, key) => set({ sizeLeast: Math.min(100, Math.max(0.01, x ?? 0.2)) }, key)}
        />
      )}
    </>
  );
}

const ROWS = [
  { value: 'together', text: 'Together', hint: 'They keep their distance' },
  { value: 'each', text: 'Each', hint: 'Every row by itself' },
] as const;

/** How what stands on a path wavers along it. */
function WaverFields({ v, set }: { v: Variation; set: (values: Partial<Variation>, key?: string) => void }) {
  const unit = useDocument((s) => s.scene.units);
  const metres = { dimension: 'length' as const, unit, min: 0, reset: 0 };
  const wavers = v.waverSide > 0 || v.waverLift > 0 || v.waverTurnDeg > 0;
  return (
    <fieldset>
      <legend className="sr-only">Waver along the path</legend>
      <NumberField
        {...metres}
        label="Waver sideways"
        hint="To either side of the path, smoothly along it; the same at any pitch"
        step={0.01}
        value={v.waverSide}
        onChange={(x, key) => set({ waverSide: Math.max(0, x ?? 0) }, key)}
      />
      <NumberField
        {...metres}
        label="Waver up"
        hint="Up and down along the path"
        step={0.01}
        value={v.waverLift}
        onChange={(x, key) => set({ waverLift: Math.max(0, x ?? 0) }, key)}
      />
      <NumberField
        label="Waver of turn"
        hint="About up, either way, along the path"
        dimension="angle"
        step={1}
        min={0}
        max={180}
        value={v.waverTurnDeg}
        reset={0}
        onChange={(x, key) => set({ waverTurnDeg: Math.min(180, Math.max(0, x ?? 0)) }, key)}
      />
      {wavers && (
        <>
          <NumberField
            {...metres}
            label="Waver length"
            hint="From one swing to the next"
            step={0.1}
            min={0.001}
            reset={2}
            value={v.waverLength}
            onChange={(x, key) => set({ waverLength: Math.max(0.001, x ?? 2) }, key)}
          />
          <Segmented
            shown
            label="Rows waver"
            hint="Whether rows swing together or each by itself"
            value={v.waverRows}
            options={ROWS}
            onChange={(waverRows) => set({ waverRows })}
          />
        </>
      )}
    </fieldset>
  );
}

type Own = Variation['perProp'][string];

/** Ranges that hold for one prop instead of the common ones. */
function OwnRanges({
  name,
  own,
  set,
}: {
  id: string;
  name: string;
  own: Own;
  set: (own: Own | null, key?: string) => void;
}) {
  const unit = useDocument((s) => s.scene.units);
  const missing = CHANNELS.filter((c) => !own[c]);
  return (
    <div
      className="mt-1 rounded-md border border-edge bg-paper p-1.5"
      role="group"
      aria-label={`Own ranges of ${name}`}
    >
      <div className="flex items-center">
        <span className="min-w-0 flex-1 truncate text-[13px] font-medium">{name}</span>
        <PlainMenu
          name={`Add a range for ${name}`}
          entries={missing.map((c) => ({
            text: VARIATION_FIELDS[c].label,
            run: () => set({ ...own, [c]: [restOf(c), restOf(c)] }),
          }))}
        >
          <Plus size={14} />
        </PlainMenu>
        <IconButton name={`Common ranges for ${name} again`} onClick={() => set(null)}>
          <X size={14} />
        </IconButton>
      </div>
      {CHANNELS.filter((c) => own[c]).map((c) => (
        <RangeField
          key={c}
          {...VARIATION_FIELDS[c]}
          unit={unit}
          rest={restOf(c)}
          min={restOf(c) === 1 ? 0.01 : undefined}
          value={own[c]!}
          onChange={(r, key) => set({ ...own, [c]: r }, key)}
        />
      ))}
    </div>
  );
}

const DYES = ['#b4472f', '#2c5f86', '#d6a02b', '#61793f', '#7a4a6b', '#fbf8f1'];

/** Colours to be drawn from, and how strongly they lie over the props' own. */
function TintFields({
  value,
  set,
}: {
  value: Variation['tint'];
  set: (tint: Variation['tint'], key?: string) => void;
}) {
  const { colors } = value;
  return (
    <div className="py-1">
      <div className="flex min-h-8 flex-wrap items-center gap-1.5">
        <span className="w-[74px] shrink-0 text-sm">Tint</span>
        {colors.map((c, i) => (
          <span key={i} className="group relative inline-flex">
            <input
              type="color"
              aria-label={`Tint ${i + 1}`}
              title="One of the colours that props are tinted with"
              value={c}
              onChange={(e) =>
                set({ ...value, colors: colors.map((x, k) => (k === i ? e.target.value : x)) }, `tint ${i}`)
              }
              className="size-6 cursor-pointer rounded border border-edge bg-card p-0.5"
            />
            <button
              type="button"
              aria-label={`Take tint ${i + 1} out`}
              onClick={() => set({ ...value, colors: colors.filter((_, k) => k !== i) })}
              className="absolute -right-1 -top-1 hidden size-3.5 items-center justify-center rounded-full bg-ink-900 text-linen-50 group-focus-within:flex group-hover:flex"
            >
              <X size={9} />
            </button>
          </span>
        ))}
        <IconButton
          name="Add a tint"
          onClick={() => set({ ...value, colors: [...colors, DYES[colors.length % DYES.length]] })}
        >
          <Plus size={15} />
        </IconButton>
      </div>
      {colors.length > 0 && (
        <RangeField
          label="Strength"
          hint="How strong the tint is, each by chance within the range"
          dimension="percent"
          step={0.05}
          min={0}
          max={1}
          rest={0}
          track={[0, 1]}
          value={value.strength}
          onChange={(strength, key) => set({ ...value, strength }, key)}
        />
      )}
    </div>
  );
}
