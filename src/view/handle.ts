import type { Camera, Scene as ThreeScene, WebGLRenderer } from 'three';
import type { Vec3 } from '@/core/math/vec3';

/** What the overlay and the tools need of the running 3D view. */
export interface ViewHandle {
  camera: Camera;
  gl: WebGLRenderer;
  scene: ThreeScene;
  size: { width: number; height: number };
  /** Centre of turning. */
  target: Vec3;
  invalidate: () => void;
  /** Whether a frame has been asked for that is not drawn yet. */
  pending: () => boolean;
}

/** Called after every frame, so that what is drawn over the scene stays with it. */
type FrameListener = (handle: ViewHandle) => void;
const listeners = new Set<FrameListener>();
let handle: ViewHandle | null = null;

export const currentView = (): ViewHandle | null => handle;
export function publishFrame(next: ViewHandle | null): void {
  handle = next;
  if (next) listeners.forEach((l) => l(next));
}
export function onFrame(listener: FrameListener): () => void {
  listeners.add(listener);
  if (handle) listener(handle);
  return () => listeners.delete(listener);
}

/** The running view, as soon as there is one. */
export const viewReady = (): Promise<ViewHandle> =>
  new Promise((resolve) => {
    if (handle) return resolve(handle);
    const stop = onFrame((view) => {
      stop();
      resolve(view);
    });
  });
