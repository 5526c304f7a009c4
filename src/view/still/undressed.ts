import { Color, type Object3D, type Scene, type WebGLRenderer } from 'three';
import type { StillSpec } from './spec';

/** What of the view is no picture of the scene: lines of paths, marks, what is lit up because it is in hand. */
const isAid = (o: Object3D): boolean => o.userData.aid === true;
/** What lies behind everything: the sky, and the cloth of a scene without surfaces. */
const isBackground = (o: Object3D): boolean => o.userData.background === true;

const was = new Color();

/** Does something while the scene is as a picture shows it; after it all is as it was. */
export function asPicture(
  scene: Scene,
  { background }: Pick<StillSpec, 'background'>,
  gl: WebGLRenderer,
  work: () => void,
): void {
  const hidden: Object3D[] = [];
  scene.traverseVisible((o) => {
    if (isAid(o) || (background !== 'scene' && isBackground(o))) hidden.push(o);
  });
  for (const o of hidden) o.visible = false;
  gl.getClearColor(was);
  const alpha = gl.getClearAlpha();
  // The sky, where it is kept, is over all of it.
  gl.setClearColor(0, 0);
  try {
    work();
  } finally {
    gl.setClearColor(was, alpha);
    for (const o of hidden) o.visible = true;
  }
}
