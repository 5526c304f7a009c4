import { useCallback, useLayoutEffect, useRef } from 'react';

/**
 * A function that stays the same and does what the last one that was given does: so that a part of the page that is
 * given a new function each time need not be made anew.
 */
export function useLatest<A extends unknown[], R>(act: (...args: A) => R): (...args: A) => R {
  const latest = useRef(act);
  useLayoutEffect(() => void (latest.current = act));
  return useCallback((...args: A) => latest.current(...args), []);
}
