'use client';

import { useState } from 'react';

/** A name that is edited in place. */
export function RenameField({
  name,
  label,
  onRename,
}: {
  name: string;
  label: string;
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
      className="w-full min-w-0 flex-1 rounded-md border border-transparent bg-transparent px-1 font-display text-[18px] font-semibold hover:border-edge focus:border-edge focus:bg-card focus:outline-none"
    />
  );
}
