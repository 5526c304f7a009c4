import { FloatType, WebGLRenderTarget, type Camera, type Scene, type WebGLRenderer } from 'three';
import { metered } from '@/core/light/metered';
import { asPicture } from '../still/undressed';

/** Pixels of the small picture that is measured. */
const WIDTH = 96;
const HEIGHT = 64;

let target: WebGLRenderTarget | null = null;

/** Measures how bright the scene is as it is seen now. @returns so many times brighter it is to be shown */
export async function measure(gl: WebGLRenderer, scene: Scene, camera: Camera): Promise<number> {
  target ??= new WebGLRenderTarget(WIDTH, HEIGHT, { type: FloatType });
  const before = gl.getRenderTarget();
  const { width, height } = target;
  gl.setRenderTarget(target);
  asPicture(scene, { background: 'scene' }, gl, () => {
    gl.clear();
    gl.render(scene, camera);
  });
  gl.setRenderTarget(before);
  const pixels = new Float32Array(width * height * 4);
  await gl.readRenderTargetPixelsAsync(target, 0, 0, width, height, pixels);
  return metered(pixels);
}
