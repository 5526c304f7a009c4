'use client';

import clsx from 'clsx';
import { useState } from 'react';
import { steady } from '../controls/steady';

/** A name that is edited in place. */
export const RenameField = steady(function RenameField({
  name,
  label,
  small = false,
  onRename,
}: {
  name: string;
  label: string;
  /** Among other words, and just as wide as it is long. */
  small?: boolean;
  onRename: (name: string) => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.trim() && text.trim() !== name) onRename(text.trim().slice(0, 200));
    setText(null);
  };
  return (
    <input
      aria-label={label}
      title={`${label}: type another one`}
      data-rename
      value={text ?? name}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') {
          e.stopPropagation();
          setText(null);
        }
      }}
      className={clsx(
        'min-w-0 rounded-md border border-transparent bg-transparent px-1 hover:border-edge focus:border-edge focus:bg-card focus:outline-none',
        small ? 'field-sizing-content max-w-40' : 'w-full flex-1 font-display text-[18px] font-semibold',
      )}
    />
  );
});
