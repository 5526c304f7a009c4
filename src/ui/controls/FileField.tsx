'use client';

import { useRef } from 'react';
import { say } from '../uiState';
import { Button } from './Button';

/** A file that something is made from: what it is now, and a button that chooses another one. */
export function FileField(props: {
  label: string;
  /** What is chosen, for screen readers: "Picture of the mask". */
  name: string;
  hint: string;
  fileName: string | undefined;
  accept: string;
  /** @throws Error with one sentence for a file that is not taken */
  onTake: (bytes: Uint8Array, fileName: string) => Promise<unknown>;
}) {
  const file = useRef<HTMLInputElement>(null);
  const take = async (chosen: File) => {
    try {
      await props.onTake(new Uint8Array(await chosen.arrayBuffer()), chosen.name);
    } catch (error) {
      say(error instanceof Error ? error.message : String(error), 'problem');
    }
  };
  return (
    <div className="flex min-h-9 items-center justify-between gap-3 text-sm">
      {props.label}
      <Button
        look="bordered"
        title={props.hint}
        className="max-w-[170px]"
        onClick={() => file.current?.click()}
      >
        <span className="truncate">{props.fileName ?? 'Choose one'}</span>
      </Button>
      <input
        ref={file}
        type="file"
        aria-label={props.name}
        accept={props.accept}
        className="hidden"
        onChange={(e) => {
          const [chosen] = e.target.files ?? [];
          e.target.value = '';
          if (chosen) void take(chosen);
        }}
      />
    </div>
  );
}

/** Pictures that masks and materials read. */
export const PICTURES = '.png,.jpg,.jpeg,image/png,image/jpeg';
