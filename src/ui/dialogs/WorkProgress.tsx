'use client';

import { engine, useEngine } from '@/store/engine';
import { Button } from '../controls/Button';

/** What is worked on for a dialog, once it takes long, and a way out of it. */
export function WorkProgress() {
  const progress = useEngine((s) => s.progress);
  if (!progress) return null;
  return (
    <div role="status" className="mt-3 flex items-center gap-3 text-[13px]">
      <span className="flex-1">Working on {progress.name || 'the file'}…</span>
      <progress
        value={progress.done || undefined}
        max={1}
        aria-label="Progress"
        className="h-1.5 w-32 accent-weld"
      />
      <Button look="bordered" title="Stops; nothing is changed" onClick={() => engine().cancel()}>
        Cancel
      </Button>
    </div>
  );
}
