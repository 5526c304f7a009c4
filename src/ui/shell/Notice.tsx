'use client';

import { X } from 'lucide-react';
import { useEffect } from 'react';
import { useEngine } from '@/store/engine';
import { useBounds } from '@/store/document';
import { useSaved } from '@/store/keeping/keeper';
import { engine } from '@/store/engine';
import { Button, IconButton } from '../controls/Button';
import { heldText, refusalText } from '../words/bounds';
import { say, useUi } from '../uiState';

/** Short messages over the scene: what happened, work that takes long, saving that failed. */
export function Notice() {
  const notice = useUi((s) => s.notice);
  const saving = useSaved((s) => s.problem);
  const problem = useEngine((s) => s.problem);
  const progress = useEngine((s) => s.progress);
  // A dialog tells of what it asked for itself.
  const dialog = useUi((s) => s.dialog);
  useEffect(() => {
    if (!notice || notice.kind === 'problem') return undefined;
    const timer = setTimeout(() => useUi.setState({ notice: null }), 7000);
    return () => clearTimeout(timer);
  }, [notice]);
  const bounds = useBounds();
  useEffect(() => {
    if (bounds.refused) say(refusalText(bounds.refused), 'problem');
    else if (bounds.held.length) say(heldText(bounds.held));
  }, [bounds]);
  const box =
    'pointer-events-auto flex items-center gap-3 rounded-lg bg-ink-900 px-3.5 py-2 text-sm text-linen-50 shadow-lg';
  return (
    <div
      className="pointer-events-none absolute inset-x-0 bottom-16 z-10 flex flex-col items-center gap-2 px-6"
      aria-live="polite"
    >
      {progress && !dialog && (
        <div className={box} role="status">
          <span>Working on {progress.name || 'the scene'}…</span>
          <progress value={progress.done} max={1} className="h-1.5 w-28 accent-weld" />
          {progress.cancellable && (
            <Button
              look="bordered"
              title="Stops this work"
              className="!bg-ink-700 !text-linen-50"
              onClick={() => engine().cancel()}
            >
              Cancel
            </Button>
          )}
        </div>
      )}
      {[saving, problem].map(
        (text) =>
          text && (
            <div key={text} className={box} role="alert">
              {text}
            </div>
          ),
      )}
      {notice && (
        <div className={box} role={notice.kind === 'problem' ? 'alert' : 'status'}>
          <span>{notice.text}</span>
          <IconButton
            name="Close the message"
            className="!text-linen-50 hover:!bg-ink-700"
            onClick={() => useUi.setState({ notice: null })}
          >
            <X size={15} />
          </IconButton>
        </div>
      )}
    </div>
  );
}
