import {
  curveSchema,
  freeItemSchema,
  type FreeItem,
  type Sheet,
  type SheetCurve,
} from '@/core/arrange/sheet/schema';
import { newEntry, takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findProp, findSurface, findWith } from './find';

/** Commands for sheets. Their order, variation and what the hand corrects have the commands of runs. */

export const findSheet = (scene: Scene, id: string): Sheet => findWith(scene, id, 'curves');

type Values = Partial<Omit<Sheet, 'id' | 'kind' | 'grid' | 'facing' | 'match' | 'items' | 'curves'>>;

/** Lays a sheet over a surface. @returns its id */
export const addSheet = command<{
  surface: string;
  prop?: string;
  values?: Values & { grid?: Partial<Sheet['grid']>; facing?: Partial<Sheet['facing']> };
  name?: string;
}>({
  apply(scene, { surface, prop, values = {}, name }) {
    const title =
      name ?? `${prop ? findProp(scene, prop).name : 'Sheet'} on ${findSurface(scene, surface).name}`;
    return addArrangement(scene, 'sheet', title, () => ({
      surface,
      order: { entries: prop ? [newEntry(takeId(scene, 'entry'), { kind: 'prop', prop })] : [] },
      ...values,
    }));
  },
  name: (_, after) => `lay “${after.arrangements.at(-1)!.name}”`,
});

/** Puts a free item onto the layout. @returns its id */
export const addItem = command<{ id: string; prop: string; at: [number, number] }>({
  apply(scene, { id, prop, at }) {
    const item = freeItemSchema.parse({ id: takeId(scene, 'item'), prop, at });
    findSheet(scene, id).items.push(item);
    return item.id;
  },
  name: (before, _, { prop }) => `put “${findProp(before, prop).name}” on the sheet`,
});

export const setItem = command<{ id: string; item: string; values: Partial<Omit<FreeItem, 'id'>> }>({
  apply(scene, { id, item, values }) {
    const found = findSheet(scene, id).items.find((i) => i.id === item);
    if (found) Object.assign(found, values);
  },
  name: (_, __, { values }) => (values.at ? 'move an item of the sheet' : 'change an item of the sheet'),
});

/** Adds lines to the layout's pattern, in place of the ones that are there or beside them. */
export const addCurves = command<{ id: string; curves: Omit<SheetCurve, 'id'>[]; instead?: boolean }>({
  apply(scene, { id, curves, instead }) {
    const sheet = findSheet(scene, id);
    if (instead) sheet.curves = [];
    const made = curves.map((c) => curveSchema.parse({ ...c, id: takeId(scene, 'curve') }));
    sheet.curves.push(...made);
    return made.map((c) => c.id).join(' ');
  },
  name: (_, __, { curves }) =>
    curves.length === 1 ? 'draw a line on the sheet' : `${curves.length} lines on the sheet`,
});

export const setCurve = command<{ id: string; curve: string; values: Partial<Omit<SheetCurve, 'id'>> }>({
  apply(scene, { id, curve, values }) {
    const found = findSheet(scene, id).curves.find((c) => c.id === curve);
    if (found) Object.assign(found, values);
  },
  name: (_, __, { values }) => (values.points ? 'move a line of the sheet' : 'change a line of the sheet'),
});

/** Repeats the lines in every cell, or no more: what was metres of the layout becomes shares, and back. */
export const setRepeat = command<{ id: string; repeat: boolean; width: number; height: number }>({
  apply(scene, { id, repeat, width, height }) {
    const sheet = findSheet(scene, id);
    if (sheet.repeat === repeat) return;
    sheet.repeat = repeat;
    const [kx, ky] = repeat ? [1 / width, 1 / height] : [width, height];
    const round = (v: number) => Number(v.toFixed(5));
    for (const c of sheet.curves)
      c.points = c.points.map(([x, y]): [number, number] => [round(x * kx), round(y * ky)]);
  },
  name: (_, __, { repeat }) => (repeat ? 'repeat the lines in every cell' : 'lines once over the sheet'),
});

export const removeCurves = command<{ id: string; curves: string[] }>({
  apply(scene, { id, curves }) {
    const sheet = findSheet(scene, id);
    sheet.curves = sheet.curves.filter((c) => !curves.includes(c.id));
  },
  name: (_, __, { curves }) => (curves.length === 1 ? 'remove a line' : `remove ${curves.length} lines`),
});
