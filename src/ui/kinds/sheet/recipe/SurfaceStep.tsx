'use client';

import { ArrowLeftRight, FlipHorizontal2, FlipVertical2, Layers2, Sparkles } from 'lucide-react';
import type { Sheet } from '@/core/arrange/sheet/schema';
import type { Finding, SheetLayout } from '@/core/arrange/result';
import { setArrangement, setStep, type ArrangementValues } from '@/store/commands/arrangements';
import { setSurface } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { Button } from '../../../controls/Button';
import { Choice } from '../../../controls/Choice';
import { NumberFields, PlaceField } from '../../../controls/NumberFields';
import { NumberField } from '../../../controls/NumberField';
import { RangeField } from '../../../controls/RangeField';
import { Segmented } from '../../../controls/Segmented';
import { sentence } from '@/words/findings';

const OVER = [
  { value: 'uv', text: 'Its uv', hint: 'By the surface’s own texture coordinates' },
  { value: 'frame', text: 'A flat frame', hint: 'Projected from a rectangle before the surface' },
] as const;
const FIT = [
  { value: 'true', text: 'True size', hint: 'By lengths along the surface' },
  { value: 'stretch', text: 'Stretched', hint: 'All of the sheet over all of the surface' },
] as const;
const FROM = [
  { value: 'start', text: 'Start' },
  { value: 'middle', text: 'Middle' },
  { value: 'end', text: 'End' },
] as const;
const ALONG = [
  { value: 'normal', text: 'Straight', hint: 'Along the frame’s own normal' },
  { value: 'nearest', text: 'Nearest', hint: 'Each place to the nearest one of the surface' },
] as const;
const OWN = ['surface-missing', 'sheet-no-uv', 'uv-overlap', 'uv-turned', 'pin-lost'];

/** What a sheet lies over, and how its corner and directions meet the surface's. */
export function SurfaceStep(props: { sheet: Sheet; layout: SheetLayout | null; findings: Finding[] }) {
  const { sheet, layout, findings } = props;
  const scene = useDocument((s) => s.scene);
  const { id, over } = sheet;
  const set = (values: ArrangementValues, key?: string) => dispatch(setArrangement, { id, values }, key);
  const size = (field: 'width' | 'height', label: string) => (
    <NumberField
      label={label}
      hint="Empty: all of the surface"
      dimension="length"
      unit={scene.units}
      step={0.1}
      min={0.001}
      value={sheet[field] ?? layout?.[field] ?? 1}
      auto={sheet[field] === null ? 'all' : undefined}
      reset={null}
      onChange={(v, key) => set({ [field]: v === null ? null : Math.max(0.001, v) }, key)}
    />
  );
  return (
    <>
      <Choice
        label="Over"
        hint="The surface that it is laid over"
        value={sheet.surface}
        options={scene.surfaces.map((s) => ({ value: s.id, text: s.name }))}
        none="Missing"
        onChange={(surface) => set({ surface })}
      />
      <Segmented
        shown
        label="By"
        hint="How the layout finds its places on the surface"
        value={over.kind}
        options={OVER}
        onChange={(kind) =>
          kind !== over.kind &&
          set(
            kind === 'uv'
              ? { over: { kind, u: [0, 1], v: [0, 1] }, width: null, height: null }
              : { over: startFrame(layout), width: 2, height: 2 },
          )
        }
      />
      {over.kind === 'uv' ? (
        <>
          {(['u', 'v'] as const).map((axis) => (
            <RangeField
              key={axis}
              label={`${axis} from`}
              hint={`The part of the surface that it covers, by ${axis}`}
              value={over[axis]}
              rest={0}
              track={[0, 1]}
              min={0}
              max={1}
              step={0.01}
              onChange={(range, key) => set({ over: { ...over, [axis]: range } }, key)}
            />
          ))}
          <Match sheet={sheet} layout={layout} />
          <Segmented
            shown
            label="Fit"
            hint="True size by lengths on the surface, or stretched to fill it"
            value={sheet.fit}
            options={FIT}
            onChange={(fit) => set({ fit })}
          />
          {size('width', 'Width')}
          {size('height', 'Height')}
          {sheet.fit === 'true' && (
            <Segmented
              shown
              tight
              label="Rows held at"
              hint="Where rows that are shorter than the layout stand"
              value={sheet.from}
              options={FROM}
              onChange={(from) => set({ from })}
            />
          )}
        </>
      ) : (
        <>
          <Segmented
            shown
            label="Laid on"
            hint="From which side the layout is put on the surface"
            value={over.along}
            options={ALONG}
            onChange={(along) => set({ over: { ...over, along } })}
          />
          {size('width', 'Width')}
          {size('height', 'Height')}
          <NumberFields
            fields={[
              {
                name: 'reach',
                label: 'Reach',
                hint: 'How far the projection goes',
                dimension: 'length',
                step: 0.5,
                min: 0.001,
                max: 1e5,
                reset: 5,
              },
              ...(over.pin
                ? [
                    {
                      name: 'turnDeg',
                      label: 'Turn',
                      hint: 'Degrees about its up axis',
                      dimension: 'angle' as const,
                      step: 5,
                      reset: 0,
                    },
                  ]
                : []),
            ]}
            values={{ reach: over.reach, turnDeg: over.pin?.turnDeg ?? 0 }}
            set={({ reach, turnDeg }, key) =>
              set(
                {
                  over: {
                    ...over,
                    ...(reach !== undefined && { reach }),
                    ...(turnDeg !== undefined && over.pin && { pin: { ...over.pin, turnDeg } }),
                  },
                },
                key,
              )
            }
          />
          {over.pin ? (
            <p className="text-[12.5px] text-soft">Drag its middle over the surface in the scene.</p>
          ) : (
            <PlaceField
              label="Middle"
              hint="The middle of the projection: x, y, z"
              value={over.position}
              onChange={(position, key) => set({ over: { ...over, position } }, key)}
            />
          )}
        </>
      )}
      {findings
        .filter((f) => OWN.includes(f.kind))
        .map((f, i) => (
          <p key={i} role="alert" className="mt-1 text-[12.5px] text-danger">
            {sentence(f, scene)}
          </p>
        ))}
      {findings.some((f) => f.kind === 'sheet-no-uv') && (
        <div className="mt-1 grid grid-cols-3 gap-1" role="group" aria-label="Make uv">
          {(['plane', 'cylinder', 'sphere'] as const).map((uv) => (
            <Button
              key={uv}
              look="bordered"
              title={`Makes texture coordinates for the surface, by a ${uv} around it`}
              onClick={() => dispatch(setSurface, { id: sheet.surface, values: { uv } })}
            >
              {uv[0].toUpperCase() + uv.slice(1)}
            </Button>
          ))}
        </div>
      )}
    </>
  );
}

