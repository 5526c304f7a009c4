'use client';

import { RefreshCw, X } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { Arrangement } from '@/core/arrange/registry';
import { setSeed } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { pictureOfVariant } from '@/view/batchPictures';
import { waitFor } from '@/view/viewState';
import { IconButton } from '../controls/Button';
import { openDialog } from '../uiState';

const HOW_MANY = 6;

/** Six pictures of the selected arrangement with six seeds. They follow every change; a click keeps one. */
export function CompareSeeds() {
  const id = useSelection((s) => s.arrangement);
  const run = useDocument((s) => s.scene.arrangements.find((a) => a.id === id));
  return run ? <Six key={run.id} run={run} /> : null;
}

function Six({ run }: { run: Arrangement }) {
  const [first, setFirst] = useState(run.seed);
  const seeds = Array.from({ length: HOW_MANY }, (_, i) => first + i);
  const [pictures, setPictures] = useState<(string | null)[]>([]);
  const result = useEngine((s) => s.result.arrangements.get(run.id));
  const turn = useRef(0);
  useEffect(() => {
    const mine = ++turn.current;
    const current = () => turn.current === mine;
    const draw = async () => {
      const { scene } = useDocument.getState();
      const made = await engine().variants(run.id, seeds);
      for (const [i, variant] of made.entries()) {
        if (!current()) return;
        const picture = await pictureOfVariant(scene, run.id, variant);
        if (!current()) return;
        setPictures((old) => seeds.map((_, k) => (k === i ? picture : (old[k] ?? null))));
      }
    };
    void waitFor(draw());
    // A new result means that something that the pictures show has changed.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [result, first, run.id]);
  useEffect(() => {
    const close = (e: KeyboardEvent) => e.key === 'Escape' && openDialog(null);
    addEventListener('keydown', close);
    return () => removeEventListener('keydown', close);
  }, []);
  return (
    <section
      role="dialog"
      aria-label="Compare seeds"
      className="absolute inset-x-3 bottom-14 z-20 rounded-xl border border-edge bg-paper p-3 shadow-2xl"
    >
      <header className="mb-2 flex items-center gap-2">
        <h2 className="font-display text-[15px] font-semibold">Six seeds of {run.name}</h2>
        <span className="flex-1 text-[12.5px] text-soft">A click keeps one.</span>
        <IconButton name="Six others" onClick={() => setFirst(first + HOW_MANY)}>
          <RefreshCw size={14} />
        </IconButton>
        <IconButton name="Close" onClick={() => openDialog(null)}>
          <X size={15} />
        </IconButton>
      </header>
      <ul className="grid grid-cols-3 gap-2">
        {seeds.map((seed, i) => (
          <li key={seed}>
            <button
              type="button"
              aria-label={`Keep seed ${seed}`}
              aria-pressed={seed === run.seed}
              onClick={() => dispatch(setSeed, { id: run.id, seed })}
              className={`block w-full overflow-hidden rounded-lg border-2 ${seed === run.seed ? 'border-woad' : 'border-edge hover:border-soft'}`}
            >
              <span className="block aspect-[16/9] bg-[linear-gradient(#CFDFE4,#F4EEE2)]">
                {pictures[i] && <img src={pictures[i]!} alt="" className="size-full object-cover" />}
              </span>
              <span className="num block bg-card py-0.5 text-center text-xs">{seed}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
