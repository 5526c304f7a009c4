import { neededFiles } from '@/core/formats/sceneZip';
import type { Scene } from '@/core/scene/schema';
import { engine } from '@/store/engine';
import { getMesh } from '@/store/keeping/scenes';

/**
 * Gives the engine the meshes and pictures that a scene, or part of one, brought along, and has all worked out with
 * them. A missing one is a finding, not a failure.
 */
export async function handOverMeshes(scene: Scene): Promise<void> {
  const needed = neededFiles(scene);
  for (const ref of needed) {
    const bytes = await getMesh(ref.hash);
    if (bytes)
      await (
        ref.format === 'hdr'
          ? engine().bringInPanorama(bytes, ref.fileName)
          : ref.format !== 'glb'
            ? engine().bringInPicture(bytes, ref.fileName)
            : engine().bringIn(bytes, ref.fileName)
      ).catch(() => undefined);
  }
  if (needed.length) engine().again();
}
