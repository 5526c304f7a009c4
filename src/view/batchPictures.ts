import {
  InstancedBufferAttribute,
  InstancedMesh,
  OrthographicCamera,
  PerspectiveCamera,
  Scene as ThreeScene,
  WebGLRenderTarget,
} from 'three';
import { meshBounds, propMatrix } from '@/core/mesh/mesh';
import type { Scene } from '@/core/scene/schema';
import type { Variant } from '@/engine/service';
import type { DrawBatch } from '@/engine/drawBatch';
import { engine } from '@/store/engine';
import { wornAmong } from '@/core/scene/worn';
import { drawnWardrobe, looksIn } from './dressing';
import { studioLight } from './light';
import { photograph, pictureMaterial } from './pictures';
import { bentGeometry, drawnGeometry } from './sceneMeshes';
import { toScreen } from './project';
import { viewReady, type ViewHandle } from '@/view/handle';

/** Small pictures of what an arrangement places, as it is seen in the view, cut to where it is. */

const WIDTH = 320;
const HEIGHT = 180;
let studio: { scene: ThreeScene; target: WebGLRenderTarget } | null = null;

function openStudio() {
  if (studio) return studio;
  const scene = new ThreeScene();
  scene.add(...studioLight());
  return (studio = {
    scene,
    target: new WebGLRenderTarget(WIDTH, HEIGHT, { samples: 2 }),
  });
}

/** The view's own camera, cut to the part of the screen where the instances are; all of it where none is in sight. */
function framed(view: ViewHandle, batches: DrawBatch[]): PerspectiveCamera | OrthographicCamera {
  const camera = (view.camera as PerspectiveCamera | OrthographicCamera).clone();
  const { width, height } = view.size;
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (const { matrices } of batches)
    for (let i = 12; i < matrices.length; i += 16) {
      const p = toScreen(view, [matrices[i], matrices[i + 1], matrices[i + 2]]);
      if (!p.ahead || p.x < 0 || p.x > width || p.y < 0 || p.y > height) continue;
      [x0, x1, y0, y1] = [Math.min(x0, p.x), Math.max(x1, p.x), Math.min(y0, p.y), Math.max(y1, p.y)];
    }
  if (!(x1 >= x0)) [x0, x1, y0, y1] = [0, width, 0, height];
  // A third of the view at least, some air, and the picture's shape.
  let w = Math.max((x1 - x0) * 1.15 + 30, width / 3);
  let h = Math.max((y1 - y0) * 1.15 + 60, height / 3);
  if (w / h < WIDTH / HEIGHT) w = (h * WIDTH) / HEIGHT;
  else h = (w * HEIGHT) / WIDTH;
  camera.setViewOffset(width, height, (x0 + x1) / 2 - w / 2, (y0 + y1) / 2 - h / 2, w, h);
  return camera;
}

const SAME = Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);

/** A picture of what a seed places from the direction in which the scene is seen now, as a data URL; null for nothing. */
export async function pictureOfVariant(
  scene: Scene,
  arrangement: string,
  { batches, bent, posed }: Variant,
): Promise<string | null> {
  const view = await viewReady();
  const { scene: stage, target } = openStudio();
  const from = drawnWardrobe(scene.materials);
  const worn = wornAmong(scene.arrangements);
  const made: InstancedMesh[] = [];
  for (const batch of batches) {
    const prop = scene.props.find((p) => p.id === batch.prop);
    const mesh = prop && (await engine().mesh(prop.mesh));
    if (!prop || !mesh || mesh.indices.length < 3) continue;
    const matrix = propMatrix(prop, meshBounds(mesh));
    // A mirrored batch is drawn mirrored; its backs do not matter at this size.
    const shape = batch.shape === undefined ? undefined : bent[batch.shape];
    const pose = batch.pose === undefined ? undefined : posed[batch.pose];
    const own = pose ? SAME : matrix;
    const geometry = shape
      ? bentGeometry(shape)
      : drawnGeometry({ ...mesh, ...pose }, batch.mirrored ? own.map((v, i) => (i % 4 === 0 ? -v : v)) : own);
    const object = new InstancedMesh(
      geometry,
      looksIn(mesh, worn(prop, [arrangement, ...(batch.of ?? [])]), from).map((m) =>
        pictureMaterial(batch.mirrored ? { ...m, doubleSided: true } : m, mesh.colors !== undefined),
      ),
      batch.rows.length,
    );
    object.instanceMatrix = new InstancedBufferAttribute(batch.matrices, 16);
    if (batch.tints) object.instanceColor = new InstancedBufferAttribute(batch.tints, 3);
    made.push(object);
    stage.add(object);
  }
  if (made.length === 0) return null;
  const camera = framed(view, batches);
  const picture = photograph(view.gl, stage, camera, target);
  for (const object of made) {
    stage.remove(object);
    object.geometry.dispose();
    object.dispose();
  }
  return picture;
}
