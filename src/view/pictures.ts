import {
  Box3,
  Color,
  DoubleSide,
  FrontSide,
  Mesh as ThreeMesh,
  MeshLambertMaterial,
  PerspectiveCamera,
  Scene,
  Sphere,
  Vector3,
  WebGLRenderTarget,
  type Camera,
  type WebGLRenderer,
} from 'three';
import type { Mesh } from '@/core/mesh/mesh';
import type { MeshMaterial } from '@/core/mesh/material';
import { disposeMaterial, drawnMaterial } from './materials';
import { drawnGeometry } from './sceneMeshes';
import { viewReady } from '@/view/handle';
import { studioLight } from './light';

/** Small pictures of props, drawn by the scene's own renderer: a second one would be slow to start. */

const SIZE = 112;
let studio: { scene: Scene; camera: PerspectiveCamera; target: WebGLRenderTarget } | null = null;
/** Materials are kept: letting go of the last one of a sort would let go of its compiled shader too. */
const materials = new Map<string, MeshLambertMaterial>();

function openStudio() {
  if (studio) return studio;
  const scene = new Scene();
  scene.add(...studioLight());
  const target = new WebGLRenderTarget(SIZE, SIZE, { samples: 4 });
  return (studio = { scene, camera: new PerspectiveCamera(26, 1, 0.001, 1000), target });
}

export function pictureMaterial(m: MeshMaterial, colors: boolean): MeshLambertMaterial {
  const key = JSON.stringify([m.color, m.emissive, m.doubleSided, colors && !m.plain]);
  let made = materials.get(key);
  if (!made) {
    made = new MeshLambertMaterial({
      color: new Color(m.color[0], m.color[1], m.color[2]),
      emissive: new Color(...m.emissive),
      side: m.doubleSided ? DoubleSide : FrontSide,
      vertexColors: colors && !m.plain,
    });
    materials.set(key, made);
  }
  return made;
}

/** A picture of a mesh in the prop's own space, as a data URL, seen a little from above and to its left. */
export async function pictureOf(mesh: Mesh, matrix: ArrayLike<number>): Promise<string> {
  const { gl } = await viewReady();
  const { scene, camera, target } = openStudio();
  const { object, letGo } = await standing(mesh, matrix);
  const sphere = new Box3().setFromObject(object).getBoundingSphere(new Sphere());
  const away = Math.max(1e-4, sphere.radius) / Math.sin((15 * Math.PI) / 180);
  camera.position.copy(sphere.center).addScaledVector(new Vector3(0.55, 0.42, 0.85).normalize(), away);
  camera.near = away / 100;
  camera.far = away * 4;
  camera.updateProjectionMatrix();
  camera.lookAt(sphere.center);
  scene.add(object);
  const picture = photograph(gl, scene, camera, target);
  scene.remove(object);
  letGo();
  return picture;
}

/** A prop as it stands in a picture. */
export async function standing(mesh: Mesh, matrix: ArrayLike<number>) {
  const geometry = drawnGeometry(mesh, matrix);
  const own = mesh.materials.map((m) => m.maps && drawnMaterial(m, mesh.colors !== undefined, true));
  await Promise.all(own.map((made) => made?.ready));
  const object = new ThreeMesh(
    geometry,
    mesh.materials.map((m, i) => own[i]?.material ?? pictureMaterial(m, mesh.colors !== undefined)),
  );
  const letGo = () => {
    geometry.dispose();
    for (const made of own) if (made) disposeMaterial(made.material);
  };
  return { object, letGo };
}

/** What a camera sees, as a data URL; what the view draws to stays as it was. */
export function photograph(
  gl: WebGLRenderer,
  scene: Scene,
  camera: Camera,
  target: WebGLRenderTarget,
): string {
  const { width, height } = target;
  const pixels = new Uint8Array(width * height * 4);
  const before = gl.getRenderTarget();
  gl.setRenderTarget(target);
  gl.setClearColor(0, 0);
  gl.clear();
  gl.render(scene, camera);
  gl.readRenderTargetPixels(target, 0, 0, width, height, pixels);
  gl.setRenderTarget(before);
  return toDataUrl(pixels, width, height);
}

/** Linear pixels, bottom row first, as a PNG for the screen. */
function toDataUrl(pixels: Uint8Array, width = SIZE, height = SIZE): string {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const paint = canvas.getContext('2d')!;
  const image = paint.createImageData(width, height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const from = ((height - 1 - y) * width + x) * 4;
      const to = (y * width + x) * 4;
      const alpha = pixels[from + 3] / 255;
      for (let k = 0; k < 3; k++) {
        const v = alpha > 0 ? Math.min(1, pixels[from + k] / 255 / alpha) : 0;
        image.data[to + k] = 255 * (v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055);
      }
      image.data[to + 3] = pixels[from + 3];
    }
  }
  paint.putImageData(image, 0, 0);
  return canvas.toDataURL('image/png');
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
