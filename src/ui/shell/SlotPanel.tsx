'use client';

import { slotName } from '@/core/arrange/slotId';
import type { Vec3 } from '@/core/math/vec3';
import { setSlotsRemoved } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { metres } from '../words/numbers';
import { useBeside } from './useBeside';

const SIZE = { width: 190, height: 40 };

/** The small dark panel beside the selected prop (or props). */
export function SlotPanel() {
  const slots = useSelection((s) => s.slots);
  const result = useEngine((s) => (slots ? s.result.arrangements.get(slots.arrangement) : undefined));
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const p = result?.placements;
  const row = p && slots ? p.slot.indexOf(slots.ids[slots.ids.length - 1]) : -1;
  const place: Vec3 | null =
    p && row >= 0 ? [p.position[row * 3], p.position[row * 3 + 1], p.position[row * 3 + 2]] : null;
  const at = useBeside(place, SIZE);
  if (!at || !slots || !p || row < 0) return null;
  const removed = p.state[row] !== 0;
  const prop = scene.props.find((x) => x.id === p.props[p.prop[row]])?.name ?? 'Rest';
  const many = slots.ids.length > 1;
  return (
    <div
      role="group"
      aria-label="Selected prop"
      className="absolute z-10 flex items-center gap-2 rounded-lg bg-ink-900 py-1.5 pl-3 pr-1.5 text-[13px] text-linen-50 shadow-xl"
      style={at}
    >
      <span className="num whitespace-nowrap">
        {many ? `${slots.ids.length} props` : `#${slotName(slots.ids[0])} · ${metres(p.s[row], scene.units)}`}
      </span>
      {!many && <span className="max-w-28 truncate text-linen-300">{prop}</span>}
      {!readOnly && (
        <button
          type="button"
          className="rounded-md bg-ink-700 px-2 py-1 text-[12.5px] hover:bg-ink-500"
          onClick={() =>
            dispatch(setSlotsRemoved, { id: slots.arrangement, slots: slots.ids, removed: !removed })
          }
        >
          {removed ? 'Bring back' : 'Remove'}
        </button>
      )}
    </div>
  );
}
