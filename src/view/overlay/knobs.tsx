'use client';

import type { KeyboardEvent, PointerEvent, ReactNode } from 'react';
import { restGesture } from '@/store/document';
import { LINEN } from '../colors';
import { dragGesture } from '../dragGesture';

interface Spot {
  x: number;
  y: number;
}

/** A dotted arm with a grip at its end, to move something along an axis. */
export function Arm(p: {
  label: string;
  from: Spot;
  to: Spot;
  dye: string;
  radius?: number;
  letter?: string;
  onPress: (e: PointerEvent<SVGElement>) => void;
}) {
  const { from: a, to: b, dye } = p;
  return (
    <g
      role="button"
      aria-label={p.label}
      className="pointer-events-auto cursor-grab touch-none"
      onPointerDown={p.onPress}
    >
      <title>{p.label}</title>
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke="transparent" strokeWidth={14} />
      <line
        x1={a.x}
        y1={a.y}
        x2={b.x}
        y2={b.y}
        stroke={dye}
        strokeWidth={2}
        strokeDasharray="1 4"
        strokeLinecap="round"
      />
      <circle
        cx={b.x}
        cy={b.y}
        r={p.radius ?? 8}
        fill={dye}
        stroke={LINEN}
        strokeWidth={p.letter ? 0 : 1.5}
      />
      {p.letter && (
        <text
          x={b.x}
          y={b.y + 3.6}
          textAnchor="middle"
          fontSize={10}
          fontWeight={700}
          fill={LINEN}
          className="select-none"
        >
          {p.letter}
        </text>
      )}
    </g>
  );
}

/** A knob that is turned or pulled about a centre, and moved by the arrow keys. */
export function Knob(p: {
  label: string;
  title: string;
  now: number;
  text?: string;
  /** Centre on the screen, from which drags are told. */
  centre: Spot;
  /** Key of the gesture, for the undo list. */
  gesture: string;
  onDrag: (dx: number, dy: number, m: globalThis.PointerEvent) => void;
  /** Called at the press, before any drag. */
  onPress?: () => void;
  /** 1 or −1, three times as much with Shift. */
  onStep: (steps: number) => void;
  children: ReactNode;
}) {
  const press = (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    (e.currentTarget as SVGElement).focus();
    p.onPress?.();
    const box = (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();
    const { x, y } = p.centre;
    dragGesture(e, p.gesture, (m) => p.onDrag(m.clientX - box.left - x, m.clientY - box.top - y, m));
  };
  const keys = (e: KeyboardEvent) => {
    const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
    if (!way) return;
    e.preventDefault();
    e.stopPropagation();
    p.onStep(way * (e.shiftKey ? 3 : 1));
  };
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={p.label}
      aria-valuenow={p.now}
      aria-valuetext={p.text}
      className="pointer-events-auto cursor-grab touch-none outline-none focus-visible:[&>*]:stroke-[3]"
      onPointerDown={press}
      onKeyDown={keys}
      onKeyUp={restGesture}
    >
      <title>{p.title}</title>
      {p.children}
    </g>
  );
}
