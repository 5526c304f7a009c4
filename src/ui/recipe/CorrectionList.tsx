'use client';

import { Lock, Undo2 } from 'lucide-react';
import { Button, IconButton } from '../controls/Button';
import { VirtualList } from '../controls/VirtualList';

/** A place that a hand corrected. */
interface Corrected {
  name: string;
  /** What was done, in words. */
  said: string;
  locked?: boolean;
  onTake: () => void;
  onLetGo: () => void;
  onHover?: (over: boolean) => void;
}

/** What a hand corrected, a line each: taken in hand by a click, let go one by one or all at once. */
export function CorrectionList(props: {
  label: string;
  count: number;
  line: (i: number) => Corrected;
  /** What letting go of all takes back. */
  hint: string;
  onLetGoOfAll: () => void;
}) {
  return (
    <>
      <div className="max-h-64 overflow-y-auto">
        <VirtualList as="ul" space="li" label={props.label} count={props.count} height={28}>
          {(i) => {
            const { name, said, locked, onTake, onLetGo, onHover } = props.line(i);
            return (
              <li
                key={name}
                className="flex items-center gap-1"
                onPointerEnter={() => onHover?.(true)}
                onPointerLeave={() => onHover?.(false)}
              >
                <button
                  type="button"
                  onClick={onTake}
                  title="Takes it in hand"
                  className="flex min-w-0 flex-1 items-baseline gap-2 rounded-md px-1 py-1 text-left text-[12.5px] hover:bg-groove"
                >
                  <span className="num shrink-0">#{name}</span>
                  <span className="min-w-0 flex-1 truncate text-soft">{said}</span>
                  {locked && <Lock size={12} aria-label="locked" />}
                </button>
                <IconButton name={`Let go of #${name}`} onClick={onLetGo}>
                  <Undo2 size={13} />
                </IconButton>
              </li>
            );
          }}
        </VirtualList>
      </div>
      <Button title={props.hint} className="!px-1.5 text-soft" onClick={props.onLetGoOfAll}>
        Let go of all
      </Button>
    </>
  );
}
