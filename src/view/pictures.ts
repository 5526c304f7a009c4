import {
  AmbientLight,
  Box3,
  DirectionalLight,
  Mesh as ThreeMesh,
  PerspectiveCamera,
  Scene,
  Sphere,
  Vector3,
  WebGLRenderer,
} from 'three';
import type { Mesh } from '@/core/mesh/mesh';
import { disposeDrawn, drawnMesh } from './sceneMeshes';

/** Small pictures of props, drawn once each by one renderer of its own. */

const SIZE = 112;
let studio: { renderer: WebGLRenderer; scene: Scene; camera: PerspectiveCamera } | null = null;

function openStudio() {
  if (studio) return studio;
  const renderer = new WebGLRenderer({ alpha: true, antialias: true, preserveDrawingBuffer: true });
  renderer.setSize(SIZE, SIZE, false);
  const scene = new Scene();
  const sun = new DirectionalLight('#fff4e2', 2.6);
  sun.position.set(-2, 4, 3);
  scene.add(new AmbientLight('#ffffff', 1.4), sun);
  return (studio = { renderer, scene, camera: new PerspectiveCamera(26, 1, 0.001, 1000) });
}

/** A picture of a mesh in the prop's own space, as a data URL, seen a little from above and to its left. */
export function pictureOf(mesh: Mesh, matrix: ArrayLike<number>): string {
  const { renderer, scene, camera } = openStudio();
  const drawn = drawnMesh(mesh, matrix, () => {}, false);
  const object = new ThreeMesh(drawn.geometry, drawn.materials);
  const sphere = new Box3().setFromObject(object).getBoundingSphere(new Sphere());
  const away = Math.max(1e-4, sphere.radius) / Math.sin((15 * Math.PI) / 180);
  camera.position.copy(sphere.center).addScaledVector(new Vector3(0.55, 0.42, 0.85).normalize(), away);
  camera.near = away / 100;
  camera.far = away * 4;
  camera.updateProjectionMatrix();
  camera.lookAt(sphere.center);
  scene.add(object);
  renderer.render(scene, camera);
  scene.remove(object);
  disposeDrawn(drawn);
  return renderer.domElement.toDataURL('image/png');
}

/** The scene as it is seen now, scaled down, as a data URL; null while there is no view. */
export function pictureOfView(canvas: HTMLCanvasElement | undefined, width = 480): string | null {
  if (!canvas || canvas.width === 0 || canvas.height === 0) return null;
  const out = document.createElement('canvas');
  out.width = width;
  out.height = Math.round((width * 10) / 16);
  const paint = out.getContext('2d')!;
  const sky = paint.createLinearGradient(0, 0, 0, out.height);
  sky.addColorStop(0, '#CFDFE4');
  sky.addColorStop(0.55, '#E3E9E6');
  sky.addColorStop(1, '#F4EEE2');
  paint.fillStyle = sky;
  paint.fillRect(0, 0, out.width, out.height);
  const k = Math.max(out.width / canvas.width, out.height / canvas.height);
  const [w, h] = [canvas.width * k, canvas.height * k];
  paint.drawImage(canvas, (out.width - w) / 2, (out.height - h) / 2, w, h);
  return out.toDataURL('image/jpeg', 0.82);
}
