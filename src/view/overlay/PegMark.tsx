'use client';

import { useView } from '../viewState';
import { SnapMark } from './SnapMark';
import { useFrames } from './useFrames';

/** What a peg snaps to, while one is put or slid. */
export function PegMark() {
  const view = useFrames();
  const snap = useView((s) => s.pegging.ahead?.snap ?? s.pegging.snap);
  if (!view || !snap) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
      <SnapMark view={view} snap={snap} />
    </svg>
  );
}
