'use client';

import { useEffect, useState } from 'react';
import type { Stock } from '@/core/arrange/stock/schema';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { slotName } from '@/core/arrange/slotId';
import { plural } from '@/words/numbers';
import { Segmented } from '../../../controls/Segmented';
import { useSize } from '../../../flat/useSize';
import { WHOLE, zoomed, type Look } from '../../../flat/look';
import { ZoomButtons } from '../../../flat/ZoomButtons';
import { FacingBar } from './FacingBar';
import { Shelves } from './Shelves';
import type { View } from './shop';
import { unitsOf } from './shop';
import { Units } from './Units';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

const VIEWS = [
  { value: 'front', text: 'Front', hint: 'As one sees it in a shop' },
  { value: 'above', text: 'Above', hint: 'Each board from above' },
  { value: 'units', text: 'Units', hint: 'How many of each there are' },
] as const;

/** Stock, flat: shelves from the front with how deep each facing is, each from above, or how many units there are. */
export function StockFlat({ arrangement: stock }: { arrangement: Stock }) {
  const [frame, size] = useSize();
  const [look, setLook] = useState<Look>(WHOLE);
  const [view, setView] = useState<View | 'units'>('front');
  const [chosen, setChosen] = useState<string | null>(null);
  const result = useEngine((s) => s.result.arrangements.get(stock.id));
  const hovered = useSelection((s) => (s.hover?.arrangement === stock.id ? s.hover.slot : null));
  const layout = result?.stock;
  const p = result?.placements;
  useEffect(() => {
    const element = frame.current;
    if (!element || view === 'units') return undefined;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      const { left, top, width, height } = element.getBoundingClientRect();
      const [x, y] = [e.clientX - left - width / 2, e.clientY - top - height / 2];
      setLook((was) => zoomed(was, e.deltaY < 0 ? 1.15 : 1 / 1.15, x, y));
    };
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [frame, view]);
  const facing = layout?.facings.find((f) => f.name === chosen);
  const row = p && hovered !== null ? p.slot.indexOf(hovered) : -1;
  const over = layout?.facings.find((f) => row >= f.start && row < f.end);
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Shelf">
        {facing && p ? (
          <FacingBar stock={stock} facing={facing} placements={p} onDone={() => setChosen(null)} />
        ) : (
          <HeadWords
            fills
            live
            words={
              over && p && over.prop >= 0
                ? `Facing ${over.name}: ${plural(unitsOf(over, p), 'unit')} of ${over.end - over.start}, ${over.deep} deep · #${slotName(p.slot[row])}`
                : 'Click takes one away; drag a facing to another place, or the edge of a group.'
            }
          />
        )}
        <Segmented
          tight
          label="Shown"
          hint="How the shelves are shown"
          value={view}
          options={VIEWS}
          onChange={setView}
        />
        <ZoomButtons what="the shelves" look={look} onWhole={() => setLook(WHOLE)} />
      </FlatHead>
      {view === 'units' && layout && p ? (
        <Units stock={stock} layout={layout} placements={p} />
      ) : (
        <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="stock-shelves">
          {layout && p && layout.shelves.length > 0 && size.width > 0 && view !== 'units' && (
            <Shelves
              stock={stock}
              layout={layout}
              placements={p}
              view={view}
              look={look}
              setLook={setLook}
              size={size}
              chosen={chosen}
              setChosen={setChosen}
            />
          )}
          {(layout?.shelves.length ?? 0) === 0 && (
            <p className="px-4 text-sm text-soft">
              There is no board to fill yet. Choose a front edge, or a rack, under Shelves.
            </p>
          )}
        </div>
      )}
    </div>
  );
}
