'use client';

import { ArrowDown, ArrowUp, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { IconButton } from './Button';
import { Toggle } from './Toggle';

/** The head of a card that stands in a stack: switched on and off, moved up and down, taken out. */
export function CardHead(props: {
  title: string;
  hint: string;
  on: boolean;
  first: boolean;
  last: boolean;
  /** What taking it out is called: "Take Wave off". */
  out: string;
  onSwitch: (on: boolean) => void;
  onMove: (way: 1 | -1) => void;
  onOut: () => void;
  /** Buttons of its own, before those. */
  children?: ReactNode;
}) {
  const { title, onMove } = props;
  return (
    <div className="flex items-center">
      <div className="min-w-0 flex-1">
        <Toggle label={title} hint={props.hint} value={props.on} onChange={props.onSwitch} />
      </div>
      {props.children}
      <IconButton
        name={`Move ${title} up`}
        className="!size-6"
        disabled={props.first}
        onClick={() => onMove(-1)}
      >
        <ArrowUp size={13} />
      </IconButton>
      <IconButton
        name={`Move ${title} down`}
        className="!size-6"
        disabled={props.last}
        onClick={() => onMove(1)}
      >
        <ArrowDown size={13} />
      </IconButton>
      <IconButton name={props.out} className="!size-6" onClick={props.onOut}>
        <X size={13} />
      </IconButton>
    </div>
  );
}
