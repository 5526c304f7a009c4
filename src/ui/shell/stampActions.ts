import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { makeMaps } from '../baking/bake';
import { makeStamp, stampable, stampOfProp } from '../stamps/make';
import type { Action } from './action';

/** Id of the surface in hand. */
function surfaceInHand(): string | undefined {
  const { node } = useSelection.getState();
  return useDocument.getState().readOnly === null && node?.kind === 'surface' ? node.id : undefined;
}

/** What makes stamps and maps. */
export const STAMP_ACTIONS: Action[] = [
  {
    id: 'stamp',
    title: 'Make a stamp of pictures',
    words: 'decal sticker image texture transparent alpha normal map height stitch print label graffiti',
    enabled: () => useDocument.getState().readOnly === null,
    run: makeStamp,
  },
  {
    id: 'stamp-of-prop',
    title: 'Make a stamp of the selected prop',
    words: 'decal flatten image texture bake convert impostor stitch from mesh',
    enabled: () => stampable() !== undefined,
    run: () => void stampOfProp(stampable()!.id),
  },
  {
    id: 'bake-maps',
    title: 'Bake what lies on the surface into maps',
    words:
      'normal map bake texture ao ambient occlusion height displacement id mask render to texture uv low poly',
    enabled: () => surfaceInHand() !== undefined,
    run: () => makeMaps(surfaceInHand()!),
  },
];
