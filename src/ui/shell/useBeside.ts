import { useEffect, useRef, useState } from 'react';
import type { Vec3 } from '@/core/math/vec3';
import { toScreen } from '@/view/project';
import { onFrame } from '@/view/handle';
import { besideAt } from './beside';

/**
 * Where a panel of a given size stands beside a place of the scene, kept inside the view; null while unseen.
 * @param avoid places that it covers as few of as it can
 */
export function useBeside(
  place: Vec3 | null,
  size: { width: number; height: number },
  avoid: readonly Vec3[] = [],
): { left: number; top: number } | null {
  const [at, setAt] = useState<{ left: number; top: number } | null>(null);
  const { width, height } = size;
  const others = useRef(avoid);
  others.current = avoid;
  const [x, y, z] = place ?? [NaN, NaN, NaN];
  useEffect(() => {
    if (Number.isNaN(x)) return setAt(null);
    return onFrame((view) => {
      const p = toScreen(view, [x, y, z]);
      if (!p.ahead || p.x < -20 || p.y < -20 || p.x > view.size.width + 20 || p.y > view.size.height + 20)
        return setAt(null);
      const { x: left, y: top } = besideAt(
        p,
        { width, height },
        view.size,
        others.current.map((other) => toScreen(view, other)),
      );
      setAt((was) => (was?.left === left && was.top === top ? was : { left, top }));
    });
  }, [x, y, z, width, height]);
  return at;
}
