import type { Viewpoint } from '@/core/scene/viewpointSchema';
import { useDocument } from '@/store/document';
import { useView } from './viewState';

/** The viewpoint whose frame lies over the view; null where there is none. */
export function useFramed(): Viewpoint | null {
  const id = useView((s) => s.viewpoint);
  const isFree = useView((s) => s.mode === 'free');
  const found = useDocument((s) => (id === null ? undefined : s.scene.viewpoints.find((v) => v.id === id)));
  return isFree ? (found ?? null) : null;
}
