import { useDocument } from '@/store/document';
import { makeStamp, stampable, stampOfProp } from '../stamps/make';
import type { Action } from './action';

/** What makes stamps. */
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
];
