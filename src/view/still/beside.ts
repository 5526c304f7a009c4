import {
  Color,
  DoubleSide,
  FloatType,
  InstancedBufferAttribute,
  InstancedMesh,
  MeshBasicMaterial,
  NearestFilter,
  ShaderMaterial,
  WebGLRenderTarget,
  type Material,
  type OrthographicCamera,
  type PerspectiveCamera,
  type Scene,
  type WebGLRenderer,
} from 'three';
import { useDocument } from '@/store/document';
import type { InstancePick } from '../pick';
import { drawTile, type Region } from '../tiles';
import { asPicture } from './undressed';

/** Pictures beside a still one: where things face, how far off they are, and what belongs to which arrangement. */

/** Directions in the scene, and metres before the eye. */
const FACING = new ShaderMaterial({
  side: DoubleSide,
  vertexShader: `
    varying vec3 way; varying float away;
    void main() {
      vec4 at = vec4(position, 1.0); vec3 n = normal;
      #ifdef USE_INSTANCING
        mat3 m = mat3(instanceMatrix);
        n = m * (n / vec3(dot(m[0], m[0]), dot(m[1], m[1]), dot(m[2], m[2])));
        at = instanceMatrix * at;
      #endif
      way = mat3(modelMatrix) * n;
      vec4 seen = modelViewMatrix * at;
      away = -seen.z;
      gl_Position = projectionMatrix * seen;
    }`,
  fragmentShader: `
    varying vec3 way; varying float away;
    void main() { gl_FragColor = vec4(normalize(gl_FrontFacing ? way : -way), away); }`,
});
const FLAT = new MeshBasicMaterial({ side: DoubleSide, toneMapped: false });

/** Colours far from each other, one an arrangement, in the order of the lists. */
export function maskColors(): { id: string; name: string; hex: string }[] {
  const { arrangements } = useDocument.getState().scene;
  return arrangements.map(({ id, name }, i) => {
    const color = new Color().setHSL((i * 0.618034) % 1, 0.75, i % 2 ? 0.42 : 0.62);
    return { id, name, hex: `#${color.getHexString()}` };
  });
}

/** @returns four numbers a pixel, the bottom row first: direction and metres; and the colour of its arrangement, 0–1 */
export async function drawBeside(
  gl: WebGLRenderer,
  scene: Scene,
  camera: PerspectiveCamera | OrthographicCamera,
  region: Region,
): Promise<{ normals: Float32Array; mask: Float32Array }> {
  const draw = async (material: Material): Promise<Float32Array> => {
    const { width, height } = region;
    const target = new WebGLRenderTarget(width, height, {
      type: FloatType,
      minFilter: NearestFilter,
      magFilter: NearestFilter,
    });
    const before = gl.getRenderTarget();
    gl.setRenderTarget(target);
    asPicture(scene, { background: 'transparent' }, gl, () => {
      gl.clear();
      scene.overrideMaterial = material;
      drawTile(gl, scene, camera, region, { x: 0, y: 0, width, height }, [0, 0], region);
      scene.overrideMaterial = null;
    });
    gl.setRenderTarget(before);
    const pixels = new Float32Array(width * height * 4);
    await gl.readRenderTargetPixelsAsync(target, 0, 0, width, height, pixels);
    target.dispose();
    return pixels;
  };
  const normals = await draw(FACING);
  const undo = dye(scene);
  try {
    return { normals, mask: await draw(FLAT) };
  } finally {
    undo();
  }
}

/** Gives every instance the colour of its arrangement; what is of none is black. @returns gives back what they had */
function dye(scene: Scene): () => void {
  // Values as they stand in the file: what the screen shows of them.
  const colors = new Map(
    maskColors().map(({ id, hex }) => [id, [1, 3, 5].map((k) => parseInt(hex.slice(k, k + 2), 16) / 255)]),
  );
  const undone: (() => void)[] = [];
  scene.traverseVisible((o) => {
    if (!(o instanceof InstancedMesh)) return;
    // Boxes stand for the meshes that know whose they are.
    const { standsFor = o } = o.userData as { standsFor?: InstancedMesh };
    const pick = standsFor.userData.pick as InstancePick | undefined;
    const own = o.instanceColor;
    const dyed = new Float32Array(o.count * 3);
    if (pick) for (let i = 0; i < o.count; i++) dyed.set(colors.get(pick(i).arrangement) ?? [0, 0, 0], i * 3);
    o.instanceColor = new InstancedBufferAttribute(dyed, 3);
    undone.push(() => void (o.instanceColor = own));
  });
  // Everything else is drawn in black: it has another program than instances, so that its colour is read anew.
  FLAT.color.set(1, 1, 1);
  const blackened: (() => void)[] = [];
  scene.traverseVisible((o) => {
    if (!('isMesh' in o) || o instanceof InstancedMesh) return;
    const { onBeforeRender, onAfterRender } = o;
    o.onBeforeRender = () => FLAT.color.set(0, 0, 0);
    o.onAfterRender = () => FLAT.color.set(1, 1, 1);
    blackened.push(() => Object.assign(o, { onBeforeRender, onAfterRender }));
  });
  return () => [...undone, ...blackened].forEach((undo) => undo());
}
