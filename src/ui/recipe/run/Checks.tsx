'use client';

import { CircleCheck, TriangleAlert } from 'lucide-react';
import type { Run } from '@/core/arrange/run/schema';
import type { Finding } from '@/core/evaluate/result';
import { useDocument } from '@/store/document';
import { selectSlots } from '@/store/selection';
import { sentence } from '../../words/findings';

/** What a careful artist would look for; a click selects the slots that a line is about. */
export function Checks({ run, findings }: { run: Run; findings: Finding[] }) {
  const scene = useDocument((s) => s.scene);
  if (findings.length === 0) {
    return (
      <p className="flex items-center gap-2 text-[13px] text-good">
        <CircleCheck size={15} /> Nothing overlaps, nothing is missing.
      </p>
    );
  }
  return (
    <ul className="flex flex-col gap-1">
      {findings.map((f, i) => (
        <li key={i}>
          <button
            type="button"
            disabled={!f.slots?.length}
            onClick={() => selectSlots(run.id, f.slots!.slice(0, 200))}
            className="flex w-full gap-2 rounded-md p-1 text-left text-[12.5px] enabled:hover:bg-groove"
          >
            <TriangleAlert
              size={14}
              className={`mt-0.5 shrink-0 ${f.severity === 'error' ? 'text-danger' : 'text-caution'}`}
            />
            {sentence(f, scene)}
          </button>
        </li>
      ))}
    </ul>
  );
}
