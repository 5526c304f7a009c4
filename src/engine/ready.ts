import { loadPhysics, physics } from '@/core/arrange/release/physics';
import { kernel, loadKernel } from '@/core/mesh/solid/kernel';
import type { Scene } from '@/core/scene/schema';

/** Loads what a scene needs beside its files; nothing to wait for where that is nothing. */
export function ready({ arrangements, surfaces }: Scene): Promise<unknown> | undefined {
  const needed = [
    ...(arrangements.some((a) => a.release?.on) && !physics() ? [loadPhysics()] : []),
    ...(surfaces.some(({ mesh }) => mesh.source === 'solid' || mesh.source === 'network') && !kernel()
      ? [loadKernel()]
      : []),
  ];
  return needed.length > 0 ? Promise.all(needed) : undefined;
}
