'use client';

import clsx from 'clsx';
import { pegOfSlot } from '@/core/arrange/pegs/blocks';
import { pegNumber, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { setPeg } from '@/store/commands/pegs';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { NumberBox } from '../../../controls/NumberField';
import { standingNow } from './pegMoves';
import { putCoordinate, putUv } from './typedPlaces';

/** Hundredths of a millimetre: what a click puts beside a round number is no news. */
const shown = (metres: number): number => Number(metres.toFixed(5)) || 0;

/** "Pinned to Quay", "Sits on eye of Boats #3"; null for a free one. */
function holderOf({ pin, sits }: Peg, scene: Scene): string | null {
  const named = (list: readonly { id: string; name: string }[], id: string) =>
    list.find((x) => x.id === id)?.name;
  if (sits?.on.to === 'slot') {
    const { arrangement, slot, snap } = sits.on;
    return `Sits on ${snap ?? 'the foot'} of ${named(scene.arrangements, arrangement) ?? 'what is gone'} #${slot}`;
  }
  if (sits) return `Sits on a point of ${named(scene.paths, sits.on.path) ?? 'a path that is gone'}`;
  return pin && `Pinned to ${named(scene.surfaces, pin.surface) ?? 'a surface that is gone'}`;
}

/** One peg by numbers: its place, how it stands where it is pinned, and its size. */
export function PegFields({
  arrangement: id,
  peg,
  className = '!px-1 [&_span:last-child]:hidden',
}: {
  arrangement: string;
  peg: Peg;
  className?: string;
}) {
  const unit = useDocument((s) => s.scene.units);
  const { pin, sits } = peg;
  const on = useDocument((s) => holderOf(peg, s.scene));
  /** How it stands where it is held. */
  const stance = sits ?? pin;
  const name = `Peg ${pegNumber(peg.id)}`;
  // Three places fill a row; what has a longer name two.
  const [third, half] = [clsx('col-span-2', className), clsx('col-span-3', className)];
  const set = (values: Partial<Omit<Peg, 'id'>>, key?: string) =>
    dispatch(setPeg, { id, peg: peg.id, values }, key);
  const held = (
    label: string,
    field: 'turnDeg' | 'lift' | 'lean',
    dimension: 'angle' | 'length' | 'percent',
    step: number,
  ) => (
    <NumberBox
      label={`${name} ${label.toLowerCase()}`}
      prefix={label}
      dimension={dimension}
      unit={unit}
      step={step}
      value={stance![field]}
      className={half}
      onChange={(v, key) => {
        if (v === null) return;
        const values = { [field]: field === 'lean' ? Math.min(1, Math.max(0, v)) : v };
        set(sits ? { sits: { ...sits, ...values } } : { pin: { ...pin!, ...values } }, key);
      }}
    />
  );
  // The result moves with the surface; what is shown follows it.
  useEngine((e) => (stance ? e.result.arrangements.get(id) : undefined));
  const [{ position }] = standingNow({ id }, [peg]);
  return (
    <>
      {on && <p className="mt-0.5 truncate text-[12px] opacity-75">{on}</p>}
      <div className="mt-1 grid grid-cols-6 gap-1">
        {(['X', 'Y', 'Z'] as const).map((axis, k) => (
          <NumberBox
            key={axis}
            label={`${name} ${axis}`}
            prefix={axis}
            dimension="length"
            unit={unit}
            step={0.05}
            value={shown(position[k])}
            className={third}
            onChange={(v, key) => v !== null && void putCoordinate(id, peg, k as 0 | 1 | 2, v, key)}
          />
        ))}
        {stance && (
          <>
            {held('Turn', 'turnDeg', 'angle', 5)}
            {held('Lift', 'lift', 'length', 0.05)}
            {held('Lean', 'lean', 'percent', 0.1)}
          </>
        )}
        <NumberBox
          label={`${name} size`}
          prefix="Size"
          dimension="percent"
          step={0.05}
          min={0.01}
          value={peg.scale[1]}
          className={half}
          onChange={(v, key) => {
            if (v === null) return;
            const k = Math.max(0.01, v) / peg.scale[1];
            set({ scale: peg.scale.map((s) => s * k) as Vec3 }, key);
          }}
        />
        {!sits &&
          pin?.uv &&
          (['u', 'v'] as const).map((axis, k) => (
            <NumberBox
              key={axis}
              label={`${name} ${axis}`}
              prefix={axis}
              step={0.01}
              value={pin.uv![k]}
              className={half}
              onChange={(x, key) =>
                x !== null && void putUv(id, peg, k === 0 ? [x, pin.uv![1]] : [pin.uv![0], x], key)
              }
            />
          ))}
      </div>
    </>
  );
}

/** The fields of the peg in a slot. */
export function PegOfSlot(props: { arrangement: Pegs; slot: number; className?: string }) {
  const { arrangement, slot, className } = props;
  const peg = pegOfSlot(arrangement.pegs, slot);
  return peg ? <PegFields arrangement={arrangement.id} peg={peg} className={className} /> : null;
}
