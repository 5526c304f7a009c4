import { memo, useLayoutEffect, useRef, useState, type ComponentType } from 'react';
import { sameProps } from './sameProps';

type Act = (...args: unknown[]) => unknown;

/**
 * A component that is left as it is while it is given the same, whatever functions it is given: the page around it is
 * made anew at each step of a drag, and what its buttons do with it. Only for what calls its functions when something
 * happens, not while it is made.
 *
 * @example
 * export const Swatch = steady(function Swatch({ color, onTake }: SwatchProps) { … });
 */
export function steady<P extends object>(Inner: ComponentType<P>): ComponentType<P> {
  const Kept = memo(Inner, sameProps) as unknown as ComponentType<P>;
  return function Steady(props: P) {
    const latest = useRef(props);
    useLayoutEffect(() => void (latest.current = props));
    const [acts] = useState(() => new Map<string, Act>());
    const given = { ...props } as Record<string, unknown>;
    for (const [name, value] of Object.entries(props)) {
      if (typeof value !== 'function') continue;
      let act = acts.get(name);
      if (!act)
        acts.set(
          name,
          (act = (...args) => (latest.current as Record<string, Act | undefined>)[name]?.(...args)),
        );
      given[name] = act;
    }
    return <Kept {...(given as P)} />;
  };
}
