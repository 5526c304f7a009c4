'use client';

import { Lock, LockOpen, PackageOpen, RectangleHorizontal, Spline, Undo2 } from 'lucide-react';
import { has, kindOf } from '@/core/arrange/registry';
import { slotName } from '@/core/arrange/slotId';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import type { HandCorrection } from '@/core/arrange/steps/schema';
import { whichBend } from '@/core/arrange/steps/whichBend';
import type { Vec3 } from '@/core/math/vec3';
import { bendSlots, letGo, lockSlots, nudgeSlot, swapSlots } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { IconButton } from '../controls/Button';
import { NumberBox } from '../controls/NumberField';
import { placeWithin } from '@/view/places';
import { useView } from '@/view/viewState';
import { goInto } from '../bundles/within';
import { WithinPanel } from '../bundles/WithinPanel';
import { uiOf } from '../kinds/registry';
import { metres } from '@/words/numbers';
import { lockWhereTheyStand } from './lockWhereTheyStand';
import { DARK, LIGHT, waysOf } from './slotPanelLook';
import { SwapMenu } from './SwapMenu';
import { useBeside } from './useBeside';

const SIZE = { width: 292, height: 104 };
/** The small dark panel beside the selected prop (or props): remove, swap, lock, nudge. */
export function SlotPanel() {
  const slots = useSelection((s) => s.slots);
  const result = useEngine((s) => (slots ? s.result.arrangements.get(slots.arrangement) : undefined));
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const arrangement = scene.arrangements.find((a) => a.id === slots?.arrangement);
  const p = result?.placements;
  const row = p && slots ? p.slot.indexOf(slots.ids[slots.ids.length - 1]) : -1;
  const place: Vec3 | null =
    p && row >= 0 ? [p.position[row * 3], p.position[row * 3 + 1], p.position[row * 3 + 2]] : null;
  const within = slots?.within ? placeWithin(slots) : null;
  const at = useBeside(within ?? place, SIZE);
  // With the peg tool in hand it would lie over what is pegged; the recipe has the same fields.
  const pegging = useView((s) => s.tool === 'peg');
  if (pegging || !at || !slots || !p || row < 0 || !arrangement) return null;
  if (slots.within && within) return <WithinPanel slots={slots} at={at} />;
  const removed = p.state[row] !== 0;
  const prop = scene.props.find((x) => x.id === p.props[p.prop[row]])?.name ?? 'Pause';
  const many = slots.ids.length > 1;
  const run = has(arrangement, 'hand') ? arrangement : null;
  /** Along a path there are lengths. */
  const along = has(arrangement, 'paths');
  const [on, beside] = waysOf(arrangement);
  const id = slots.arrangement;
  const { SlotFields } = uiOf(arrangement);
  const removes = kindOf(arrangement).removeSlots !== undefined;
  const names = slots.ids.map(slotName);
  const hand = run?.hand[names[0]] ?? {};
  const locked = run !== null && names.every((n) => run.hand[n]?.lock);
  const shaped = has(arrangement, 'hand', 'facing') ? arrangement : null;
  const bends = (by: typeof shaped) =>
    by !== null && (whichBend(by.facing, by.hand, p.props)?.(p.slot[row], p.prop[row]) ?? false);
  const isBent = bends(shaped);
  const bentByRecipe = bends(shaped && { ...shaped, hand: {} });
  const touched = run !== null && names.some((n) => run.hand[n]);
  const nudge = (values: Partial<HandCorrection>, key?: string) =>
    dispatch(nudgeSlot, { id, slot: slots.ids[0], values }, key);
  const length = (label: string, prefix: string, field: 'along' | 'side' | 'lift') => (
    <NumberBox
      label={label}
      prefix={prefix}
      dimension="length"
      unit={scene.units}
      step={0.05}
      value={hand[field] ?? 0}
      className={DARK}
      onChange={(v, key) => v !== null && nudge({ [field]: v }, key)}
    />
  );
  return (
    <div
      role="group"
      aria-label="Selected prop"
      className="absolute z-10 rounded-lg bg-ink-900 p-1.5 text-[13px] text-linen-50 shadow-xl"
      style={{ ...at, width: SIZE.width }}
    >
      <div className="flex items-center gap-1 pl-1.5">
        <span className="num whitespace-nowrap">{many ? `${slots.ids.length} props` : `#${names[0]}`}</span>
        {!many && (
          <span className="min-w-0 flex-1 truncate text-linen-300">
            {along ? metres(p.s[row], scene.units) : ''} {prop}
          </span>
        )}
        {many && <span className="flex-1" />}
        {!many && result.inside?.copy.includes(row) && (
          <IconButton name="Into it" className={LIGHT} onClick={() => goInto(slots)}>
            <PackageOpen size={14} />
          </IconButton>
        )}
        {!readOnly && run && (
          <>
            <SwapMenu
              asBefore="As the order says"
              onSwap={(to) => void dispatch(swapSlots, { id, slots: slots.ids, prop: to })}
            />
            {shaped && (
              <IconButton
                name={isBent ? 'Keep its shape' : 'Bend it'}
                className={LIGHT}
                disabled={removed}
                onClick={() =>
                  dispatch(bendSlots, {
                    id,
                    slots: slots.ids,
                    bend: isBent === bentByRecipe ? !isBent : null,
                  })
                }
              >
                {isBent ? <RectangleHorizontal size={14} /> : <Spline size={14} />}
              </IconButton>
            )}
            <IconButton
              name={locked ? 'Unlock' : 'Lock where it stands'}
              className={LIGHT}
              disabled={removed}
              onClick={() =>
                locked
                  ? dispatch(lockSlots, { id, slots: slots.ids, places: null })
                  : void lockWhereTheyStand(arrangement, p, slots.ids)
              }
            >
              {locked ? <Lock size={14} /> : <LockOpen size={14} />}
            </IconButton>
            {touched && (
              <IconButton name="Let go" className={LIGHT} onClick={() => dispatch(letGo, { id, names })}>
                <Undo2 size={14} />
              </IconButton>
            )}
          </>
        )}
        {!readOnly && removes && (
          <button
            type="button"
            title={
              removed ? 'It stands again where it stood' : 'Its place stays empty, through every later change'
            }
            className="rounded-md bg-ink-700 px-2 py-1 text-[12.5px] hover:bg-ink-500"
            onClick={() => dispatch(setSlotsRemoved, { id, slots: slots.ids, removed: !removed })}
          >
            {removed ? 'Bring back' : 'Remove'}
          </button>
        )}
      </div>
      {SlotFields && !many && !readOnly && (
        <SlotFields arrangement={arrangement} slot={slots.ids[0]} className={DARK} />
      )}
      {run && !many && !readOnly && !locked && !removed && (
        <div className="mt-1.5 grid grid-cols-3 gap-1">
          {length('Nudge along', on, 'along')}
          {length('Nudge side', beside, 'side')}
          {length('Nudge lift', 'Lift', 'lift')}
          <NumberBox
            label="Nudge turn"
            prefix="Turn"
            dimension="angle"
            step={5}
            value={hand.turnDeg ?? 0}
            className={DARK}
            onChange={(v, key) => v !== null && nudge({ turnDeg: v }, key)}
          />
          <NumberBox
            label="Nudge size"
            prefix="Size"
            dimension="percent"
            step={0.05}
            min={0.01}
            value={hand.size ?? 1}
            className={DARK}
            onChange={(v, key) => v !== null && nudge({ size: Math.max(0.01, v) }, key)}
          />
        </div>
      )}
    </div>
  );
}
