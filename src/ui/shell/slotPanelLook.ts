import { has, type Arrangement } from '@/core/arrange/registry';

/** How the dark panel beside a placed prop looks, and what its numbers are called. */

export const DARK =
  '!border-ink-500 !bg-ink-700/60 !px-1 text-linen-50 [&_input]:h-6 [&_span]:!text-linen-300 [&_span:last-child]:hidden';
export const LIGHT = '!text-linen-300 hover:!bg-ink-700 hover:!text-linen-50';

/** What moving on and to the side are called: along a path, on a layout, out of a shelf. */
export const waysOf = (a: Arrangement): [string, string] =>
  has(a, 'paths') ? ['Along', 'Side'] : has(a, 'shelves') ? ['Out', 'Side'] : ['Up', 'Across'];
