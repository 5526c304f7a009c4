import { useShallow } from 'zustand/react/shallow';
import { useDocument } from '@/store/document';

/** What a surface can be made from: every arrangement and every other surface. Pairs of ids and names. */
export function useBodies(own: string): { id: string; name: string }[] {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const surfaces = useDocument(useShallow((s) => s.scene.surfaces.filter((x) => x.id !== own)));
  return [...surfaces, ...arrangements];
}
