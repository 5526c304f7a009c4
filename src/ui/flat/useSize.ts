import { useEffect, useRef, useState, type RefObject } from 'react';

/** An element's inner size in pixels, as it changes; nothing until it is there. */
export function useSize(): [RefObject<HTMLDivElement | null>, { width: number; height: number }] {
  const frame = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const element = frame.current;
    if (!element) return undefined;
    const seen = new ResizeObserver(() =>
      setSize({ width: element.clientWidth, height: element.clientHeight }),
    );
    seen.observe(element);
    return () => seen.disconnect();
  }, []);
  return [frame, size];
}
