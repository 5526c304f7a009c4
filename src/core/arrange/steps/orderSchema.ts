import { z } from 'zod';
import { length } from '../../math/measures';

/** Which prop goes in which slot. */

const propItem = z.object({ kind: z.literal('prop'), prop: z.string() });
const pauseItem = z.object({ kind: z.literal('pause') });
const special = z.discriminatedUnion('kind', [propItem, pauseItem]).nullable().default(null);

export interface OrderEntry {
  id: string;
  item: { kind: 'prop'; prop: string } | { kind: 'pause' } | { kind: 'group'; entries: OrderEntry[] };
  times: [number, number];
  weight: number;
  zones: number[];
}
export type OrderItem = OrderEntry['item'];
export type SpecialItem = Exclude<OrderItem, { kind: 'group' }>;

export const orderEntrySchema: z.ZodType<OrderEntry> = z.object({
  id: z.string(),
  item: z.discriminatedUnion('kind', [
    propItem,
    pauseItem,
    z.object({
      kind: z.literal('group').describe('Its entries in turn, as a whole as often as its times say'),
      entries: z.array(z.lazy(() => orderEntrySchema)).max(100),
    }),
  ]),
  times: z
    .tuple([z.int().min(0).max(10000), z.int().min(0).max(10000)])
    .default([1, 1])
    .describe('Pattern: how many in a row, drawn from [least, most]'),
  weight: length.default(1).describe('Mix: its share'),
  zones: z
    .array(z.int().min(0).max(999))
    .max(100)
    .default([])
    .describe('Only in these zones of the path; empty: in all'),
});

export const orderSchema = z
  .object({
    mode: z.enum(['pattern', 'mix']).default('pattern').describe('In turn, or mixed by weight'),
    bag: z.boolean().default(false).describe('Mix: exact shares over a bag instead of each slot for itself'),
    noRepeats: z
      .boolean()
      .default(false)
      .describe('Mix: never the same twice running, where there is a choice'),
    entries: z.array(orderEntrySchema).max(500).default([]),
    first: special.describe('In the first slot of each path'),
    last: special.describe('In the last slot of each path'),
    corner: special.describe('In the slot nearest to each corner'),
    every: z
      .object({
        n: z.int().min(1).max(100000),
        from: z.int().min(1).max(100000),
        item: z.discriminatedUnion('kind', [propItem, pauseItem]),
      })
      .nullable()
      .default(null)
      .describe('In every n-th slot, counted from 1'),
  })
  .prefault({});

export type Order = z.infer<typeof orderSchema>;

/** Every entry of an order, groups and what is in them included. */
export function allEntries(entries: OrderEntry[]): OrderEntry[] {
  return entries.flatMap((e) => [e, ...(e.item.kind === 'group' ? allEntries(e.item.entries) : [])]);
}

/** Ids of the props that an order may place, in order of first use. */
export function propsOfOrder(order: Order): string[] {
  const items: (OrderItem | null)[] = [
    ...allEntries(order.entries).map((e) => e.item),
    order.first,
    order.last,
    order.corner,
    order.every?.item ?? null,
  ];
  return [...new Set(items.flatMap((i) => (i?.kind === 'prop' ? [i.prop] : [])))];
}
