'use client';

import type { Sheet, Skip } from '@/core/arrange/sheet/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch } from '@/store/document';
import { NumberFields } from '../../../controls/NumberFields';
import { Segmented } from '../../../controls/Segmented';
import { GapsStep } from '../../../recipe/steps/GapsStep';
import { Toggle } from '../../../controls/Toggle';

const KEEP = [
  { value: 'skip', text: 'Skipped' },
  { value: 'keep', text: 'Kept' },
] as const;
const WHAT = [
  { field: 'skipRows', title: 'Skip rows', one: 'row' },
  { field: 'skipColumns', title: 'Skip columns', one: 'column' },
  { field: 'skipCells', title: 'Skip places', one: 'place' },
] as const;

/** Places of the grid that stay empty. Single ones are clicked in the flat view. */
export function SkipStep({ sheet }: { sheet: Sheet }) {
  const { id, grid } = sheet;
  const set = (values: Partial<Sheet['grid']>, key?: string) =>
    dispatch(setStep, { id, step: 'grid', values }, key);
  return (
    <>
      {WHAT.map(({ field, title, one }) => (
        <SkipFields
          key={field}
          title={title}
          one={one}
          value={grid[field]}
          set={(value, key) => set({ [field]: value }, key)}
        />
      ))}
      <GapsStep arrangement={sheet} />
      <p className="text-[12.5px] text-soft">Click a place in the flat view to empty or fill it.</p>
    </>
  );
}

function SkipFields(props: {
  title: string;
  one: string;
  value: Skip;
  set: (value: Skip, key?: string) => void;
}) {
  const { title, one, value, set } = props;
  return (
    <div role="group" aria-label={title}>
      <Toggle
        label={title}
        hint={`Leaves every n-th ${one} empty, or only fills it`}
        value={value !== null}
        onChange={(on) => set(on ? { every: 2, from: 1, keep: false } : null)}
      />
      {value && (
        <>
          <NumberFields
            fields={[
              {
                name: 'every',
                label: `Every n-th ${one}`,
                hint: `2 is every second ${one}`,
                whole: true,
                min: 1,
                max: 100000,
                reset: 2,
              },
              {
                name: 'from',
                label: 'From',
                hint: `Number of the first ${one}, from 1`,
                whole: true,
                min: 1,
                max: 100000,
                reset: 1,
              },
            ]}
            values={value}
            set={(v, key) => set({ ...value, ...v }, key)}
          />
          <Segmented
            shown
            label="Those are"
            hint="Whether these stay empty, or only these are filled"
            value={value.keep ? 'keep' : 'skip'}
            options={KEEP}
            onChange={(v) => set({ ...value, keep: v === 'keep' })}
          />
        </>
      )}
    </div>
  );
}
