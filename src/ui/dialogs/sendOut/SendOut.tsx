'use client';

import { useState } from 'react';
import { Radio, RadioGroup } from '@headlessui/react';
import { MERGED } from '@/core/formats/merged/units';
import type { SendFormat } from '@/engine/service';
import { useDocument } from '@/store/document';
import { useClock } from '@/store/clock';
import { engine, useEngine } from '@/store/engine';
import { selectedNodes } from '@/store/selection';
import { Button } from '../../controls/Button';
import { Modal } from '../../controls/Modal';
import { openDialog, say, useUi, type SendChoices } from '../../uiState';
import { WorkProgress } from '../WorkProgress';
import { FORMATS } from './formats';
import { AboutSize, GlbChoices } from './GlbChoices';
import { MergedChoices } from './MergedChoices';
import { Tick } from './Tick';
import { plural, whole, asBytes } from '@/words/numbers';
import { needsOf } from '@/core/arrange/registry';
import { download, fileName } from '../download';

/** Sending the scene out as a file. */
export function SendOut() {
  const scene = useDocument((s) => s.scene);
  const results = useEngine((s) => s.result.arrangements);
  const {
    kind,
    props: nodes,
    surfaces,
    snaps,
    lights,
    gaps,
    animated,
    upPrint,
    upObj,
    ...sent
  } = useUi((s) => s.send);
  const span = useClock((s) => s.span);
  const range = sent.range ?? { from: 0, to: span, rate: 12 };
  const choose = (choice: Partial<SendChoices>) =>
    useUi.setState((s) => ({ send: { ...s.send, ...choice } }));
  const merged =
    kind === 'stl' || kind === '3mf' || kind === 'obj'
      ? { kind, options: { scale: scene.print.scale, up: kind === 'obj' ? upObj : upPrint, surfaces } }
      : null;
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
          : (merged ?? { kind: 'clothesline' });
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
  const stamps = new Set(scene.props.flatMap((p) => (p.mesh.source === 'stamp' ? [p.id] : [])));
  const stamped = shown.some((a) => needsOf(a).props.some((p) => stamps.has(p)));
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
          onChange={(k: SendFormat['kind']) => choose({ kind: k })}
          className="flex flex-col gap-1.5"
        >
          {FORMATS.map((k) => (
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
          {kind === 'glb' && <GlbChoices range={range} choose={choose} />}
          {merged && <MergedChoices options={merged.options} only={only} choose={choose} />}
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
                : merged
                  ? `${MERGED[merged.kind].unit}, ${merged.options.up.toUpperCase()} up`
                  : `${plural(placed, 'prop')} of ${plural(shown.length, 'arrangement')}`}
            {(kind === 'glb' || kind === 'csv') && ' · metres, Y up'}
            {kind !== 'clothesline' &&
              !only &&
              shown.length < scene.arrangements.length &&
              ` · ${whole(scene.arrangements.length - shown.length)} hidden left out`}
          </p>
        </div>
        {stamped && (kind === 'glb' || merged) && (
          <p className="mt-2 text-[13px] text-soft">
            {kind === 'glb'
              ? 'Stamps go out as flat cards. Bake them under Maps of their surface to have them in its material.'
              : 'Stamps are left out: they have no body.'}
          </p>
        )}
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
