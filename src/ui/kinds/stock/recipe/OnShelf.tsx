'use client';

import { propsOfOrder } from '@/core/arrange/steps/schema';
import type { Stock } from '@/core/arrange/stock/schema';
import { setOnShelf, type OnShelfValues } from '@/store/commands/stock';
import { dispatch, useDocument } from '@/store/document';
import { NumberBox } from '../../../controls/NumberField';
import { Optional } from '../../../controls/Optional';
import { Toggle } from '../../../controls/Toggle';

const onlyWhole = (field: 'high' | 'deep', v: number | null) => ({
  [field]: v === null ? undefined : Math.max(1, v),
});

/** What a shelf needs to know of each prop: whether it is stacked, how high, how deep, how much air it needs. */
export function OnShelf({ stock }: { stock: Stock }) {
  const { props, units } = useDocument((s) => s.scene);
  const { id, onShelf } = stock;
  return (
    <Optional
      parts={propsOfOrder(stock.order).flatMap((prop) => {
        const found = props.find((p) => p.id === prop);
        if (!found) return [];
        const own = onShelf[prop] ?? {};
        const { name } = found;
        const set = (values: OnShelfValues, key?: string) => dispatch(setOnShelf, { id, prop, values }, key);
        const box = { className: 'flex-1 !px-1.5' };
        return [
          {
            label: name,
            hint: `What a shelf needs to know of ${name}: whether it is stacked, how high, how deep, air above`,
            isSet: Object.keys(own).length > 0,
            content: (
              <div role="group" aria-label={`${name} on the shelf`}>
                <Toggle
                  label={`${name}: stacked`}
                  hint="Off: nothing stands on it"
                  value={own.stack ?? true}
                  onChange={(on) => set(on ? { stack: undefined } : { stack: false })}
                />
                <div className="flex gap-1.5">
                  <NumberBox
                    {...box}
                    label={`${name} most high`}
                    prefix="High"
                    whole
                    min={1}
                    max={4095}
                    value={own.high ?? 1}
                    auto={own.high === undefined ? 'any' : undefined}
                    onChange={(high, key) => set(onlyWhole('high', high), key)}
                  />
                  <NumberBox
                    {...box}
                    label={`${name} most deep`}
                    prefix="Deep"
                    whole
                    min={1}
                    max={4095}
                    value={own.deep ?? 1}
                    auto={own.deep === undefined ? 'any' : undefined}
                    onChange={(deep, key) => set(onlyWhole('deep', deep), key)}
                  />
                  <NumberBox
                    {...box}
                    label={`${name} air above`}
                    prefix="Air"
                    dimension="length"
                    unit={units}
                    step={0.01}
                    min={0}
                    value={own.above ?? 0}
                    onChange={(above, key) => set(above ? { above } : { above: undefined }, key)}
                  />
                </div>
              </div>
            ),
          },
        ];
      })}
    />
  );
}
