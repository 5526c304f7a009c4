'use client';

import type { Finding } from '@/core/evaluate/result';
import { useDocument } from '@/store/document';
import { selectSlots } from '@/store/selection';
import { sentence } from '../words/findings';
import { plural } from '../words/numbers';
import { Step } from './Step';

/** What a careful artist should know; a click leads to the props that it is about. */
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
      {findings.length === 0 && <p className="text-[13px] text-good">{well}</p>}
      {findings.map((f, i) => (
        <button
          key={i}
          type="button"
          disabled={!f.slots?.length}
          onClick={() => selectSlots(id, f.slots!.slice(0, 200))}
          className="block w-full rounded-md p-1 text-left text-[12.5px] enabled:hover:bg-groove"
        >
          {sentence(f, scene)}
        </button>
      ))}
    </Step>
  );
}
