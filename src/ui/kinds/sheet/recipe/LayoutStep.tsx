'use client';

import { MAX_ROWS, slotParts } from '@/core/arrange/slotId';
import type { Sheet } from '@/core/arrange/sheet/schema';
import type { Placements, SheetLayout } from '@/core/arrange/result';
import { setStep } from '@/store/commands/arrangements';
import { addItem } from '@/store/commands/sheets';
import { dispatch, useDocument } from '@/store/document';
import { PropPicture } from '../../../basket/PropPicture';
import { Choice } from '../../../controls/Choice';
import { lengthField, NumberFields } from '../../../controls/NumberFields';
import { NumberField } from '../../../controls/NumberField';
import { PlainMenu } from '../../../controls/PlainMenu';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { Plus } from 'lucide-react';

const STAGGER = [
  { value: 'none', text: 'in straight rows' },
  { value: 'brick', text: 'second rows moved' },
  { value: 'drop', text: 'second columns moved' },
  { value: 'hex', text: 'six neighbours alike' },
] as const;
const ORDER = [
  { value: 'across', text: 'Across' },
  { value: 'up', text: 'Up' },
] as const;

interface Props {
  sheet: Sheet;
  layout: SheetLayout | null;
  placements: Placements | null;
}

/** The grid, its margins, and the free items. */
export function LayoutStep({ sheet, layout, placements }: Props) {
  const props = useDocument((s) => s.scene.props);
  const { id, grid } = sheet;
  const set = (values: Partial<Sheet['grid']>, key?: string) =>
    dispatch(setStep, { id, step: 'grid', values }, key);
  const count = (field: 'columns' | 'rows', label: string) => (
    <NumberField
      label={label}
      hint="Empty: as many as the props’ own size lets"
      whole
      min={0}
      max={100000}
      value={grid[field] ?? counted(placements, field)}
      auto={grid[field] === null ? `${counted(placements, field)} auto` : undefined}
      reset={null}
      onChange={(v, key) => set({ [field]: v }, key)}
    />
  );
  return (
    <>
      <Toggle
        label="Grid"
        hint="Places in rows and columns all over the sheet"
        value={grid.on}
        onChange={(on) => set({ on })}
      />
      {grid.on && (
        <>
          {count('columns', 'Columns')}
          {count('rows', 'Rows')}
          <Choice
            label="Stagger"
            hint="How neighbouring rows are moved against each other"
            value={grid.stagger}
            options={STAGGER}
            onChange={(stagger) => set({ stagger })}
          />
          {(grid.stagger === 'brick' || grid.stagger === 'drop') && (
            <NumberFields
              fields={[
                {
                  name: 'shift',
                  label: 'Moved by',
                  hint: 'Every second row or column moves on by this share of a cell',
                  dimension: 'percent',
                  step: 0.05,
                  min: 0,
                  max: 1,
                  reset: 0.5,
                },
              ]}
              values={grid}
              set={set}
            />
          )}
          <Toggle
            label="Fewer where it is narrow"
            hint="The number of columns follows the length of each row"
            value={grid.follow}
            onChange={(follow) => set({ follow })}
          />
          <Segmented
            shown
            label="Props go"
            hint="In which direction the order of the props runs"
            value={grid.order}
            options={ORDER}
            onChange={(order) => set({ order })}
          />
          <NumberFields
            fields={[
              lengthField('left', 'Margin left', 0, 'Left free along this edge of the layout'),
              lengthField('right', 'Margin right', 0, 'Left free along this edge of the layout'),
              lengthField('bottom', 'Margin below', 0, 'Left free along this edge of the layout'),
              lengthField('top', 'Margin above', 0, 'Left free along this edge of the layout'),
            ]}
            values={grid}
            set={set}
          />
        </>
      )}
      <div className="flex items-center justify-between text-sm">
        Free item
        <PlainMenu
          name="Add a free item"
          entries={props.map((p) => ({
            text: p.name,
            icon: <PropPicture prop={p} size={22} />,
            run: () =>
              void dispatch(addItem, {
                id,
                prop: p.id,
                at: [(layout?.width ?? 1) / 2, (layout?.height ?? 1) / 2],
              }),
          }))}
        >
          <Plus size={15} />
        </PlainMenu>
      </div>
    </>
  );
}

/** How many columns or rows came of the props' own size: the most of the slots' numbers. */
function counted(p: Placements | null, field: 'columns' | 'rows'): number {
  let most = 0;
  for (let i = 0; i < (p?.count ?? 0); i++) {
    const { part, stroke, row, index } = slotParts(p!.slot[i]);
    // Free items are on a stroke of their own.
    if (stroke > 0) continue;
    most = Math.max(most, field === 'columns' ? index : part * MAX_ROWS + row + 1);
  }
  return most || 1;
}
