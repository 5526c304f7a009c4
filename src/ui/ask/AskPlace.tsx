'use client';

import { useEffect, useState } from 'react';
import type { Cause } from '@/core/evaluate/ask';
import { slotName } from '@/core/arrange/slotId';
import { ask, useAsked } from '@/store/asked';
import { useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { selectNode, selectNodes, selectSlots } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { chooseTool } from '@/view/viewState';
import { BesidePanel } from '../controls/BesidePanel';
import { goToStep } from '../recipe/goToStep';
import { causeWords, stepOfCause } from '../words/causeWords';

/** What made a place what it is, each reason with the way to its step. */
export function AskPlace() {
  const asked = useAsked((s) => s.asked);
  const scene = useDocument((s) => s.scene);
  const result = useEngine((s) => s.result);
  const busy = useEngine((s) => s.busy);
  const [causes, setCauses] = useState<readonly Cause[] | null>(null);
  useEffect(() => {
    chooseTool('ask');
    return () => {
      ask(null);
      chooseTool('pick');
    };
    // It begins with the tool in hand, and puts it away when it closes.
  }, []);
  useEffect(() => {
    if (!asked || busy) return;
    let wanted = true;
    void engine()
      .whyAt(asked)
      .then((found) => wanted && setCauses(found))
      // A worker that was stopped takes the question along: the next result asks anew.
      .catch(() => undefined);
    return () => void (wanted = false);
  }, [asked, result, busy]);
  const nodes = [...new Set((causes ?? []).map((c) => c.node))];
  const of =
    asked && 'surface' in asked
      ? `a place of “${scene.surfaces.find((s) => s.id === asked.surface)?.name ?? 'a surface'}”`
      : asked
        ? `#${slotName(asked.slot)}`
        : 'click a prop, a gap or the ground';
  return (
    <BesidePanel name="Why it is so" title="Why it is so" said={of}>
      <div className="thin-scroll min-h-0 flex-1 overflow-y-auto px-2 py-1.5">
        {asked && causes?.length === 0 && (
          <p className="p-1 text-[13px] text-soft">
            Nothing asks for a prop here, and nothing keeps one away: no keep-out and no mask of what stands
            on this surface.
          </p>
        )}
        {asked &&
          nodes.map((id) => (
            <One
              key={id}
              id={id}
              slot={'slot' in asked ? asked.slot : null}
              causes={causes!.filter((c) => c.node === id)}
            />
          ))}
      </div>
    </BesidePanel>
  );
}

function One({ id, slot, causes }: { id: string; slot: number | null; causes: Cause[] }) {
  const scene = useDocument((s) => s.scene);
  const a = scene.arrangements.find((x) => x.id === id);
  if (!a) return null;
  const open = (c: Cause) => {
    const step = stepOfCause(c);
    if (step === null) return selectNode('mask', (c as Extract<Cause, { why: 'mask' }>).mask);
    if (slot === null) selectNodes([{ kind: 'arrangement', id }]);
    else selectSlots(id, [slot]);
    // Its recipe has to be there first.
    requestAnimationFrame(() => goToStep(step));
  };
  return (
    <section aria-label={a.name} className="mb-2">
      <p className="flex items-center gap-1.5 px-1 py-0.5 text-[12.5px] font-semibold">
        <span className="size-2.5 rounded-full" style={{ background: THREAD_COLORS[a.thread] }} aria-hidden />
        <span className="min-w-0 truncate">{a.name}</span>
      </p>
      <ul>
        {causes.map((c, i) => (
          <li key={i}>
            <button
              type="button"
              title={`Open ${stepOfCause(c) ?? 'the mask'}`}
              onClick={() => open(c)}
              className={`flex w-full items-baseline justify-between gap-2 rounded-md px-1.5 py-1 text-left text-[13px] hover:bg-well ${c.why === 'layer' ? 'pl-4 text-soft' : ''}`}
            >
              <span>{causeWords(c, scene)}</span>
              <span className="shrink-0 text-[12px] text-soft">{stepOfCause(c) ?? 'Mask'}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
