import {
  ArrowHelper,
  Color,
  Mesh as ThreeMesh,
  MeshBasicMaterial,
  OrthographicCamera,
  Scene,
  SphereGeometry,
  Vector3,
  WebGLRenderTarget,
  type Object3D,
  type WebGLRenderer,
} from 'three';
import { meshBounds, propBounds, propMatrix, type Bounds } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import { engine } from '@/store/engine';
import { viewReady } from '@/view/handle';
import { studioLight } from './light';
import { photograph, standing } from './pictures';

/** Props side by side in one picture, each on its foot, with where its front points. */

/** From where they are seen: a little from above and from their right, so that front, side and top show. */
const SEEN_FROM = new Vector3(0.5, 0.36, 0.79).normalize();
const RIGHT = new Vector3(0, 1, 0).cross(SEEN_FROM).normalize();
const UP = SEEN_FROM.clone().cross(RIGHT);
const FOOT = '#B4472F';
const FRONT = '#2C5F86';

export interface LineUpRow {
  picture: string;
  /** Pixels that it is high, and from its lower edge to where the feet are. */
  height: number;
  ground: number;
}

export interface LineUp {
  rows: LineUpRow[];
  /** Pixels a metre; null where sizes are not compared. */
  metre: number | null;
}

/** Of its column a prop takes no more than this; above and below the props of a row so many pixels stay free. */
const OF_COLUMN = 0.8;
const AIR = 14;

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

/** A prop as it stands in the line-up, with how far it reaches from its foot: metres, or parts of its own size. */
interface Standing {
  object: Object3D;
  letGo: () => void;
  reach: ReturnType<typeof reach>;
}

async function standingIn(prop: Prop, alike: boolean): Promise<Standing | null> {
  const mesh = await engine().mesh(prop.mesh);
  if (!mesh || mesh.indices.length < 3) return null;
  const whole = meshBounds(mesh);
  const bounds = propBounds(prop, whole);
  const { object, letGo } = await standing(mesh, propMatrix(prop, whole));
  const size = new Vector3(...bounds.max).distanceTo(new Vector3(...bounds.min)) || 1;
  const k = alike ? 1 / size : 1;
  object.scale.setScalar(k);
  const [foot, front] = marks(bounds, size);
  object.add(foot, front);
  return {
    object,
    letGo() {
      letGo();
      foot.geometry.dispose();
      foot.material.dispose();
      front.dispose();
    },
    reach: reach(bounds).map((v) => v * k) as ReturnType<typeof reach>,
  };
}

/**
 * Pictures of props side by side, in rows of so many columns, all to one scale. Where a mesh is not at hand its column
 * stays empty. @param column pixels that each has for itself @param tallest pixels of the tallest
 * @param alike each as large as the others, instead of as large as it is
 */
export async function pictureOfLineUp(
  props: readonly Prop[],
  { columns, column, tallest, alike }: { columns: number; column: number; tallest: number; alike: boolean },
): Promise<LineUp> {
  const { gl } = await viewReady();
  const all = await Promise.all(props.map((prop) => standingIn(prop, alike)));
  const reaches = all.flatMap((s) => (s ? [s.reach] : []));
  /** Metres a pixel. */
  const k = Math.max(
    1e-9,
    ...reaches.map(([left, right]) => (right - left) / (column * OF_COLUMN)),
    ...reaches.map(([, , down, up]) => (up - down) / tallest),
  );
  const rows: LineUpRow[] = [];
  for (let from = 0; from < props.length; from += columns)
    rows.push(pictureOfRow(gl, all.slice(from, from + columns), columns * column, column, k));
  all.forEach((s) => s?.letGo());
  return { rows, metre: alike ? null : 1 / k };
}

function pictureOfRow(
  gl: WebGLRenderer,
  row: readonly (Standing | null)[],
  width: number,
  column: number,
  k: number,
): LineUpRow {
  const scene = new Scene();
  scene.add(...studioLight());
  let [low, high] = [0, 0];
  row.forEach((s, i) => {
    if (!s) return;
    const [left, right, down, up] = s.reach;
    s.object.position.copy(RIGHT).multiplyScalar(column * k * (i + 0.5) - (left + right) / 2);
    scene.add(s.object);
    [low, high] = [Math.min(low, down), Math.max(high, up)];
  });
  const ground = Math.round(-low / k) + AIR;
  const height = ground + Math.max(20, Math.round(high / k)) + AIR;
  const middle = RIGHT.clone()
    .multiplyScalar((width * k) / 2)
    .addScaledVector(UP, (height / 2 - ground) * k);
  const away = (width + height) * k;
  const half = { x: (width * k) / 2, y: (height * k) / 2 };
  const camera = new OrthographicCamera(-half.x, half.x, half.y, -half.y, away / 1000, away * 2);
  camera.position.copy(middle).addScaledVector(SEEN_FROM, away);
  camera.up.copy(UP);
  camera.lookAt(middle);
  const density = Math.min(2, devicePixelRatio || 1);
  const target = new WebGLRenderTarget(Math.round(width * density), Math.round(height * density), {
    samples: 4,
  });
  const picture = photograph(gl, scene, camera, target);
  target.dispose();
  return { picture, height, ground };
}

/** The foot as a dot, and an arrow to the front, seen through the prop. */
function marks({ max }: Bounds, size: number): [ThreeMesh<SphereGeometry, MeshBasicMaterial>, ArrowHelper] {
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