/** A flat frame two metres above where the sheet began, or above the origin, looking down. */
function startFrame(layout: SheetLayout | null): Extract<Sheet['over'], { kind: 'frame' }> {
  const c = layout?.corner;
  const position: [number, number, number] = c && c.length > 0 ? [c[0], c[1] + 2, c[2]] : [0, 2, 0];
  return { kind: 'frame', pin: null, position, rotation: [0, 1, 0, 0], along: 'normal', reach: 5 };
}

/** How the sheet's corner and directions meet those of the surface. */
function Match({ sheet, layout }: { sheet: Sheet; layout: SheetLayout | null }) {
  const now = layout?.match ?? sheet.match;
  const turn = (field: 'flipU' | 'flipV' | 'swap' | 'otherSide') =>
    dispatch(setStep, {
      id: sheet.id,
      step: 'match',
      values: { ...now, [field]: !now[field], guess: false },
    });
  const buttons = [
    { field: 'flipU', hint: 'Runs the other way across', text: 'Flip u', Icon: FlipHorizontal2 },
    { field: 'flipV', hint: 'Runs the other way up', text: 'Flip v', Icon: FlipVertical2 },
    { field: 'swap', hint: 'Across becomes up', text: 'Swap', Icon: ArrowLeftRight },
    { field: 'otherSide', hint: 'Lies on the other side of the surface', text: 'Other side', Icon: Layers2 },
  ] as const;
  return (
    <div role="group" aria-label="Corner match" className="my-1 grid grid-cols-2 gap-1">
      {buttons.map(({ field, hint, text, Icon }) => (
        <Button
          key={field}
          title={hint}
          look="bordered"
          aria-pressed={now[field]}
          onClick={() => turn(field)}
        >
          <Icon size={14} /> {text}
        </Button>
      ))}
      <Button
        look="bordered"
        className="col-span-2"
        aria-pressed={sheet.match.guess}
        title="Outside out, not mirrored, and up as nearly up as it can be"
        onClick={() => dispatch(setStep, { id: sheet.id, step: 'match', values: { guess: true } })}
      >
        <Sparkles size={14} /> Guess
      </Button>
    </div>
  );
}
