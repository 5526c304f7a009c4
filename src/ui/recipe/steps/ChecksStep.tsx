'use client';

import { ChevronLeft, ChevronRight, CircleCheck, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import type { Finding } from '@/core/arrange/result';
import type { Vec3 } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectNode, selectSlots } from '@/store/selection';
import { lookAt } from '@/view/viewState';
import { IconButton } from '../../controls/Button';
import { sentence } from '../../words/findings';
import { plural, whole } from '../../words/numbers';
import { Step } from '../Step';

/** What a careful artist should know; a click leads to what a line is about. */
export function ChecksStep(props: { id: string; color: string; findings: Finding[]; well: string }) {
  const { id, color, findings, well } = props;
  return (
    <Step
      name="checks"
      title="Checks"
      color={color}
      caution={findings.length > 0}
      phrase={findings.length ? `${plural(findings.length, 'thing')} to look at` : 'All well'}
    >
      {findings.length === 0 && (
        <p className="flex items-center gap-2 text-[13px] text-good">
          <CircleCheck size={15} /> {well}
        </p>
      )}
      <ul className="flex flex-col gap-1 empty:hidden">
        {findings.map((f, i) => (
          <Line key={`${f.kind} ${i}`} id={id} finding={f} />
        ))}
      </ul>
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

/** One finding: a click selects all that it is about and looks at it; its arrows go through them one by one. */
function Line({ id, finding: f }: { id: string; finding: Finding }) {
  const scene = useDocument((s) => s.scene);
  const [at, setAt] = useState(-1);
  const slots = f.slots ?? [];
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
      {slots.length > 1 && (
        <span className="flex items-center justify-end text-[12px] text-soft">
          <IconButton name="The one before" className="!size-6" onClick={() => step(-1)}>
            <ChevronLeft size={14} />
          </IconButton>
          <span className="num" aria-live="polite">
            {at >= 0 ? `${whole(at + 1)}/${whole(slots.length)}` : whole(slots.length)}
          </span>
          <IconButton name="The next one" className="!size-6" onClick={() => step(1)}>
            <ChevronRight size={14} />
          </IconButton>
        </span>
      )}
    </li>
  );
}
