import { OrthographicCamera, PerspectiveCamera, Vector3 } from 'three';
import type { ViewHandle } from '@/view/handle';

const SIZE = { width: 800, height: 500 };

const handleOf = (camera: PerspectiveCamera | OrthographicCamera): ViewHandle => {
  camera.updateMatrixWorld();
  return {
    camera,
    size: SIZE,
    target: [0, 0, 0],
    invalidate: () => {},
    pending: () => false,
  } as unknown as ViewHandle;
};

/** A view without a renderer that looks from `eye` to `target` with perspective. */
export function freeView(eye: [number, number, number], target: [number, number, number]): ViewHandle {
  const camera = new PerspectiveCamera(38, SIZE.width / SIZE.height, 0.1, 1200);
  camera.position.set(...eye);
  camera.lookAt(new Vector3(...target));
  camera.updateProjectionMatrix();
  return handleOf(camera);
}

/** A view straight from above: 0.02 m a pixel, x to the right, z down, the origin in the middle. */
export function topView(): ViewHandle {
  const camera = new OrthographicCamera(-8, 8, 5, -5, -1000, 3000);
  camera.up.set(0, 0, -1);
  camera.position.set(0, 500, 0);
  camera.lookAt(0, 0, 0);
  camera.updateProjectionMatrix();
  return handleOf(camera);
}
