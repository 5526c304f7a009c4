'use client';

import { X } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import { openDialog } from '../uiState';
import { IconButton } from './Button';

/** A panel beside the live scene: one works on, and Escape closes it. */
export function BesidePanel(props: { name: string; title: string; said: string; children: ReactNode }) {
  useEffect(() => {
    // Before the scene takes it for a step back; a field has an Escape of its own.
    const close = (e: KeyboardEvent) => {
      if (e.key !== 'Escape' || (e.target as HTMLElement).matches('input, textarea')) return;
      e.stopPropagation();
      openDialog(null);
    };
    addEventListener('keydown', close, true);
    return () => removeEventListener('keydown', close, true);
  }, []);
  return (
    <section
      role="dialog"
      aria-label={props.name}
      className="absolute bottom-14 right-3 top-16 z-20 flex w-[340px] flex-col rounded-xl border border-edge bg-paper shadow-2xl"
    >
      <header className="flex items-center gap-2 border-b border-edge px-3 py-2">
        <h2 className="font-display text-[15px] font-semibold">{props.title}</h2>
        <span className="flex-1 text-[12.5px] text-soft" aria-live="polite">
          {props.said}
        </span>
        <IconButton name="Close" keys="Esc" onClick={() => openDialog(null)}>
          <X size={15} />
        </IconButton>
      </header>
      {props.children}
    </section>
  );
}

/** One of several that a list can be held to, or sorted by. */
export function Pill(props: { pressed: boolean; hint: string; onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-pressed={props.pressed}
      title={props.hint}
      onClick={props.onClick}
      className="rounded-full border border-edge px-2 py-0.5 text-[12px] aria-pressed:border-on aria-pressed:bg-on aria-pressed:text-paper"
    >
      {props.children}
    </button>
  );
}
