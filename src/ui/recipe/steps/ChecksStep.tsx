'use client';

import { CircleCheck, TriangleAlert } from 'lucide-react';
import type { Finding } from '@/core/arrange/result';
import { useDocument } from '@/store/document';
import { selectSlots } from '@/store/selection';
import { sentence } from '../../words/findings';
import { plural } from '../../words/numbers';
import { Step } from '../Step';

/** What a careful artist should know; a click leads to the props that a line is about. */
export function ChecksStep(props: { id: string; color: string; findings: Finding[]; well: string }) {
  const scene = useDocument((s) => s.scene);
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
          <li key={i}>
            <button
              type="button"
              disabled={!f.slots?.length}
              onClick={() => selectSlots(id, f.slots!.slice(0, 200))}
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
    </Step>
  );
}
