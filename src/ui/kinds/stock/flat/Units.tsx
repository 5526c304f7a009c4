'use client';

import { Download } from 'lucide-react';
import Papa from 'papaparse';
import { useMemo } from 'react';
import type { Placements } from '@/core/arrange/result';
import type { StockLayout } from '@/core/arrange/result';
import type { Stock } from '@/core/arrange/stock/schema';
import { useDocument } from '@/store/document';
import { whole } from '@/words/numbers';
import { Button } from '../../../controls/Button';
import { download, fileName } from '../../../dialogs/download';
import { shelfName } from '../recipe/phrases';
import { unitsOf } from './shop';

interface Props {
  stock: Stock;
  layout: StockLayout;
  placements: Placements;
}

/** How many of each prop there are, and how many facings of it; the same by facing in the table that is sent out. */
export function Units({ stock, layout, placements }: Props) {
  const scene = useDocument((s) => s.scene);
  const nameOf = (prop: number) =>
    scene.props.find((x) => x.id === placements.props[prop])?.name ?? (prop < 0 ? 'Pause' : 'missing');
  const totals = useMemo(() => totalsOf(layout, placements), [layout, placements]);
  const send = () => {
    const rows = layout.facings.map((f) => {
      const { part, board } = layout.shelves[f.shelf];
      const shelf = stock.shelves.find((s) => s.part === part);
      return {
        shelf: shelf ? shelfName(shelf, scene) : part,
        board: board + 1,
        facing: f.name,
        prop: nameOf(f.prop),
        from: f.x0,
        to: f.x1,
        deep: f.deep,
        high: f.high,
        units: f.prop < 0 ? 0 : unitsOf(f, placements),
        full: f.prop < 0 ? 0 : f.end - f.start,
      };
    });
    download(
      new TextEncoder().encode(`${Papa.unparse(rows, { newline: '\n' })}\n`),
      fileName(`${stock.name} units`, 'csv'),
    );
  };
  const sum = (field: 'facings' | 'units' | 'full') => totals.reduce((all, t) => all + t[field], 0);
  return (
    <div className="thin-scroll min-h-0 flex-1 overflow-y-auto px-4 pb-2">
      <table className="w-full max-w-xl text-left text-[13px]" aria-label="Units of every prop">
        <thead>
          <tr className="text-soft">
            {['Prop', 'Facings', 'Units', 'Full'].map((h, i) => (
              <th key={h} className={`py-0.5 font-normal ${i > 0 ? 'text-right' : ''}`}>
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {totals.map((t) => (
            <tr key={t.prop} className="border-t border-edge">
              <td className="py-0.5">{nameOf(t.prop)}</td>
              {[t.facings, t.units, t.full].map((v, i) => (
                <td key={i} className="num text-right">
                  {whole(v)}
                </td>
              ))}
            </tr>
          ))}
          <tr className="border-t border-edge font-medium">
            <td className="py-0.5">All</td>
            {(['facings', 'units', 'full'] as const).map((f) => (
              <td key={f} className="num text-right">
                {whole(sum(f))}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <Button
        look="bordered"
        className="mt-2"
        title="A row a facing: shelf, prop, place, deep, high, units"
        onClick={send}
      >
        <Download size={14} />
        Units as a table (.csv)
      </Button>
    </div>
  );
}

/** Facings, units and units when full, by prop, the most first. */
function totalsOf({ facings }: StockLayout, placements: Placements) {
  const by = new Map<number, { prop: number; facings: number; units: number; full: number }>();
  for (const f of facings) {
    if (f.prop < 0) continue;
    let t = by.get(f.prop);
    if (!t) by.set(f.prop, (t = { prop: f.prop, facings: 0, units: 0, full: 0 }));
    t.facings++;
    t.units += unitsOf(f, placements);
    t.full += f.end - f.start;
  }
  return [...by.values()].sort((a, b) => b.units - a.units || a.prop - b.prop);
}
