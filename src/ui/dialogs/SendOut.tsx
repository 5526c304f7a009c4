'use client';

import { Boxes, FileArchive, Table2 } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import { Radio, RadioGroup } from '@headlessui/react';
import type { AnimationRange, SendFormat } from '@/engine/service';
import { useDocument } from '@/store/document';
import { useClock } from '@/store/clock';
import { engine, useEngine } from '@/store/engine';
import { selectedNodes } from '@/store/selection';
import { Button } from '../controls/Button';
import { Modal } from '../controls/Modal';
import { NumberFields, type FieldSpec } from '../controls/NumberFields';
import { Segmented } from '../controls/Segmented';
import { openDialog, say, useUi, type SendChoices } from '../uiState';
import { WorkProgress } from './WorkProgress';
import { plural, whole, asBytes } from '@/words/numbers';
import { download, fileName } from './download';

type Kind = SendFormat['kind'];

const KINDS: { kind: Kind; title: string; text: string; icon: ReactNode }[] = [
  {
    kind: 'glb',
    title: 'glTF, .glb',
    text: 'What is placed and seen, for renderers and engines',
    icon: <Boxes size={18} />,
  },
  {
    kind: 'csv',
    title: 'Table, .csv',
    text: 'One row a slot: prop, place, rotation, size',
    icon: <Table2 size={18} />,
  },
  {
    kind: 'clothesline',
    title: 'Scene, .clothesline',
    text: 'All of it with its meshes, to open again as it is',
    icon: <FileArchive size={18} />,
  },
];

const rangeFields = (span: number): FieldSpec[] => [
  { name: 'from', label: 'From second', hint: 'Seconds at which the animation begins', step: 0.5, reset: 0 },
  { name: 'to', label: 'To second', hint: 'Seconds at which it ends', step: 0.5, reset: span },
  {
    name: 'rate',
    label: 'Frames a second',
    hint: 'Key frames for each second: more are smoother and larger',
    step: 1,
    min: 1,
    max: 120,
    reset: 12,
  },
];

