import type Rapier from '@dimforge/rapier3d-deterministic-compat';

/** The library that moves bodies: the same bits in every browser and in Node. */
export type Physics = typeof Rapier;

let loaded: Physics | null = null;
let loading: Promise<Physics> | null = null;

/** Loads it, once; it is large, so nobody does who has nothing that falls. */
export function loadPhysics(): Promise<Physics> {
  loading ??= import('@dimforge/rapier3d-deterministic-compat').then(async (library) => {
    await library.init();
    return (loaded = library as unknown as Physics);
  });
  return loading;
}

/** The library, where it has been loaded. */
export const physics = (): Physics | null => loaded;
