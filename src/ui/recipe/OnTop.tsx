'use client';

import { X } from 'lucide-react';
import { useMemo } from 'react';
import type { OnTop as Shown } from '@/core/arrange/base';
import type { Arrangement } from '@/core/arrange/registry';
import { valueAt } from '@/core/scene/guard';
import { settingsOf, type Setting } from '@/core/scene/settings';
import { setOnTop, setSetting } from '@/store/commands/onTop';
import { dispatch, useDocument } from '@/store/document';
import { IconButton } from '../controls/Button';
import { LinkScope } from '../controls/LinkScope';
import { NumberField } from '../controls/NumberField';
import { RangeField } from '../controls/RangeField';
import { settingName, stepOf } from '../words/settingWords';

const STEPS: Record<Setting['measure'], number> = { length: 0.05, angle: 5, percent: 0.05, plain: 0.1 };

/** The ends of the track of a range that its schema bounds nowhere near. */
function trackOf({ measure, whole, least, most }: Setting): [number, number] {
  if (whole) return [least, Math.min(most, least + 9)];
  if (measure === 'angle') return [-180, 180];
  if (measure === 'percent') return most <= 1 ? [0, 1] : [0.5, 1.5];
  return [Math.max(least, -1), Math.min(most, 1)];
}

/** The settings that somebody wants at hand, above the steps of the recipe, each by the name that it was given. */
export function OnTop({ arrangement: a }: { arrangement: Arrangement }) {
  const readOnly = useDocument((s) => s.readOnly !== null);
  const settings = useMemo(
    () => (a.onTop ? new Map(settingsOf(a).map((s) => [s.field.join('.'), s])) : null),
    [a],
  );
  if (!a.onTop || !settings) return null;
  return (
    <fieldset
      disabled={readOnly}
      aria-label="On top"
      className="mt-1.5 min-w-0 rounded-lg bg-well px-2.5 py-1"
    >
      {a.onTop.map((shown) => {
        const setting = settings.get(shown.field.join('.'));
        return setting && <Row key={shown.field.join('.')} a={a} shown={shown} setting={setting} />;
      })}
    </fieldset>
  );
}

function Row({ a, shown, setting }: { a: Arrangement; shown: Shown; setting: Setting }) {
  const unit = useDocument((s) => s.scene.units);
  const { field, measure, whole, least, most, rest } = setting;
  const value = valueAt(a, field) as number | [number, number] | null;
  const set = (to: number | [number, number] | null, key?: string) =>
    dispatch(setSetting, { id: a.id, field, value: to, title: shown.name }, key);
  const common = {
    label: shown.name,
    hint: `${stepOf(setting)}, ${settingName(setting).toLowerCase()}${setting.said ? `: ${setting.said}` : ''}`,
    unit,
    step: whole ? 1 : STEPS[measure],
    min: least,
    max: most,
    whole,
    ...(measure !== 'plain' && { dimension: measure }),
  };
  return (
    <div className="flex items-start gap-1">
      <div className="min-w-0 flex-1">
        {Array.isArray(value) ? (
          <RangeField
            {...common}
            value={value}
            rest={Array.isArray(rest) ? (rest[0] as number) : 0}
            track={trackOf(setting)}
            onChange={set}
          />
        ) : (
          <LinkScope node={a.id} at={field.slice(0, -1).join('.')}>
            <NumberField
              {...common}
              field={field[field.length - 1]}
              value={value ?? 0}
              {...(value === null && { auto: 'auto' })}
              {...(!Array.isArray(rest) && { reset: rest as number | null })}
              onChange={set}
            />
          </LinkScope>
        )}
      </div>
      <IconButton
        name={`Take “${shown.name}” off the top`}
        className="mt-1 opacity-0 focus-visible:opacity-100 [div:hover>&]:opacity-100"
        onClick={() => dispatch(setOnTop, { id: a.id, onTop: a.onTop!.filter((t) => t !== shown) })}
      >
        <X size={13} />
      </IconButton>
    </div>
  );
}
