'use client';

import { Plus, Trash2 } from 'lucide-react';
import type { StockLayout } from '@/core/arrange/result';
import type { Shelf, Stock } from '@/core/arrange/stock/schema';
import { allEntries } from '@/core/arrange/steps/schema';
import { slotName } from '@/core/arrange/slotId';
import { STATE } from '@/core/arrange/result';
import {
  addShelf,
  removeShelf,
  setLevel,
  setLevels,
  setShelf,
  type GivenShelf,
} from '@/store/commands/stock';
import { dispatch, useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { showMeasure } from '@/words/measure';
import { plural } from '@/words/numbers';
import { sentence } from '@/words/findings';
import { IconButton } from '../../../controls/Button';
import { NumberBox, NumberField } from '../../../controls/NumberField';
import { PlainMenu, type MenuEntry } from '../../../controls/PlainMenu';
import { Segmented } from '../../../controls/Segmented';
import { shelfName } from './phrases';

const BEHIND = [
  {
    value: 'left',
    text: 'Left',
    hint: 'Of the way along the edge: it runs from left to right as one looks at it',
  },
  { value: 'right', text: 'Right', hint: 'Of the way along the edge' },
] as const;
const FRONTS = [
  { value: '+z', text: '+Z' },
  { value: '-z', text: '−Z' },
  { value: '+x', text: '+X' },
  { value: '-x', text: '−X' },
] as const;
/** So many boards are listed with settings of their own. */
const LISTED = 12;

/** Where goods stand: front edges and racks, each with its boards. */
export function ShelvesStep({ stock, layout }: { stock: Stock; layout: StockLayout | undefined }) {
  const scene = useDocument((s) => s.scene);
  const findings = useEngine((s) => s.result.arrangements.get(stock.id)?.findings) ?? [];
  return (
    <>
      {stock.shelves.map((shelf) => (
        <OneShelf key={shelf.part} stock={stock} shelf={shelf} layout={layout} />
      ))}
      <div className="flex items-center justify-between text-sm">
        Another shelf
        <PlainMenu name="Another shelf" entries={() => further(stock)}>
          <Plus size={15} />
        </PlainMenu>
      </div>
      {findings
        .filter(
          (f) => f.kind.startsWith('stock-no') || f.kind === 'shelf-missing' || f.kind === 'stock-too-many',
        )
        .map((f, i) => (
          <p key={i} role="alert" className="mt-1 text-[12.5px] text-danger">
            {sentence(f, scene)}
          </p>
        ))}
    </>
  );
}

/** What else could be filled: edges, racks that are surfaces, placed props of what is a rack here already. */
function further(stock: Stock): MenuEntry[] {
  const { paths, surfaces, arrangements } = useDocument.getState().scene;
  const add = (shelf: GivenShelf) => () => void dispatch(addShelf, { id: stock.id, shelf });
  const has = (test: (s: Shelf) => boolean) => stock.shelves.some(test);
  const edges = paths.filter((p) => !has((s) => s.from === 'path' && s.path === p.id));
  const racks = surfaces.filter((p) => !has((s) => s.from === 'surface' && s.surface === p.id));
  const placed = arrangements
    .filter((a) => a.id !== stock.id)
    .flatMap((a) => {
      const p = engine().state.result.arrangements.get(a.id)?.placements;
      if (!p || p.count > 60) return [];
      return [...p.slot].flatMap((id, i) => {
        const slot = slotName(id);
        const known = has((s) => s.from === 'prop' && s.arrangement === a.id && s.slot === slot);
        return p.state[i] !== STATE.placed || known ? [] : [{ a, slot }];
      });
    });
  return [
    ...edges.map((p) => ({ text: `Along ${p.name}`, run: add({ from: 'path', path: p.id }) })),
    ...racks.map((s) => ({
      text: `On the boards of ${s.name}`,
      run: add({ from: 'surface', surface: s.id }),
    })),
    ...placed.map(({ a, slot }) => ({
      text: `On the boards of ${a.name} #${slot}`,
      run: add({ from: 'prop', arrangement: a.id, slot }),
    })),
  ];
}

interface ShelfProps {
  stock: Stock;
  shelf: Shelf;
  layout: StockLayout | undefined;
}

function OneShelf({ stock, shelf, layout }: ShelfProps) {
  const scene = useDocument((s) => s.scene);
  const unit = scene.units;
  const { id } = stock;
  const { part } = shelf;
  const name = shelfName(shelf, scene);
  const boards = (layout?.shelves ?? []).filter((s) => s.part === part);
  const found = boards[0];
  const set = (values: Parameters<typeof setShelf.apply>[1]['values'], key?: string) =>
    dispatch(setShelf, { id, part, values }, key);
  return (
    <div role="group" aria-label={name} className="mb-2 border-b border-edge pb-1.5">
      <div className="flex items-center justify-between gap-2 text-[13px] font-medium">
        <span className="min-w-0 truncate">{name}</span>
        <IconButton
          name={`Take ${name} out`}
          className="!size-5"
          onClick={() => dispatch(removeShelf, { id, part })}
        >
          <Trash2 size={13} />
        </IconButton>
      </div>
      {shelf.from === 'path' && (
        <Segmented
          shown
          label="The board lies"
          hint="On which side of the way along the edge"
          value={shelf.behind}
          options={BEHIND}
          onChange={(behind) => set({ behind })}
        />
      )}
      {shelf.from !== 'path' && (
        <Segmented
          shown
          tight
          label="Its front"
          hint="The side of its own frame that one looks at"
          value={shelf.front}
          options={FRONTS}
          onChange={(front) => set({ front })}
        />
      )}
      <NumberField
        label="Depth"
        hint="From the front edge back; empty: as deep as the board"
        dimension="length"
        unit={unit}
        step={0.05}
        min={0}
        value={shelf.depth ?? found?.depth ?? 0}
        auto={
          shelf.depth === null
            ? found
              ? `auto ${showMeasure(found.depth, 'length', unit)}`
              : 'auto'
            : undefined
        }
        reset={null}
        onChange={(depth, key) => set({ depth: depth === null ? null : Math.max(0, depth) }, key)}
      />
      {shelf.from === 'path' && (
        <NumberField
          label="Levels"
          hint="Boards one over the other, all with this front edge"
          whole
          min={1}
          max={40}
          value={Math.max(1, shelf.levels.length)}
          reset={1}
          onChange={(v, key) => {
            const count = Math.min(40, Math.max(1, v ?? 1));
            const height = found && Number.isFinite(found.height) ? found.height : 0.4;
            dispatch(setLevels, { id, part, count, height }, key);
          }}
        />
      )}
      <Boards stock={stock} shelf={shelf} boards={boards} />
    </div>
  );
}

/** The boards of a shelf from the lowest up: how high, how thick, which goods, or none. */
function Boards({ stock, shelf, boards }: { stock: Stock; shelf: Shelf; boards: StockLayout['shelves'] }) {
  const unit = useDocument((s) => s.scene.units);
  const { id } = stock;
  const { part } = shelf;
  const known = Math.max(1, shelf.levels.length, ...boards.map((b) => b.board + 1));
  const count = Math.min(LISTED, shelf.from === 'path' ? Math.max(1, shelf.levels.length) : known);
  const set = (board: number, values: Parameters<typeof setLevel.apply>[1]['values'], key?: string) =>
    dispatch(setLevel, { id, part, board, values }, key);
  return (
    <ol aria-label="Boards">
      {Array.from({ length: count }, (_, board) => {
        const level = shelf.levels[board] ?? { height: null, board: 0.03, goods: [], empty: false };
        const now = boards.find((b) => b.board === board);
        const auto = now && Number.isFinite(now.height) ? showMeasure(now.height, 'length', unit) : 'open';
        const title = `Board ${board + 1}`;
        return (
          <li key={board} className="flex items-center gap-1.5 py-0.5 text-[12.5px]">
            <span className="num w-4 text-soft">{board + 1}</span>
            <NumberBox
              label={`${title} clear height`}
              prefix="Clear"
              dimension="length"
              unit={unit}
              step={0.05}
              min={0}
              value={level.height ?? 0}
              auto={level.height === null ? auto : undefined}
              className="min-w-0 flex-1 !px-1.5"
              onChange={(v, key) => set(board, { height: v === null ? null : Math.max(0, v) }, key)}
            />
            {shelf.from === 'path' && board < count - 1 && (
              <NumberBox
                label={`${title} thickness of the one over it`}
                prefix="Thick"
                dimension="length"
                unit={unit}
                step={0.005}
                min={0}
                value={level.board}
                className="w-[88px] !px-1.5"
                onChange={(v, key) => v !== null && set(board, { board: Math.max(0, v) }, key)}
              />
            )}
            <GoodsMenu
              stock={stock}
              title={title}
              goods={level.goods}
              empty={level.empty}
              set={(values) => set(board, values)}
            />
          </li>
        );
      })}
      {known > LISTED && (
        <li className="text-[12.5px] text-soft">and {plural(known - LISTED, 'board')} more</li>
      )}
    </ol>
  );
}

interface GoodsProps {
  stock: Stock;
  title: string;
  goods: readonly string[];
  empty: boolean;
  set: (values: { goods?: string[]; empty?: boolean }) => void;
}

/** Which entries of the order a board takes. */
function GoodsMenu({ stock, title, goods, empty, set }: GoodsProps) {
  const { props } = useDocument((s) => s.scene);
  const entries = stock.order.entries.map((e) => {
    const { item } = e;
    const name =
      item.kind === 'prop'
        ? (props.find((p) => p.id === item.prop)?.name ?? 'missing')
        : item.kind === 'pause'
          ? 'Pause'
          : `Group of ${allEntries(item.entries).length}`;
    const on = goods.includes(e.id);
    return {
      text: `${on ? '✓ ' : ''}${name}`,
      run: () => set({ goods: on ? goods.filter((g) => g !== e.id) : [...goods, e.id], empty: false }),
    };
  });
  const shown = empty ? 'empty' : goods.length === 0 ? 'all' : plural(goods.length, 'good');
  return (
    <PlainMenu
      name={`${title} goods`}
      className="!w-auto px-1.5 text-[12.5px]"
      entries={[
        {
          text: `${!empty && goods.length === 0 ? '✓ ' : ''}All goods`,
          run: () => set({ goods: [], empty: false }),
        },
        ...entries,
        { text: `${empty ? '✓ ' : ''}Left empty`, run: () => set({ empty: !empty }) },
      ]}
    >
      <span>{shown}</span>
    </PlainMenu>
  );
}
