'use client';

import { ChevronLeft, ChevronRight, CircleCheck, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { OWN } from '@/core/arrange/base';
import type { Finding } from '@/core/arrange/result';
import type { Vec3 } from '@/core/math/vec3';
import { meanOverlap } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { selectNode, selectSlots } from '@/store/selection';
import { lookAt } from '@/view/viewState';
import { IconButton } from '../../controls/Button';
import { sentence } from '@/words/findings';
import { plural, whole } from '@/words/numbers';
import { Step } from '../Step';

/** What a careful artist should know; a click leads to what a line is about. */
export function ChecksStep({ id, color, well }: { id: string; color: string; well: string }) {
  const own = useEngine((s) => s.result.arrangements.get(id)?.findings);
  const checks = useEngine((s) => s.checks.get(id));
  const looking = useEngine((s) => s.looking);
  const findings = [...(own ?? []), ...(checks ?? [])];
  const meant = useMeant(id);
  const none = looking ? 'Looking …' : 'All well';
  return (
    <Step
      name="checks"
      title="Checks"
      color={color}
      caution={findings.length > 0}
      phrase={findings.length ? `${plural(findings.length, 'thing')} to look at` : none}
    >
      {findings.length === 0 && looking && (
        <p className="text-[13px] text-soft">All that is shown is held against all …</p>
      )}
      {findings.length === 0 && !looking && (
        <p className="flex items-start gap-2 text-[13px] text-good">
          <CircleCheck size={15} className="mt-0.5 shrink-0" /> {well}{' '}
          {meant.length ? 'No other prop' : 'No prop'} reaches into another one, or through a surface, that is
          shown.
        </p>
      )}
      <ul className="flex flex-col gap-1 empty:hidden">
        {findings.map((f, i) => (
          <Line key={`${f.kind} ${i}`} id={id} finding={f} />
        ))}
      </ul>
      <Meant id={id} others={meant} />
    </Step>
  );
}

/** The surface, path or prop that a finding without slots is about, if the scene has it. */
function nodeOf({ detail }: Finding): [kind: 'surface' | 'path' | 'prop', id: string] | null {
  const { scene } = useDocument.getState();
  for (const [kind, list] of [
    ['path', scene.paths],
    ['surface', scene.surfaces],
    ['prop', scene.props],
  ] as const) {
    const found = list.find((n) => n.id === detail[kind]);
    if (found) return [kind, found.id];
  }
  return null;
}

/** Where slots stand. */
function feetOf(id: string, slots: readonly number[]): Vec3[] {
  const p = engine().state.result.arrangements.get(id)?.placements;
  if (!p) return [];
  const wanted = new Set(slots);
  const feet: Vec3[] = [];
  for (let i = 0; i < p.count; i++)
    if (wanted.has(p.slot[i])) feet.push([p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]]);
  return feet;
}

/** What the props of a finding reach into, which may be meant so: an arrangement or a surface. */
function intoOf(id: string, { kind, detail }: Finding): string | null {
  if (kind === 'overlap') return String(detail.other ?? id);
  return kind === 'through' ? String(detail.surface) : null;
}

/** One finding: a click selects all that it is about and looks at it; its arrows go through them one by one. */
function Line({ id, finding: f }: { id: string; finding: Finding }) {
  const scene = useDocument((s) => s.scene);
  const [at, setAt] = useState(-1);
  const slots = f.slots ?? [];
  const into = intoOf(id, f);
  const node = slots.length === 0 ? nodeOf(f) : null;
  const show = (chosen: readonly number[]) => {
    selectSlots(id, [...chosen]);
    lookAt(feetOf(id, chosen));
  };
  const step = (by: number) => {
    const next = at < 0 && by < 0 ? slots.length - 1 : (at + by + slots.length) % slots.length;
    setAt(next);
    show([slots[next]]);
  };
  return (
    <li>
      <button
        type="button"
        title="Takes it in hand and looks at it"
        disabled={slots.length === 0 && !node}
        onClick={() => {
          setAt(-1);
          if (node) selectNode(...node);
          else show(slots);
        }}
        className="flex w-full gap-2 rounded-md p-1 text-left text-[12.5px] enabled:hover:bg-groove"
      >
        <TriangleAlert
          size={14}
          className={`mt-0.5 shrink-0 ${f.severity === 'error' ? 'text-danger' : 'text-caution'}`}
        />
        {sentence(f, scene)}
      </button>
      {(slots.length > 1 || into !== null) && (
        <span className="flex items-center justify-end text-[12px] text-soft">
          {into !== null && (
            <Small
              label="Meant so"
              hint="Lets it be: what is lapped, threaded or stuck into each other on purpose"
              onClick={() => dispatch(meanOverlap, { id, other: into, meant: true })}
            />
          )}
          {slots.length > 1 && (
            <>
              <IconButton name="The one before" className="!size-6" onClick={() => step(-1)}>
                <ChevronLeft size={14} />
              </IconButton>
              <span className="num" aria-live="polite">
                {at >= 0 ? `${whole(at + 1)}/${whole(slots.length)}` : whole(slots.length)}
              </span>
              <IconButton name="The next one" className="!size-6" onClick={() => step(1)}>
                <ChevronRight size={14} />
              </IconButton>
            </>
          )}
        </span>
      )}
    </li>
  );
}

/** What an arrangement may reach into: others, itself where it may reach into its own, surfaces. */
function useMeant(id: string): { id: string; name: string }[] {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const surfaces = useDocument((s) => s.scene.surfaces);
  const a = arrangements.find((one) => one.id === id);
  return [
    ...arrangements.filter(
      (o) => a?.meant.includes(o.id === id ? OWN : o.id) || (o.id !== id && o.meant.includes(id)),
    ),
    ...surfaces.filter((s) => a?.meant.includes(s.id)),
  ];
}

/** What the arrangement may reach into, each to be minded again. */
function Meant({ id, others }: { id: string; others: { id: string; name: string }[] }) {
  return (
    <ul className="flex flex-col text-[12.5px] text-soft empty:hidden">
      {others.map((o) => (
        <li key={o.id} className="flex items-center justify-between gap-2 p-1">
          {o.id === id ? 'These may reach into each other.' : `May reach into “${o.name}”.`}
          <Small
            label="Mind it"
            hint="Looks for overlaps here again"
            onClick={() => dispatch(meanOverlap, { id, other: o.id, meant: false })}
          />
        </li>
      ))}
    </ul>
  );
}

function Small({ label, hint, onClick }: { label: string; hint: string; onClick: () => void }) {
  return (
    <button
      type="button"
      title={hint}
      onClick={onClick}
      className="shrink-0 rounded-md px-1.5 py-0.5 text-[12px] text-soft underline-offset-2 hover:bg-groove hover:underline"
    >
      {label}
    </button>
  );
}
