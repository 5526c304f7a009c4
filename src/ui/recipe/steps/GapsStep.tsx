'use client';

import { Plus, X } from 'lucide-react';
import { has } from '@/core/arrange/registry';
import type { Gaps, KeepOut } from '@/core/arrange/steps/schema';
import { addKeepOut, removeKeepOut, setKeepOut } from '@/store/commands/gaps';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Choice } from '../../controls/Choice';
import { IconButton } from '../../controls/Button';
import { NumberBox, NumberField } from '../../controls/NumberField';
import { NumberPair } from '../../controls/NumberPair';
import { PlainMenu } from '../../controls/PlainMenu';
import { Segmented } from '../../controls/Segmented';
import { Toggle } from '../../controls/Toggle';
import { sentence } from '@/words/findings';
import { MaskChoice } from '../../masks/MaskChoice';
import { RenameField } from '../RenameField';
import type { StepProps } from './stepProps';

const FROM = [
  { value: 'start', text: 'Start' },
  { value: 'end', text: 'End' },
  { value: 'random', text: 'Random' },
] as const;
const AFTER = [
  { value: 'hole', text: 'Leave a hole' },
  { value: 'close', text: 'Close up' },
] as const;

/** Slots that are left empty, and why. What a kind has no word for is not asked. */
export function GapsStep({ arrangement: run }: StepProps<'gaps'>) {
  const scene = useDocument((s) => s.scene);
  const result = useEngine((s) => s.result.arrangements.get(run.id));
  const { gaps } = run;
  const set = (values: Partial<Gaps>, key?: string) =>
    dispatch(setStep, { id: run.id, step: 'gaps', values }, key);
  const length = result?.parts[0]?.length ?? 0;
  const chance = 'chance' in gaps ? gaps : null;
  const add = (keepOut: Parameters<typeof addKeepOut.apply>[1]['keepOut']) =>
    void dispatch(addKeepOut, { id: run.id, keepOut });
  const first = scene.paths[0]?.id ?? '';
  const other = scene.arrangements.find((a) => a.id !== run.id);
  const upper = scene.arrangements[scene.arrangements.findIndex((a) => a.id === run.id) - 1];
  const share = (v: number | null) => Math.min(1, Math.max(0, v ?? 0));
  const share100 = { dimension: 'percent', min: 0, max: 1, reset: 0, suffix: '%' } as const;
  return (
    <>
      <NumberPair
        label="Empty"
        fields={[
          ...(chance
            ? [
                {
                  ...share100,
                  short: 'chance',
                  label: 'Chance',
                  hint: 'How many of a hundred slots are left empty',
                  step: 0.01,
                  value: chance.chance,
                  onChange: (v: number | null, key?: string) => set({ chance: share(v) }, key),
                },
              ]
            : []),
          {
            ...share100,
            short: 'taken',
            label: 'As if taken',
            hint: 'As if a few were taken: a share of the slots',
            step: 0.05,
            value: gaps.taken.share,
            onChange: (v: number | null, key?: string) =>
              set({ taken: { ...gaps.taken, share: share(v) } }, key),
          },
        ]}
      />
      {chance && chance.chance > 0 && (
        <NumberField
          whole
          label="Longest run"
          hint="The most gaps by chance in a row; empty: no limit"
          min={1}
          max={1000}
          value={chance.longest ?? 1}
          auto={chance.longest === null ? 'no limit' : undefined}
          reset={null}
          onChange={(v, key) => set({ longest: v === null ? null : Math.min(1000, Math.max(1, v)) }, key)}
        />
      )}
      {gaps.taken.share > 0 && (
        <Segmented
          shown
          label="Taken from"
          hint="Where those that are taken are: at the beginning, at the end, anywhere"
          value={gaps.taken.from}
          options={FROM}
          onChange={(from) => set({ taken: { ...gaps.taken, from } })}
        />
      )}
      {'after' in gaps && (
        <Segmented
          shown
          label="After"
          hint="What becomes of the place of what is left out"
          value={gaps.after}
          options={AFTER}
          onChange={(after) => set({ after })}
        />
      )}
      {'collide' in gaps && (
        <Toggle
          label="Leave out what collides"
          hint="Props whose boxes would reach into one before them"
          value={gaps.collide === 'leave-out'}
          onChange={(on) => set({ collide: on ? 'leave-out' : 'ignore' })}
        />
      )}
      <div className="mt-1 flex items-center justify-between">
        <span className="text-sm">Keep-outs</span>
        <PlainMenu
          name="Add a keep-out"
          entries={[
            ...(has(run, 'paths')
              ? [
                  {
                    text: 'A stretch of the path',
                    run: () =>
                      add({
                        kind: 'range',
                        part: run.paths[0]?.part ?? 0,
                        stroke: 0,
                        from: length * 0.4,
                        to: length * 0.6,
                      }),
                  },
                ]
              : []),
            {
              text: 'Inside a closed path',
              run: () =>
                add({
                  kind: 'region',
                  path: scene.paths.find((p) => p.closed)?.id ?? first,
                  where: 'inside',
                }),
            },
            {
              text: 'By a mask',
              hint: 'What it gives a place is the chance that something stands there',
              run: () => add({ kind: 'mask', mask: scene.masks[0]?.id ?? '', name: 'By a mask' }),
            },
            {
              text: 'Near a path',
              run: () => add({ kind: 'near', of: { kind: 'path', id: first }, distance: 1 }),
            },
            ...(other
              ? [
                  {
                    text: 'Near props of another arrangement',
                    run: () => add({ kind: 'near', of: { kind: 'arrangement', id: other.id }, distance: 1 }),
                  },
                  {
                    text: 'What would reach into another arrangement',
                    // The upper in the list stays, the lower gives way.
                    run: () => add({ kind: 'into', of: (upper ?? other).id }),
                  },
                ]
              : []),
          ]}
        >
          <Plus size={15} />
        </PlainMenu>
      </div>
      {gaps.keepOuts.map((k) => (
        <KeepOutFields key={k.id} run={run.id} keepOut={k} />
      ))}
      {result?.findings
        .filter((f) => f.kind.startsWith('keep-out') || f.kind === 'cycle')
        .map((f, i) => (
          <p key={i} role="alert" className="mt-1 text-[12.5px] text-danger">
            {sentence(f, scene)}
          </p>
        ))}
    </>
  );
}

