import { useEffect, useState } from 'react';
import type { Vec3 } from '@/core/math/vec3';
import { toScreen } from '@/view/project';
import { onFrame } from '@/view/handle';

/** Where a panel of a given size stands beside a place of the scene, kept inside the view; null while unseen. */
export function useBeside(
  place: Vec3 | null,
  size: { width: number; height: number },
): { left: number; top: number } | null {
  const [at, setAt] = useState<{ left: number; top: number } | null>(null);
  const [x, y, z] = place ?? [NaN, NaN, NaN];
  useEffect(() => {
    if (Number.isNaN(x)) return setAt(null);
    return onFrame((view) => {
      const p = toScreen(view, [x, y, z]);
      if (!p.ahead || p.x < -20 || p.y < -20 || p.x > view.size.width + 20 || p.y > view.size.height + 20)
        return setAt(null);
      const right = p.x + 64 + size.width < view.size.width - 8;
      const left = right ? p.x + 64 : p.x - 64 - size.width;
      const top = p.y - size.height - 24;
      setAt({
        left: Math.max(8, Math.min(view.size.width - size.width - 8, left)),
        top: Math.max(72, Math.min(view.size.height - size.height - 52, top)),
      });
    });
  }, [x, y, z, size.width, size.height]);
  return at;
}
