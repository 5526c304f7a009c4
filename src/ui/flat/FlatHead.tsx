import clsx from 'clsx';
import type { ReactNode } from 'react';

/** The bar over a flat view: what it is, {@link HeadWords} about it, and what can be done there. */
export function FlatHead({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="flex h-[42px] shrink-0 items-center gap-3 px-4">
      <h2 className="font-display text-base font-semibold">{title}</h2>
      {children}
    </div>
  );
}

interface HeadWordsProps {
  words: string;
  /** Takes the room that nothing else of the bar does. */
  fills?: boolean;
  /** They change with what is pointed at, and are read out then. */
  live?: boolean;
  className?: string;
}

/** Words of the bar, on one line: where that is too narrow for them they end in dots, and are read whole on hover. */
export function HeadWords({ words, fills = false, live = false, className }: HeadWordsProps) {
  return (
    <span
      title={words}
      aria-live={live ? 'polite' : undefined}
      className={clsx('min-w-0 truncate text-[12.5px] text-soft', fills && 'flex-1', className)}
    >
      {words}
    </span>
  );
}
