import type { ManifoldToplevel } from 'manifold-3d';

/** The library that joins solids: doubles within, one thread, the same bits in every browser and in Node. */
export type Kernel = ManifoldToplevel;

let loaded: Kernel | null = null;
let loading: Promise<Kernel> | null = null;

/** Loads it, once; nobody does who has no solid. */
export function loadKernel(): Promise<Kernel> {
  loading ??= import('manifold-3d').then(async ({ default: module }) => {
    const kernel = await module();
    kernel.setup();
    return (loaded = kernel);
  });
  return loading;
}

/** The library, where it has been loaded. */
export const kernel = (): Kernel | null => loaded;