/** Sending the scene out as a file. */
export function SendOut() {
  const scene = useDocument((s) => s.scene);
  const results = useEngine((s) => s.result.arrangements);
  const { kind, props: nodes, surfaces, snaps, lights, gaps, animated, ...sent } = useUi((s) => s.send);
  const time = useClock((s) => s.time);
  const span = useClock((s) => s.span);
  const range = sent.range ?? { from: 0, to: span, rate: 12 };
  const choose = (choice: Partial<SendChoices>) =>
    useUi.setState((s) => ({ send: { ...s.send, ...choice } }));
  const [working, setWorking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const chosen = selectedNodes().filter((n) => n.kind !== 'prop');
  const only = sent.only && chosen.length > 0 ? chosen.map((n) => n.id) : undefined;
  const shown = scene.arrangements.filter((a) => a.visible && (!only || only.includes(a.id)));
  const placed = shown.reduce((sum, a) => sum + (results.get(a.id)?.counts.placed ?? 0), 0);
  const slots = shown.reduce((sum, a) => sum + (results.get(a.id)?.placements.count ?? 0), 0);
  const broken = shown.filter((a) => results.get(a.id)?.findings.some((f) => f.severity === 'error'));
  const send = async () => {
    setWorking(true);
    setProblem(null);
    const format: SendFormat =
      kind === 'glb'
        ? { kind, options: { props: nodes, surfaces, snaps, lights }, ...(animated && { animation: range }) }
        : kind === 'csv'
          ? { kind, gaps }
          : { kind };
    try {
      const bytes = await engine().sendOut(only ? { ...format, only } : format);
      const name = fileName(scene.name, kind);
      download(bytes, name);
      openDialog(null);
      say(`Sent out ${name}, ${asBytes(bytes.length)}.`);
    } catch (error) {
      const why = (error as Error).message;
      setProblem(
        why.startsWith('Cancelled')
          ? why
          : `The file could not be made (${why}). Nothing was changed; try another format.`,
      );
      setWorking(false);
    }
  };
  return (
    <Modal title="Send out" onClose={() => openDialog(null)} width="max-w-xl">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (!working) void send();
        }}
      >
        <RadioGroup
          aria-label="Format"
          value={kind}
          onChange={(k: Kind) => choose({ kind: k })}
          className="flex flex-col gap-1.5"
        >
          {KINDS.map((k) => (
            <Radio
              key={k.kind}
              value={k.kind}
              className="flex cursor-pointer items-center gap-3 rounded-lg border border-edge px-3 py-2 hover:bg-well data-checked:border-ink-700 data-checked:bg-card data-checked:shadow-sm"
            >
              <span className="text-soft">{k.icon}</span>
              <span>
                <span className="block text-sm font-semibold">{k.title}</span>
                <span className="block text-[12.5px] text-soft">{k.text}</span>
              </span>
            </Radio>
          ))}
        </RadioGroup>
        <div className="mt-3 min-h-[84px] rounded-lg bg-well px-3 py-2">
          {kind === 'glb' && (
            <>
              <Segmented
                shown
                label="When"
                hint="One moment, or a stretch of time"
                value={animated ? 'animation' : 'still'}
                options={[
                  { value: 'still', text: `Still at ${time.toFixed(2)} s` },
                  {
                    value: 'animation',
                    text: 'Animation',
                    hint: 'Baked transforms, and morph targets where a surface moves',
                  },
                ]}
                onChange={(when) => choose({ animated: when === 'animation' })}
              />
              {animated && (
                <NumberFields
                  fields={rangeFields(span)}
                  values={range}
                  set={(values) => choose({ range: { ...range, ...values } })}
                />
              )}
              {!animated && (
                <Segmented
                  shown
                  label="Props as"
                  hint="How the file holds what is placed"
                  value={nodes}
                  options={[
                    {
                      value: 'instanced',
                      text: 'Instances',
                      hint: 'EXT_mesh_gpu_instancing: small, one node a prop and arrangement',
                    },
                    {
                      value: 'nodes',
                      text: 'Plain nodes',
                      hint: 'One node a placed prop: read by everything',
                    },
                  ]}
                  onChange={(props) => choose({ props })}
                />
              )}
              <Tick
                label="Surfaces go along"
                hint="Their meshes are in the file too, as they are drawn"
                checked={surfaces}
                onChange={(on) => choose({ surfaces: on })}
              />
              {scene.lamps.length + scene.viewpoints.length > 0 && (
                <Tick
                  label="Lights and viewpoints go along"
                  hint="Lights put in by hand as lights of the file, in candela; viewpoints as its cameras"
                  checked={lights}
                  onChange={(on) => choose({ lights: on })}
                />
              )}
              {scene.props.some((p) => p.snapPoints.length > 0) && (
                <Tick
                  label="Snap points go along"
                  hint="As nodes without a mesh, each pointing along its Z; they come in again as snap points"
                  checked={snaps}
                  onChange={(on) => choose({ snaps: on })}
                />
              )}
            </>
          )}
          {kind === 'csv' && (
            <Tick
              label="A row for every gap too, with its reason"
              hint="Slots where nothing stands are listed among the others"
              checked={gaps}
              onChange={(on) => choose({ gaps: on })}
            />
          )}
          {kind === 'clothesline' && (
            <p className="py-1 text-[13px] text-soft">
              Props, paths, surfaces, arrangements, what the hand did, and every mesh that was brought in.
            </p>
          )}
          {chosen.length > 0 && (
            <Tick
              label={`Just what is selected (${chosen.length})`}
              hint="As it stands in the whole scene"
              checked={sent.only}
              onChange={(on) => choose({ only: on })}
            />
          )}
          <p className="mt-1 text-[12.5px] text-soft">
            {kind === 'csv' && gaps
              ? plural(slots, 'row')
              : kind === 'clothesline'
                ? plural(only ? shown.length : scene.arrangements.length, 'arrangement')
                : `${plural(placed, 'prop')} of ${plural(shown.length, 'arrangement')}`}
            {kind !== 'clothesline' && ' · metres, Y up'}
            {kind !== 'clothesline' &&
              !only &&
              shown.length < scene.arrangements.length &&
              ` · ${whole(scene.arrangements.length - shown.length)} hidden left out`}
          </p>
        </div>
        {broken.length > 0 && kind !== 'clothesline' && (
          <p className="mt-2 text-[13px] text-caution">
            {broken.map((a) => `“${a.name}”`).join(', ')} has something to look at under Checks, and may be
            left out.
          </p>
        )}
        {working && <WorkProgress />}
        {problem && (
          <p role="alert" className="mt-2 text-[13px] text-danger">
            {problem}
          </p>
        )}
        <div className="mt-4 flex items-center justify-between">
          <span className="num text-[12.5px] text-soft">
            {fileName(scene.name, kind)}
            {kind === 'glb' && animated && <AboutSize range={range} only={only} surfaces={surfaces} />}
          </span>
          <Button
            look="ink"
            type="submit"
            title="Writes the file to your downloads"
            disabled={working}
            data-autofocus
          >
            {working ? 'Working…' : 'Send out'}
          </Button>
        </div>
      </form>
    </Modal>
  );
}

/** How large an animation will be, as soon as that is known. */
function AboutSize({
  range,
  only,
  surfaces,
}: {
  range: AnimationRange;
  only: string[] | undefined;
  surfaces: boolean;
}) {
  const [bytes, setBytes] = useState<number | null>(null);
  const key = JSON.stringify([range, only, surfaces]);
  useEffect(() => {
    let current = true;
    setBytes(null);
    engine()
      .animationSize(range, only, surfaces)
      .then((b) => current && setBytes(b))
      // It is only left unsaid.
      .catch(() => undefined);
    return () => {
      current = false;
    };
    // The key stands for what it is asked by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return bytes ? <span role="status">{` · about ${asBytes(bytes)}`}</span> : null;
}

function Tick({
  label,
  hint,
  checked,
  onChange,
}: {
  label: string;
  hint: string;
  checked: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <label title={hint} className="flex min-h-8 cursor-pointer items-center gap-2 text-sm">
      <input
        type="checkbox"
        checked={checked}
        onChange={(e) => onChange(e.target.checked)}
        className="size-4 accent-ink-700"
      />
      {label}
    </label>
  );
}
