'use client';

import type { Tie } from '@/core/curve/hang/schema';
import type { PointsPath } from '@/core/curve/schema';
import { tiePoint } from '@/store/commands/hanging';
import { dispatch } from '@/store/document';
import { shownPointsOf } from '@/view/onSurface';
import { Connected } from '../../../controls/Connected';

/** What a point of a path is connected to. */
export function ConnectedPoint({ path, point }: { path: PointsPath; point: string }) {
  const tie = path.source.points.find((p) => p.id === point)?.tie;
  if (path.source.on) return null;
  const put = (next: Tie | null) => {
    const at = shownPointsOf(path.id).find((p) => p.id === point)?.position ?? [0, 0, 0];
    dispatch(tiePoint, { path: path.id, point, tie: next, at });
  };
  return <Connected tie={tie} own={path.id} what="point" put={put} />;
}