function KeepOutFields({ run, keepOut: k }: { run: string; keepOut: KeepOut }) {
  const scene = useDocument((s) => s.scene);
  const set = (values: object, key?: string) => dispatch(setKeepOut, { id: run, keepOut: k.id, values }, key);
  const box = { dimension: 'length' as const, unit: scene.units, step: 0.1 };
  const paths = scene.paths.map((p) => ({ value: p.id, text: p.name }));
  return (
    <div
      className="mb-1.5 rounded-md border border-edge bg-paper p-1.5"
      role="group"
      aria-label={`Keep-out ${k.name}`}
    >
      <div className="flex items-center [&_input]:!text-[13px] [&_input]:!font-sans">
        <RenameField name={k.name} label="Name of the keep-out" onRename={(name) => set({ name })} />
        <IconButton
          name={`Remove ${k.name}`}
          onClick={() => dispatch(removeKeepOut, { id: run, keepOut: k.id })}
        >
          <X size={14} />
        </IconButton>
      </div>
      {k.kind === 'range' && (
        <div className="flex items-center gap-1.5">
          <NumberBox
            {...box}
            label={`${k.name} from`}
            value={k.from}
            onChange={(v, key) => v !== null && set({ from: v }, key)}
            className="flex-1"
          />
          <span className="text-xs text-soft">to</span>
          <NumberBox
            {...box}
            label={`${k.name} to`}
            value={k.to}
            onChange={(v, key) => v !== null && set({ to: v }, key)}
            className="flex-1"
          />
        </div>
      )}
      {k.kind === 'region' && (
        <>
          <Choice
            label="Of path"
            hint="The closed path in question"
            value={k.path}
            options={paths}
            none="missing"
            onChange={(path) => set({ path })}
          />
          <Segmented
            shown
            label="Keep out"
            hint="On which side of the path nothing goes"
            value={k.where}
            options={[
              { value: 'inside', text: 'Inside' },
              { value: 'outside', text: 'Outside' },
            ]}
            onChange={(where) => set({ where })}
          />
        </>
      )}
      {k.kind === 'mask' && (
        <MaskChoice
          label="Only where"
          hint="What the mask gives a place is the chance that something stands there"
          value={k.mask || null}
          onChange={(mask) => set({ mask: mask ?? '' })}
        />
      )}
      {k.kind === 'into' && (
        <Choice
          label="Gives way to"
          hint="What would reach into that arrangement is left out"
          value={k.of}
          none="missing"
          options={scene.arrangements
            .filter((a) => a.id !== run)
            .map((a) => ({ value: a.id, text: `props of ${a.name}` }))}
          onChange={(of) => set({ of })}
        />
      )}
      {k.kind === 'near' && (
        <>
          <Choice
            label="Near"
            hint="The path, props or surface that is kept away from"
            value={k.of.id}
            none="missing"
            options={[
              ...paths,
              ...scene.arrangements.map((a) => ({ value: a.id, text: `props of ${a.name}` })),
            ]}
            onChange={(id) =>
              set({ of: { kind: scene.paths.some((p) => p.id === id) ? 'path' : 'arrangement', id } })
            }
          />
          <NumberField
            {...box}
            label="Within"
            hint="Metres around it in which nothing goes"
            min={0}
            value={k.distance}
            reset={1}
            onChange={(v, key) => set({ distance: Math.max(0, v ?? 1) }, key)}
          />
        </>
      )}
    </div>
  );
}
