import { z } from 'zod';
import type { ArrangeContext } from '../context';
import { boundsOf, type Say } from '../say';

/** Props that are drawn by weight, one for each place on its own. */
export const weightedSchema = z
  .array(z.object({ prop: z.string(), weight: z.number().min(0).max(1e6).default(1) }))
  .max(1000)
  .default([])
  .describe('Drawn for each by weight');

export type Weighted = z.infer<typeof weightedSchema>;

/** The prop at a share 0–1 of all weights together. */
export function weightedAt(list: Weighted, share: number): string {
  let left = share * list.reduce((sum, p) => sum + p.weight, 0);
  for (const { prop, weight } of list) {
    if (left < weight) return prop;
    left -= weight;
  }
  return list.findLast((p) => p.weight > 0)!.prop;
}

/** The ids of weighted props, with what stands in the way of them said; null where nothing can be drawn. */
export function weightedProps(list: Weighted, context: ArrangeContext, say: Say): string[] | null {
  const props = [...new Set(list.map((p) => p.prop))];
  boundsOf(props, context, say);
  if (props.length === 0) say('no-props', {});
  else if (list.every((p) => p.weight === 0)) say('order-empty', {});
  else return props;
  return null;
}
