import {
  ArrowHelper,
  BoxGeometry,
  Color,
  Mesh as ThreeMesh,
  MeshBasicMaterial,
  OrthographicCamera,
  Scene,
  SphereGeometry,
  Vector3,
  WebGLRenderTarget,
  type Object3D,
} from 'three';
import { meshBounds, propBounds, propMatrix, type Bounds } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import { engine } from '@/store/engine';
import { viewReady } from '@/view/handle';
import { photograph, standing, studioLight } from './pictures';

/** Props side by side in one picture, each on its foot, with where its front points. */

/** From where they are seen: a little from above and from their right, so that front, side and top show. */
const SEEN_FROM = new Vector3(0.5, 0.36, 0.79).normalize();
const RIGHT = new Vector3(0, 1, 0).cross(SEEN_FROM).normalize();
const UP = SEEN_FROM.clone().cross(RIGHT);
/** Metres of the rod that stands beside them where they are as large as they are. */
const ROD = 1;
const FOOT = '#B4472F';
const FRONT = '#2C5F86';

export interface LineUp {
  picture: string;
  /** Where the middle of each is, as a share of the width; in the order of the props. */
  at: number[];
  /** Where the rod of one metre stands; null where sizes are not compared. */
  rod: number | null;
}

/** How far a box reaches to the left, right, down and up in the picture from its foot. */
function reach({ min, max }: Bounds): [number, number, number, number] {
  let [left, right, down, up] = [0, 0, 0, 0];
  for (let corner = 0; corner < 8; corner++) {
    const p = new Vector3(...([0, 1, 2].map((a) => ((corner >> a) & 1 ? max[a] : min[a])) as Vec3));
    const [x, y] = [p.dot(RIGHT), p.dot(UP)];
    [left, right] = [Math.min(left, x), Math.max(right, x)];
    [down, up] = [Math.min(down, y), Math.max(up, y)];
  }
  return [left, right, down, up];
}
type Vec3 = [number, number, number];

/**
 * A picture of props side by side; null while none of their meshes is at hand.
 * @param alike each as large as the others, instead of all to one scale
 */
export async function pictureOfLineUp(
  props: readonly Prop[],
  { width, height, alike }: { width: number; height: number; alike: boolean },
): Promise<LineUp | null> {
  const { gl } = await viewReady();
  const scene = new Scene();
  scene.add(...studioLight());
  const made: (() => void)[] = [];
  const shown: { prop: number; object: Object3D; reach: ReturnType<typeof reach> }[] = [];
  for (const [i, prop] of props.entries()) {
    const mesh = await engine().mesh(prop.mesh);
    if (!mesh || mesh.indices.length < 3) continue;
    const whole = meshBounds(mesh);
    const bounds = propBounds(prop, whole);
    const { object, letGo } = await standing(mesh, propMatrix(prop, whole));
    made.push(letGo);
    const size = new Vector3(...bounds.max).distanceTo(new Vector3(...bounds.min)) || 1;
    const k = alike ? 1 / size : 1;
    object.scale.setScalar(k);
    object.add(...marks(bounds, size));
    shown.push({ prop: i, object, reach: reach(bounds).map((v) => v * k) as ReturnType<typeof reach> });
  }
  if (shown.length === 0) return null;
  const tallest = Math.max(...shown.map(({ reach: [, , down, up] }) => up - down));
  const air = tallest * 0.12;
  const spots: number[] = [];
  let x = 0;
  const rod = alike ? null : tallest * 0.06;
  if (rod !== null) {
    const pole = new ThreeMesh(
      new BoxGeometry(rod * 0.5, ROD, rod * 0.5),
      new MeshBasicMaterial({ color: '#7F8D99' }),
    );
    pole.position.set(0, ROD / 2, 0);
    scene.add(pole);
    made.push(() => pole.geometry.dispose());
    x = rod + air;
  }
  for (const {
    object,
    reach: [left, right],
  } of shown) {
    object.position.copy(RIGHT).multiplyScalar(x - left);
    scene.add(object);
    spots.push(x + (right - left) / 2);
    x += right - left + air;
  }
  const [low, high] = [
    Math.min(...shown.map(({ reach: r }) => r[2])),
    Math.max(rod === null ? 0 : ROD * UP.y, ...shown.map(({ reach: r }) => r[3])),
  ];
  const [from, to] = [-air, x];
  // As wide as it must be, in the shape of the picture.
  const k = Math.max((to - from) / width, (high - low + 2 * air) / height);
  const [cx, cy] = [(from + to) / 2, (low + high) / 2];
  const camera = new OrthographicCamera(
    (-width * k) / 2,
    (width * k) / 2,
    (height * k) / 2,
    (-height * k) / 2,
    0,
    1,
  );
  const away = (to - from + high - low) * 2 + 1;
  camera.far = away * 2;
  camera.position.copy(RIGHT).multiplyScalar(cx).addScaledVector(UP, cy).addScaledVector(SEEN_FROM, away);
  camera.up.copy(UP);
  camera.lookAt(new Vector3().copy(RIGHT).multiplyScalar(cx).addScaledVector(UP, cy));
  camera.updateProjectionMatrix();
  const density = Math.min(2, devicePixelRatio || 1);
  const target = new WebGLRenderTarget(Math.round(width * density), Math.round(height * density), {
    samples: 4,
  });
  const picture = photograph(gl, scene, camera, target);
  target.dispose();
  made.forEach((letGo) => letGo());
  const share = (v: number) => (v - cx) / (width * k) + 0.5;
  const at = props.map((_, i) => share(spots[shown.findIndex((s) => s.prop === i)] ?? NaN));
  return { picture, at, rod: rod === null ? null : share(rod / 2) };
}

/** The foot as a dot, and an arrow to the front, seen through the prop. */
function marks({ max }: Bounds, size: number): Object3D[] {
  const foot = new ThreeMesh(new SphereGeometry(size * 0.025, 12, 8), new MeshBasicMaterial({ color: FOOT }));
  const long = Math.max(max[2], 0) + size * 0.22;
  const front = new ArrowHelper(
    new Vector3(0, 0, 1),
    new Vector3(),
    long,
    new Color(FRONT),
    size * 0.1,
    size * 0.07,
  );
  const all = [foot, front.line, front.cone];
  for (const { material } of all as ThreeMesh[])
    Object.assign(material, { depthTest: false, transparent: true });
  all.forEach((o) => (o.renderOrder = 1));
  return [foot, front];
}
