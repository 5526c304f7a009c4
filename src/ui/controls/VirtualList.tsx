'use client';

import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type ElementType, type ReactNode } from 'react';

/** Lists up to here are drawn whole. */
const WHOLE = 60;

interface ListProps {
  /** Of the list itself: "ul", "tbody". */
  as: ElementType;
  /** Of the spaces before and after what is drawn, as the list's own rows are. */
  space: ElementType;
  count: number;
  /** Pixels that a row is high, about. */
  height: number | ((index: number) => number);
  label?: string;
  className?: string;
  children: (index: number) => ReactNode;
}

/** A list of which, when it is long, only the rows that can be seen are there. It scrolls with whatever it stands in. */
export function VirtualList(props: ListProps) {
  const { as: List, count, label, className, children } = props;
  if (count > WHOLE) return <LongList {...props} />;
  return (
    <List aria-label={label} className={className}>
      {Array.from({ length: count }, (_, i) => children(i))}
    </List>
  );
}

function LongList({ as: List, space: Space, count, height, label, className, children }: ListProps) {
  const list = useRef<HTMLElement>(null);
  const [frame, setFrame] = useState<{ element: HTMLElement; above: number } | null>(null);
  useLayoutEffect(() => {
    const element = scrollerOf(list.current);
    if (!element || !list.current) return;
    const top = list.current.getBoundingClientRect().top - element.getBoundingClientRect().top;
    setFrame({ element, above: top + element.scrollTop });
  }, []);
  const rows = useVirtualizer({
    count,
    estimateSize: (i) => (typeof height === 'number' ? height : height(i)),
    getScrollElement: () => frame?.element ?? null,
    scrollMargin: frame?.above ?? 0,
    overscan: 8,
  });
  const shown = rows.getVirtualItems();
  const before = (shown[0]?.start ?? 0) - (shown.length > 0 ? (frame?.above ?? 0) : 0);
  const end = shown.length > 0 ? shown[shown.length - 1].end - (frame?.above ?? 0) : 0;
  return (
    <List ref={list} aria-label={label} className={className}>
      <Space aria-hidden style={{ height: before }} />
      {shown.map((row) => children(row.index))}
      <Space aria-hidden style={{ height: Math.max(0, rows.getTotalSize() - end) }} />
    </List>
  );
}

/** What scrolls an element: the nearest one around it that may. */
function scrollerOf(element: HTMLElement | null): HTMLElement | null {
  for (let e = element?.parentElement ?? null; e; e = e.parentElement)
    if (/auto|scroll/.test(getComputedStyle(e).overflowY)) return e;
  return null;
}
