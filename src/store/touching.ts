import { dequal } from 'dequal';
import { create } from 'zustand';
import type { Finding } from '@/core/arrange/result';
import { useGesture } from './document';
import { engine } from './engine';

/** What has begun to reach into something since the gesture under way began, by arrangement. */
export const useTouching = create<{ slots: ReadonlyMap<string, ReadonlySet<number>>; count: number }>(() => ({
  slots: new Map(),
  count: 0,
}));

/** Findings that two things are where one of them can be. */
const KINDS = new Set<Finding['kind']>(['overlap', 'doubled', 'through', 'buried']);

type Checks = ReadonlyMap<string, Finding[]>;

function reaching(checks: Checks): Map<string, Set<number>> {
  const out = new Map<string, Set<number>>();
  for (const [id, findings] of checks)
    for (const { kind, slots } of findings) {
      if (!KINDS.has(kind) || !slots) continue;
      const own = out.get(id) ?? new Set();
      slots.forEach((slot) => own.add(slot));
      out.set(id, own);
    }
  return out;
}

/** Looks all the time while something is dragged, and tells what is new since it began. @returns stops looking */
export function followTouching(): () => void {
  const client = engine();
  let before: Map<string, Set<number>> | null = null;
  let last: Checks | null = null;
  const stopGestures = useGesture.subscribe(({ open }) => {
    client.isEager = open;
    last = client.state.checks;
    before = open ? reaching(last) : null;
    if (!open) useTouching.setState({ slots: new Map(), count: 0 });
  });
  const stopChecks = client.subscribe(() => {
    const { checks } = client.state;
    if (!before || checks === last) return;
    last = checks;
    const slots = new Map<string, Set<number>>();
    let count = 0;
    for (const [id, now] of reaching(checks)) {
      const fresh = new Set([...now].filter((slot) => !before!.get(id)?.has(slot)));
      if (fresh.size > 0) slots.set(id, fresh);
      count += fresh.size;
    }
    // Mostly it is nothing, as before: then there is nothing to light up anew.
    if (!dequal(slots, useTouching.getState().slots)) useTouching.setState({ slots, count });
  });
  return () => {
    stopGestures();
    stopChecks();
    client.isEager = false;
  };
}
