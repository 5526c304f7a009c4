'use client';

import { Plus } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';

/** A setting that is seldom set. */
export interface OptionalPart {
  label: string;
  /** In plain words what it does, for the line on hover. */
  hint: string;
  /** Whether it is other than nothing. */
  isSet: boolean;
  content: ReactNode;
}

/** Settings of which those that are set stand open, and the others are one line to add from. */
export function Optional({ parts }: { parts: readonly OptionalPart[] }) {
  const [opened, setOpened] = useState<readonly string[]>([]);
  const fresh = useRef<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  // What was just added is what one goes on with.
  useEffect(() => {
    if (!fresh.current) return;
    const part = box.current?.querySelector(`[data-part="${fresh.current}"]`);
    part?.querySelector<HTMLElement>('input, button')?.focus();
    fresh.current = null;
  });
  const isOpen = (p: OptionalPart) => p.isSet || opened.includes(p.label);
  const rest = parts.filter((p) => !isOpen(p));
  return (
    <div ref={box}>
      {parts.filter(isOpen).map((p) => (
        <div key={p.label} data-part={p.label} title={p.hint}>
          {p.content}
        </div>
      ))}
      {rest.length > 0 && (
        <div className="flex flex-wrap items-center gap-x-0.5 py-1 text-[12.5px] text-soft">
          <Plus size={13} aria-hidden />
          {rest.map((p) => (
            <button
              key={p.label}
              type="button"
              aria-label={`Add ${p.label}`}
              title={p.hint}
              onClick={() => {
                fresh.current = p.label;
                setOpened([...opened, p.label]);
              }}
              className="rounded px-1 py-0.5 hover:bg-groove hover:text-text"
            >
              {p.label}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}
