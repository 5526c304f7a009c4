'use client';

import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import clsx from 'clsx';
import { Magnet } from 'lucide-react';
import { useDocument } from '@/store/document';
import { setSnap, useSnap, type SnapState } from '@/view/snap/snapState';
import { NumberField } from '../controls/NumberField';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';

const PER = [
  { value: 'whole', text: 'Whole' },
  { value: 'side', text: 'Side' },
  { value: 'quadrant', text: 'Quadrant' },
] as const;
const PLACES: { field: keyof SnapState; label: string; hint: string }[] = [
  { field: 'points', label: 'Points and ends', hint: 'The points of paths, and where they begin and end' },
  {
    field: 'snaps',
    label: 'Snap points',
    hint: 'Of props that are placed: a drawn point there stays connected',
  },
  {
    field: 'meshes',
    label: 'Corners and edges',
    hint: 'Of surfaces and placed props, and the middles of edges',
  },
  { field: 'midpoints', label: 'Midpoints', hint: 'The middles of the sides between points' },
  { field: 'onPath', label: 'Anywhere on a path', hint: 'The nearest place of a path' },
  {
    field: 'perpendicular',
    label: 'Square onto a path',
    hint: 'Where the side that is drawn meets a path at a right angle',
  },
  { field: 'angles', label: '15° steps', hint: 'Near them by itself; with Shift always' },
  { field: 'grid', label: 'Ground grid', hint: 'Whole steps of the grid on the ground' },
];

/** The tag for snapping: on or off, and what drawing and dragging snap to. */
export function SnapTag({ className, peg }: { className: (on: boolean) => string; peg: React.ReactNode }) {
  const snap = useSnap();
  const unit = useDocument((s) => s.scene.units);
  const divided = snap.on && snap.parts > 1;
  return (
    <Popover className="relative">
      <PopoverButton
        className={clsx(className(false), !snap.on && 'opacity-70')}
        title="What drawing and dragging snap to (5 turns it on and off; Ctrl suspends it)"
        aria-label={`Snap: ${snap.on ? 'on' : 'off'}${divided ? `, ${snap.parts} parts` : ''}`}
      >
        {peg}
        <Magnet size={15} />
        Snap
        {!snap.on ? ' off' : divided ? <span className="num text-xs">1/{snap.parts}</span> : null}
      </PopoverButton>
      <PopoverPanel className="pointer-events-auto absolute left-1/2 top-full z-40 mt-2 w-64 -translate-x-1/2 rounded-lg border border-edge bg-paper p-2.5 text-text shadow-xl">
        <Toggle
          label="Snapping"
          hint="Whether points and props catch near places"
          value={snap.on}
          onChange={(on) => setSnap({ on })}
        />
        <fieldset disabled={!snap.on} className={clsx(!snap.on && 'opacity-45')}>
          {PLACES.map(({ field, label, hint }) => (
            <Toggle
              key={field}
              label={label}
              hint={hint}
              value={snap[field] as boolean}
              onChange={(on) => setSnap({ [field]: on })}
            />
          ))}
          {snap.grid && (
            <NumberField
              label="Grid step"
              hint="Metres from one place of the grid to the next"
              dimension="length"
              unit={unit}
              step={0.1}
              min={0.01}
              value={snap.gridStep}
              reset={0.5}
              onChange={(v) => setSnap({ gridStep: Math.max(0.01, v ?? 0.5) })}
            />
          )}
          <div className="mt-1 border-t border-edge pt-1">
            <NumberField
              whole
              label="Divisions"
              hint="Into so many equal parts; type the number any time while drawing. 1 is none"
              min={1}
              max={999}
              value={snap.parts}
              reset={1}
              onChange={(v) => setSnap({ parts: Math.min(999, Math.max(1, v ?? 1)) })}
            />
            <Segmented
              shown
              label="Per"
              hint="What is divided: each whole path, each side, each quarter"
              value={snap.per}
              options={PER}
              onChange={(per) => setSnap({ per })}
            />
            <NumberField
              whole
              label="Every"
              hint="1 offers each division, 2 every second"
              min={1}
              max={999}
              value={snap.every}
              reset={1}
              onChange={(v) => setSnap({ every: Math.min(999, Math.max(1, v ?? 1)) })}
            />
          </div>
        </fieldset>
      </PopoverPanel>
    </Popover>
  );
}
