'use client';

import { ArrowLeftRight, Undo2, X } from 'lucide-react';
import type { Placements } from '@/core/arrange/result';
import type { StockFacing } from '@/core/arrange/result';
import type { Stock } from '@/core/arrange/stock/schema';
import { setFacings, type FacingValues } from '@/store/commands/stock';
import { dispatch, useDocument } from '@/store/document';
import { PropPicture } from '../../../basket/PropPicture';
import { Button, IconButton } from '../../../controls/Button';
import { NumberBox } from '../../../controls/NumberField';
import { PlainMenu } from '../../../controls/PlainMenu';
import { unitsOf } from './shop';

interface Props {
  stock: Stock;
  facing: StockFacing;
  placements: Placements;
  onDone: () => void;
}

/** The facing in hand: which prop, how deep, how high, sold out or not. */
export function FacingBar({ stock, facing, placements, onDone }: Props) {
  const { id, byFacing } = stock;
  const props = useDocument((s) => s.scene.props);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const { name } = facing;
  const own = byFacing[name];
  const units = facing.prop < 0 ? 0 : unitsOf(facing, placements);
  const set = (values: FacingValues, key?: string) =>
    dispatch(setFacings, { id, facings: { [name]: values } }, key);
  const box = { whole: true, min: 1, max: 4095, className: 'w-[74px] !px-1.5' };
  const prop = props.find((p) => p.id === placements.props[facing.prop]);
  if (readOnly) return <span className="flex-1 text-[12.5px]">Facing {name}</span>;
  return (
    <div
      role="group"
      aria-label={`Facing ${name}`}
      className="flex min-w-0 flex-1 items-center gap-1.5 text-[12.5px]"
    >
      <span className="num whitespace-nowrap">#{name}</span>
      <PlainMenu
        name={`Swap what stands in facing ${name}`}
        entries={[
          ...props.map((p) => ({
            text: p.name,
            icon: <PropPicture prop={p} size={22} />,
            run: () => set({ prop: p.id }),
          })),
          { text: 'As the order says', run: () => set({ prop: undefined }) },
        ]}
      >
        <ArrowLeftRight size={14} />
      </PlainMenu>
      <span className="min-w-0 truncate">{prop?.name ?? 'Pause'}</span>
      <NumberBox
        {...box}
        label={`Facing ${name} deep`}
        prefix="Deep"
        value={own?.deep ?? facing.deep}
        onChange={(deep, key) => set({ deep: deep === null ? undefined : Math.max(1, deep) }, key)}
      />
      <NumberBox
        {...box}
        label={`Facing ${name} high`}
        prefix="High"
        value={own?.high ?? facing.high}
        onChange={(high, key) => set({ high: high === null ? undefined : Math.max(1, high) }, key)}
      />
      <Button
        look="bordered"
        className="!py-0.5"
        title={units > 0 ? 'Its place stays empty' : 'It is filled again, whatever the recipe takes away'}
        onClick={() => set({ sold: units > 0 })}
      >
        {units > 0 ? 'Sold out' : 'Fill it'}
      </Button>
      {own && (
        <IconButton
          name={`Let facing ${name} go`}
          onClick={() => set({ prop: undefined, sold: undefined, deep: undefined, high: undefined })}
        >
          <Undo2 size={14} />
        </IconButton>
      )}
      <IconButton name="Put the facing down" onClick={onDone}>
        <X size={14} />
      </IconButton>
    </div>
  );
}
