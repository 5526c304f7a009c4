'use client';

import { Plus, Spline } from 'lucide-react';
import { setRunPaths } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectNode } from '@/store/selection';
import { chooseTool } from '@/view/viewState';
import { Button } from '../../../controls/Button';
import { PlainMenu } from '../../../controls/PlainMenu';
import { sentence } from '@/words/findings';
import { metres } from '@/words/numbers';
import type { StepProps } from './stepProps';

/** Up to so many paths of the scene are all listed; of more only those that it stands along. */
const FEW = 4;

export function PathStep({ run }: StepProps) {
  const scene = useDocument((s) => s.scene);
  const results = useEngine((s) => s.result.paths);
  const findings = useEngine((s) => s.result.arrangements.get(run.id)?.findings) ?? [];
  const on = run.paths.map((p) => p.path);
  const problems = findings.filter(
    (f) => f.kind.includes('path') || f.kind.startsWith('fillet') || f.kind === 'coincident-points',
  );
  const toggle = (id: string) =>
    dispatch(setRunPaths, { id: run.id, paths: on.includes(id) ? on.filter((p) => p !== id) : [...on, id] });
  const isShort = scene.paths.length <= FEW;
  const listed = isShort ? scene.paths : scene.paths.filter((p) => on.includes(p.id));
  const others = isShort ? [] : scene.paths.filter((p) => !on.includes(p.id));
  return (
    <>
      {scene.paths.length === 0 && (
        <Button
          look="bordered"
          title="Click points in the scene"
          className="w-full"
          onClick={() => chooseTool('draw')}
        >
          <Spline size={15} />
          Draw path
        </Button>
      )}
      <ul>
        {listed.map((p) => (
          <li key={p.id} className="flex min-h-8 items-center gap-2 text-sm">
            <label
              title="The run stands along this path too"
              className="flex min-w-0 flex-1 cursor-pointer items-center gap-2"
            >
              <input
                type="checkbox"
                checked={on.includes(p.id)}
                onChange={() => toggle(p.id)}
                className="size-4 accent-ink-700"
              />
              <span className="truncate">{p.name}</span>
            </label>
            <span className="num text-xs text-soft">
              {results.get(p.id)?.ok ? metres(results.get(p.id)!.length, scene.units, 1) : '–'}
            </span>
            <Button
              className="!px-1.5 !py-0.5 text-soft"
              aria-label={`Edit ${p.name}`}
              title="Takes the path in hand"
              onClick={() => selectNode('path', p.id)}
            >
              Edit
            </Button>
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <div className="flex items-center gap-1 text-[12.5px] text-soft">
          <PlainMenu
            name="Stand along another path too"
            entries={others.map((p) => ({ text: p.name, run: () => toggle(p.id) }))}
          >
            <Plus size={15} />
          </PlainMenu>
          Another path
        </div>
      )}
      {problems.map((f, i) => (
        <p
          key={i}
          role="alert"
          className={`mt-1 text-[12.5px] ${f.severity === 'error' ? 'text-danger' : 'text-caution'}`}
        >
          {sentence(f, scene)}
        </p>
      ))}
    </>
  );
}
