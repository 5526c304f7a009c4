import type { PictureRef } from '@/core/mesh/meshRef';
import { engine } from '@/store/engine';
import { putMesh } from '@/store/keeping/scenes';

/** Keeps a picture that a mask or a material is to have. @throws Error with one sentence for one that is none */
export async function takePicture(bytes: Uint8Array, fileName: string): Promise<PictureRef> {
  const { hash, format } = await engine().bringInPicture(bytes, fileName);
  await putMesh(hash, bytes);
  return { hash, format, fileName: fileName.slice(0, 200) };
}
