import {
  BufferAttribute,
  BufferGeometry,
  Color,
  InstancedBufferAttribute,
  Points,
  ShaderMaterial,
  Vector3,
  Vector4,
  type Box3,
  type InstancedMesh,
  type Sphere,
  type WebGLRenderer,
} from 'three';
import { onLight, sceneLight } from '../light';

/** Far props as points: each where the middle of its prop is, as large as that comes out, in its mean colour. */

/** What a prop is as a point. */
export interface PointLook {
  /** Linear red, green, blue. */
  color: Color;
  /** Its bounds, in its own space. */
  box: Box3;
  /** Of all its faces, in its own space, square metres. */
  area: number;
}

/** Of a box, the share that a prop in it fills as it is seen. */
const FILLED = 0.7;

/**
 * Metres along a side of the square that covers as much as the prop does, seen from anywhere, in the mean (Cauchy): a
 * quarter of its faces, and no more than what of its box is filled. Grass covers little of its own.
 */
export function sideOf({ box, area }: Pick<PointLook, 'box' | 'area'>): number {
  const { x, y, z } = box.getSize(new Vector3());
  return Math.sqrt(Math.min(((2 * (x * y + y * z + z * x)) / 4) * FILLED, area / 4));
}

/** What falls on something that is turned every way, in the mean, of the scene's light. */
function meanLight(): Color {
  const { sun, sky } = sceneLight();
  const mean = new Color(sky.color).lerp(new Color(sky.ground), 0.35).multiplyScalar(sky.intensity);
  return mean.add(new Color(sun.color).multiplyScalar(sun.intensity * 0.4)).multiplyScalar(1 / Math.PI);
}

/** Read by the points of every prop. */
const light = { value: meanLight() };
onLight(() => (light.value = meanLight()));

const VERTEX = `
  attribute vec4 spot; uniform float pixels; varying vec3 tinted;
  #ifdef TINTED
    attribute vec3 tint;
  #endif
  void main() {
    #ifdef TINTED
      tinted = tint;
    #else
      tinted = vec3(1.0);
    #endif
    gl_Position = projectionMatrix * viewMatrix * vec4(spot.xyz, 1.0);
    gl_PointSize = max(1.0, spot.w * projectionMatrix[1][1] * pixels * 0.5 / gl_Position.w);
  }`;

const FRAGMENT = `
  uniform vec3 color, light; uniform float shade; varying vec3 tinted;
  void main() {
    gl_FragColor = vec4(color * light * shade * tinted, 1.0);
    #include <tonemapping_fragment>
    #include <colorspace_fragment>
  }`;

const materials = new WeakMap<PointLook, ShaderMaterial[]>();

/** One for all the points of a prop, and another one for those that are tinted. */
function materialOf(look: PointLook, tinted: boolean): ShaderMaterial {
  let have = materials.get(look);
  if (!have) materials.set(look, (have = [false, true].map((t) => newMaterial(look, t))));
  return have[tinted ? 1 : 0];
}

function newMaterial(look: PointLook, tinted: boolean): ShaderMaterial {
  return new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    defines: tinted ? { TINTED: '' } : {},
    uniforms: {
      color: { value: look.color },
      light,
      pixels: { value: 1 },
      shade: { value: 1 },
    },
  });
}

const orders = new Map<number, Uint16Array>();

/** The numbers below `count` in an order in which the first of them, however many, are spread evenly over all. */
export function spreadOrder(count: number): Uint16Array {
  const have = orders.get(count);
  if (have) return have;
  const bits = Math.ceil(Math.log2(Math.max(2, count)));
  const out = new Uint16Array(count);
  let n = 0;
  for (let i = 0; i < 1 << bits; i++) {
    let turned = 0;
    for (let b = 0; b < bits; b++) if (i & (1 << b)) turned |= 1 << (bits - 1 - b);
    if (turned < count) out[n++] = turned;
  }
  orders.set(count, out);
  return out;
}

/** Where the middles of a prop's boxes are by its matrices, and the side of its square as large as each is: four numbers. */
export function spotsOf(
  m: ArrayLike<number>,
  count: number,
  look: Pick<PointLook, 'box' | 'area'>,
): Float32Array {
  const [x, y, z] = look.box.getCenter(new Vector3()).toArray();
  const side = sideOf(look);
  const out = new Float32Array(count * 4);
  for (let i = 0; i < count; i++) {
    const o = i * 16;
    let sizes = 0;
    for (let c = o; c < o + 12; c += 4)
      sizes += Math.sqrt(m[c] * m[c] + m[c + 1] * m[c + 1] + m[c + 2] * m[c + 2]);
    for (let a = 0; a < 3; a++)
      out[i * 4 + a] = m[o + a] * x + m[o + 4 + a] * y + m[o + 8 + a] * z + m[o + 12 + a];
    out[i * 4 + 3] = (side * sizes) / 3;
  }
  return out;
}

/**
 * The share of the light that is left on what is seen of props that stand close together, since they shade each other.
 * In a layer that covers its ground c times, light and eye get as deep, e^(−x) at the depth x: of what the eye meets,
 * ∫ e^(−2x) / ∫ e^(−x) over 0 … c is lit, which is (1 + e^(−c)) / 2.
 * @param spots four numbers each, from {@link spotsOf}
 */
export function shadeOf(spots: Float32Array): number {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  let squares = 0;
  let widest = 0;
  for (let i = 0; i < spots.length; i += 4) {
    for (let a = 0; a < 3; a++) {
      low[a] = Math.min(low[a], spots[i + a]);
      high[a] = Math.max(high[a], spots[i + a]);
    }
    squares += spots[i + 3] * spots[i + 3];
    widest = Math.max(widest, spots[i + 3]);
  }
  // The ground that they stand on lies along the two ways in which they reach furthest; a line is as wide as they are.
  const [long, wide] = high.map((v, a) => v - low[a] + widest).sort((a, b) => b - a);
  return squares > 0 ? (1 + Math.exp(-squares / (long * wide))) / 2 : 1;
}

const viewport = new Vector4();

/** The instances of a mesh as points. */
export function farPoints(of: InstancedMesh, look: PointLook): Points {
  const geometry = new BufferGeometry();
  const spots = spotsOf(of.instanceMatrix.array, of.count, look);
  geometry.setAttribute('spot', new BufferAttribute(spots, 4));
  const tints = of.instanceColor as InstancedBufferAttribute | null;
  if (tints) geometry.setAttribute('tint', new BufferAttribute(tints.array as Float32Array, 3));
  geometry.setIndex(new BufferAttribute(spreadOrder(of.count), 1));
  geometry.boundingSphere = of.boundingSphere as Sphere;
  const material = materialOf(look, tints !== null);
  const points = new Points(geometry, material);
  const shaded = shadeOf(spots);
  points.matrixAutoUpdate = false;
  points.raycast = () => {};
  points.onBeforeRender = (gl: WebGLRenderer) => {
    const { pixels, shade } = material.uniforms;
    // Of a picture that is drawn in parts it is the part that the camera looks at.
    const tall = gl.getCurrentViewport(viewport).w;
    material.uniformsNeedUpdate ||= pixels.value !== tall || shade.value !== shaded;
    pixels.value = tall;
    shade.value = shaded;
  };
  return points;
}
