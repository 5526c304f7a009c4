'use client';

import { ChevronLeft, ChevronRight, TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import type { Finding } from '@/core/arrange/result';
import { meanOverlap } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { selectNodes, selectSlots, type NodeRef } from '@/store/selection';
import { lookAroundSelected } from '@/view/places';
import { lookAt } from '@/view/viewState';
import { sentence } from '@/words/findings';
import { whole } from '@/words/numbers';
import { IconButton } from '../controls/Button';
import { Small } from './Small';

/** The surface, path or prop that a finding without slots is about, if the scene has it. */
function nodeOf({ detail }: Finding): NodeRef | null {
  const { scene } = useDocument.getState();
  for (const [kind, list] of [
    ['path', scene.paths],
    ['surface', scene.surfaces],
    ['prop', scene.props],
  ] as const) {
    const found = list.find((n) => n.id === detail[kind]);
    if (found) return { kind, id: found.id };
  }
  return null;
}

/** What the props of a finding reach into, which may be meant so: an arrangement or a surface. */
function intoOf(id: string, { kind, detail }: Finding): string | null {
  if (kind === 'overlap') return String(detail.other ?? id);
  return kind === 'through' ? String(detail.surface) : null;
}

/** One finding: a click selects all that it is about and looks at it; its arrows go through them one by one. */
export function FindingLine({
  of,
  finding: f,
  isMended = false,
}: {
  /** What it is told of. */
  of: NodeRef;
  finding: Finding;
  /** Its ways to mend it stand beside it, and that it is meant so is one of them. */
  isMended?: boolean;
}) {
  const { id } = of;
  const scene = useDocument((s) => s.scene);
  const [at, setAt] = useState(-1);
  const slots = f.slots ?? [];
  const into = isMended ? null : intoOf(id, f);
  // In its own panel the node itself is in hand already.
  const node = slots.length > 0 ? null : (nodeOf(f) ?? (isMended ? of : null));
  const show = (chosen: readonly number[]) => {
    selectSlots(id, [...chosen]);
    lookAroundSelected();
  };
  const step = (by: number) => {
    const next = at < 0 && by < 0 ? slots.length - 1 : (at + by + slots.length) % slots.length;
    setAt(next);
    show([slots[next]]);
  };
  return (
    <div>
      <button
        type="button"
        title="Takes it in hand and looks at it"
        disabled={slots.length === 0 && !node}
        onClick={() => {
          setAt(-1);
          if (node) selectNodes([node]);
          else show(slots);
          if (f.marks) lookAt(f.marks.flat());
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
    </div>
  );
}
